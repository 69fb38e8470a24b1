import { useState } from "react";
import type { SupplierId } from "../../../core/ids";
import { decimalText } from "../../../core/numbers/decimal";
import { priceText } from "../../../core/numbers/money";
import { quantityText } from "../../../core/numbers/quantity";
import type { ItemSheet } from "../../../server/queries/records/item";
import { SlipForm } from "../../parts/slip-form";
import { Button } from "../../ui/button";
import { DayEntry } from "../../ui/day-entry";
import { CellEntry, TextField } from "../../ui/field";
import { RecordForm, SelectField } from "../../ui/form";
import { useWriting } from "../../ui/locale";
import { newKey } from "../../ui/submission";
import type { ItemWord } from "./item-acts";

/** Who sells an item: pack, lead time, discounts and price list, changed where they stand. */
export function SuppliersPart({
  sheet,
  maySource,
  seesPrices,
  units,
  suppliers,
}: {
  sheet: ItemSheet;
  maySource: boolean;
  seesPrices: boolean;
  units: { code: string; name: string }[];
  suppliers: { id: SupplierId; name: string; currency: string }[];
}) {
  const w = useWriting();
  const { head, sources } = sheet;
  const [open, setOpen] = useState<number | "new" | null>(null);
  return (
    <div className="border-t-2 border-ink">
      {sources.length === 0 && (
        <p className="px-4.5 py-3 font-semibold text-signal">
          Nobody is set up to sell this item, so it cannot be ordered yet.
        </p>
      )}
      {sources.map((s) => (
        <section key={s.id} aria-label={s.supplierName} className="border-b border-rule px-4.5 py-3">
          <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
            <h2 className="text-base font-bold">{s.supplierName}</h2>
            {s.preferred && <span className="text-xs text-harbour">preferred</span>}
            <span className="code">
              {s.theirCode}
              {s.theirName && s.theirName !== head.name && `, ${s.theirName}`}
            </span>
            {maySource && (
              <span className="ml-auto flex gap-4">
                <Button look="plain" className="min-h-0 text-xs" onClick={() => setOpen(open === s.id ? null : s.id)}>
                  {open === s.id ? "Leave it" : "Change…"}
                </Button>
                <SlipForm<ItemWord>
                  does="drop sourcing"
                  fields={{ sourcing: s.id }}
                  label="Take off…"
                  send={`${s.supplierName} no longer sells it`}
                >
                  <p className="text-xs">Orders and papers keep what they have.</p>
                </SlipForm>
              </span>
            )}
          </div>
          <p className="mt-0.5 text-ink-2">
            1 {s.unitName} = {w.quantity(s.factor)} {head.unitName}, {s.leadDays} {s.leadKind} days
            {s.minimum > 0 && `, at least ${w.quantity(s.minimum)}`}
            {s.multiple > 0 && `, in multiples of ${w.quantity(s.multiple)}`}
            {s.brokenPacks === 1 && ", broken packs, too"}
            {s.standing > 0 && `, standing discount ${w.percent(s.standing)}`}.
          </p>
          {s.breaks && s.breaks.length > 0 && (
            <table className="mt-2 text-xs">
              <caption className="sr-only">Prices of {s.supplierName}</caption>
              <tbody>
                {s.breaks.map((b) => {
                  const over = b.validTo !== null && b.validTo < w.today;
                  return (
                    <tr key={`${b.from}/${b.validFrom}`} className={over ? "text-ink-3" : ""}>
                      <td className="figure pr-3 text-right">from {w.quantity(b.from)}</td>
                      <td className="figure pr-3 text-right">
                        {w.price(b.price, s.currency)}{" "}
                        <span className="font-sans text-2xs text-ink-3">
                          {s.currency}/{s.unitName}
                        </span>
                      </td>
                      <td className="text-ink-3">
                        {b.validFrom && `from ${w.day(b.validFrom)} `}
                        {b.validTo && `${over ? "ended" : "until"} ${w.day(b.validTo)}`}
                      </td>
                    </tr>
                  );
                })}
              </tbody>
            </table>
          )}
          {open === s.id && seesPrices && (
            <SourcingForm
              key={s.id}
              head={head}
              record={s}
              units={units}
              suppliers={[{ id: s.supplier, name: s.supplierName, currency: s.currency }]}
            />
          )}
        </section>
      ))}
      {maySource && suppliers.length > 0 && (
        <div className="px-4.5 py-3">
          {open === "new" ? (
            <SourcingForm key={sources.length} head={head} record={null} units={units} suppliers={suppliers} />
          ) : (
            <Button onClick={() => setOpen("new")}>Add a supplier</Button>
          )}
        </div>
      )}
    </div>
  );
}

