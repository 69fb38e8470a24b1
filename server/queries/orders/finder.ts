import type { Day } from "../../../core/calendar/day";
import type { OrderId, PersonId, StoreId, SupplierId } from "../../../core/ids";
import { decimalText } from "../../../core/numbers/decimal";
import { exchanged, exponent, money } from "../../../core/numbers/money";
import { ORDER_KINDS } from "../../../core/orders/kinds";
import { ORDER_STATES } from "../../../core/orders/status";
import { type Db, sql } from "../../db/open";
import { rateOn, theCompany } from "../company";
import type { FileColumn } from "../file-columns";
import { defineList, type FoundRows, type ListQuery, type Where, type Window } from "../list";
import { remember } from "../remember";
import { type OrderRow, orderRows } from "./lists";

export interface FoundOrder extends OrderRow {
  marks: string[];
}

function rowsOf(db: Db, ids: readonly number[], today: Day): FoundOrder[] {
  const marks = new Map<number, string[]>();
  for (const m of sql<{ order: OrderId; name: string }>(
    db,
    `SELECT x.purchase_order AS "order", m.name FROM order_mark x JOIN mark m ON m.id = x.mark
     WHERE x.taken_off IS NULL AND x.purchase_order IN (SELECT value FROM json_each(?)) ORDER BY m.name`,
  ).iterate(JSON.stringify(ids)))
    marks.set(m.order, [...(marks.get(m.order) ?? []), m.name]);
  const by = new Map<number, OrderRow>(orderRows(db, ids, today).map((r) => [r.id, r]));
  return ids.map((id) => ({ ...by.get(id)!, marks: marks.get(id) ?? [] }));
}

const amount = (minor: number, currency: string) => decimalText(minor, exponent(currency), exponent(currency));

/** The columns of orders.csv and orders.xlsx, in their order. */
const columnsOf = (home: string): readonly FileColumn<FoundOrder>[] => [
  { name: "order", width: 10, cell: (r) => r.name },
  { name: "kind", width: 10, cell: (r) => r.kind },
  { name: "state", width: 15, cell: (r) => r.state },
  { name: "supplier", width: 28, cell: (r) => r.supplierName },
  { name: "store", width: 14, cell: (r) => r.storeName },
  { name: "buyer", width: 18, cell: (r) => r.writerName },
  { name: "written", width: 11, as: "day", cell: (r) => r.written.slice(0, 10) },
  { name: "placed", width: 11, as: "day", cell: (r) => r.placed?.slice(0, 10) ?? "" },
  { name: "wanted_by", width: 11, as: "day", cell: (r) => r.required },
  { name: "lines", width: 7, cell: (r) => r.lines },
  { name: "lines_in", width: 8, cell: (r) => r.linesIn },
  { name: "lines_overdue", width: 12, cell: (r) => (r.placed ? r.linesLate : 0) },
  { name: "currency", width: 9, cell: (r) => r.currency },
  { name: "net", width: 13, as: "money", currency: (r) => r.currency, cell: (r) => amount(r.net, r.currency) },
  { name: "home_net", width: 13, as: "money", currency: () => home, cell: (r) => amount(r.homeNet, home) },
  { name: "marks", width: 30, cell: (r) => r.marks.join("; ") },
];

const ORDERS_AS_WRITTEN = defineList({
  name: "orders",
  act: "see orders",
  from: "purchase_order o",
  join: "JOIN supplier s ON s.id = o.supplier JOIN store t ON t.id = o.store JOIN person w ON w.id = o.writer",
  id: "o.id",
  always: "o.kind <> 'standing'",
  by: {
    state: { column: "o.state", values: ORDER_STATES },
    kind: { column: "o.kind", values: ORDER_KINDS },
    supplier: { column: "o.supplier" },
    store: { column: "o.store" },
    writer: { column: "o.writer" },
    mark: {
      exists:
        "EXISTS (SELECT 1 FROM order_mark x WHERE x.purchase_order = o.id AND x.taken_off IS NULL AND x.mark IN (SELECT value FROM json_each(@mark)))",
    },
  },
  flags: {
    late: "o.placed IS NOT NULL AND EXISTS (SELECT 1 FROM order_line l WHERE l.purchase_order = o.id AND l.open = 1 AND l.due < @today)",
    held: "o.held <> ''",
  },
  moment: "o.written",
  words: [
    ...["o.number", "s.name", "o.title", "o.our_reference", "o.their_reference", "o.brought"].map(
      (column) => `${column} LIKE @word`,
    ),
    "EXISTS (SELECT 1 FROM order_line l WHERE l.purchase_order = o.id AND l.words LIKE @word)",
  ],
  sorts: {
    number: "o.id",
    supplier: "s.name",
    store: "t.name",
    kind: "o.kind",
    state: "o.state",
    writer: "w.name",
    written: "o.written",
    placed: "o.placed",
    required: "o.required",
    net: "o.home_net",
  },
  order: "o.id DESC",
  // Blanket orders promise, and their call-offs are counted.
  sums: { homeNet: "sum(iif(o.kind = 'blanket', 0, o.home_net))" },
  // Counting what is left out is quicker than looking at each of a hundred thousand.
  all: "(SELECT count(*) FROM purchase_order) - (SELECT count(*) FROM purchase_order WHERE kind = 'standing')",
  rows: rowsOf,
  file: (db) => columnsOf(theCompany(db).currency),
});

