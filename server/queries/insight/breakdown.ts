import { z } from "zod";
import { addDays, type Day, monthStart, parseDay, yearBefore } from "../../../core/calendar/day";
import {
  type Breakdown,
  type BreakdownAsked,
  COUNTS,
  type Counted,
  DIMENSIONS,
  type Dimension,
  type Filters,
  laidOut,
  MEASURES,
  type SpendGroup,
  type SpendMeasure,
} from "../../../core/insight/breakdown";
import { keysOf } from "../../../core/keys";
import { decimalText } from "../../../core/numbers/decimal";
import { exponent } from "../../../core/numbers/money";
import { ONE } from "../../../core/numbers/quantity";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../company";
import type { FileColumn } from "../file-columns";

/** Where a measure's lines lie: `l` is the order line, `o` its order, `i` its item. */
interface Source {
  from: string;
  /** The same without what orders say, for what the paper itself says: its supplier and its day. */
  alone?: string;
  where: string;
  day: string;
  value: string;
  paper: string;
  number: string;
  supplier: string;
  store: string;
  budget: string;
  /** Who wrote it, and the job it is for, where that is not the order's. */
  writer?: string;
  job?: string;
}

const ORDERED = "JOIN purchase_order o ON o.id = l.purchase_order LEFT JOIN item i ON i.id = l.item";
const SOURCES: Record<SpendMeasure, Source> = {
  asked: {
    from: "requisition o JOIN requisition_line l ON l.requisition = o.id LEFT JOIN item i ON i.id = l.item",
    where:
      "o.submitted >= @from AND o.submitted < date(@until, '+1 day') AND o.state NOT IN ('Draft', 'Declined', 'Withdrawn') AND l.declined IS NULL",
    day: "substr(o.submitted, 1, 10)",
    // What the asker was told, or the item's reference cost for all of it: as budgets have it (askedWorth).
    value: `coalesce(l.estimate, (coalesce(l.decided, l.quantity, ${ONE}) * i.reference_cost + @unit / 2) / @unit, 0)`,
    paper: "o.id",
    number: "o.number",
    supplier: "l.supplier",
    store: "o.store",
    budget: "l.budget",
    writer: "o.asker",
    job: "NULL",
  },
  "to come": {
    from: "open_schedule s JOIN order_line l ON l.id = s.order_line JOIN purchase_order o ON o.id = l.purchase_order LEFT JOIN item i ON i.id = l.item",
    where:
      "s.due BETWEEN @from AND @until AND o.stage = 'placed' AND o.kind NOT IN ('blanket', 'standing') AND l.kind <> 'charge'",
    day: "s.due",
    // Its part of the line, half away from zero (worthOfPart).
    value: "((2 * l.home_net * s.quantity + l.quantity) / (2 * l.quantity))",
    paper: "o.id",
    number: "o.number",
    supplier: "o.supplier",
    store: "l.store",
    budget: "l.budget",
  },
  ordered: {
    from: "purchase_order o JOIN order_line l ON l.purchase_order = o.id LEFT JOIN item i ON i.id = l.item",
    // What lies between the days by its moment, for the index.
    where:
      "o.placed >= @from AND o.placed < date(@until, '+1 day') AND o.stage <> 'cancelled' AND o.kind NOT IN ('blanket', 'standing')",
    day: "substr(o.placed, 1, 10)",
    value: "l.home_net",
    paper: "o.id",
    number: "o.number",
    supplier: "o.supplier",
    store: "l.store",
    budget: "l.budget",
  },
  received: {
    from: `receipt r JOIN receipt_line x ON x.receipt = r.id JOIN order_line l ON l.id = x.order_line ${ORDERED}`,
    where: "r.day BETWEEN @from AND @until",
    day: "r.day",
    value:
      "(x.home_value - coalesce((SELECT sum(u.home_value) FROM receipt_undo_line u WHERE u.receipt_line = x.id), 0))",
    paper: "r.id",
    number: "r.number",
    supplier: "o.supplier",
    store: "r.store",
    budget: "l.budget",
  },
  invoiced: {
    from: `invoice v JOIN invoice_line b ON b.invoice = v.id LEFT JOIN order_line l ON l.id = b.order_line LEFT ${ORDERED}`,
    alone: "invoice v JOIN invoice_line b ON b.invoice = v.id",
    where: "v.day BETWEEN @from AND @until AND v.state NOT IN ('Held', 'Sent back', 'Taken off')",
    day: "v.day",
    value: "b.home_net",
    paper: "v.id",
    number: "v.number",
    supplier: "v.supplier",
    store: "l.store",
    budget: "coalesce(l.budget, b.budget)",
  },
};