interface BreakDraft {
  id: string;
  from: string;
  price: string;
  validFrom: string;
  validTo: string;
}

const emptyBreak = (): BreakDraft => ({ id: newKey(), from: "1", price: "", validFrom: "", validTo: "" });

interface Sourcing {
  head: ItemSheet["head"];
  /** Null for a supplier who does not sell it yet. */
  record: ItemSheet["sources"][number] | null;
  units: { code: string; name: string }[];
  suppliers: { id: SupplierId; name: string; currency: string }[];
}

function SourcingForm({ head, record, units, suppliers }: Sourcing) {
  const [breaks, setBreaks] = useState<BreakDraft[]>(() =>
    record?.breaks?.length
      ? record.breaks.map((b) => ({
          id: `${b.from}/${b.validFrom}`,
          from: quantityText(b.from),
          price: priceText(b.price),
          validFrom: b.validFrom ?? "",
          validTo: b.validTo ?? "",
        }))
      : [emptyBreak()],
  );
  return (
    <RecordForm<ItemWord>
      does="keep sourcing"
      fields={{ sourcing: record?.id ?? "" }}
      send={record ? "Keep" : "Add the supplier"}
      className="mt-3 grid max-w-3xl grid-cols-4 gap-3 max-md:grid-cols-2"
      body={(form) => {
        const real = breaks.filter((b) => b.price.trim() !== "");
        form.set("breaks", JSON.stringify(real.map(({ id: _, ...b }) => b)));
      }}
    >
      {(at) => (
        <>
          <SourcingFields head={head} record={record} units={units} suppliers={suppliers} at={at} />
          <PriceRows breaks={breaks} onBreaks={setBreaks} at={at} />
        </>
      )}
    </RecordForm>
  );
}

/** How a supplier names, packs and sells the item. */
function SourcingFields({
  head,
  record,
  units,
  suppliers,
  at,
}: Sourcing & { at: (field: string) => string | undefined }) {
  const [minimum, setMinimum] = useState(record?.minimum ? quantityText(record.minimum) : "");
  const [multiple, setMultiple] = useState(record?.multiple ? quantityText(record.multiple) : "");
  const odd = Number(multiple) > 0 && Number(minimum) % Number(multiple) !== 0;
  return (
    <>
      <SelectField
        label="Supplier"
        name="supplier"
        options={suppliers.map((s) => ({ value: s.id, label: s.name }))}
        problem={at("supplier")}
        className="col-span-2"
      />
      <TextField
        label="Their code"
        name="theirCode"
        defaultValue={record?.theirCode ?? ""}
        maxLength={60}
        problem={at("theirCode")}
      />
      <TextField
        label="Their name for it"
        name="theirName"
        defaultValue={record?.theirName ?? ""}
        maxLength={120}
        problem={at("theirName")}
      />
      <SelectField
        label="Sold by the"
        name="unit"
        defaultValue={record?.unit ?? head.unit}
        options={units.map((u) => ({ value: u.code, label: u.name }))}
        problem={at("unit")}
      />
      <TextField
        label={`${head.unitName} in one`}
        name="factor"
        defaultValue={record ? quantityText(record.factor) : "1"}
        inputMode="decimal"
        problem={at("factor")}
      />
      <TextField
        label="Lead time, days"
        name="leadDays"
        defaultValue={record?.leadDays ?? ""}
        inputMode="numeric"
        problem={at("leadDays")}
      />
      <TextField
        label="Standing discount, %"
        name="standing"
        defaultValue={record?.standing ? decimalText(record.standing, 2) : ""}
        inputMode="decimal"
        problem={at("standing")}
      />
      <TextField
        label="At least"
        name="minimum"
        value={minimum}
        onChange={(e) => setMinimum(e.target.value)}
        inputMode="decimal"
        problem={at("minimum")}
        hint={odd ? "no multiple: orders begin at the next one" : undefined}
      />
      <TextField
        label="In multiples of"
        name="multiple"
        value={multiple}
        onChange={(e) => setMultiple(e.target.value)}
        inputMode="decimal"
        problem={at("multiple")}
      />
      <label className="flex items-center gap-2 pt-5">
        <input
          type="checkbox"
          name="brokenPacks"
          defaultChecked={record?.brokenPacks === 1}
          className="accent-harbour"
        />
        sells broken packs
      </label>
      <label className="flex items-center gap-2 pt-5">
        <input
          type="checkbox"
          name="preferred"
          defaultChecked={record?.preferred ?? false}
          className="accent-harbour"
        />
        preferred
      </label>
    </>
  );
}

