import { useState } from "react";
import { Link, useLoaderData, useSearchParams } from "react-router";
import { decimalText } from "../../../core/numbers/decimal";
import { priceText } from "../../../core/numbers/money";
import { quantityText } from "../../../core/numbers/quantity";
import { may } from "../../../core/people/roles";
import { sql } from "../../../server/db/open";
import { refuse } from "../../../server/desk/desk";
import { dropAlternative, keepAlternative, keepItem, keepReordering } from "../../../server/desk/records/keep-item";
import { dropSourcing, keepSourcing } from "../../../server/desk/records/keep-sourcing";
import { usualPlan } from "../../../server/read/needs/need";
import { type ItemSheet, readItem, readSuppliersToAdd, readUnits } from "../../../server/read/records/item";
import { Button } from "../../ui/button";
import { CellEntry, TextField } from "../../ui/field";
import { RecordForm, SelectField } from "../../ui/form";
import { SheetHead, SlipPart, Spread } from "../../ui/frame-parts";
import { ItemEntry } from "../../ui/item-entry";
import { useWriting } from "../../ui/locale";
import { TideBar } from "../../ui/signs";
import { StepLine } from "../../ui/step-line";
import { newKey } from "../../ui/submission";
import { TallyLine } from "../../ui/tally-line";
import { withParts } from "../../ui/use-at";
import { act, idOf, notFound, page, readJson } from "../../web/page";
import { SlipForm } from "../needs/slip-form";
import { Facts } from "../orders/order-head";
import { ItemFields } from "./item-fields";

export const loader = page("see items", ({ db, params, person, day, hour }) => {
  const id = idOf(params.id);
  const sheet = readItem(db, id, usualPlan(day, hour), may(person.roles, "see prices"));
  if (!sheet) throw notFound("There is no such item.");
  const maySource = may(person.roles, "keep sourcing");
  return {
    sheet,
    maySource,
    mayKeep: may(person.roles, "keep items"),
    seesPrices: may(person.roles, "see prices"),
    units: readUnits(db),
    accounts: sql<{ code: string; name: string }>(db, "SELECT code, name FROM account ORDER BY code").all(),
    stores: sql<{ id: number; name: string }>(db, "SELECT id, name FROM store ORDER BY id").all(),
    suppliers: maySource ? readSuppliersToAdd(db, id).suppliers : [],
  };
});

export const action = act<unknown>("see items", (desk, input, { params }) => {
  const item = idOf(params.id);
  switch (input.do) {
    case "keep item":
      return keepItem(desk, { ...input, item });
    case "keep reordering":
      return keepReordering(desk, { ...input, item });
    case "keep sourcing":
      return keepSourcing(desk, { ...input, item, breaks: readJson(input.breaks) ?? [] });
    case "drop sourcing":
      return dropSourcing(desk, input);
    case "keep alternative":
      return keepAlternative(desk, { ...input, item });
    case "drop alternative":
      return dropAlternative(desk, { ...input, item });
    default:
      return refuse("", "This cannot be done here.");
  }
});

const PARTS = ["stock", "suppliers", "record"] as const;
const PART_WORDS = { stock: "Stock and reordering", suppliers: "Suppliers and prices", record: "The item itself" };

