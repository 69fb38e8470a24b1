import type { ReactNode } from "react";
import { deliveryWords, termsWords } from "../../../core/orders/terms";
import type { SupplierRecord } from "../../../server/queries/records/supplier";
import { Field } from "../../ui/field";
import { RecordForm } from "../../ui/form";
import { SlipPart } from "../../ui/frame-parts";
import { useWriting } from "../../ui/locale";
import type { SupplierWord } from "./supplier-acts";
import { AsksForm, CurrencyForm, DaysForm, PayForm, RecordFields, StockServiceForm } from "./supplier-forms";
import { termsText } from "./suppliers";

/** How we deal with a supplier: each part as it stands, and a form to change it. */
export function SupplierParts({
  supplier: s,
  mayKeep,
  regions,
  currencies,
  buyers,
}: {
  supplier: SupplierRecord;
  mayKeep: boolean;
} & Pick<Parameters<typeof DaysForm>[0], "regions" | "buyers"> &
  Pick<Parameters<typeof CurrencyForm>[0], "currencies">) {
  const w = useWriting();
  return (
    <>
      <SlipPart title="Addresses and tax">
        <p className="whitespace-pre-line">{s.address || "no address"}</p>
        {s.returnAddress && <p className="mt-1 text-ink-2">Returns: {s.returnAddress}</p>}
        {s.payAddress && <p className="mt-1 text-ink-2">Paid at: {s.payAddress}</p>}
        <p className="mt-1 text-ink-2">
          {s.taxNumber && `Tax number ${s.taxNumber}. `}
          {s.taxed ? "Tax is on their invoice." : "Tax is ours to account for."}
        </p>
        {s.notes && <p className="mt-1 border-l-2 border-ink pl-3 whitespace-pre-line">{s.notes}</p>}
        {mayKeep && (
          <Change label="Change name, addresses, tax, notes">
            <RecordFields supplier={s} />
          </Change>
        )}
      </SlipPart>
      <SlipPart title="How they are paid and ship">
        <p>
          {termsWords(s.terms)}
          {s.deliveryTerms && `; ${deliveryWords(s.deliveryTerms, s.deliveryPlace)}`}
          {s.carrier && `; by ${s.carrier}`}
          {s.selfBills && "; we write their invoices when goods come"}.
        </p>
        {mayKeep && (
          <Change label="Change how they are paid and ship">
            <PayForm supplier={s} />
            <CurrencyForm supplier={s} currencies={currencies} />
          </Change>
        )}
      </SlipPart>
      <SlipPart title="What they ask of an order">
        <p>{termsText(s, w)}</p>
        {mayKeep && (
          <Change label="Change what they ask, or block them">
            <AsksForm supplier={s} />
          </Change>
        )}
      </SlipPart>
      <SlipPart title="When they work and deliver">
        <p>
          Lead times in {s.leadKind} days
          {s.cutOff !== null && `; from ${s.cutOff}:00 on, an order counts as sent a day later`}
          {s.region && `; holidays of ${s.region}`}
          {s.buyerName && `. Looked after by ${s.buyerName}`}.
        </p>
        {mayKeep && (
          <Change label="Change their days">
            <DaysForm supplier={s} regions={regions} buyers={buyers} />
          </Change>
        )}
      </SlipPart>
      <TheirStock supplier={s} mayKeep={mayKeep} />
      <SlipPart title="Text on every order to them">
        <p className="text-ink-2">{s.text || "none of their own"}</p>
        {mayKeep && (
          <Change label="Change the text">
            <RecordForm<SupplierWord>
              key={s.text}
              does="text"
              fields={{ supplier: s.id }}
              send="Keep"
              className="mt-2 flex flex-col gap-2"
            >
              {(at) => (
                <Field label="Text" problem={at("text")}>
                  {(a) => (
                    <textarea {...a} name="text" rows={3} maxLength={2000} className="entry" defaultValue={s.text} />
                  )}
                </Field>
              )}
            </RecordForm>
          </Change>
        )}
      </SlipPart>
    </>
  );
}

/** Whether their system can be asked what they have, and where. */
function TheirStock({ supplier: s, mayKeep }: { supplier: SupplierRecord; mayKeep: boolean }) {
  return (
    <SlipPart title="Their stock">
      <p className="text-ink-2 [overflow-wrap:anywhere]">
        {s.stockService
          ? `They answer at ${s.stockService.address}${s.stockService.hasToken ? ", to our token" : ", without a token"}.`
          : "They are not asked by program."}
      </p>
      {mayKeep && (
        <Change label="Change where they answer">
          <StockServiceForm supplier={s} />
        </Change>
      )}
    </SlipPart>
  );
}

function Change({ label, children }: { label: string; children: ReactNode }) {
  return (
    <details className="mt-1">
      <summary className="cursor-pointer text-xs underline">{label}</summary>
      {children}
    </details>
  );
}
