import { useVirtualizer } from "@tanstack/react-virtual";
import { type ReactNode, useEffect, useMemo, useRef } from "react";
import { useKeys } from "./keys";

export interface SheetColumn<R> {
  key: string;
  head: ReactNode;
  /** What the column is called where the head is no text. */
  name?: string;
  align?: "left" | "right";
  width?: string;
  cell: (row: R) => ReactNode;
}

interface Props<R> {
  label: string;
  columns: readonly SheetColumn<R>[];
  rows: readonly R[];
  keyOf: (row: R) => string;
  /** Rows of one group follow each other; its heading stands above the first. */
  group?: { of: (row: R) => string; heading: (first: R) => ReactNode };
  at: string | null;
  onAt: (key: string) => void;
  onOpen?: (row: R) => void;
  ticks?: {
    ticked: ReadonlySet<string>;
    can: (row: R) => boolean;
    toggle: (row: R) => void;
    label: (row: R) => string;
  };
  rowHeight?: number;
  empty?: ReactNode;
}

type Band<R> = { kind: "group"; key: string; first: R } | { kind: "row"; key: string; row: R; index: number };
const GROUP_HEIGHT = 27;

/**
 * Dense ruled rows in a real table, drawn only where they are seen, so that a hundred thousand scroll smoothly.
 * ↑ ↓ move, Space ticks, Enter opens.
 */
export function Sheet<R>({
  label,
  columns,
  rows,
  keyOf,
  group,
  at,
  onAt,
  onOpen,
  ticks,
  rowHeight = 36,
  empty,
}: Props<R>) {
  const scroller = useRef<HTMLDivElement>(null);
  const bands = useMemo(() => {
    const list: Band<R>[] = [];
    let last: string | null = null;
    rows.forEach((row, index) => {
      const name = group?.of(row);
      if (name !== undefined && name !== last) list.push({ kind: "group", key: `group ${name}`, first: row });
      last = name ?? null;
      list.push({ kind: "row", key: keyOf(row), row, index });
    });
    return list;
  }, [rows, group, keyOf]);
  const virtual = useVirtualizer({
    count: bands.length,
    getScrollElement: () => scroller.current,
    estimateSize: (i) => (bands[i]?.kind === "group" ? GROUP_HEIGHT : rowHeight),
    getItemKey: (i) => bands[i]?.key ?? i,
    overscan: 8,
    initialRect: { width: 800, height: 720 }, // so that the server draws the first rows too
  });
  const here = rows.findIndex((r) => keyOf(r) === at);
  const move = (by: number) => {
    const next = rows[Math.max(0, Math.min(rows.length - 1, here < 0 ? 0 : here + by))];
    if (next) onAt(keyOf(next));
  };
  const current = here < 0 ? undefined : rows[here];
  useKeys([
    { key: "arrowdown", label: "next row", run: () => move(1) },
    { key: "arrowup", label: "row before", run: () => move(-1) },
    { key: "home", label: "first row", silent: true, run: () => move(-rows.length) },
    { key: "end", label: "last row", silent: true, run: () => move(rows.length) },
    ...(ticks
      ? [{ key: " ", label: "tick the row", run: () => current && ticks.can(current) && ticks.toggle(current) }]
      : []),
    ...(onOpen ? [{ key: "enter", label: "open the row", run: () => current && onOpen(current) }] : []),
  ]);
  const place = bands.findIndex((b) => b.kind === "row" && b.key === at);
  useEffect(() => {
    if (place >= 0) virtual.scrollToIndex(place, { align: "auto" });
  }, [place, virtual]);

  if (rows.length === 0 && empty) return <>{empty}</>;
  const items = virtual.getVirtualItems();
  const above = items[0]?.start ?? 0;
  const below = virtual.getTotalSize() - (items.at(-1)?.end ?? 0);
  const span = columns.length + (ticks ? 1 : 0);
  return (
    <section
      ref={scroller}
      aria-label={label}
      // biome-ignore lint/a11y/noNoninteractiveTabindex: a part that scrolls must be reachable by key
      tabIndex={0}
      className="min-h-0 flex-1 overflow-auto outline-none max-lg:max-h-[70vh]"
    >
      <table className="w-full border-separate border-spacing-0" aria-rowcount={rows.length + 1}>
        <caption className="sr-only">{label}</caption>
        <thead>
          <tr>
            {ticks && (
              <th scope="col" className={`${HEAD} w-10 pl-4.5`}>
                <span className="sr-only">Ticked</span>
              </th>
            )}
            {columns.map((c, i) => (
              <th
                key={c.key}
                scope="col"
                style={{ width: c.width }}
                className={`${HEAD} ${c.align === "right" ? "text-right" : "text-left"} ${i === 0 && !ticks ? "pl-4.5" : ""}`}
              >
                {c.head}
                {c.name && <span className="sr-only">{c.name}</span>}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {above > 0 && <Spacer height={above} />}
          {items.map((v) => {
            const band = bands[v.index];
            if (!band) return null;
            if (band.kind === "group") {
              return (
                <tr key={band.key}>
                  <th
                    scope="colgroup"
                    colSpan={span}
                    style={{ height: GROUP_HEIGHT }}
                    className="border-b border-rule-2 bg-band px-4.5 text-left text-xs font-semibold text-ink-2"
                  >
                    {group?.heading(band.first)}
                  </th>
                </tr>
              );
            }
            const selected = band.key === at;
            return (
              <tr
                key={band.key}
                aria-rowindex={band.index + 2}
                aria-current={selected ? "true" : undefined}
                onClick={() => onAt(band.key)}
                onDoubleClick={() => onOpen?.(band.row)}
                className={`group cursor-default ${selected ? "bg-here" : "hover:bg-band/70"}`}
              >
                {ticks && (
                  <td style={{ height: rowHeight }} className={`${CELL} w-10 pl-4.5 ${selected ? MARKED : ""}`}>
                    <input
                      type="checkbox"
                      checked={ticks.ticked.has(band.key)}
                      disabled={!ticks.can(band.row)}
                      onChange={() => ticks.toggle(band.row)}
                      onClick={(e) => e.stopPropagation()}
                      aria-label={ticks.label(band.row)}
                      className="size-[15px] align-[-3px] accent-harbour"
                    />
                  </td>
                )}
                {columns.map((c, i) => (
                  <td
                    key={c.key}
                    style={{ height: rowHeight }}
                    className={`${CELL} ${c.align === "right" ? "text-right" : "text-left"} ${i === 0 && !ticks ? `pl-4.5 ${selected ? MARKED : ""}` : ""}`}
                  >
                    {c.cell(band.row)}
                  </td>
                ))}
              </tr>
            );
          })}
          {below > 0 && <Spacer height={below} />}
        </tbody>
      </table>
    </section>
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