/** Everything about one item: its stock, how it goes on, who sells it, what may stand in for it. */
export default function ItemPage() {
  const loaded = useLoaderData<typeof loader>();
  const { sheet, mayKeep, maySource } = loaded;
  const { head, kept, sources } = sheet;
  const w = useWriting();
  const [search, setSearch] = useSearchParams();
  const stocked = head.kind === "stocked";
  const parts = PARTS.filter((p) => (p !== "stock" || stocked) && (p !== "record" || mayKeep));
  const part = parts.find((p) => p === search.get("part")) ?? parts[0]!;
  const onHand = kept.reduce((a, k) => a + k.onHand, 0);
  return (
    <Spread
      sheet={
        <div key={head.id} className="min-h-0 flex-1 overflow-y-auto pb-8">
          <SheetHead title={head.name} sub={<span className="code text-xs">{head.code}</span>} />
          <Facts
            facts={[
              ["Kind", head.kind],
              ["Category", head.category || "–"],
              ["Stock unit", `${head.unitName} (${head.unit})`],
              ["GTIN", head.gtin ?? "–"],
              ["Cost of one", head.referenceCost === null ? "–" : w.price(head.referenceCost)],
              ["Account", head.account ?? "–"],
            ]}
          />
          <fieldset className="flex gap-1.5 px-4.5 py-2.5">
            <legend className="sr-only">Part of the item</legend>
            {parts.map((p) => (
              <button
                key={p}
                type="button"
                aria-pressed={p === part}
                onClick={() => setSearch(withParts({ part: p }), { replace: true, preventScrollReset: true })}
                className="rounded-[2px] border border-rule bg-field px-2.5 py-[3px] text-xs text-ink-2 aria-pressed:border-ink aria-pressed:bg-ink aria-pressed:text-sheet"
              >
                {PART_WORDS[p]}
              </button>
            ))}
          </fieldset>
          {part === "stock" && <StockPart {...loaded} />}
          {part === "suppliers" && <SuppliersPart {...loaded} />}
          {part === "record" && (
            <div className="border-t-2 border-ink px-4.5 py-4">
              <RecordForm
                does="keep item"
                send="Keep the item"
                className="grid max-w-3xl grid-cols-3 gap-4 max-md:grid-cols-1"
              >
                {(at) => <ItemFields head={head} units={loaded.units} accounts={loaded.accounts} at={at} />}
              </RecordForm>
            </div>
          )}
        </div>
      }
      slip={
        <>
          {sheet.paid && sheet.paid.length > 0 && <Paid paid={sheet.paid} />}
          <Alternatives item={head.id} rows={sheet.alternatives} mayKeep={maySource} />
          {stocked && (
            <p>
              <Link className="font-semibold underline" to={`/items/${head.id}/movements`}>
                Every movement of this item
              </Link>
            </p>
          )}
        </>
      }
      tally={
        <TallyLine>
          {stocked && (
            <span>
              <b className="figure">{w.quantity(onHand)}</b> {head.unitName} on hand in {kept.length}{" "}
              {kept.length === 1 ? "store" : "stores"}
            </span>
          )}
          <span>
            <b>{sources.length}</b> {sources.length === 1 ? "supplier" : "suppliers"}
          </span>
        </TallyLine>
      }
    />
  );
}

type Loaded = ReturnType<typeof useLoaderData<typeof loader>>;

