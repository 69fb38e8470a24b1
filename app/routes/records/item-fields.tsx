import { decimalText } from "../../../core/numbers/decimal";
import { priceText } from "../../../core/numbers/money";
import type { ItemHead } from "../../../server/queries/records/item";
import { TextField, UnitField } from "../../ui/field";
import { SelectField } from "../../ui/form";

const KINDS = ["stocked", "not stocked", "service", "charge"].map((k) => ({ value: k, label: k }));

/** The fields of an item itself, for making one and for changing one. */
export function ItemFields({
  head,
  units,
  accounts,
  at,
}: {
  head: ItemHead | null;
  units: { code: string; name: string }[];
  accounts: { code: string; name: string }[];
  at: (field: string) => string | undefined;
}) {
  return (
    <>
      <TextField label="Code" name="code" defaultValue={head?.code ?? ""} maxLength={40} problem={at("code")} />
      <TextField
        label="Name"
        name="name"
        defaultValue={head?.name ?? ""}
        maxLength={120}
        problem={at("name")}
        className="col-span-2"
      />
      <SelectField
        label="Kind"
        name="kind"
        defaultValue={head?.kind ?? "stocked"}
        options={KINDS}
        problem={at("kind")}
      />
      <TextField
        label="Category"
        name="category"
        defaultValue={head?.category ?? ""}
        maxLength={60}
        problem={at("category")}
      />
      <SelectField
        label="Stock unit"
        name="unit"
        defaultValue={head?.unit ?? "C62"}
        options={units.map((u) => ({ value: u.code, label: `${u.name} (${u.code})` }))}
        problem={at("unit")}
        hint={head?.used ? "stays: goods were moved in it" : undefined}
      />
      <TextField
        label="GTIN"
        name="gtin"
        defaultValue={head?.gtin ?? ""}
        maxLength={14}
        inputMode="numeric"
        problem={at("gtin")}
      />
      <TextField
        label="Tax, %"
        name="tax"
        defaultValue={head ? decimalText(head.tax, 2) : "20"}
        inputMode="decimal"
        problem={at("tax")}
      />
      <TextField
        label="Cost of one, home currency"
        name="referenceCost"
        defaultValue={head?.referenceCost == null ? "" : priceText(head.referenceCost)}
        inputMode="decimal"
        problem={at("referenceCost")}
      />
      <SelectField
        label="Ledger account"
        name="account"
        defaultValue={head?.account ?? ""}
        options={[
          { value: "", label: "none" },
          ...accounts.map((a) => ({ value: a.code, label: `${a.code} ${a.name}` })),
        ]}
        problem={at("account")}
        hint="for what is not kept in stock"
      />
      <TextField
        label="Weight of one, kg"
        name="weight"
        defaultValue={head?.weight == null ? "" : decimalText(head.weight, 4)}
        inputMode="decimal"
        maxLength={20}
        problem={at("weight")}
        hint="for freight that is spread by weight"
      />
      <label className="flex items-center gap-2 pt-5">
        <input type="checkbox" name="byLot" defaultChecked={head?.byLot === 1} className="accent-harbour" />
        kept by lot, with expiry dates
      </label>
      <label className="flex items-center gap-2 pt-5">
        <input type="checkbox" name="bySerial" defaultChecked={head?.bySerial === 1} className="accent-harbour" />
        each piece by its serial number
      </label>
      <label className="flex items-center gap-2 pt-5">
        <input type="checkbox" name="byWeight" defaultChecked={head?.byWeight === 1} className="accent-harbour" />
        weighed when it comes
      </label>
      <UnitField
        label="Keeps for"
        unit="days"
        name="shelfDays"
        defaultValue={head?.shelfDays ?? ""}
        problem={at("shelfDays")}
        hint="from the day it comes, where it does not say itself"
      />
      <UnitField
        label="Left of that when it comes, at least"
        unit="days"
        name="leastDays"
        defaultValue={head?.leastDays ?? ""}
        problem={at("leastDays")}
      />
    </>
  );
}