/** The prices from a quantity on, each for its days. */
function PriceRows({
  breaks,
  onBreaks,
  at,
}: {
  breaks: BreakDraft[];
  onBreaks: (breaks: BreakDraft[]) => void;
  at: (field: string) => string | undefined;
}) {
  const set = (id: string, part: Partial<BreakDraft>) =>
    onBreaks(breaks.map((b) => (b.id === id ? { ...b, ...part } : b)));
  return (
    <>
      <table className="col-span-full">
        <caption className="pb-1 text-left text-xs font-semibold text-ink-2">Price list</caption>
        <thead>
          <tr className="text-left text-2xs text-ink-3">
            <th className="pr-2 font-semibold">From</th>
            <th className="pr-2 font-semibold">Price</th>
            <th className="pr-2 font-semibold">First day</th>
            <th className="font-semibold">Last day</th>
            <th>
              <span className="sr-only">Take away</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {breaks.map((b, i) => (
            <tr key={b.id}>
              <td className="pr-2 pb-1">
                <CellEntry
                  label={`Price ${i + 1}: from`}
                  value={b.from}
                  onChange={(e) => set(b.id, { from: e.target.value })}
                  problem={at(`breaks.${i}.from`)}
                  className="w-24"
                />
              </td>
              <td className="pr-2 pb-1">
                <CellEntry
                  label={`Price ${i + 1}`}
                  value={b.price}
                  onChange={(e) => set(b.id, { price: e.target.value })}
                  problem={at(`breaks.${i}.price`)}
                  className="w-32"
                />
              </td>
              <td className="pr-2 pb-1">
                <DayEntry
                  aria-label={`Price ${i + 1}: first day`}
                  value={b.validFrom}
                  onDay={(validFrom) => set(b.id, { validFrom })}
                />
              </td>
              <td className="pb-1">
                <DayEntry
                  aria-label={`Price ${i + 1}: last day`}
                  value={b.validTo}
                  onDay={(validTo) => set(b.id, { validTo })}
                  aria-invalid={at(`breaks.${i}.validTo`) ? true : undefined}
                />
                {at(`breaks.${i}.validTo`) && (
                  <p className="text-2xs font-semibold text-signal">{at(`breaks.${i}.validTo`)}</p>
                )}
              </td>
              <td className="pl-2">
                <button
                  type="button"
                  className="text-xs underline"
                  aria-label={`Take away price ${i + 1}`}
                  onClick={() => onBreaks(breaks.filter((o) => o.id !== b.id))}
                >
                  Take away
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="col-span-full">
        <Button
          look="plain"
          className="px-0 text-xs"
          onClick={() => onBreaks([...breaks, { ...emptyBreak(), from: "" }])}
        >
          Another price
        </Button>
      </div>
    </>
  );
}
