import { useState } from "react";
import { decimalText } from "../../../core/numbers/decimal";
import { exponent } from "../../../core/numbers/money";
import { quantityText } from "../../../core/numbers/quantity";
import { TOLERANCE_SCOPES, type ToleranceScope, type ToleranceValue } from "../../../core/receiving/tolerance";
import type { ToleranceRow } from "../../../server/queries/receiving/tolerances";
import { SlipForm } from "../../parts/slip-form";
import { TextField, UnitField } from "../../ui/field";
import { RecordForm, SelectField } from "../../ui/form";
import { SlipHead } from "../../ui/frame-parts";
import type { ToleranceWord } from "./tolerance-acts";

const NAMES: Record<ToleranceScope, ("supplier" | "category" | "item" | "order" | "position")[]> = {
  "order line": ["order", "position"],
  "item at supplier": ["item", "supplier"],
  item: ["item"],
  category: ["category"],
  supplier: ["supplier"],
  house: [],
};
const LABELS = {
  supplier: "Supplier, by code or name",
  category: "Category",
  item: "Item, by code",
  order: "Order",
  position: "Line",
} as const;

const percent = (n: number | null | undefined) => (n == null ? "" : decimalText(n, 2));
const pieces = (n: number | null | undefined) => (n == null ? "" : quantityText(n));
const whole = (n: number | null | undefined) => (n == null ? "" : String(n));

/** One tolerance: for what it holds, and its values; what is empty is looked up further. */
export function ToleranceSlip({
  row: r,
  named,
  currency,
  keeps,
}: {
  row: ToleranceRow | null;
  /** For a new one: what it is for. */
  named: Readonly<Partial<Record<string, string>>>;
  currency: string;
  keeps: boolean;
}) {
  const first = TOLERANCE_SCOPES.find((s) => s === (r?.scope ?? named.scope)) ?? "house";
  const [scope, setScope] = useState<ToleranceScope>(first);
  const known: Record<string, string> = {
    supplier: r?.supplierCode ?? named.supplier ?? "",
    category: r?.category ?? "",
    item: r?.itemCode ?? named.item ?? "",
    order: r ? (r.orderNumber ?? whole(r.order)) : (named.order ?? ""),
    position: r ? whole(r.position) : (named.position ?? ""),
  };
  return (
    <>
      <SlipHead over={r ? r.scope : "new"} title={r ? "What may be kept" : "Another tolerance"} />
      <fieldset disabled={!keeps}>
        <RecordForm<ToleranceWord>
          does="keep"
          fields={r ? { tolerance: r.id } : {}}
          send={r ? "Keep it" : "Set it"}
          saved="Kept."
          className="grid grid-cols-2 gap-x-3 gap-y-2.5"
        >
          {(at) => (
            <>
              <SelectField
                label="Holds for"
                name="scope"
                value={scope}
                onChange={(e) => setScope(e.target.value as ToleranceScope)} // one of the options below
                options={[...TOLERANCE_SCOPES].reverse().map((s) => ({ value: s, label: s }))}
                problem={at("scope")}
                className="col-span-2"
              />
              {NAMES[scope].map((n) => (
                <TextField
                  key={n}
                  label={LABELS[n]}
                  name={n}
                  defaultValue={known[n]}
                  maxLength={60}
                  problem={at(n)}
                  className={NAMES[scope].length === 1 ? "col-span-2" : ""}
                />
              ))}
              <ToleranceValues row={r} currency={currency} at={at} />
            </>
          )}
        </RecordForm>
      </fieldset>
      {r && keeps && (
        <SlipForm<ToleranceWord> does="drop" fields={{ tolerance: r.id }} label="Take it away" send="Take it away">
          <p>Its values are looked up further from then on.</p>
        </SlipForm>
      )}
    </>
  );
}

const ACTS = {
  beyond: [
    { value: "", label: "not said here" },
    { value: "hold", label: "waits for the buyer" },
    { value: "keep", label: "is kept, and noted" },
    { value: "refuse", label: "goes back at once" },
  ],
  early: [
    { value: "", label: "not said here" },
    { value: "ask", label: "waits for the buyer" },
    { value: "take", label: "is taken" },
    { value: "refuse", label: "goes back at once" },
  ],
};

/** The values themselves. */
function ToleranceValues({
  row: r,
  currency,
  at,
}: {
  row: ToleranceRow | null;
  currency: string;
  at: (field: string) => string | undefined;
}) {
  const number = (label: string, unit: string, name: ToleranceValue, value: string) => (
    <UnitField label={label} unit={unit} name={name} defaultValue={value} problem={at(name)} />
  );
  const act = (label: string, name: "beyond" | "early") => (
    <SelectField
      label={label}
      name={name}
      defaultValue={r?.[name] ?? ""}
      options={ACTS[name]}
      problem={at(name)}
      className={name === "beyond" ? "col-span-2" : ""}
    />
  );
  const places = exponent(currency);
  return (
    <>
      {number("Over", "%", "overPercent", percent(r?.overPercent))}
      {number("Over, at most", "bought units", "overQuantity", pieces(r?.overQuantity))}
      {number("Under", "%", "underPercent", percent(r?.underPercent))}
      {number("Under, at most", "bought units", "underQuantity", pieces(r?.underQuantity))}
      {act("What is beyond", "beyond")}
      {number("Early by", "days", "earlyDays", whole(r?.earlyDays))}
      {act("What is earlier", "early")}
      {number("Late by", "days", "lateDays", whole(r?.lateDays))}
      <span />
      {number("Price, by", "%", "pricePercent", percent(r?.pricePercent))}
      {number(
        "Price, at most",
        currency,
        "priceAmount",
        r?.priceAmount == null ? "" : decimalText(r.priceAmount, places, places),
      )}
    </>
  );
}
