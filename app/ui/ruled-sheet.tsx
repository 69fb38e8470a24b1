import { useVirtualizer } from "@tanstack/react-virtual";
import { memo, type ReactNode, useEffect, useRef, useState } from "react";
import { bandAt, bandOf } from "./bands";
import { useFitting } from "./fitting";
import { useRowKeys } from "./use-row-keys";

export interface SheetColumn<R> {
  key: string;
  head: ReactNode;
  /** What the column is called where the head is no text. */
  name?: string;
  align?: "left" | "right";
  width?: string;
  cell: (row: R) => ReactNode;
  /** May its text be wider than the column? Then it is cut, with a sign that it was. */
  cut?: boolean;
  /** How long it stays where there is no room: below 0 it goes first, and not at all on a phone. The slip says it, too. */
  keep?: number;
  /** A person chose it, or drew its width. */
  drawn?: boolean;
  /** On a phone its text gives way to the other columns, and is cut, rather than that it goes. */
  gives?: boolean;
  /** Can the sheet be sorted by it? */
  sorts?: boolean;
}

/** Where rows come from: all of them at hand, or only those that were asked for. */
export interface RowSource<R> {
  count: number;
  /** Undefined while the row is on its way. */
  row: (index: number) => R | undefined;
  groups: readonly { start: number; heading: ReactNode }[];
  /** Hears which rows are seen. */
  want?: (from: number, to: number) => void;
}

export interface RuledProps<R> {
  label: string;
  columns: readonly SheetColumn<R>[];
  source: RowSource<R>;
  keyOf: (row: R) => string;
  /** Index of the selected row; -1 for none. */
  place: number;
  onPlace: (index: number) => void;
  onOpen?: (row: R) => void;
  ticks?: {
    ticked: ReadonlySet<string>;
    can: (row: R) => boolean;
    toggle: (row: R) => void;
    label: (row: R) => string;
  };
  sort?: { column: string; down: boolean } | null;
  onSort?: (column: string) => void;
  /** Widths in pixels can be drawn, and then hold. */
  onWidth?: (column: string, width: number) => void;
  /** What a cell shows beside the row itself: a row is drawn again only where this, the row or its columns change. */
  stateOf?: (row: R) => string | null | undefined;
  rowHeight?: number;
  empty?: ReactNode;
}

const GROUP_HEIGHT = 27;
/** So many rows are drawn anew in one frame; what else came into sight follows in the next ones, and no frame is long. */
const ROWS_A_FRAME = 8;

/**
 * Dense ruled rows in a real table, drawn only where they are seen, so that a hundred thousand scroll smoothly.
 * ↑ ↓ move, Space ticks, Enter opens.
 */
