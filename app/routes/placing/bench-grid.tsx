import { useVirtualizer } from "@tanstack/react-virtual";
import { memo, useEffect, useRef, useState } from "react";
import { laterOf } from "../../../core/calendar/day";
import type { SupplierId } from "../../../core/ids";
import { parseQuantity, quantityText } from "../../../core/numbers/quantity";
import type { Choice } from "../../../core/placing/choice";
import type { PlacedRow, Terms } from "../../../core/placing/problem";
import { type Landed, perStockUnit, type ReckonedOrder } from "../../../core/placing/reckon";
import { count } from "../../../core/text";
import type { BenchRow, BenchSheet } from "../../../server/queries/placing/bench";
import { useWriting } from "../../ui/locale";
import { Named } from "../../ui/ruled-sheet";
import type { Grid } from "./use-bench";

const ROW = 36;
const WIDTHS = { need: 216, buy: 108, supplier: 104, needed: 64 };

interface Props {
  sheet: BenchSheet;
  grid: Grid;
  suppliers: readonly Terms[];
  place: number;
  mayWrite: boolean;
  onPlace: (index: number) => void;
  onPick: (index: number, supplier: SupplierId) => void;
  onQuantity: (need: string, wanted: string) => void;
}

/** Needs down, suppliers across; the chosen cell in ink, the former choice dashed. Only the rows in sight are drawn. */
export function BenchGrid({ sheet, grid, suppliers, place, mayWrite, onPlace, onPick, onQuantity }: Props) {
  const scroller = useRef<HTMLDivElement>(null);
  const w = useWriting();
  const { problem, rows } = sheet;
  const virtual = useVirtualizer({
    count: problem.rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 4,
    useFlushSync: false,
    initialRect: { width: 880, height: 560 },
  });
  useEffect(() => {
    if (place >= 0) virtual.scrollToIndex(place, { align: "auto" });
  }, [place, virtual]);
  const items = virtual.getVirtualItems();
  const above = items[0]?.start ?? 0;
  const below = virtual.getTotalSize() - (items.at(-1)?.end ?? 0);
  const span = suppliers.length + 3;
  const latest = useRef({ onPlace, onPick, onQuantity });
  latest.current = { onPlace, onPick, onQuantity };
  return (
    <section
      ref={scroller}
      aria-label="The grid"
      // biome-ignore lint/a11y/noNoninteractiveTabindex: a part that scrolls must be reachable by key
      tabIndex={0}
      className="min-h-0 flex-1 overflow-auto outline-none max-lg:max-h-[70vh]"
    >
      <table
        className="w-full table-fixed border-separate border-spacing-0"
        style={{ minWidth: WIDTHS.need + WIDTHS.buy + WIDTHS.needed + suppliers.length * WIDTHS.supplier }}
        aria-rowcount={problem.rows.length + 1}
      >
        <caption className="sr-only">What each need would cost at each supplier, landed, for one stock unit</caption>
        <thead>
          <tr>
            <th scope="col" style={{ width: WIDTHS.need }} className={`${HEAD} left-0 z-20 pl-4.5 text-left`}>
              Need
            </th>
            <th scope="col" style={{ width: WIDTHS.buy }} className={`${HEAD} z-10 text-right`}>
              Buy
            </th>
            <th scope="col" style={{ width: WIDTHS.needed }} className={`${HEAD} z-10 text-right`}>
              Needed
            </th>
            {suppliers.map((s) => (
              <th
                key={s.id}
                scope="col"
                style={{ width: WIDTHS.supplier }}
                className={`${HEAD} z-10 text-right whitespace-normal`}
              >
                <span className="line-clamp-2 text-xs text-ink" title={s.name}>
                  {s.name}
                </span>
                <span className="line-clamp-2 font-normal">{termsWords(s, w)}</span>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {above > 0 && <Spacer height={above} span={span} />}
          {items.map((v) => {
            const row = problem.rows[v.index]!;
            return (
              <GridRow
                key={row.id}
                row={row}
                about={rows[row.id]!}
                index={v.index}
                selected={v.index === place}
                grid={grid}
                suppliers={suppliers}
                home={problem.home}
                mayWrite={mayWrite}
                acts={latest}
              />
            );
          })}
          {below > 0 && <Spacer height={below} span={span} />}
        </tbody>
        <Foot grid={grid} suppliers={suppliers} />
      </table>
    </section>
  );
}

const HEAD =
  "sticky top-0 bg-sheet px-2 py-[5px] align-bottom border-y border-t-rule border-b-2 border-b-ink text-2xs font-semibold text-ink-3";
const CELL = "border-b border-rule-2 px-2 whitespace-nowrap";

function Spacer({ height, span }: { height: number; span: number }) {
  return (
    <tr>
      <td colSpan={span} style={{ height, padding: 0 }} />
    </tr>
  );
}

function termsWords(s: Terms, w: ReturnType<typeof useWriting>): string {
  const round = (minor: number) => w.round(minor, s.currency);
  const parts = [
    s.minimum > 0 ? `least ${round(s.minimum)}` : "",
    s.freight > 0 ? `freight ${round(s.freight)}` : "",
    s.freight > 0 && s.freeFrom !== null ? `free from ${round(s.freeFrom)}` : "",
  ].filter(Boolean);
  const words = parts.join(", ") || "no freight";
  return s.currency === w.home ? words : `${s.currency} · ${words}`;
}

interface RowProps {
  row: PlacedRow;
  about: BenchRow;
  index: number;
  selected: boolean;
  grid: Grid;
  suppliers: readonly Terms[];
  home: string;
  mayWrite: boolean;
  acts: { current: Pick<Props, "onPlace" | "onPick" | "onQuantity"> };
}

const GridRow = memo(function GridRow({
  row,
  about,
  index,
  selected,
  grid,
  suppliers,
  home,
  mayWrite,
  acts,
}: RowProps) {
  const w = useWriting();
  const chosen = grid.chosen(row);
  const choices = grid.choices[row.id] ?? [];
  const former = grid.former[row.id] ?? [];
  const offered = new Set(row.offers.map((o) => o.supplier));
  return (
    <tr
      aria-rowindex={index + 2}
      aria-current={selected ? "true" : undefined}
      onClick={() => acts.current.onPlace(index)}
      className={`cursor-default ${selected ? "bg-here" : "hover:bg-band/70"}`}
    >
      <th
        scope="row"
        style={{ height: ROW }}
        className={`${CELL} sticky left-0 z-10 pl-4.5 text-left font-normal ${selected ? "bg-here shadow-[inset_4px_0_0_var(--color-harbour)]" : "bg-sheet"}`}
      >
        <Named
          name={row.name}
          code={[
            about.code,
            about.storeName,
            about.locked ? "locked" : "",
            row.maySplit ? "may be split" : "",
            about.parts.length ? count(about.parts.length, "need") : "",
          ]
            .filter(Boolean)
            .join(" · ")}
        />
      </th>
      <td style={{ height: ROW }} className={`${CELL} text-right`}>
        {mayWrite && choices.length < 2 ? (
          <QuantityEntry
            row={row}
            typed={about.typed}
            onQuantity={(wanted) => acts.current.onQuantity(row.id, wanted)}
          />
        ) : (
          <span className="figure">{w.quantity(row.wanted)}</span>
        )}{" "}
        <span className="inline-block w-7 text-left text-2xs text-ink-3">{about.unit}</span>
      </td>
      <td
        style={{ height: ROW }}
        className={`${CELL} text-right ${about.warning ? "text-ink-3" : ""}`}
        title={about.warning ? "falls below its reorder point; nobody goes without" : undefined}
      >
        {w.day(about.neededOn, false)}
      </td>
      {suppliers.map((s) => (
        <td key={s.id} style={{ height: ROW }} className={`${CELL} px-1 text-right`}>
          {offered.has(s.id) ? (
            <Cell
              {...seenAt(grid.cell(row, s.id), s, home, w)}
              supplier={s.id}
              name={s.name}
              of={`${home} per ${about.unit}`}
              index={index}
              chosen={chosen.some((p) => p.supplier === s.id)}
              former={former.includes(s.id)}
              share={shareAt(choices, s.id, w, about.unit)}
              mayPick={mayWrite && !about.locked}
              acts={acts}
            />
          ) : (
            <span className="pr-2 text-ink-3" aria-hidden="true">
              ·
            </span>
          )}
        </td>
      ))}
    </tr>
  );
});

function QuantityEntry({
  row,
  typed,
  onQuantity,
}: {
  row: PlacedRow;
  typed: boolean;
  onQuantity: (t: string) => void;
}) {
  const shown = quantityText(row.wanted);
  const [text, setText] = useState<string | null>(null);
  const value = text ?? shown;
  const bad = text !== null && text.trim() !== "" && !parseQuantity(text).ok;
  const keep = () => {
    if (text === null || bad) return;
    if (text.trim() !== shown) onQuantity(text.trim());
    setText(null);
  };
  return (
    <input
      aria-label={`Quantity of ${row.name}, in ${row.stockUnit}${typed ? ", typed" : ""}`}
      data-row={row.id}
      value={value}
      onChange={(e) => setText(e.target.value)}
      onBlur={keep}
      onKeyDown={(e) => {
        if (e.key === "Enter") e.currentTarget.blur();
        if (e.key === "Escape") setText(null);
      }}
      aria-invalid={bad ? true : undefined}
      inputMode="decimal"
      maxLength={20}
      className={`entry w-[62px] px-1.5 text-right font-mono ${typed ? "font-semibold" : ""}`}
    />
  );
}

/** What a cell shows, in plain values: one that shows the same is not drawn again. */
function seenAt(landed: Landed | null, supplier: Terms, home: string, w: ReturnType<typeof useWriting>) {
  const price = landed && perStockUnit(landed, home);
  return {
    figure: price == null ? (supplier.rate === null ? `no ${supplier.currency} rate` : "no price") : w.price(price),
    priced: price != null,
    lateBy: landed?.line.offer.lateBy ?? 0,
    never: landed !== null && landed.line.offer.arrives === null,
  };
}

function shareAt(choices: readonly Choice[], supplier: SupplierId, w: ReturnType<typeof useWriting>, unit: string) {
  const share = choices.length > 1 ? (choices.find((c) => c.supplier === supplier)?.share ?? null) : null;
  return share === null ? null : `${w.quantity(share)} ${unit}`;
}

interface CellProps {
  figure: string;
  priced: boolean;
  lateBy: number;
  never: boolean;
  supplier: SupplierId;
  name: string;
  /** What the figure is: "EUR per L". */
  of: string;
  index: number;
  chosen: boolean;
  former: boolean;
  share: string | null;
  mayPick: boolean;
  acts: RowProps["acts"];
}

function lookOfCell(c: CellProps, late: boolean): string {
  if (c.chosen) return `bg-ink font-semibold ${late ? "text-signal-2" : "text-sheet"}`;
  if (c.former) return "border border-dashed border-harbour text-harbour";
  return late ? "text-signal" : "text-ink-2";
}

function labelOfCell(c: CellProps): string {
  const price = `${c.name}: ${c.figure}${c.priced ? ` ${c.of}` : ""}`;
  const late = c.lateBy ? `${count(c.lateBy, "day")} late` : null;
  return [
    price,
    c.share !== null && `for ${c.share}`,
    c.never ? "never arrives" : late,
    c.former && !c.chosen && "chosen before",
  ]
    .filter(Boolean)
    .join(", ");
}

const Cell = memo(function Cell(c: CellProps) {
  const late = c.lateBy > 0 || c.never;
  const look = lookOfCell(c, late);
  return (
    <button
      type="button"
      tabIndex={-1}
      aria-pressed={c.chosen}
      disabled={!c.mayPick}
      onClick={() => c.acts.current.onPick(c.index, c.supplier)}
      aria-label={labelOfCell(c)}
      className={`flex h-[30px] w-full flex-col items-end justify-center rounded-[2px] px-2 leading-[1.15] enabled:cursor-pointer ${look} ${c.mayPick && !c.chosen ? "hover:outline hover:outline-1 hover:outline-ink" : ""}`}
    >
      <span className={c.priced ? "figure" : "text-2xs"}>
        {c.figure}
        {late && (
          <span aria-hidden="true" className="ml-1 text-[9px]">
            ▸
          </span>
        )}
      </span>
      {c.share !== null && <span className="text-[10px] font-normal">{c.share}</span>}
    </button>
  );
});

/** What each supplier's orders come to. */
function Foot({ grid, suppliers }: { grid: Grid; suppliers: readonly Terms[] }) {
  const w = useWriting();
  const by = new Map<number, ReckonedOrder[]>();
  for (const o of grid.reckoned.orders) by.set(o.supplier, [...(by.get(o.supplier) ?? []), o]);
  const none = <span className="text-ink-3">·</span>;
  const lines: [string, (of: ReckonedOrder[], s: Terms) => React.ReactNode][] = [
    [
      "Goods",
      (of, s) => (
        <span className="figure">
          {w.money(
            of.reduce((a, o) => a + o.goods, 0),
            s.currency,
          )}
        </span>
      ),
    ],
    [
      "Freight",
      (of, s) => (
        <span className="figure">
          {w.money(
            of.reduce((a, o) => a + o.freight, 0),
            s.currency,
          )}
        </span>
      ),
    ],
    [
      "Least order",
      (of, s) => {
        const lacks = of.reduce((a, o) => a + o.lacks, 0);
        if (s.minimum === 0) return <span className="text-ink-3">none</span>;
        return lacks > 0 ? (
          <span className="font-semibold text-signal">
            lacks <span className="figure">{w.money(lacks, s.currency)}</span>
          </span>
        ) : (
          <span className="text-weed">reached</span>
        );
      },
    ],
    [
      "Arrives",
      (of) => {
        const last = of.map((o) => o.arrives).reduce((a, d) => (a && d ? laterOf(a, d) : (a ?? d)), null);
        const late = of.some((o) => o.late > 0);
        return last === null ? (
          none
        ) : (
          <span className={late ? "font-semibold text-signal" : ""}>{w.day(last, false)}</span>
        );
      },
    ],
  ];
  return (
    <tfoot>
      {lines.map(([name, cell], i) => (
        <tr key={name}>
          <th
            scope="row"
            colSpan={3}
            className={`${FOOT} left-0 z-20 pl-4.5 text-left font-normal text-ink-2 ${i === 0 ? "border-t-2 border-ink" : ""}`}
            style={{ bottom: (lines.length - 1 - i) * 25 }}
          >
            {name}
          </th>
          {suppliers.map((s) => {
            const of = by.get(s.id);
            return (
              <td
                key={s.id}
                className={`${FOOT} z-10 pr-3 text-right whitespace-nowrap ${i === 0 ? "border-t-2 border-ink" : ""}`}
                style={{ bottom: (lines.length - 1 - i) * 25 }}
              >
                {of ? cell(of, s) : none}
              </td>
            );
          })}
        </tr>
      ))}
    </tfoot>
  );
}
const FOOT = "sticky h-[25px] bg-sheet px-2 text-xs";
