import type { Day } from "../calendar/day";
import { safe } from "../numbers/decimal";

/** What is added up, in home currency before tax (docs/insight.md says from which papers, and on which day). */
export const MEASURES = ["asked", "ordered", "to come", "received", "invoiced"] as const;
export type SpendMeasure = (typeof MEASURES)[number];

/** What is said of it: what it comes to, how many lines, how many papers. */
export const COUNTS = ["value", "lines", "papers"] as const;
export type Counted = (typeof COUNTS)[number];

/** What it may be broken down by; the last three are time. */
export const DIMENSIONS = [
  "supplier",
  "category",
  "item",
  "store",
  "buyer",
  "department",
  "job",
  "vessel",
  "budget",
  "kind",
  "month",
  "quarter",
  "year",
] as const;
export type Dimension = (typeof DIMENSIONS)[number];
const TIMES: readonly Dimension[] = ["month", "quarter", "year"];
export const isTime = (d: Dimension): boolean => TIMES.includes(d);

/** Only what has these values; "" is what has none, such as a line of no job. */
export type Filters = Partial<Record<Dimension, string>>;

export interface BreakdownAsked {
  measure: SpendMeasure;
  count: Counted;
  rows: Dimension;
  /** Null: one column of all of it. */
  columns: Dimension | null;
  /** Both included. */
  from: Day;
  until: Day;
  filters: Filters;
}

/** One group as it was added up. */
export interface SpendGroup {
  row: string;
  column: string;
  figure: number;
}

/** A value of a dimension with what it is called. */
export interface NamedValue {
  key: string;
  label: string;
}

export interface BreakdownRow extends NamedValue {
  /** By key of the column; what is missing is nothing. */
  cells: Record<string, number>;
  total: number;
}

/** Rows with their cells; each total is the sum of its cells, row by row and column by column. */
export interface Breakdown {
  rows: BreakdownRow[];
  columns: NamedValue[];
  /** By key of the column. */
  totals: Record<string, number>;
  total: number;
}

/** More columns than this are not read side by side: the least of them stand together. */
const MOST_COLUMNS = 12;
export const OTHERS = "\u0000others";

/**
 * Lays groups out as rows and columns: time in its order, all else by what it comes to, the most first. Where there are
 * more than twelve columns that are no time, the least of them stand together as one.
 */
export function laidOut(
  groups: readonly SpendGroup[],
  asked: Pick<BreakdownAsked, "rows" | "columns">,
  called: (d: Dimension, key: string) => string,
): Breakdown {
  const sums = (of: (g: SpendGroup) => string) => {
    const by = new Map<string, number>();
    for (const g of groups) by.set(of(g), safe((by.get(of(g)) ?? 0) + g.figure));
    return by;
  };
  const ordered = (by: ReadonlyMap<string, number>, d: Dimension) =>
    [...by]
      .sort(([a, x], [b, y]) => (isTime(d) ? a.localeCompare(b) : y - x || a.localeCompare(b)))
      .map(([key]) => key);
  const { rows, columns } = asked;
  const keys = columns
    ? ordered(
        sums((g) => g.column),
        columns,
      )
    : [];
  const apart = columns && !isTime(columns) && keys.length > MOST_COLUMNS ? keys.slice(0, MOST_COLUMNS - 1) : keys;
  const shown = new Set(apart);
  const columnOf = (g: SpendGroup) => (!columns ? "" : shown.has(g.column) ? g.column : OTHERS);
  const byRow = sums((g) => g.row);
  const cells = new Map<string, Record<string, number>>();
  const totals: Record<string, number> = {};
  for (const g of groups) {
    const key = columnOf(g);
    const row = cells.get(g.row) ?? {};
    row[key] = safe((row[key] ?? 0) + g.figure);
    cells.set(g.row, row);
    totals[key] = safe((totals[key] ?? 0) + g.figure);
  }
  const named = (key: string): NamedValue => ({ key, label: key === OTHERS ? "others" : called(columns!, key) });
  return {
    rows: ordered(byRow, rows).map((key) => ({
      key,
      label: called(rows, key),
      cells: cells.get(key) ?? {},
      total: byRow.get(key)!,
    })),
    columns: [...apart, ...(apart.length < keys.length ? [OTHERS] : [])].map(named),
    totals,
    total: groups.reduce((a, g) => safe(a + g.figure), 0),
  };
}

/** What so much is of a whole, in basis points, half away from zero; null where the whole is nothing. */
export const shareOf = (part: number, whole: number): number | null =>
  whole === 0
    ? null
    : Number((BigInt(part) * 20_000n + BigInt(Math.sign(part)) * BigInt(Math.abs(whole))) / (2n * BigInt(whole)));