export function RuledSheet<R>({
  label,
  columns,
  source,
  keyOf,
  place,
  onPlace,
  onOpen,
  ticks,
  sort = null,
  onSort,
  onWidth,
  stateOf,
  rowHeight = 36,
  empty,
}: RuledProps<R>) {
  const scroller = useRef<HTMLDivElement>(null);
  const { shown, gone } = useFitting(
    columns,
    scroller,
    columns.some((c) => c.drawn),
  );
  const latest = useRef({ onPlace, onOpen, ticks });
  latest.current = { onPlace, onOpen, ticks };
  const acts = useRef<RowActs<R>>({
    place: (i) => latest.current.onPlace(i),
    open: (row) => latest.current.onOpen?.(row),
    tick: (row) => latest.current.ticks?.toggle(row),
    tickLabel: (row) => latest.current.ticks?.label(row) ?? "",
  }).current;
  const { count, groups } = source;
  const virtual = useVirtualizer({
    count: count + groups.length,
    getScrollElement: () => scroller.current,
    estimateSize: (i) => ("group" in bandAt(groups, i) ? GROUP_HEIGHT : rowHeight),
    overscan: 4,
    useFlushSync: false, // a frame may be late rather than long
    initialRect: { width: 800, height: 720 }, // so that the server draws the first rows too
  });
  // biome-ignore lint/correctness/useExhaustiveDependencies: other groups stand elsewhere, so sizes are measured anew
  useEffect(() => virtual.measure(), [groups, virtual]);
  const current = place < 0 ? undefined : source.row(place);
  useRowKeys({
    count,
    place,
    current,
    row: source.row,
    onPlace,
    acts: latest,
    ticks: ticks !== undefined,
    opens: onOpen !== undefined,
  });
  const band = place < 0 ? -1 : bandOf(groups, place);
  useEffect(() => {
    if (band >= 0) virtual.scrollToIndex(band, { align: "auto" });
  }, [band, virtual]);
  const items = virtual.getVirtualItems();
  useWanted(source, items[0]?.index ?? 0, items.at(-1)?.index ?? 0);

  const filled = useFilled(
    items.map((v) => {
      const found = bandAt(groups, v.index);
      const row = "row" in found ? source.row(found.row) : undefined;
      return row === undefined ? null : keyOf(row);
    }),
  );

  if (count === 0 && empty) return <>{empty}</>;
  const above = items[0]?.start ?? 0;
  const below = virtual.getTotalSize() - (items.at(-1)?.end ?? 0);
  const span = shown.length + (ticks ? 1 : 0);
  return (
    <section
      ref={scroller}
      aria-label={label}
      // biome-ignore lint/a11y/noNoninteractiveTabindex: a part that scrolls must be reachable by key
      tabIndex={0}
      className="min-h-0 flex-1 overflow-auto outline-none max-lg:max-h-[70vh]"
    >
      <table
        className={`w-full border-separate border-spacing-0 ${onWidth ? "table-fixed" : ""}`}
        style={onWidth ? { minWidth: leastWidth(shown, gone.length > 0) } : undefined}
        aria-rowcount={count + 1}
      >
        <caption className="sr-only">{label}</caption>
        <SheetHeads
          columns={shown}
          gone={gone}
          ticks={ticks !== undefined}
          sort={sort}
          onSort={onSort}
          onWidth={onWidth}
        />
        <tbody>
          {above > 0 && <Spacer height={above} />}
          {items.map((v) => {
            const found = bandAt(groups, v.index);
            if ("group" in found)
              return <GroupRow key={`group ${v.index}`} heading={groups[found.group]!.heading} span={span} />;
            const row = source.row(found.row);
            const key = row === undefined ? "" : keyOf(row);
            if (row === undefined || !filled.has(key))
              return <ComingRow key={`row ${found.row}`} index={found.row} span={span} height={rowHeight} />;
            return (
              <SheetRow
                key={key}
                row={row}
                index={found.row}
                selected={found.row === place}
                state={stateOf?.(row)}
                ticked={ticks ? ticks.ticked.has(key) : null}
                mayTick={ticks?.can(row) ?? false}
                columns={shown}
                height={rowHeight}
                acts={acts}
              />
            );
          })}
          {below > 0 && <Spacer height={below} />}
        </tbody>
      </table>
    </section>
  );
}

/** Asks for the rows of these bands, where they come as they are seen. */
function useWanted<R>({ count, groups, want }: RowSource<R>, first: number, last: number): void {
  useEffect(() => {
    const at = (b: number) => {
      const found = bandAt(groups, b);
      return "row" in found ? found.row : groups[found.group]!.start;
    };
    if (count) want?.(at(first), Math.min(count - 1, at(last)));
  }, [first, last, want, groups, count]);
}

/** A row that is not here yet, or not drawn while the sheet moves. */
const ComingRow = ({ index, span, height }: { index: number; span: number; height: number }) => (
  <tr aria-rowindex={index + 2}>
    <td colSpan={span} style={{ height }} className={`${CELL} pl-4.5 text-ink-3`}>
      …
    </td>
  </tr>
);

function SheetHeads<R>({
  columns,
  gone,
  ticks,
  sort,
  onSort,
  onWidth,
}: {
  columns: readonly SheetColumn<R>[] /** Columns for which there is no room. */;
  gone: readonly SheetColumn<R>[];
  ticks: boolean;
  sort: RuledProps<R>["sort"];
  onSort: RuledProps<R>["onSort"];
  onWidth: RuledProps<R>["onWidth"];
}) {
  return (
    <thead>
      <tr>
        {ticks && (
          <th scope="col" className={`${HEAD} w-10 pl-4.5`}>
            <span className="sr-only">Ticked</span>
          </th>
        )}
        {columns.map((c, i) => (
          <ColumnHead
            key={c.key}
            column={c}
            first={i === 0 && !ticks}
            takesRest={i === 0 && gone.length > 0}
            gone={i === columns.length - 1 ? gone : []}
            sorted={sort?.column === c.key ? (sort.down ? "descending" : "ascending") : undefined}
            onSort={c.sorts && onSort ? () => onSort(c.key) : undefined}
            onWidth={onWidth ? (width) => onWidth(c.key, width) : undefined}
          />
        ))}
      </tr>
    </thead>
  );
}

