import { Link } from "react-router";
import type { OrderId } from "../../../../core/ids";
import { moneyText } from "../../../../core/numbers/money";
import { quantityText } from "../../../../core/numbers/quantity";
import { isPlain } from "../../../../core/orders/kinds";
import { linePriceSum } from "../../../../core/pricing/price";
import type { DraftChoices } from "../../../../server/queries/orders/draft";
import type { LineSlip as Beside } from "../../../../server/queries/orders/line-slip";
import type { OrderLine } from "../../../../server/queries/orders/order";
import { type AskedOf, TheirStockPart, useTheirStock } from "../../../parts/their-stock";
import { Button } from "../../../ui/button";
import { DayEntry } from "../../../ui/day-entry";
import { TextField } from "../../../ui/field";
import { SelectField } from "../../../ui/form";
import { SlipHead, SlipPart } from "../../../ui/frame-parts";
import { useWriting } from "../../../ui/locale";
import { PriceDots } from "../../../ui/price-dots";
import { StepLine } from "../../../ui/step-line";
import { SumSheet } from "../../../ui/sum";
import { useSlip } from "../../../ui/use-slip";
import type { DraftWord } from "../keep";
import { percentText } from "./lines";
import type { Draft, LineText } from "./use-draft";

interface Props {
  draft: Draft;
  order: OrderId;
  line: OrderLine;
  choices: DraftChoices;
  showSum: boolean;
  problem: (field: string) => string | undefined;
}

/** Beside the selected line: whom it serves, all that it can carry, prices paid, and the stock to come with it. */
export function LineSlipPanel({ draft, order, line, choices, showSum, problem }: Props) {
  const w = useWriting();
  const { head } = draft.facts;
  // Read again with every version: a changed quantity or day moves the stock to come.
  const { slip } = useSlip<Beside>(`/orders/${order}/lines?line=${line.id}`, head.version);
  const blanket = head.kind === "blanket";
  const priced = linePriceSum(line, head.currency);
  return (
    <>
      <SlipHead over={line.code ?? line.kind} title={line.words}>
        <ul className="mt-1 text-ink-2">
          {line.serves.map((s, i) => (
            <li key={i}>
              {s.source === "requisition"
                ? `asked for by ${s.asker}, ${s.number}`
                : s.jobName
                  ? `for ${s.jobName}`
                  : "for stock, below its reorder point"}
            </li>
          ))}
          {line.serves.length === 0 && !blanket && head.kind !== "standing" && <li>for no need that is known</li>}
          {line.blanket && (
            <li>
              called off from{" "}
              <Link to={`/orders/${line.blanket.id}`} className="underline">
                {line.blanket.name}
              </Link>{" "}
              <button
                type="button"
                className="text-xs underline"
                onClick={() => draft.setLine(line.id, { blanketLine: "", price: "" })}
              >
                price it from the list
              </button>
            </li>
          )}
        </ul>
      </SlipHead>
      <LineFields draft={draft} line={line} choices={choices} problem={problem} />
      {slip?.projection && !blanket && (
        <SlipPart title="Stock to come, with this line in it">
          <StepLine
            levels={slip.projection.levels}
            last={slip.projection.last}
            reorderPoint={slip.projection.reorderPoint}
            arrivals={slip.projection.stirs
              .filter((s) => s.quantity > 0)
              .map((s) => ({ day: s.day, quantity: s.quantity, label: s.label, doubtful: s.doubtful }))}
            needed={line.required}
            lands={null}
            unit={slip.stockUnit ?? ""}
          />
        </SlipPart>
      )}
      {line.sourcing !== null && !blanket && head.kind !== "standing" && <LineStock draft={draft} line={line} />}
      {slip && slip.paid.length > 0 && (
        <SlipPart title={`Paid before, for one ${slip.stockUnit ?? line.unit}`}>
          <PriceDots
            unit={slip.stockUnit ?? line.unit}
            dots={slip.paid.flatMap((p) =>
              p.home === null ? [] : [{ day: p.day, home: p.home, own: p.own, label: p.supplier }],
            )}
          />
          <ul className="mt-1 border border-rule bg-sheet text-xs">
            {slip.paid.slice(0, 5).map((p) => (
              <li
                key={`${p.order}-${p.price}`}
                className="flex items-baseline gap-2 border-b border-rule-2 px-2.5 py-1 last:border-0"
              >
                <span className="w-[68px] shrink-0 text-ink-2">{w.day(p.day, false)}</span>
                <Link
                  to={`/orders/${p.order}`}
                  className={`min-w-0 flex-1 truncate underline ${p.own ? "font-semibold" : ""}`}
                >
                  {p.supplier}
                </Link>
                <span className="figure whitespace-nowrap">
                  {w.price(p.price, p.currency)}{" "}
                  <span className="font-sans text-ink-3">{`${p.currency}/${p.unit}`}</span>
                </span>
              </li>
            ))}
          </ul>
        </SlipPart>
      )}
      {slip?.cost && showSum && <SumSheet sum={slip.cost} />}
      {priced && showSum && <SumSheet sum={priced} />}
    </>
  );
}