function StockPart({ sheet, stores, maySource }: Loaded) {
  const w = useWriting();
  const { head, kept } = sheet;
  const [open, setOpen] = useState<number | null>(null);
  const others = stores.filter((s) => !kept.some((k) => k.store === s.id));
  return (
    <div className="border-t-2 border-ink">
      {kept.length === 0 && <p className="px-4.5 py-3 text-ink-2">No store keeps this item yet.</p>}
      {kept.map((k) => (
        <section
          key={k.store}
          aria-label={k.name}
          className="grid grid-cols-[minmax(0,1fr)_380px] gap-5 border-b border-rule px-4.5 py-3 max-lg:grid-cols-1"
        >
          <div>
            <h2 className="flex items-baseline gap-2 text-base font-bold">
              {k.name} {k.bin && <span className="code font-normal">rack {k.bin}</span>}
            </h2>
            <dl className="mt-1 grid grid-cols-4 gap-x-4 gap-y-1 max-md:grid-cols-2">
              <Fact term="On hand">
                <Link className="underline decoration-rule" to={`/items/${head.id}/movements?store=${k.store}`}>
                  {w.quantity(k.onHand)}
                </Link>
              </Fact>
              <Fact term="Committed">{w.quantity(k.committed)}</Fact>
              <Fact term="On order">{w.quantity(k.onOrder)}</Fact>
              <Fact term="Available">{w.quantity(k.available)}</Fact>
              <Fact term="Reorder point">{w.quantity(k.reorderPoint)}</Fact>
              <Fact term="Used, 30 days">{w.quantity(k.usage.last30)}</Fact>
              <Fact term="A year ago">
                {w.quantity(k.usage.before)}, {w.quantity(k.usage.after)}
              </Fact>
              <Fact term="Days of cover">{k.cover === null ? "–" : w.quantity(k.cover * 1000)}</Fact>
            </dl>
            <div className="mt-2 max-w-72">
              <TideBar available={k.onHand - k.unusable} reorderPoint={k.reorderPoint} unit={head.unitName} />
            </div>
            <p className="mt-1 text-xs text-ink-2">
              {policyWords(k, head.unitName, w.quantity)}; looked at every {k.reviewDays} days
              {k.maximum !== null && `; at most ${w.quantity(k.maximum)} ${head.unitName}`}.
              {k.unusable > 0 && (
                <b className="text-signal">
                  {" "}
                  {w.quantity(k.unusable)} {head.unitName} may not be used.
                </b>
              )}
            </p>
            {k.lots.length > 0 && (
              <ul className="mt-2 border border-rule text-xs" aria-label={`Lots at ${k.name}`}>
                {k.lots.map((l) => {
                  const over = l.expires !== null && l.expires < w.today;
                  return (
                    <li
                      key={`${l.lot}/${l.bin}`}
                      className="flex justify-between gap-3 border-b border-rule-2 px-2.5 py-1 last:border-0"
                    >
                      <span>
                        <b className="font-mono">{l.lot}</b> {l.bin && <span className="code">rack {l.bin}</span>}
                      </span>
                      <span className={over || l.held ? "font-semibold text-signal" : "text-ink-2"}>
                        {l.held
                          ? `held: ${l.held}`
                          : l.expires
                            ? `${over ? "expired" : "until"} ${w.day(l.expires)}`
                            : ""}
                      </span>
                      <span className="figure">{w.quantity(l.onHand)}</span>
                    </li>
                  );
                })}
              </ul>
            )}
            {maySource && (
              <Button
                look="plain"
                className="mt-1 px-0 text-xs"
                onClick={() => setOpen(open === k.store ? null : k.store)}
              >
                {open === k.store ? "Leave it" : "Change when it reorders…"}
              </Button>
            )}
          </div>
          <div>
            <StepLine
              levels={k.levels}
              last={sheet.last}
              reorderPoint={k.reorderPoint}
              arrivals={k.stirs.filter((s) => s.quantity > 0 && s.kind !== "tied")}
              lands={null}
              unit={head.unitName}
            />
            {k.stirs.length > 0 && (
              <ul className="text-xs" aria-label={`What moves the stock at ${k.name}`}>
                {k.stirs.slice(0, 6).map((s, i) => (
                  <li key={i} className="flex justify-between gap-3">
                    <span className="truncate">
                      {s.href ? (
                        <Link className="underline decoration-rule" to={s.href}>
                          {s.label}
                        </Link>
                      ) : (
                        s.label
                      )}
                      {s.doubtful && <b className="text-signal"> overdue, doubtful</b>}
                    </span>
                    <span className="whitespace-nowrap">
                      <span className="text-ink-3">{w.day(s.day, false)}</span>{" "}
                      <span className="figure inline-block w-16 text-right">
                        {s.quantity > 0 ? "+" : ""}
                        {w.quantity(s.quantity)}
                      </span>
                    </span>
                  </li>
                ))}
                {k.stirs.length > 6 && <li className="text-ink-3">and {k.stirs.length - 6} more</li>}
              </ul>
            )}
          </div>
          {open === k.store && <Reordering unit={head.unitName} store={k.store} kept={k} />}
        </section>
      ))}
      {maySource && others.length > 0 && (
        <div className="px-4.5 py-3">
          {others.map((s) =>
            open === s.id ? (
              <section key={s.id} aria-label={s.name}>
                <h2 className="mb-2 text-base font-bold">{s.name}</h2>
                <Reordering unit={head.unitName} store={s.id} kept={null} />
              </section>
            ) : (
              <Button key={s.id} look="plain" className="mr-4 px-0 text-xs" onClick={() => setOpen(s.id)}>
                Keep it at {s.name}, too…
              </Button>
            ),
          )}
        </div>
      )}
    </div>
  );
}

