import type { Day } from "../../../core/calendar/day";
import type { OrderId, ReceiptId, StoreId } from "../../../core/ids";
import { showQuantity } from "../../../core/numbers/format";
import type { OrderState } from "../../../core/orders/status";
import { unitWords } from "../../../core/text";
import { type Db, sql } from "../../db/open";
import { type CountLine, FOR_WHOM, readLinesOfLoad } from "./count-lines";

/** What an order should bring to one store; an order with lines for two stores is two loads. Nothing here is a price. */
export interface Load {
  order: OrderId;
  number: string;
  supplierName: string;
  storeName: string;
  store: StoreId;
  /** Of the order, as it stands. */
  version: number;
  due: Day;
  linesLeft: number;
  /** "8 drum" where one unit is left to come, else null. */
  what: string;
  partIn: boolean;
}

/** What should come to a store (or to all), the soonest first. */
export function readComingIn(db: Db, store: StoreId | null): Load[] {
  const rows = sql<Omit<Load, "what" | "partIn"> & { state: string; units: number; unit: string; left: number }>(
    db,
    `SELECT o.id AS "order", o.number, s.name AS supplierName, t.name AS storeName, l.store, o.state, o.version,
            min(l.due) AS due, count(*) AS linesLeft, count(DISTINCT l.unit) AS units, min(u.name) AS unit,
            sum(l.quantity - l.received) AS left
     FROM purchase_order o JOIN order_line l ON l.purchase_order = o.id AND l.open = 1
     JOIN supplier s ON s.id = o.supplier JOIN store t ON t.id = l.store JOIN unit u ON u.code = l.unit
     WHERE o.stage = 'placed' AND o.kind <> 'direct' AND (? IS NULL OR l.store = ?)
     GROUP BY o.id, l.store ORDER BY due, o.id, l.store`,
  ).all(store, store);
  return rows.map(({ state, units, unit, left, ...r }) => ({
    ...r,
    partIn: state === "Part in",
    what:
      units === 1 && r.linesLeft === 1
        ? `${showQuantity(left)} ${unitWords(left, unit)}`
        : r.linesLeft === 1
          ? "1 line"
          : `${r.linesLeft} lines`,
  }));
}

export interface CountSheet {
  order: OrderId;
  number: string;
  supplierName: string;
  store: StoreId;
  storeName: string;
  state: OrderState;
  version: number;
  /** Whom counts wait for that a tolerance does not settle. */
  buyer: string;
  /** What is expected is shown only once something was counted. */
  blind: boolean;
  lines: CountLine[];
  receipts: { id: ReceiptId; number: string; day: Day; person: string; note: string; lines: number }[];
}

/**
 * The count sheet of a placed order at a store; without one, at the store that still waits for the most of it. Null where
 * there is no such order, it is not placed, or nothing of it comes to that store. It holds no price.
 */
export function readCountSheet(db: Db, order: OrderId, at: number | null = null): CountSheet | null {
  const store =
    at ??
    sql<{ store: StoreId }>(
      db,
      "SELECT store FROM order_line WHERE purchase_order = ? AND kind <> 'charge' GROUP BY store ORDER BY sum(open) DESC, min(position) LIMIT 1",
    ).get(order)?.store;
  if (store === undefined) return null;
  const head = sql<Omit<CountSheet, "lines" | "receipts" | "blind"> & { blind: number }>(
    db,
    `SELECT o.id AS "order", o.number, s.name AS supplierName, t.id AS store, t.name AS storeName, o.state, o.version, w.name AS buyer, t.blind
     FROM purchase_order o JOIN supplier s ON s.id = o.supplier JOIN person w ON w.id = o.writer JOIN store t ON t.id = ?
     WHERE o.id = ? AND o.kind IN ('one-off', 'call-off') AND o.stage IN ('placed', 'closed')`,
  ).get(store, order);
  if (!head) return null;
  const lines = readLinesOfLoad(db, order, store);
  if (lines.length === 0) return null;
  const receipts = sql<CountSheet["receipts"][number]>(
    db,
    `SELECT r.id, r.number, r.day, p.name AS person, r.delivery_note AS note, (SELECT count(*) FROM receipt_line x WHERE x.receipt = r.id) AS lines
     FROM receipt r JOIN person p ON p.id = r.person WHERE r.purchase_order = ? AND r.store = ? ORDER BY r.id`,
  ).all(order, store);
  return { ...head, blind: head.blind === 1, lines, receipts };
}

/** Of which order a receipt is, and where it was counted. There must be one. */
export const whereReceived = (db: Db, id: ReceiptId): { order: OrderId; store: StoreId } =>
  sql<{ order: OrderId; store: StoreId }>(db, 'SELECT purchase_order AS "order", store FROM receipt WHERE id = ?').get(
    id,
  )!;

export interface ReceiptSheet {
  id: ReceiptId;
  number: string;
  day: Day;
  at: string;
  note: string;
  /** What the delivery note says came in all; pieces and kilograms in ten-thousandths. */
  saidLines: number | null;
  saidPieces: number | null;
  saidWeight: number | null;
  /** Why the count says otherwise. */
  difference: string;
  person: string;
  order: OrderId;
  orderNumber: string;
  supplierName: string;
  store: StoreId;
  storeName: string;
  lines: {
    code: string | null;
    name: string;
    quantity: number;
    unit: string;
    stockQuantity: number;
    stockUnit: string | null;
    /** Beyond what was ordered, of the quantity. */
    over: number;
    /** Kilograms as weighed. */
    weight: number | null;
    lot: string | null;
    expires: Day | null;
    bin: string;
    onHand: number | null;
    /** The jobs and requisitions it is for; null where it is for stock. */
    forWhom: string | null;
  }[];
}

/** A receipt as it was counted. It holds no price. */
export function readReceipt(db: Db, id: ReceiptId): ReceiptSheet | null {
  const head = sql<Omit<ReceiptSheet, "lines">>(
    db,
    `SELECT r.id, r.number, r.day, r.at, r.delivery_note AS note, r.said_lines AS saidLines, r.said_pieces AS saidPieces, r.said_weight AS saidWeight, r.difference,
            p.name AS person, o.id AS "order", o.number AS orderNumber, s.name AS supplierName, r.store, t.name AS storeName
     FROM receipt r JOIN person p ON p.id = r.person JOIN purchase_order o ON o.id = r.purchase_order JOIN supplier s ON s.id = o.supplier
     JOIN store t ON t.id = r.store WHERE r.id = ?`,
  ).get(id);
  if (!head) return null;
  const lines = sql<ReceiptSheet["lines"][number]>(
    db,
    `SELECT i.code, coalesce(i.name, l.words) AS name, x.quantity, u.name AS unit, x.stock_quantity AS stockQuantity, su.name AS stockUnit,
            x.over, x.weight, k.code AS lot, k.expires, coalesce(p.bin, '') AS bin, p.on_hand AS onHand, ${FOR_WHOM}
     FROM receipt_line x JOIN order_line l ON l.id = x.order_line JOIN unit u ON u.code = l.unit LEFT JOIN item i ON i.id = l.item
     LEFT JOIN unit su ON su.code = i.unit LEFT JOIN item_store p ON p.item = l.item AND p.store = l.store LEFT JOIN lot k ON k.id = x.lot
     WHERE x.receipt = ? ORDER BY x.id`,
  ).all(id);
  return { ...head, lines };
}