/** What the supplier has of the line's item, and their price for us today; all lines of the order are asked about at once. */
function LineStock({ draft, line }: { draft: Draft; line: OrderLine }) {
  const asked = (l: OrderLine): AskedOf[] =>
    l.sourcing === null ? [] : [{ sourcing: l.sourcing, quantity: l.quantity }];
  const of = asked(line);
  const stock = useTheirStock(of, {
    store: line.store,
    wanted: line.required,
    also: draft.lines.flatMap(asked),
    fresh: draft.facts.head.version,
  });
  return (
    <TheirStockPart
      of={of}
      nameOf={() => draft.facts.head.supplierName}
      stock={stock}
      onTake={({ said }) => void draft.act({ do: "take said" satisfies DraftWord, line: line.id, said })}
    />
  );
}

function LineFields({ draft, line, choices, problem }: Pick<Props, "draft" | "line" | "choices" | "problem">) {
  const typed = draft.typed.get(line.id) ?? {};
  const { head } = draft.facts;
  const set = (part: LineText) => draft.setLine(line.id, part);
  const blanket = head.kind === "blanket";
  const none = { value: "", label: "none" };
  const more = moreOf(line);
  return (
    <details
      className="border border-rule bg-sheet px-2.5 py-1.5"
      open={blanket || line.kind === "charge" || undefined}
    >
      <summary className="cursor-pointer text-xs font-semibold text-ink-2">
        More on this line
        {more.length > 0 && `: ${more.join(", ")}`}
      </summary>
      <div className="mt-2 grid grid-cols-2 gap-2.5 pb-1">
        {line.kind === "charge" && (
          <SelectField
            className="col-span-2"
            label="How it counts"
            value={typed.spread ?? line.spread}
            onChange={(e) => set({ spread: e.target.value })}
            options={[
              { value: "expense", label: "an expense of its own" },
              { value: "value", label: "part of the goods’ cost, by their value" },
              { value: "weight", label: "part of the goods’ cost, by their weight" },
            ]}
            problem={problem("spread")}
          />
        )}
        {blanket && <Limits line={line} typed={typed} currency={head.currency} set={set} problem={problem} />}
        <SelectField
          label="Budget line"
          value={typed.budget ?? line.budget ?? ""}
          onChange={(e) => set({ budget: e.target.value })}
          options={[none, ...choices.budgets.map((b) => ({ value: b.id, label: `${b.code}, ${b.name}` }))]}
          problem={problem("budget")}
        />
        <SelectField
          label="Account"
          value={typed.account ?? line.account ?? ""}
          onChange={(e) => set({ account: e.target.value })}
          options={[
            { value: "", label: "as its item says" },
            ...choices.accounts.map((a) => ({ value: a.code, label: `${a.code} ${a.name}` })),
          ]}
          problem={problem("account")}
        />
        <SelectField
          label="For job"
          value={typed.job ?? line.job ?? ""}
          onChange={(e) => set({ job: e.target.value })}
          options={[none, ...choices.jobs.map((j) => ({ value: j.id, label: j.name }))]}
          problem={problem("job")}
        />
        <TextField
          label="Tax %"
          data-at={`${line.id} taxRate`}
          value={typed.taxRate ?? percentText(line.taxRate)}
          onChange={(e) => set({ taxRate: e.target.value })}
          disabled={!head.taxed}
          hint={head.taxed ? undefined : "accounted for by us"}
          inputMode="decimal"
          maxLength={7}
          problem={problem("taxRate")}
        />
        <Where draft={draft} line={line} choices={choices} problem={problem} set={set} />
        <TextField
          className="col-span-2"
          label="Note for the supplier, printed below the line"
          data-at={`${line.id} note`}
          value={typed.note ?? line.note}
          onChange={(e) => set({ note: e.target.value })}
          maxLength={500}
          problem={problem("note")}
        />
        <TextField
          className="col-span-2"
          label="Note for ourselves"
          data-at={`${line.id} ownNote`}
          value={typed.ownNote ?? line.ownNote}
          onChange={(e) => set({ ownNote: e.target.value })}
          maxLength={500}
          problem={problem("ownNote")}
        />
        {!blanket && line.kind !== "charge" && (
          <Instalments draft={draft} line={line} problem={problem("instalments")} />
        )}
      </div>
    </details>
  );
}

/** What is said of the line beyond its row. */
const moreOf = (line: OrderLine): string[] =>
  [
    line.budgetCode,
    line.account,
    line.jobCode,
    line.bin && `bin ${line.bin}`,
    line.instalments.length ? `${line.instalments.length} loads` : "",
    line.note ? "a note" : "",
    line.ownNote ? "a note of ours" : "",
  ].filter((said): said is string => Boolean(said));