function Fact({ term, children }: { term: string; children: React.ReactNode }) {
  return (
    <div>
      <dt className="text-2xs text-ink-3">{term}</dt>
      <dd className="figure">{children}</dd>
    </div>
  );
}

type Kept = ItemSheet["kept"][number];
function policyWords(k: Kept, unit: string, quantity: (n: number) => string): string {
  switch (k.policy) {
    case "top up":
      return `Topped up to ${quantity(k.level)} ${unit}`;
    case "fixed lot":
      return `Bought in lots of ${quantity(k.lot)} ${unit}`;
    case "larger of":
      return `The larger of ${quantity(k.lot)} ${unit} and the shortfall`;
    case "shortfall":
      return "Just the shortfall";
    case "days of cover":
      return `${k.coverDays} days of cover`;
    case "to order":
      return "Bought only for what is lacking";
  }
}

const POLICIES = [
  { value: "larger of", label: "the larger of lot and shortfall" },
  { value: "fixed lot", label: "whole lots" },
  { value: "top up", label: "up to a level" },
  { value: "shortfall", label: "just the shortfall" },
  { value: "days of cover", label: "days of cover" },
  { value: "to order", label: "only what is lacking" },
];

function Reordering({ unit, store, kept }: { unit: string; store: number; kept: Kept | null }) {
  const [policy, setPolicy] = useState<string>(kept?.policy ?? "larger of");
  const q = (n: number | null | undefined) => (n ? quantityText(n) : "");
  return (
    <RecordForm
      does="keep reordering"
      fields={{ store }}
      send="Keep"
      className="col-span-full grid max-w-3xl grid-cols-4 gap-3 max-md:grid-cols-2"
    >
      {(at) => (
        <>
          <SelectField
            label="How much"
            name="policy"
            options={POLICIES}
            value={policy}
            onChange={(e) => setPolicy(e.target.value)}
            problem={at("policy")}
            className="col-span-2"
          />
          <TextField
            label={`Reorder point, ${unit}`}
            name="reorderPoint"
            defaultValue={q(kept?.reorderPoint)}
            inputMode="decimal"
            problem={at("reorderPoint") ?? at("reorder_point")}
          />
          <TextField
            label="Looked at every, days"
            name="reviewDays"
            defaultValue={kept?.reviewDays ?? 7}
            inputMode="numeric"
            problem={at("reviewDays")}
          />
          <TextField
            label={`Lot, ${unit}`}
            name="lot"
            defaultValue={q(kept?.lot)}
            inputMode="decimal"
            problem={at("lot")}
          />
          <TextField
            label={`Level, ${unit}`}
            name="level"
            defaultValue={q(kept?.level)}
            inputMode="decimal"
            problem={at("level")}
          />
          <TextField
            label="Days of cover"
            name="coverDays"
            defaultValue={kept?.coverDays || ""}
            inputMode="numeric"
            problem={at("coverDays")}
          />
          <TextField
            label={`At most, ${unit}`}
            name="maximum"
            defaultValue={q(kept?.maximum)}
            inputMode="decimal"
            problem={at("maximum")}
          />
          <TextField label="Rack" name="bin" defaultValue={kept?.bin ?? ""} maxLength={20} problem={at("bin")} />
        </>
      )}
    </RecordForm>
  );
}

