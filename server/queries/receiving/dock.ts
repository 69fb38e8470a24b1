import type { Day } from "../../../core/calendar/day";
import type { ItemId, OrderId, OrderLineId, ReceiptId, StoreId } from "../../../core/ids";
import { Big, roundToInteger } from "../../../core/numbers/decimal";
import { showQuantity } from "../../../core/numbers/format";
import { ONE } from "../../../core/numbers/quantity";
import type { OrderState } from "../../../core/orders/status";
import type { CountedLine } from "../../../core/receiving/count";
import type { LotRule } from "../../../core/receiving/lot";
import { unitWords } from "../../../core/text";
import { type Db, sql } from "../../db/open";
import { readCountedLines } from "./counted-lines";
import { lotRules } from "./lot-rules";

/** What an order should bring to one store; an order with lines for two stores is two loads. Nothing here is a price. */
export interface Load {
  order: OrderId;
  number: string;
  supplierName: string;
  storeName: string;
  store: StoreId;
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
    `SELECT o.id AS "order", o.number, s.name AS supplierName, t.name AS storeName, l.store, o.state,
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

export interface CountLine {
  line: OrderLineId;
  position: number;
  item: ItemId | null;
  code: string | null;
  name: string;
  theirCode: string;
  gtin: string | null;
  unit: string;
  stockUnit: string | null;
  factor: number;
  ordered: number;
  received: number;
  due: Day;
  bin: string;
  /** The jobs and requisitions it is for; null where it is for stock. */
  forWhom: string | null;
  /** What counts are held against. */
  counted: CountedLine;
  /** How it is told apart on the shelf; null where it is not. */
  lots: LotRule | null;
  /** Kilograms of one purchase unit, ten-thousandths; null where it is not known. */
  weight: number | null;
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

/** Jobs and requisitions that an order line serves, so that whoever counts it in knows who waits. */
const FOR_WHOM = `
  (SELECT group_concat(DISTINCT coalesce(j.kind || ' ' || j.code || iif(j.vessel = '', '', ' ' || j.vessel), r.number)) FROM need_tie t
   LEFT JOIN job_demand d ON d.id = t.job_demand LEFT JOIN job j ON j.id = d.job
   LEFT JOIN requisition_line q ON q.id = t.requisition_line LEFT JOIN requisition r ON r.id = q.requisition
   WHERE t.order_line = l.id AND (j.id IS NOT NULL OR r.id IS NOT NULL)) AS forWhom`;

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
  const lines = readCountLines(db, order, store);
  if (lines.length === 0) return null;
  const receipts = sql<CountSheet["receipts"][number]>(
    db,
    `SELECT r.id, r.number, r.day, p.name AS person, r.delivery_note AS note, (SELECT count(*) FROM receipt_line x WHERE x.receipt = r.id) AS lines
     FROM receipt r JOIN person p ON p.id = r.person WHERE r.purchase_order = ? AND r.store = ? ORDER BY r.id`,
  ).all(order, store);
  return { ...head, blind: head.blind === 1, lines, receipts };
}

/** The lines of an order that come to a store, as they are counted. */
function readCountLines(db: Db, order: OrderId, store: StoreId): CountLine[] {
  const rows = sql<Omit<CountLine, "counted" | "lots" | "weight"> & { one: number | null }>(
    db,
    `SELECT l.id AS line, l.position, l.item, i.code, coalesce(i.name, l.words) AS name, l.their_code AS theirCode, i.gtin, u.name AS unit,
            su.name AS stockUnit, l.factor, l.quantity - l.closed_short AS ordered, l.received, l.due, iif(l.bin = '', coalesce(p.bin, ''), l.bin) AS bin, i.weight AS one,
            ${FOR_WHOM}
     FROM order_line l JOIN unit u ON u.code = l.unit LEFT JOIN item i ON i.id = l.item LEFT JOIN unit su ON su.code = i.unit
     LEFT JOIN item_store p ON p.item = l.item AND p.store = l.store
     WHERE l.purchase_order = ? AND l.store = ? AND l.kind <> 'charge' ORDER BY l.position`,
  ).all(order, store);
  const counted = readCountedLines(
    db,
    rows.map((r) => r.line),
  );
  const rules = lotRules(
    db,
    rows.flatMap((r) => (r.item === null ? [] : [r.item])),
  );
  return rows.map(({ one, ...r }) => ({
    ...r,
    counted: counted.get(r.line)!,
    lots: (r.item !== null && rules.get(r.item)) || null,
    weight: one === null ? null : roundToInteger(new Big(one).times(r.factor).div(ONE)),
  }));
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
            x.over, k.code AS lot, k.expires, coalesce(p.bin, '') AS bin, p.on_hand AS onHand, ${FOR_WHOM}
     FROM receipt_line x JOIN order_line l ON l.id = x.order_line JOIN unit u ON u.code = l.unit LEFT JOIN item i ON i.id = l.item
     LEFT JOIN unit su ON su.code = i.unit LEFT JOIN item_store p ON p.item = l.item AND p.store = l.store LEFT JOIN lot k ON k.id = x.lot
     WHERE x.receipt = ? ORDER BY x.id`,
  ).all(id);
  return { ...head, lines };
}