/** What an address asks for: `rates` says home amounts at the rates of the day instead of each order's own. */
export interface OrderQuery
  extends ListQuery<"state" | "kind" | "supplier" | "store" | "writer" | "mark", "late" | "held"> {
  rates?: "today";
}
export const orderQuery = (search: URLSearchParams): OrderQuery => ({
  ...ORDERS_AS_WRITTEN.query(search),
  ...(search.get("rates") === "today" && { rates: "today" as const }),
});

/** Orders that an address asks for, with the net of all of them in home currency. */
export function findOrders(
  db: Db,
  q: OrderQuery,
  today: Day,
  window: Window,
): FoundRows<FoundOrder> & { homeNet: number } {
  const found = ORDERS_AS_WRITTEN.find(db, q, today, window);
  if (!q.rates) return found;
  const { sum, of } = revalued(db, q, ORDERS_AS_WRITTEN.where(q, today), today);
  return {
    ...found,
    homeNet: sum,
    rows: found.rows.map((r) => ({ ...r, homeNet: of(r.net, r.currency) ?? r.homeNet })),
  };
}

/** Every order there is. */
export const ORDERS = { ...ORDERS_AS_WRITTEN, query: orderQuery, find: findOrders };

/** What orders would come to at the rates of a day: each order's net, exchanged and rounded. */
function revalued(db: Db, q: OrderQuery, where: Where, today: Day) {
  const home = theCompany(db).currency;
  const rates = new Map<string, number | null>();
  const of = (net: number, currency: string): number | null => {
    if (!rates.has(currency)) rates.set(currency, rateOn(db, currency, home, today));
    const rate = rates.get(currency)!;
    return rate === null ? null : exchanged(money(net, currency), rate, home).minor;
  };
  let sum = 0;
  const rows = sql<{ net: number; homeNet: number; currency: string }>(
    db,
    `SELECT o.net, o.home_net AS homeNet, o.currency ${ORDERS_AS_WRITTEN.countFrom(q)} WHERE ${where.text} AND o.kind <> 'blanket'`,
  );
  for (const r of rows.iterate(where.values)) sum += of(r.net, r.currency) ?? r.homeNet;
  return { sum, of };
}

export interface OrderFacets {
  states: { value: string; count: number }[];
  suppliers: { id: SupplierId; name: string }[];
  stores: { id: StoreId; name: string }[];
  writers: { id: PersonId; name: string }[];
  marks: { id: number; name: string }[];
}

/** What the orders can be narrowed by. */
export const orderFacets = (db: Db): OrderFacets =>
  remember(db, "orders/facets", () => ({
    states: sql<{ value: string; count: number }>(
      db,
      "SELECT state AS value, count(*) AS count FROM purchase_order WHERE kind <> 'standing' GROUP BY state",
    ).all(),
    suppliers: sql<{ id: SupplierId; name: string }>(
      db,
      "SELECT id, name FROM supplier s WHERE EXISTS (SELECT 1 FROM purchase_order o WHERE o.supplier = s.id) ORDER BY name",
    ).all(),
    stores: sql<{ id: StoreId; name: string }>(db, "SELECT id, name FROM store ORDER BY id").all(),
    writers: sql<{ id: number; name: string }>(
      db,
      "SELECT DISTINCT p.id, p.name FROM person p JOIN person_role r ON r.person = p.id WHERE r.role IN ('buyer', 'purchasing lead') ORDER BY p.name",
    ).all(),
    marks: sql<{ id: number; name: string }>(db, "SELECT id, name FROM mark WHERE ended IS NULL ORDER BY name").all(),
  }));
