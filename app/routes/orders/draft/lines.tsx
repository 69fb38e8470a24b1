import { closestCenter, DndContext, type DragEndEvent, PointerSensor, useSensor, useSensors } from "@dnd-kit/core";
import { SortableContext, useSortable, verticalListSortingStrategy } from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import { DotsSixVertical } from "@phosphor-icons/react/dist/csr/DotsSixVertical";
import { useVirtualizer } from "@tanstack/react-virtual";
import { memo, type RefObject, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import type { OrderLineId } from "../../../../core/ids";
import { decimalText } from "../../../../core/numbers/decimal";
import { priceText } from "../../../../core/numbers/money";
import { quantityText } from "../../../../core/numbers/quantity";
import { sourceWords } from "../../../../core/pricing/price";
import type { OrderLine } from "../../../../server/queries/orders/order";
import { DayEntry } from "../../../ui/day-entry";
import { CellEntry } from "../../../ui/field";
import { Heads } from "../../../ui/heads";
import { useWriting } from "../../../ui/locale";
import { useFilled } from "../../../ui/ruled-sheet";
import type { Draft, DraftProblem, LineText } from "./use-draft";

const ROW = 50;
/** From here on only the rows in sight are drawn. */
const MANY = 60;

export const percentText = (bp: number) => (bp ? decimalText(bp, 2) : "");

interface Props {
  draft: Draft;
  scroller: RefObject<HTMLElement | null>;
  at: number | null;
  onAt: (line: OrderLineId) => void;
  onTakeOff: (line: OrderLineId) => void;
  onSequence: (lines: number[]) => void;
  /** Enter on the last quantity goes on to the entry of a new line. */
  onPast: () => void;
  problems: readonly DraftProblem[];
}

/** The lines of a draft, typed like a spreadsheet: Tab and Enter move, Alt with ↑ ↓ or dragging moves a line. */
export function DraftLines({ draft, scroller, at, onAt, onTakeOff, onSequence, onPast, problems }: Props) {
  const { lines, typed, facts } = draft;
  const blanket = facts.head.kind === "blanket";
  const acts = useRef({ onAt, onTakeOff, onSequence, onPast, setLine: draft.setLine, lines });
  acts.current = { onAt, onTakeOff, onSequence, onPast, setLine: draft.setLine, lines };
  const calls = useRef<RowCalls>({
    at: (id) => acts.current.onAt(id),
    set: (id, part) => acts.current.setLine(id, part),
    takeOff: (id) => acts.current.onTakeOff(id),
    by: (id, by) => {
      const ids = acts.current.lines.map((l) => l.id);
      const from = ids.indexOf(id);
      const to = Math.max(0, Math.min(ids.length - 1, from + by));
      if (from !== to) acts.current.onSequence(moved(ids, from, to));
    },
    next: (id) => {
      const i = acts.current.lines.findIndex((l) => l.id === id);
      const next = acts.current.lines[i + 1];
      if (!next) return acts.current.onPast();
      acts.current.onAt(next.id);
      const entry = document.getElementById(`quantity-${next.id}`);
      if (entry instanceof HTMLInputElement) entry.select();
    },
  }).current;
  const wrong = useMemo(() => {
    const by = new Map<number, Record<string, string>>();
    for (const p of problems) {
      const [, line, field] = /^line\.(\d+)\.(.+)$/.exec(p.field) ?? [];
      if (line) by.set(Number(line), { ...by.get(Number(line)), [field!]: p.says });
    }
    return by;
  }, [problems]);
  const table = useRef<HTMLTableElement>(null);
  const [margin, setMargin] = useState(0);
  const many = lines.length > MANY;
  // What stands above the table may have changed with anything, so it is measured after each drawing.
  useLayoutEffect(() => {
    const top = table.current && scroller.current ? offsetWithin(table.current, scroller.current) : 0;
    if (top !== margin) setMargin(top);
  });
  const virtual = useVirtualizer({
    count: lines.length,
    enabled: many,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    scrollMargin: margin + 27,
    overscan: 4,
    useFlushSync: false,
    initialRect: { width: 900, height: 700 },
  });
  const place = lines.findIndex((l) => l.id === at);
  useEffect(() => {
    if (many && place >= 0) virtual.scrollToIndex(place, { align: "auto" });
  }, [many, place, virtual]);
  const seen = many ? virtual.getVirtualItems() : [];
  const first = seen[0];
  const above = many && first ? first.start - margin - 27 : 0;
  const below = many ? virtual.getTotalSize() - ((seen.at(-1)?.end ?? 0) - margin - 27) : 0;
  const drawn = many ? seen.map((v) => v.index) : lines.map((_, i) => i);
  const filled = useFilled(
    drawn.map((i) => String(lines[i]!.id)),
    4, // each has five entries
  );
  const ids = useMemo(() => lines.map((l) => l.id), [lines]);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
  const drop = ({ active, over }: DragEndEvent) => {
    if (!over || active.id === over.id) return;
    onSequence(moved(ids, ids.indexOf(Number(active.id)), ids.indexOf(Number(over.id))));
  };
  return (
    <DndContext id="order-lines" sensors={sensors} collisionDetection={closestCenter} onDragEnd={drop}>
      <SortableContext items={ids} strategy={verticalListSortingStrategy}>
        <table ref={table} className="w-full" aria-rowcount={lines.length + 1}>
          <caption className="sr-only">Lines</caption>
          <Heads
            heads={[
              { label: "#", width: "w-12" },
              { label: "Item" },
              { label: blanket ? "Committed" : "Quantity", align: "right" },
              { label: "Unit", hidden: true },
              { label: `Price, ${facts.head.currency}`, align: "right" },
              { label: "Less %", align: "right" },
              { label: blanket ? "Least call-off" : "Wanted by", align: "right" },
              { label: "Amount", align: "right" },
              { label: "Take off", hidden: true },
            ]}
          />
          <tbody>
            {above > 0 && <Gap height={above} />}
            {drawn.map((i) => {
              const l = lines[i]!;
              if (!filled.has(String(l.id))) return <Gap key={l.id} height={ROW} />;
              return (
                <LineRow
                  key={l.id}
                  line={l}
                  index={i}
                  typed={typed.get(l.id)}
                  wrong={wrong.get(l.id)}
                  selected={l.id === at}
                  blanket={blanket}
                  currency={facts.head.currency}
                  elsewhere={l.store === facts.head.store ? "" : l.storeName}
                  calls={calls}
                />
              );
            })}
            {below > 0 && <Gap height={below} />}
          </tbody>
        </table>
      </SortableContext>
    </DndContext>
  );
}

const moved = (ids: number[], from: number, to: number) => {
  const next = ids.slice();
  next.splice(to, 0, ...next.splice(from, 1));
  return next;
};

function offsetWithin(element: HTMLElement, scroller: HTMLElement): number {
  return Math.round(element.getBoundingClientRect().top - scroller.getBoundingClientRect().top + scroller.scrollTop);
}

const Gap = ({ height }: { height: number }) => (
  <tr>
    <td style={{ height, padding: 0 }} />
  </tr>
);

interface RowCalls {
  at: (id: number) => void;
  set: (id: number, part: LineText) => void;
  takeOff: (id: number) => void;
  by: (id: number, by: number) => void;
  next: (id: number) => void;
}

interface RowProps {
  line: OrderLine;
  index: number;
  typed?: LineText;
  wrong?: Record<string, string>;
  selected: boolean;
  blanket: boolean;
  currency: string;
  /** The store it comes to, where that is not the order's. */
  elsewhere: string;
  calls: RowCalls;
}

interface Cells {
  line: OrderLine;
  /** Which line it is, from 1. */
  n: number;
  typed: LineText | undefined;
  wrong: Record<string, string> | undefined;
  set: (part: LineText) => void;
}

/** What stands below a line's name: codes, and where it goes. */
function aboutLine(l: OrderLine, elsewhere: string): string {
  const charge = `charge, ${l.spread === "expense" ? "an expense" : `spread by ${l.spread}`}`;
  return [
    l.code ?? (l.kind === "charge" ? charge : l.kind),
    l.theirCode && `theirs ${l.theirCode}`,
    elsewhere && `to ${elsewhere}`,
    l.jobCode && `job ${l.jobCode}`,
    l.budgetCode,
    l.note && "with a note",
  ]
    .filter(Boolean)
    .join(" · ");
}

function WhatIsBought({ line: l, n, typed, wrong, set, elsewhere }: Cells & { elsewhere: string }) {
  return (
    <>
      {l.item === null ? (
        <input
          aria-label={`Line ${n}: ${l.kind} in words`}
          data-at={`${l.id} words`}
          value={typed?.words ?? l.words}
          maxLength={300}
          aria-invalid={wrong?.words ? true : undefined}
          onChange={(e) => set({ words: e.target.value })}
          className="entry w-full"
        />
      ) : (
        <span className="block truncate">{l.words}</span>
      )}
      <span className="code block truncate">{aboutLine(l, elsewhere)}</span>
    </>
  );
}

/** The day, or the days, or for a blanket order the least that is called off. */
function WhenWanted({ line: l, n, typed, wrong, set, blanket }: Cells & { blanket: boolean }) {
  const w = useWriting();
  const loads = l.instalments.length;
  return blanket ? (
    <CellEntry
      data-at={`${l.id} least`}
      label={`Line ${n}: least call-off in ${l.unit}`}
      value={typed?.least ?? (l.least ? quantityText(l.least) : "")}
      problem={wrong?.least}
      placeholder="any"
      inputMode="decimal"
      maxLength={20}
      onChange={(e) => set({ least: e.target.value })}
      className="w-20"
    />
  ) : loads > 0 ? (
    <span className="inline-block py-1.5">
      <b className="font-semibold">{loads} loads</b>
      <span className="block text-2xs text-ink-3">from {w.day(l.required)}</span>
    </span>
  ) : (
    <span className="inline-flex w-[136px] flex-col">
      <DayEntry
        aria-label={`Line ${n}: wanted by`}
        data-at={`${l.id} required`}
        value={typed?.required ?? l.required}
        aria-invalid={wrong?.required ? true : undefined}
        onDay={(required) => required && set({ required })}
      />
      {wrong?.required && <span className="text-2xs font-semibold text-signal">{wrong.required}</span>}
    </span>
  );
}

/** One line; typing in another does not draw it again. */
const LineRow = memo(function LineRow({
  line: l,
  index,
  typed,
  wrong,
  selected,
  blanket,
  currency,
  elsewhere,
  calls,
}: RowProps) {
  const w = useWriting();
  const { setNodeRef, setActivatorNodeRef, listeners, transform, transition, isDragging } = useSortable({ id: l.id });
  const n = index + 1;
  const set = (part: LineText) => calls.set(l.id, part);
  const onEnter = (e: React.KeyboardEvent) => {
    if (e.key === "Enter") {
      e.preventDefault();
      calls.next(l.id);
    }
    if (e.altKey && (e.key === "ArrowUp" || e.key === "ArrowDown")) {
      e.preventDefault();
      calls.by(l.id, e.key === "ArrowUp" ? -1 : 1);
    }
  };
  return (
    <tr
      ref={setNodeRef}
      aria-rowindex={index + 2}
      aria-current={selected ? "true" : undefined}
      onClick={() => !selected && calls.at(l.id)}
      onFocus={() => !selected && calls.at(l.id)}
      style={{ transform: CSS.Translate.toString(transform), transition, height: ROW }}
      className={`group border-b border-rule-2 align-top ${isDragging ? "relative z-20 bg-harbour-2" : selected ? "bg-here" : ""}`}
    >
      <td
        className={`py-2 pl-1.5 whitespace-nowrap text-ink-3 ${selected ? "shadow-[inset_4px_0_0_var(--color-harbour)]" : ""}`}
      >
        <button
          type="button"
          ref={setActivatorNodeRef}
          {...listeners}
          aria-label={`Move line ${n}`}
          onKeyDown={(e) => {
            if (e.key !== "ArrowUp" && e.key !== "ArrowDown") return;
            e.preventDefault();
            e.stopPropagation();
            calls.by(l.id, e.key === "ArrowUp" ? -1 : 1);
          }}
          className="inline-flex h-6 w-4 cursor-grab touch-none items-center justify-center align-middle text-ink-3 opacity-40 group-hover:opacity-100 focus:opacity-100"
        >
          <DotsSixVertical size={13} weight="bold" aria-hidden="true" />
        </button>{" "}
        {n}
      </td>
      <td className="w-full max-w-0 min-w-32 px-2 py-1.5 leading-tight">
        <WhatIsBought line={l} n={n} typed={typed} wrong={wrong} elsewhere={elsewhere} set={set} />
      </td>
      <td className="px-2 py-1 text-right">
        <CellEntry
          id={`quantity-${l.id}`}
          data-at={`${l.id} quantity`}
          label={`Line ${n}: quantity in ${l.unit}`}
          value={typed?.quantity ?? quantityText(l.quantity)}
          problem={wrong?.quantity}
          inputMode="decimal"
          maxLength={20}
          onKeyDown={onEnter}
          onChange={(e) => set({ quantity: e.target.value })}
          className="w-20"
        />
        {blanket && l.limits !== "quantity" && (
          <span className="block text-2xs text-ink-3">
            {l.limits === "value" ? "about, up to " : "and up to "}
            {l.committedValue === null ? "…" : w.amount(l.committedValue, currency)}
          </span>
        )}
      </td>
      <td className="py-2.5 pr-2 whitespace-nowrap text-ink-2">{l.unit}</td>
      <td className="px-2 py-1 text-right">
        <CellEntry
          data-at={`${l.id} price`}
          label={`Line ${n}: price per ${l.unit} in ${currency}`}
          value={typed?.price ?? (l.price === null ? "" : priceText(l.price))}
          problem={wrong?.price}
          placeholder="no price"
          inputMode="decimal"
          maxLength={20}
          onKeyDown={onEnter}
          onChange={(e) => set({ price: e.target.value })}
          className="w-24"
        />
        <span className={`block text-2xs ${l.priceWarning ? "font-semibold text-signal" : "text-ink-3"}`}>
          {l.price === null ? "" : sourceWords(l.priceSource)}
        </span>
      </td>
      <td className="px-2 py-1 text-right">
        <CellEntry
          data-at={`${l.id} discount`}
          label={`Line ${n}: line discount in percent`}
          value={typed?.discount ?? percentText(l.discount)}
          problem={wrong?.discount}
          inputMode="decimal"
          maxLength={7}
          onKeyDown={onEnter}
          onChange={(e) => set({ discount: e.target.value })}
          className="w-14"
        />
      </td>
      <td className="px-2 py-1 text-right whitespace-nowrap">
        <WhenWanted line={l} n={n} typed={typed} wrong={wrong} blanket={blanket} set={set} />
      </td>
      <td className="figure px-2 py-2.5 text-right">{w.money(l.net, currency)}</td>
      <td className="py-2 pr-4.5 text-right">
        <button
          type="button"
          className="text-xs whitespace-nowrap underline"
          aria-label={`Take off line ${n}${l.serves.length ? "; its need goes back to the pool" : ""}`}
          onClick={() => calls.takeOff(l.id)}
        >
          Take off
        </button>
      </td>
    </tr>
  );
});