function GroupRow({ heading, span }: { heading: ReactNode; span: number }) {
  return (
    <tr>
      <th
        scope="colgroup"
        colSpan={span}
        style={{ height: GROUP_HEIGHT }}
        className="border-b border-rule-2 bg-band px-4.5 text-left text-xs font-semibold text-ink-2"
      >
        {heading}
      </th>
    </tr>
  );
}

/** How wide a sheet with given widths is at least: with room for the ticks, and where columns went, with a first one that gives way. */
const leastWidth = (columns: readonly { width?: string }[], narrow: boolean): number =>
  columns.reduce((a, c, i) => {
    const width = Number.parseInt(c.width ?? "0", 10);
    return a + (narrow && i === 0 ? Math.min(width, 150) : width);
  }, 40);

/** Those of the rows in sight that are drawn in this frame: all that were before, and a few new ones. */
export function useFilled(inSight: readonly (string | null)[], aFrame = ROWS_A_FRAME): ReadonlySet<string> {
  const before = useRef<ReadonlySet<string> | null>(null); // null: the first drawing, which is whole
  const [, next] = useState(0);
  const keys = inSight.filter((k) => k !== null);
  const now = new Set(before.current ? keys.filter((k) => before.current?.has(k)) : keys);
  const most = now.size + aFrame;
  for (const k of keys) if (now.size < most) now.add(k);
  const whole = now.size === new Set(keys).size;
  useEffect(() => {
    before.current = now;
    if (whole) return;
    const frame = requestAnimationFrame(() => next((n) => n + 1));
    return () => cancelAnimationFrame(frame);
  });
  return now;
}

interface RowActs<R> {
  place: (index: number) => void;
  open: (row: R) => void;
  tick: (row: R) => void;
  tickLabel: (row: R) => string;
}

interface RowProps<R> {
  row: R;
  index: number;
  selected: boolean;
  state?: string | null;
  /** Null where rows cannot be ticked. */
  ticked: boolean | null;
  mayTick: boolean;
  columns: readonly SheetColumn<R>[];
  height: number;
  acts: RowActs<R>;
}

/** One row; scrolling past it, or ticking another, does not draw it again. */
const SheetRow = memo(function SheetRow<R>({
  row,
  index,
  selected,
  ticked,
  mayTick,
  columns,
  height,
  acts,
}: RowProps<R>) {
  return (
    <tr
      aria-rowindex={index + 2}
      aria-current={selected ? "true" : undefined}
      onClick={() => acts.place(index)}
      onDoubleClick={() => acts.open(row)}
      className={`group cursor-default ${selected ? "bg-here" : "hover:bg-band/70"}`}
    >
      {ticked !== null && (
        <td style={{ height }} className={`${CELL} w-10 pl-4.5 ${selected ? MARKED : ""}`}>
          <input
            type="checkbox"
            checked={ticked}
            disabled={!mayTick}
            onChange={() => acts.tick(row)}
            onClick={(e) => e.stopPropagation()}
            aria-label={acts.tickLabel(row)}
            className="size-[15px] align-[-3px] accent-harbour"
          />
        </td>
      )}
      {columns.map((c, i) => (
        <td
          key={c.key}
          style={{ height }}
          className={`${CELL} ${(c.keep ?? 0) < 0 ? "max-md:hidden" : ""} ${c.cut ? "overflow-hidden text-ellipsis" : ""} ${c.gives ? "max-md:w-full max-md:max-w-0 max-md:min-w-44" : ""} ${c.align === "right" ? "text-right" : "text-left"} ${i === 0 && ticked === null ? `pl-4.5 ${selected ? MARKED : ""}` : ""}`}
        >
          {c.cell(row)}
        </td>
      ))}
    </tr>
  );
}) as <R>(props: RowProps<R> & { key: string }) => ReactNode; // memo forgets that it is generic

