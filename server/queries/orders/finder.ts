import { z } from "zod";
import type { Day } from "../../../core/calendar/day";
import { exchanged, money } from "../../../core/numbers/money";
import { ORDER_KINDS } from "../../../core/orders/kinds";
import { ORDER_STATES } from "../../../core/orders/status";
import { type Db, sql } from "../../db/open";
import { AddressDay, AddressList } from "../address";
import { rateOn, theCompany } from "../company";
import { remember } from "../remember";
import { type OrderRow, orderRows } from "./lists";

/** What each column sorts by; the newest order stands first within the same value. */
const SORTS: Record<string, string> = {
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
};

/** What an address of the page asks for; anything it does not understand is left out of it. */
const Address = z.object({
  state: AddressList.transform((l) => l.filter((s) => (ORDER_STATES as readonly string[]).includes(s))),
  kind: AddressList.transform((l) => l.filter((k) => (ORDER_KINDS as readonly string[]).includes(k))),
  supplier: AddressList,
  store: AddressList,
  writer: AddressList,
  mark: AddressList,
  late: z.literal("yes").optional().catch(undefined),
  held: z.literal("yes").optional().catch(undefined),
  /** Home amounts at the rates of the day instead of each order's own. */
  rates: z.literal("today").optional().catch(undefined),
  from: AddressDay,
  to: AddressDay,
  find: z.string().max(80).optional().default("").catch(""),
  sort: z.string().max(20).optional().catch(undefined),
});
export interface OrderQuery extends Omit<z.output<typeof Address>, "sort"> {
  sort: { column: string; down: boolean } | null;
}

export function orderQuery(search: URLSearchParams): OrderQuery {
  const read = Address.parse(Object.fromEntries(search));
  const column = read.sort?.replace(/^-/, "") ?? "";
  return { ...read, sort: Object.hasOwn(SORTS, column) ? { column, down: read.sort!.startsWith("-") } : null };
}

interface Where {
  text: string;
  values: Record<string, unknown>;
}

function whereOf(q: OrderQuery, today: Day): Where {
  const parts = ["o.kind <> 'standing'"];
  const values: Record<string, unknown> = {};
  const among = (name: "state" | "kind" | "supplier" | "store" | "writer") => {
    if (q[name].length === 0) return;
    parts.push(`o.${name} IN (SELECT value FROM json_each(@${name}))`);
    values[name] = JSON.stringify(name === "state" || name === "kind" ? q[name] : q[name].map(Number));
  };
  for (const name of ["state", "kind", "supplier", "store", "writer"] as const) among(name);
  if (q.mark.length) {
    parts.push(
      "EXISTS (SELECT 1 FROM order_mark x WHERE x.purchase_order = o.id AND x.taken_off IS NULL AND x.mark IN (SELECT value FROM json_each(@mark)))",
    );
    values.mark = JSON.stringify(q.mark.map(Number));
  }
  if (q.late) {
    parts.push(
      `o.placed IS NOT NULL AND EXISTS (SELECT 1 FROM order_line l WHERE l.purchase_order = o.id AND l.open = 1 AND l.due < @today)`,
    );
    values.today = today;
  }
  if (q.held) parts.push("o.held <> ''");
  if (q.from) {
    parts.push("o.written >= @since");
    values.since = q.from;
  }
  if (q.to) {
    parts.push("o.written < @until || 'T99'");
    values.until = q.to;
  }
  q.find
    .toLowerCase()
    .split(/\s+/)
    .filter(Boolean)
    .slice(0, 5)
    .forEach((word, i) => {
      const like = `@find${i} ESCAPE '\\'`;
      parts.push(
        `(o.number LIKE ${like} OR s.name LIKE ${like} OR o.title LIKE ${like} OR o.our_reference LIKE ${like} OR o.their_reference LIKE ${like} OR o.brought LIKE ${like}
          OR EXISTS (SELECT 1 FROM order_line l WHERE l.purchase_order = o.id AND l.words LIKE ${like}))`,
      );
      values[`find${i}`] = `%${word.replace(/[\\%_]/g, (c) => `\\${c}`)}%`;
    });
  return { text: parts.join(" AND "), values };
}

const FROM =
  "FROM purchase_order o JOIN supplier s ON s.id = o.supplier JOIN store t ON t.id = o.store JOIN person w ON w.id = o.writer";

/** Joins cost time over a hundred thousand orders: counting needs only those that the filter looks at. */
const countFrom = (q: OrderQuery) => (q.find ? FROM : "FROM purchase_order o");

const orderBy = (q: OrderQuery) =>
  q.sort ? `ORDER BY ${SORTS[q.sort.column]} ${q.sort.down ? "DESC" : "ASC"}, o.id DESC` : "ORDER BY o.id DESC";
/** The least that finding the rows of a window has to join. */
function windowFrom(q: OrderQuery): string {
  const by = q.sort ? SORTS[q.sort.column]! : "o.id";
  return q.find || !by.startsWith("o.") ? FROM : "FROM purchase_order o";
}

export interface FoundOrder extends OrderRow {
  marks: string[];
}

export interface FoundOrders {
  count: number;
  all: number;
  /** Net of what is shown, home currency; blanket orders promise, and their call-offs are counted. */
  homeNet: number;
  place: number | null;
  from: number;
  rows: FoundOrder[];
  /** Rows that are read later belong to the same sheet as long as their count is the same. */
  at: 0;
}