/** What a dimension's values are, as SQL of a source; what has none is "". */
function keyOf(d: Dimension, s: Source): string {
  switch (d) {
    case "supplier":
      return s.supplier;
    case "category":
      return "i.category";
    case "item":
      return "l.item";
    case "store":
      return s.store;
    case "buyer":
      return s.writer ?? "o.writer";
    case "department":
      return "o.department";
    case "job":
      return s.job ?? "l.job";
    case "vessel":
      return `(SELECT j.vessel FROM job j WHERE j.id = ${s.job ?? "l.job"})`;
    case "budget":
      return `(SELECT g.code FROM budget g WHERE g.id = ${s.budget})`;
    case "kind":
      return "l.kind";
    case "month":
      return `substr(${s.day}, 1, 7)`;
    case "quarter":
      return `(substr(${s.day}, 1, 4) || '-Q' || ((CAST(substr(${s.day}, 6, 2) AS INTEGER) + 2) / 3))`;
    case "year":
      return `substr(${s.day}, 1, 4)`;
  }
}
const textOf = (d: Dimension, s: Source) => `coalesce(CAST(${keyOf(d, s)} AS TEXT), '')`;

const ON_THE_PAPER: readonly Dimension[] = ["supplier", "month", "quarter", "year"];
/** No more tables than these dimensions ask for: a join whose columns nobody reads costs as much as another. */
const fromOf = (s: Source, dimensions: readonly Dimension[]): string =>
  s.alone && dimensions.every((d) => ON_THE_PAPER.includes(d)) ? s.alone : s.from;

/** What is narrowed by, each value in a parameter of its own. */
function narrowed(filters: Filters, s: Source): { text: string; values: Record<string, string> } {
  const by = DIMENSIONS.filter((d) => filters[d] !== undefined);
  return {
    text: by.map((d) => ` AND ${textOf(d, s)} = @is_${d}`).join(""),
    values: Object.fromEntries(by.map((d) => [`is_${d}`, filters[d]!])),
  };
}

/** The days, and what a quantity times a price is divided by to be minor units. */
const boundOf = (db: Db, { from, until }: Pick<BreakdownAsked, "from" | "until">) => ({
  from,
  until,
  // A BigInt, so that SQLite divides whole numbers.
  unit: 10n ** BigInt(10 - exponent(theCompany(db).currency)),
});

/** Tables whose rows a dimension's values are. */
const TABLES: Partial<Record<Dimension, string>> = {
  supplier: "supplier",
  item: "item",
  store: "store",
  buyer: "person",
  department: "department",
  job: "job",
};
const NONE: Partial<Record<Dimension, string>> = {
  category: "no category",
  item: "no item of ours",
  store: "no store",
  buyer: "on no order",
  department: "no department",
  job: "no job",
  vessel: "no vessel",
  budget: "no budget",
  kind: "on no order",
};

/** What values of a dimension are called. */
export function valueNames(db: Db, d: Dimension, keys: readonly string[]): (key: string) => string {
  const table = TABLES[d];
  const names = new Map<string, string>();
  if (table)
    for (const r of sql<{ id: number; name: string }>(
      db,
      `SELECT id, name FROM ${table} WHERE id IN (SELECT value FROM json_each(?))`,
    ).all(JSON.stringify(keys.filter(Boolean).map(Number))))
      names.set(String(r.id), r.name);
  return (key) => (key === "" ? (NONE[d] ?? "none") : (names.get(key) ?? key));
}

/** Adds up a measure by one dimension or two: one statement, and what its values are called (domain-goods §16). */
export function readBreakdown(db: Db, asked: BreakdownAsked): Breakdown {
  const s = SOURCES[asked.measure];
  const { text, values } = narrowed(asked.filters, s);
  const figures: Record<Counted, string> = {
    value: `coalesce(sum(${s.value}), 0)`,
    lines: "count(*)",
    papers: `count(DISTINCT ${s.paper})`,
  };
  const groups = sql<SpendGroup>(
    db,
    `SELECT ${textOf(asked.rows, s)} AS "row", ${asked.columns ? textOf(asked.columns, s) : "''"} AS "column", ${figures[asked.count]} AS figure
     FROM ${fromOf(s, [asked.rows, asked.columns ?? asked.rows, ...keysOf(asked.filters)])} WHERE ${s.where}${text} GROUP BY 1, 2`,
  ).all({ ...boundOf(db, asked), ...values });
  const called = {
    [asked.rows]: valueNames(db, asked.rows, [...new Set(groups.map((g) => g.row))]),
    ...(asked.columns
      ? { [asked.columns]: valueNames(db, asked.columns, [...new Set(groups.map((g) => g.column))]) }
      : {}),
  };
  return laidOut(groups, asked, (d, key) => called[d]!(key));
}