/** What a blanket line is limited by. */
function Limits({
  line,
  typed,
  currency,
  set,
  problem,
}: {
  line: OrderLine;
  typed: LineText;
  currency: string;
  set: (part: LineText) => void;
  problem: Props["problem"];
}) {
  return (
    <>
      <SelectField
        label="It is limited by"
        value={typed.limits ?? line.limits}
        onChange={(e) => set({ limits: e.target.value })}
        options={[
          { value: "quantity", label: "its quantity" },
          { value: "value", label: "its value" },
          { value: "both", label: "both" },
        ]}
        problem={problem("limits")}
      />
      {(typed.limits ?? line.limits) !== "quantity" && (
        <TextField
          label={`Up to, in ${currency}`}
          data-at={`${line.id} committedValue`}
          value={
            typed.committedValue ??
            (line.committedValue === null ? "" : moneyText({ minor: line.committedValue, currency: currency }))
          }
          onChange={(e) => set({ committedValue: e.target.value })}
          inputMode="decimal"
          maxLength={20}
          problem={problem("committedValue")}
        />
      )}
    </>
  );
}

/** Where the line goes, and how it is counted. */
function Where({
  draft,
  line,
  choices,
  problem,
  set,
}: Pick<Props, "draft" | "line" | "choices" | "problem"> & { set: (part: LineText) => void }) {
  const typed = draft.typed.get(line.id) ?? {};
  const { head } = draft.facts;
  const blanket = head.kind === "blanket";
  return (
    <>
      {isPlain(head.kind) && line.kind !== "charge" && (
        <SelectField
          label="Comes to"
          value={typed.store ?? line.store}
          onChange={(e) => set({ store: e.target.value })}
          options={choices.stores.map((t) => ({ value: t.id, label: t.name }))}
          problem={problem("store")}
        />
      )}
      {line.kind === "stocked" && !blanket && (
        <TextField
          label="Bin"
          data-at={`${line.id} bin`}
          value={typed.bin ?? line.bin}
          onChange={(e) => set({ bin: e.target.value })}
          placeholder={line.usualBin || "no usual bin"}
          maxLength={40}
          problem={problem("bin")}
        />
      )}
      {line.item === null && (
        <SelectField
          label="Unit"
          value={typed.unit ?? line.unitCode}
          onChange={(e) => set({ unit: e.target.value })}
          options={choices.units.map((u) => ({ value: u.code, label: u.name }))}
          problem={problem("unit")}
        />
      )}
    </>
  );
}

/** Several loads of one line: each with its quantity and day; they add up to the line. */
function Instalments({ draft, line, problem }: { draft: Draft; line: OrderLine; problem?: string }) {
  const parts: NonNullable<LineText["instalments"]> =
    draft.typed.get(line.id)?.instalments ??
    line.instalments.map((p) => ({ quantity: quantityText(p.quantity), required: p.required }));
  const set = (next: typeof parts) => draft.setLine(line.id, { instalments: next });
  const split = () => {
    const half = Math.ceil(line.quantity / 20_000) * 10_000;
    const first = half < line.quantity ? half : Math.floor(line.quantity / 2);
    if (first <= 0 || first >= line.quantity) return;
    set([
      { quantity: quantityText(first), required: line.required },
      { quantity: quantityText(line.quantity - first), required: line.required },
    ]);
  };
  return (
    <fieldset className="col-span-2">
      <legend className="mb-1 text-xs font-semibold text-ink-2">Loads</legend>
      {parts.map((p, i) => (
        <div key={i} className="mb-1 flex items-center gap-2">
          <input
            aria-label={`Load ${i + 1}: quantity in ${line.unit}`}
            value={p.quantity}
            onChange={(e) => set(parts.map((x, j) => (j === i ? { ...x, quantity: e.target.value } : x)))}
            inputMode="decimal"
            maxLength={20}
            className="entry w-20 text-right font-mono"
          />
          <span className="text-ink-2">{line.unit} by</span>
          <DayEntry
            aria-label={`Load ${i + 1}: wanted by`}
            value={p.required}
            onDay={(required) => required && set(parts.map((x, j) => (j === i ? { ...x, required } : x)))}
            className="w-[136px]"
          />
          <button
            type="button"
            className="text-xs underline"
            aria-label={`Take load ${i + 1} away`}
            onClick={() => set(parts.filter((_, j) => j !== i))}
          >
            Take away
          </button>
        </div>
      ))}
      {problem && <p className="mb-1 text-xs font-semibold text-signal">{problem}</p>}
      {parts.length === 0 ? (
        <Button disabled={line.quantity < 2} onClick={split}>
          Split into two loads
        </Button>
      ) : (
        <div className="flex gap-2">
          <Button onClick={() => set([...parts, { quantity: "1", required: parts.at(-1)!.required }])}>
            One more load
          </Button>
          <Button onClick={() => set([])}>All at once</Button>
        </div>
      )}
    </fieldset>
  );
}