function ColumnHead<R>({
  column: c,
  first,
  takesRest,
  gone,
  sorted,
  onSort,
  onWidth,
}: {
  column: SheetColumn<R>;
  first: boolean;
  /** Where there was no room for all, the first column has what the others leave. */
  takesRest: boolean;
  /** Columns for which there was no room: their number stands at the last one. */
  gone: readonly SheetColumn<R>[];
  sorted?: "ascending" | "descending";
  onSort?: () => void;
  onWidth?: (width: number) => void;
}) {
  const words = (
    <>
      {c.head}
      {c.name && <span className="sr-only">{c.name}</span>}
    </>
  );
  return (
    <th
      scope="col"
      style={{ width: takesRest ? undefined : c.width }}
      aria-sort={sorted}
      className={`${HEAD} ${(c.keep ?? 0) < 0 ? "max-md:hidden" : ""} ${c.align === "right" ? "text-right" : "text-left"} ${first ? "pl-4.5" : ""}`}
    >
      {onSort ? (
        <button
          type="button"
          onClick={onSort}
          className={`max-w-full truncate font-semibold hover:text-ink ${sorted ? "text-ink" : ""}`}
        >
          {sorted && <span aria-hidden="true">{sorted === "descending" ? "↓ " : "↑ "}</span>}
          {words}
        </button>
      ) : (
        words
      )}
      {gone.length > 0 && (
        <abbr
          title={`No room here for: ${gone.map((g) => g.name ?? String(g.head)).join(", ")}`}
          className="ml-1.5 border border-rule px-1 no-underline"
        >
          +{gone.length}
        </abbr>
      )}
      {onWidth && <Drawn name={c.name ?? String(c.head)} onWidth={onWidth} />}
    </th>
  );
}

/** The edge of a column, drawn with the pointer or with ← → while it has the focus. */
function Drawn({ name, onWidth }: { name: string; onWidth: (width: number) => void }) {
  const edge = useRef<HTMLDivElement>(null);
  const widthNow = () => edge.current?.parentElement?.getBoundingClientRect().width ?? 0;
  const clamp = (width: number) => Math.round(Math.max(44, Math.min(640, width)));
  return (
    // biome-ignore lint/a11y/useSemanticElements: a rule that can be moved is a separator, and hr cannot take the focus
    <div
      ref={edge}
      role="separator"
      aria-orientation="vertical"
      aria-label={`Width of ${name}`}
      aria-valuenow={0}
      tabIndex={-1}
      className="absolute top-0 right-0 h-full w-[7px] cursor-col-resize touch-none select-none hover:bg-rule focus:bg-harbour"
      onKeyDown={(e) => {
        const by = e.key === "ArrowLeft" ? -12 : e.key === "ArrowRight" ? 12 : 0;
        if (by === 0) return;
        e.preventDefault();
        e.stopPropagation();
        onWidth(clamp(widthNow() + by));
      }}
      onPointerDown={(e) => {
        e.preventDefault();
        const from = e.clientX;
        const before = widthNow();
        const target = e.currentTarget;
        target.focus();
        target.setPointerCapture(e.pointerId);
        const head = target.parentElement!;
        const draw = (m: PointerEvent) => {
          head.style.width = `${clamp(before + m.clientX - from)}px`;
        };
        const done = (m: PointerEvent) => {
          target.removeEventListener("pointermove", draw);
          onWidth(clamp(before + m.clientX - from));
        };
        target.addEventListener("pointermove", draw);
        target.addEventListener("pointerup", done, { once: true });
      }}
    />
  );
}

const HEAD =
  "sticky top-0 z-10 bg-sheet px-2 py-[5px] border-y border-t-rule border-b-2 border-b-ink text-2xs font-semibold whitespace-nowrap text-ink-3 last:pr-4.5";
const CELL = "border-b border-rule-2 px-2 whitespace-nowrap last:pr-4.5";
const MARKED = "shadow-[inset_4px_0_0_var(--color-harbour)]";

function Spacer({ height }: { height: number }) {
  return (
    <tr>
      <td style={{ height, padding: 0 }} />
    </tr>
  );
}

/** A name with its code beneath, the way rows name things. */
export function Named({ name, code, strong = false }: { name: ReactNode; code?: ReactNode; strong?: boolean }) {
  return (
    <span className="flex min-w-0 flex-col leading-[1.2]">
      <span className={`truncate ${strong ? "font-semibold" : ""}`}>{name}</span>
      {code && <span className="code truncate">{code}</span>}
    </span>
  );
}