/** A paper behind a cell, with what of it belongs there; home currency. */
export interface BreakdownPaper {
  id: number;
  number: string;
  supplier: string;
  day: Day;
  value: number;
  lines: number;
}
const MOST_PAPERS = 200;

/** The papers behind what is asked for, the largest first, as many as one reads; with how many there are. */
export function readBreakdownPapers(
  db: Db,
  asked: Pick<BreakdownAsked, "measure" | "from" | "until" | "filters">,
): { papers: BreakdownPaper[]; count: number; value: number } {
  const s = SOURCES[asked.measure];
  const { text, values } = narrowed(asked.filters, s);
  const bound = { ...boundOf(db, asked), ...values };
  const papers = sql<BreakdownPaper>(
    db,
    `SELECT ${s.paper} AS id, ${s.number} AS number, (SELECT p.name FROM supplier p WHERE p.id = ${s.supplier}) AS supplier, ${s.day} AS day,
            coalesce(sum(${s.value}), 0) AS value, count(*) AS lines
     FROM ${s.from} WHERE ${s.where}${text} GROUP BY 1 ORDER BY value DESC, id LIMIT ${MOST_PAPERS}`,
  ).all(bound);
  const whole = sql<{ count: number; value: number }>(
    db,
    `SELECT count(DISTINCT ${s.paper}) AS count, coalesce(sum(${s.value}), 0) AS value FROM ${s.from} WHERE ${s.where}${text}`,
  ).get(bound)!;
  return { ...whole, papers };
}

const Asked = z.object({
  of: z.enum(MEASURES).catch("received"),
  show: z.enum(COUNTS).catch("value"),
  rows: z.enum(DIMENSIONS).catch("supplier"),
  columns: z.enum(DIMENSIONS).nullable().catch(null),
  from: z.string().nullable().catch(null),
  to: z.string().nullable().catch(null),
});
const MOST_FILTER = 120;

/** What an address asks for; what is missing or not understood is as usual: received goods by supplier, a year to today. */
export function breakdownOf(search: URLSearchParams, today: Day): BreakdownAsked {
  const asked = Asked.parse(
    Object.fromEntries(["of", "show", "rows", "columns", "from", "to"].map((n) => [n, search.get(n)])),
  );
  const ahead = asked.of === "to come";
  const until = parseDay(asked.to ?? "") ?? (ahead ? addDays(today, 365) : today);
  const from = parseDay(asked.from ?? "") ?? addDays(yearBefore(ahead && today < until ? today : until), 1);
  const filters: Filters = {};
  for (const d of DIMENSIONS) {
    const value = search.get(`is-${d}`);
    if (value !== null) filters[d] = value.slice(0, MOST_FILTER);
  }
  return {
    measure: asked.of,
    count: asked.show,
    rows: asked.rows,
    columns: asked.columns === asked.rows ? null : asked.columns,
    from: from > until ? monthStart(until) : from,
    until,
    filters,
  };
}

/** A row of the file of a breakdown: one for each cell. */
export interface BreakdownCell {
  row: string;
  rowKey: string;
  column: string;
  columnKey: string;
  figure: number;
}
export const cellsOf = (b: Breakdown): BreakdownCell[] =>
  b.rows.flatMap((r) =>
    b.columns.length === 0
      ? [{ row: r.label, rowKey: r.key, column: "", columnKey: "", figure: r.total }]
      : b.columns
          .filter((c) => r.cells[c.key] !== undefined)
          .map((c) => ({
            row: r.label,
            rowKey: r.key,
            column: c.label,
            columnKey: c.key.replace("\u0000", ""),
            figure: r.cells[c.key]!,
          })),
  );

/** The columns of /insight/breakdown.csv, as docs/exchange.md says. */
export function breakdownColumns(db: Db, { count, rows, columns }: BreakdownAsked): FileColumn<BreakdownCell>[] {
  const { currency } = theCompany(db);
  const places = exponent(currency);
  return [
    { name: rows, width: 32, cell: (c) => c.row },
    { name: `${rows}_key`, width: 12, cell: (c) => c.rowKey },
    ...(columns
      ? [
          { name: columns, width: 24, cell: (c: BreakdownCell) => c.column },
          { name: `${columns}_key`, width: 12, cell: (c: BreakdownCell) => c.columnKey },
        ]
      : []),
    count === "value"
      ? {
          name: `value_${currency.toLowerCase()}`,
          width: 16,
          as: "money",
          currency: () => currency,
          cell: (c) => decimalText(c.figure, places, places),
        }
      : { name: count, width: 10, as: "number", cell: (c) => c.figure },
  ];
}
