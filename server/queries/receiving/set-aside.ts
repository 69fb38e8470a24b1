import type { Day } from "../../../core/calendar/day";
import type { OrderId, ReceiptId, StoreId, SupplierId } from "../../../core/ids";
import type { AsideDecision, AsideReason, Awaits } from "../../../core/receiving/set-aside";
import { type Db, sql } from "../../db/open";

/** Goods that were counted and not taken in. It holds no price. */
export interface AsideRow {
  id: number;
  order: OrderId;
  number: string;
  position: number;
  supplier: SupplierId;
  supplierName: string;
  store: StoreId;
  storeName: string;
  receipt: ReceiptId;
  receiptNumber: string;
  deliveryNote: string;
  /** The day on which they came. */
  day: Day;
  by: string;
  code: string | null;
  name: string;
  unit: string;
  why: AsideReason;
  /** 1: they meet the order, which waits for no more of it. */
  ordered: number;
  quantity: number;
  undecided: number;
  daysEarly: number;
  lot: string;
  expires: Day | null;
  note: string;
  buyer: string;
  /** What of the line was ordered and came, in purchase units. */
  lineOrdered: number;
  lineReceived: number;
  /** Days from order to arrival, as the supplier's record says. */
  leadDays: number | null;
}

/** Goods set aside of which somebody still has to decide, the longest first; `store` for a dock of one store. */
export const readAsides = (db: Db, store: StoreId | null): AsideRow[] =>
  sql<AsideRow>(
    db,
    `SELECT a.id, o.id AS "order", o.number, l.position, s.id AS supplier, s.name AS supplierName, r.store, t.name AS storeName,
            r.id AS receipt, r.number AS receiptNumber, r.delivery_note AS deliveryNote, r.day, p.name AS "by", i.code, coalesce(i.name, l.words) AS name,
            u.name AS unit, a.why, a.ordered, a.quantity, a.undecided, a.days_early AS daysEarly, a.lot, a.expires, a.note, w.name AS buyer,
            l.quantity - l.closed_short AS lineOrdered, l.received AS lineReceived, g.lead_days AS leadDays
     FROM set_aside a JOIN receipt r ON r.id = a.receipt JOIN order_line l ON l.id = a.order_line JOIN purchase_order o ON o.id = l.purchase_order
     JOIN supplier s ON s.id = o.supplier JOIN store t ON t.id = r.store JOIN person p ON p.id = r.person JOIN person w ON w.id = o.writer
     JOIN unit u ON u.code = l.unit LEFT JOIN item i ON i.id = l.item LEFT JOIN sourcing g ON g.id = l.sourcing
     WHERE a.undecided > 0 AND (@store IS NULL OR r.store = @store) ORDER BY r.day, a.id`,
  ).all({ store });

/** How many goods wait for a decision, by the orders with which they came. */
export const asidesByOrder = (db: Db) =>
  sql<{ order: OrderId; number: string; supplier: string; rows: number; since: Day; first: number }>(
    db,
    `SELECT o.id AS "order", o.number, s.name AS supplier, count(*) AS rows, min(r.day) AS since, min(a.id) AS first
     FROM set_aside a JOIN receipt r ON r.id = a.receipt JOIN purchase_order o ON o.id = r.purchase_order JOIN supplier s ON s.id = o.supplier
     WHERE a.undecided > 0 GROUP BY o.id ORDER BY since, o.id`,
  ).all();

/** Goods that went back. It holds no price. */
export interface ReturnRow {
  id: number;
  number: string;
  order: OrderId;
  orderNumber: string;
  supplierName: string;
  store: StoreId;
  storeName: string;
  day: Day;
  reason: string;
  awaits: Awaits;
  settled: Day | null;
  settledHow: string;
  by: string;
  lines: ReturnedLine[];
}
export interface ReturnedLine {
  position: number;
  code: string | null;
  theirCode: string;
  name: string;
  quantity: number;
  unit: string;
  lot: string;
  why: AsideReason;
  note: string;
  receiptNumber: string;
  deliveryNote: string;
}

const RETURN = `
  SELECT g.id, g.number, o.id AS "order", o.number AS orderNumber, s.name AS supplierName, g.store, t.name AS storeName, g.day, g.reason, g.awaits, g.settled,
         g.settled_how AS settledHow, p.name AS "by"
  FROM goods_return g JOIN purchase_order o ON o.id = g.purchase_order JOIN supplier s ON s.id = o.supplier JOIN store t ON t.id = g.store JOIN person p ON p.id = g.person`;

