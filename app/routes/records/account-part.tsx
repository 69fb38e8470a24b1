import type { SupplierId } from "../../../core/ids";
import { ibanText } from "../../../core/settling/bank-account";

import { TextField } from "../../ui/field";
import { RecordForm } from "../../ui/form";
import { SlipPart } from "../../ui/frame-parts";
import type { SupplierWord } from "./supplier-acts";

/** The account that they are paid to; accounts keeps it. */
export function AccountPart({
  supplier,
  account,
  mayKeep,
}: {
  supplier: SupplierId;
  account: { iban: string; bic: string };
  mayKeep: boolean;
}) {
  return (
    <SlipPart title="Bank account">
      <p className="code">{account.iban ? `${ibanText(account.iban)} ${account.bic}` : "none on record"}</p>
      {mayKeep && (
        <details className="mt-1.5">
          <summary className="cursor-pointer text-xs underline">Change the account</summary>
          <RecordForm<SupplierWord>
            key={account.iban}
            does="account"
            fields={{ supplier }}
            send="Keep"
            className="mt-2 flex flex-col gap-3"
          >
            {(at) => <AccountFields account={account} at={at} />}
          </RecordForm>
        </details>
      )}
    </SlipPart>
  );
}

/** IBAN and BIC, as they are typed. */
export function AccountFields({
  account,
  at,
}: {
  account: { iban: string; bic: string };
  at: (field: string) => string | undefined;
}) {
  return (
    <>
      <TextField
        label="IBAN"
        name="iban"
        defaultValue={account.iban ? ibanText(account.iban) : ""}
        maxLength={50}
        problem={at("iban")}
        hint="its check digits are looked at"
      />
      <TextField
        label="BIC, where the bank wants one"
        name="bic"
        defaultValue={account.bic}
        maxLength={11}
        problem={at("bic")}
      />
    </>
  );
}