/** Orders that an address asks for: so many rows from one on, or around an order, with what all of them come to. */
export function findOrders(
  db: Db,
  q: OrderQuery,
  today: Day,
  window: { from: number; most: number; around?: number | null },
): FoundOrders {
  const where = whereOf(q, today);
  const sums = remember(
    db,
    `orders/${today}/${JSON.stringify(q)}`,
    () =>
      sql<{ count: number; homeNet: number }>(
        db,
        `SELECT count(*) AS count, coalesce(sum(iif(o.kind = 'blanket', 0, o.home_net)), 0) AS homeNet ${countFrom(q)} WHERE ${where.text}`,
      ).get(where.values)!,
  );
  const again = q.rates ? revalued(db, q, where, today) : null;
  const all = remember(
    db,
    "orders/all",
    // Counting what is left out is quicker than looking at each of a hundred thousand.
    () =>
      sql<{ n: number }>(
        db,
        "SELECT (SELECT count(*) FROM purchase_order) - (SELECT count(*) FROM purchase_order WHERE kind = 'standing') AS n",
      ).get()!.n,
  );
  const place = window.around ? placeOf(db, q, where, window.around) : null;
  const from =
    place === null ? window.from : Math.max(0, Math.min(place - (window.most >> 1), sums.count - window.most));
  const ids = sql<{ id: number }>(
    db,
    `SELECT o.id ${windowFrom(q)} WHERE ${where.text} ${orderBy(q)} LIMIT @most OFFSET @from`,
  )
    .all({ ...where.values, most: window.most, from })
    .map((r) => r.id);
  const rows = rowsOf(db, ids, today);
  return {
    ...sums,
    homeNet: again ? again.sum : sums.homeNet,
    all,
    place,
    from,
    rows: again ? rows.map((r) => ({ ...r, homeNet: again.of(r.net, r.currency) ?? r.homeNet })) : rows,
    at: 0,
  };
}

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
    `SELECT o.net, o.home_net AS homeNet, o.currency ${countFrom(q)} WHERE ${where.text} AND o.kind <> 'blanket'`,
  );
  for (const r of rows.iterate(where.values)) sum += of(r.net, r.currency) ?? r.homeNet;
  return { sum, of };
}

/** Where an order stands among those that are shown; null where it does not. */
function placeOf(db: Db, q: OrderQuery, where: Where, order: number): number | null {
  const row = sql<{ place: number }>(
    db,
    `SELECT place FROM (SELECT o.id, row_number() OVER (${orderBy(q)}) - 1 AS place ${windowFrom(q)} WHERE ${where.text}) WHERE id = @order`,
  ).get({ ...where.values, order });
  return row?.place ?? null;
}

export function rowsOf(db: Db, ids: readonly number[], today: Day): FoundOrder[] {
  const marks = new Map<number, string[]>();
  for (const m of sql<{ order: number; name: string }>(
    db,
    `SELECT x.purchase_order AS "order", m.name FROM order_mark x JOIN mark m ON m.id = x.mark
     WHERE x.taken_off IS NULL AND x.purchase_order IN (SELECT value FROM json_each(?)) ORDER BY m.name`,
  ).iterate(JSON.stringify(ids)))
    marks.set(m.order, [...(marks.get(m.order) ?? []), m.name]);
  const by = new Map(orderRows(db, ids, today).map((r) => [r.id, r]));
  return ids.map((id) => ({ ...by.get(id)!, marks: marks.get(id) ?? [] }));
}

/** Every id that an address asks for, in its order: for files. */
export const findOrderIds = (db: Db, q: OrderQuery, today: Day): number[] => {
  const where = whereOf(q, today);
  return sql<{ id: number }>(db, `SELECT o.id ${windowFrom(q)} WHERE ${where.text} ${orderBy(q)}`)
    .all(where.values)
    .map((r) => r.id);
};

export interface OrderFacets {
  states: { value: string; count: number }[];
  suppliers: { id: number; name: string }[];
  stores: { id: number; name: string }[];
  writers: { id: number; name: string }[];
  marks: { id: number; name: string }[];
}

/** What the orders can be narrowed by. */
export const orderFacets = (db: Db): OrderFacets =>
  remember(db, "orders/facets", () => ({
    states: sql<{ value: string; count: number }>(
      db,
      "SELECT state AS value, count(*) AS count FROM purchase_order WHERE kind <> 'standing' GROUP BY state",
    ).all(),
    suppliers: sql<{ id: number; name: string }>(
      db,
      "SELECT id, name FROM supplier s WHERE EXISTS (SELECT 1 FROM purchase_order o WHERE o.supplier = s.id) ORDER BY name",
    ).all(),
    stores: sql<{ id: number; name: string }>(db, "SELECT id, name FROM store ORDER BY id").all(),
    writers: sql<{ id: number; name: string }>(
      db,
      "SELECT DISTINCT p.id, p.name FROM person p JOIN person_role r ON r.person = p.id WHERE r.role IN ('buyer', 'purchasing lead') ORDER BY p.name",
    ).all(),
    marks: sql<{ id: number; name: string }>(db, "SELECT id, name FROM mark WHERE ended IS NULL ORDER BY name").all(),
  }));
