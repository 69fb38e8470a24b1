import type { ReactNode } from "react";
import type { SheetColumn } from "./ruled-sheet";

/** A column that a sheet can show; `W` is what its cells need beside the row. */
export interface Choosable<R, W> {
  head: string;
  /** Pixels, until somebody draws another width. */
  width: number;
  align?: "right";
  sorts?: boolean;
  /** How long it stays where there is no room. */
  keep?: number;
  /** Its head is said to screen readers only. */
  quiet?: boolean;
  cell: (row: R, ways: W) => ReactNode;
}
export interface Chosen {
  key: string;
  width: number;
}

export interface ColumnSet<R, W> {
  all: Record<string, Choosable<R, W>>;
  /** The column that always stands first. */
  first: string;
  /** Columns as the address names them: "item.240,hand,by". Unknown ones are left out. */
  inAddress: (text: string | null) => Chosen[];
  /** What the address says of them; null where they are the usual ones. */
  text: (columns: readonly Chosen[]) => string | null;
  /** The same once one of them was drawn to another width. */
  widened: (columns: readonly Chosen[], key: string, width: number) => string | null;
  drawn: (columns: readonly Chosen[], ways: W) => SheetColumn<R>[];
}

/** The columns of a sheet that a person chooses, orders and widens. */
export function columnSet<R, W>(all: Record<string, Choosable<R, W>>, usual: readonly string[]): ColumnSet<R, W> {
  const first = usual[0]!;
  const text = (columns: readonly Chosen[]) => {
    const written = columns.map((c) => (c.width === all[c.key]!.width ? c.key : `${c.key}.${c.width}`)).join(",");
    return written === usual.join(",") ? null : written;
  };
  return {
    all,
    first,
    inAddress(text) {
      const named = (text ?? usual.join(","))
        .split(",")
        .map((part) => {
          const [key = "", width] = part.split(".");
          const own = Object.hasOwn(all, key) ? all[key] : undefined;
          return own ? { key, width: Math.max(44, Math.min(640, Number(width) || own.width)) } : null;
        })
        .filter((c) => c !== null);
      const unique = named.filter((c, i) => named.findIndex((o) => o.key === c.key) === i);
      const leading = unique.find((c) => c.key === first) ?? { key: first, width: all[first]!.width };
      return [leading, ...unique.filter((c) => c.key !== first)];
    },
    text,
    widened: (columns, key, width) => text(columns.map((c) => (c.key === key ? { key, width } : c))),
    drawn: (columns, ways) =>
      columns.map(({ key, width }) => {
        const c = all[key]!;
        return {
          key,
          head: c.quiet ? "" : c.head,
          name: c.quiet ? c.head : undefined,
          align: c.align,
          width: `${width}px`,
          sorts: c.sorts,
          keep: c.keep,
          drawn: width !== c.width || !usual.includes(key),
          // Figures fit the width that they are given; cutting costs each cell a layer of its own when it is drawn.
          cut: c.align !== "right" || width < c.width,
          cell: (row) => c.cell(row, ways),
        };
      }),
  };
}