/** Returns: those that still await something first, the longest first; then the others of late. */
export const readReturns = (db: Db, store: StoreId | null): ReturnRow[] =>
  withLines(
    db,
    sql<Omit<ReturnRow, "lines">>(
      db,
      `${RETURN} WHERE @store IS NULL OR g.store = @store ORDER BY g.settled IS NOT NULL, iif(g.settled IS NULL, g.day, ''), g.day DESC, g.id DESC LIMIT 200`,
    ).all({ store }),
  );

/** One return; null where there is none. */
export const readReturn = (db: Db, id: number): ReturnRow | null =>
  withLines(db, sql<Omit<ReturnRow, "lines">>(db, `${RETURN} WHERE g.id = ?`).all(id))[0] ?? null;

function withLines(db: Db, rows: Omit<ReturnRow, "lines">[]): ReturnRow[] {
  const lines = sql<ReturnedLine & { id: number }>(
    db,
    `SELECT d.goods_return AS id, l.position, i.code, l.their_code AS theirCode, coalesce(i.name, l.words) AS name, d.quantity, u.name AS unit, a.lot, a.why, a.note,
            r.number AS receiptNumber, r.delivery_note AS deliveryNote
     FROM set_aside_decision d JOIN set_aside a ON a.id = d.set_aside JOIN receipt r ON r.id = a.receipt JOIN order_line l ON l.id = a.order_line
     JOIN unit u ON u.code = l.unit LEFT JOIN item i ON i.id = l.item
     WHERE d.goods_return IN (SELECT value FROM json_each(?)) ORDER BY l.position, d.id`,
  ).all(JSON.stringify(rows.map((r) => r.id)));
  return rows.map((r) => ({ ...r, lines: lines.filter((l) => l.id === r.id).map(({ id: _, ...l }) => l) }));
}

/** What became of goods that were set aside with a count, for its receipt. */
export interface AsideOfReceipt {
  id: number;
  name: string;
  unit: string;
  why: AsideReason;
  daysEarly: number;
  quantity: number;
  undecided: number;
  note: string;
  became: { what: AsideDecision; quantity: number; goodsReturn: number | null; number: string | null }[];
}

export function asidesOfReceipt(db: Db, receipt: ReceiptId): AsideOfReceipt[] {
  const decisions = sql<AsideOfReceipt["became"][number] & { aside: number }>(
    db,
    `SELECT d.set_aside AS aside, d.what, d.quantity, g.id AS goodsReturn, g.number FROM set_aside a JOIN set_aside_decision d ON d.set_aside = a.id
     LEFT JOIN goods_return g ON g.id = d.goods_return WHERE a.receipt = ? ORDER BY d.id`,
  ).all(receipt);
  return sql<Omit<AsideOfReceipt, "became">>(
    db,
    `SELECT a.id, coalesce(i.name, l.words) AS name, u.name AS unit, a.why, a.days_early AS daysEarly, a.quantity, a.undecided, a.note
     FROM set_aside a JOIN order_line l ON l.id = a.order_line JOIN unit u ON u.code = l.unit LEFT JOIN item i ON i.id = l.item
     WHERE a.receipt = ? ORDER BY a.id`,
  )
    .all(receipt)
    .map((a) => ({ ...a, became: decisions.filter((d) => d.aside === a.id).map(({ aside: _, ...d }) => d) }));
}

/** In which store goods set aside lie; null where there are none of this id. */
export const whereAside = (db: Db, aside: number): StoreId | null =>
  sql<{ store: StoreId }>(db, "SELECT r.store FROM set_aside a JOIN receipt r ON r.id = a.receipt WHERE a.id = ?").get(
    aside,
  )?.store ?? null;

/** Pictures of goods set aside, by them. */
export function picturesOfAsides(db: Db, asides: readonly number[]): Map<number, { id: number; name: string }[]> {
  const by = new Map<number, { id: number; name: string }[]>();
  for (const { aside, ...p } of sql<{ aside: number; id: number; name: string }>(
    db,
    "SELECT set_aside AS aside, id, name FROM set_aside_picture WHERE set_aside IN (SELECT value FROM json_each(?)) ORDER BY id",
  ).all(JSON.stringify(asides)))
    by.set(aside, [...(by.get(aside) ?? []), p]);
  return by;
}