function SuppliersPart({ sheet, maySource, seesPrices, units, suppliers }: Loaded) {
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
                <SlipForm
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

function SourcingForm({
  head,
  record,
  units,
  suppliers,
}: {
  head: ItemSheet["head"];
  record: ItemSheet["sources"][number] | null;
  units: { code: string; name: string }[];
  suppliers: { id: number; name: string; currency: string }[];
}) {
  const empty = (): BreakDraft => ({ id: newKey(), from: "1", price: "", validFrom: "", validTo: "" });
  const [breaks, setBreaks] = useState<BreakDraft[]>(() =>
    record?.breaks?.length
      ? record.breaks.map((b) => ({
          id: `${b.from}/${b.validFrom}`,
          from: quantityText(b.from),
          price: priceText(b.price),
          validFrom: b.validFrom ?? "",
          validTo: b.validTo ?? "",
        }))
      : [empty()],
  );
  const set = (id: string, part: Partial<BreakDraft>) =>
    setBreaks(breaks.map((b) => (b.id === id ? { ...b, ...part } : b)));
  const [minimum, setMinimum] = useState(record?.minimum ? quantityText(record.minimum) : "");
  const [multiple, setMultiple] = useState(record?.multiple ? quantityText(record.multiple) : "");
  const odd = Number(multiple) > 0 && Number(minimum) % Number(multiple) !== 0;
  return (
    <RecordForm
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
                    <input
                      type="date"
                      aria-label={`Price ${i + 1}: first day`}
                      value={b.validFrom}
                      onChange={(e) => set(b.id, { validFrom: e.target.value })}
                      className="entry"
                    />
                  </td>
                  <td className="pb-1">
                    <input
                      type="date"
                      aria-label={`Price ${i + 1}: last day`}
                      value={b.validTo}
                      onChange={(e) => set(b.id, { validTo: e.target.value })}
                      className="entry"
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
                      onClick={() => setBreaks(breaks.filter((o) => o.id !== b.id))}
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
              onClick={() => setBreaks([...breaks, { ...empty(), from: "" }])}
            >
              Another price
            </Button>
          </div>
        </>
      )}
    </RecordForm>
  );
}

function Paid({ paid }: { paid: NonNullable<ItemSheet["paid"]> }) {
  const w = useWriting();
  return (
    <SlipPart title="Last prices paid">
      <table className="w-full border border-rule bg-sheet text-xs">
        <caption className="sr-only">Last prices paid</caption>
        <tbody>
          {paid.map((p) => (
            <tr key={p.order} className="border-b border-rule-2 last:border-0">
              <td className="py-1 pl-2.5 whitespace-nowrap">{w.day(p.day, false)}</td>
              <td className="max-w-32 truncate px-2">
                <Link className="underline" to={`/orders/${p.order}`}>
                  {p.number}
                </Link>{" "}
                {p.supplier}
              </td>
              <td className="figure pr-2.5 text-right whitespace-nowrap">
                {w.price(p.price, p.currency)}{" "}
                <span className="font-sans text-2xs text-ink-3">
                  {p.currency}/{p.unit}
                </span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </SlipPart>
  );
}

function Alternatives({ item, rows, mayKeep }: { item: number; rows: ItemSheet["alternatives"]; mayKeep: boolean }) {
  const [text, setText] = useState("");
  const [other, setOther] = useState<number | null>(null);
  if (rows.length === 0 && !mayKeep) return null;
  return (
    <SlipPart title="What may stand in for it">
      {rows.length > 0 && (
        <ul className="border border-rule bg-sheet">
          {rows.map((a) => (
            <li key={a.item} className="border-b border-rule-2 px-2.5 py-1 text-xs last:border-0">
              <Link className="font-semibold underline" to={`/items/${a.item}`}>
                {a.name}
              </Link>{" "}
              <span className="code">{a.code}</span>
              {a.note && <p className="text-ink-2">{a.note}</p>}
              {mayKeep && (
                <SlipForm
                  does="drop alternative"
                  fields={{ item, other: a.item }}
                  label="Not any more…"
                  send="Take it away"
                >
                  <p>It will no longer be offered in its place.</p>
                </SlipForm>
              )}
            </li>
          ))}
        </ul>
      )}
      {mayKeep && (
        <SlipForm does="keep alternative" fields={{ other: other ?? "" }} label="Name another…" send="Keep it">
          <ItemEntry
            label="Which item"
            text={text}
            placeholder="item code or name"
            onText={(t) => {
              setText(t);
              setOther(null);
            }}
            onItem={(f) => {
              setText(f.name);
              setOther(f.id);
            }}
            invalid={false}
          />
          <input
            name="note"
            aria-label="What to mind"
            placeholder="what to mind"
            maxLength={200}
            className="entry w-full"
          />
          <label className="flex items-center gap-2 text-xs">
            <input type="checkbox" name="bothWays" className="accent-harbour" />
            each may stand in for the other
          </label>
        </SlipForm>
      )}
    </SlipPart>
  );
}
