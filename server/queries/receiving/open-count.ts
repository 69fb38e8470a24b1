import type { OrderId, OrderLineId, StoreId } from "../../../core/ids";
import { gtinForms, type Scanned } from "../../../exchange/gs1/scan";
import { type Db, sql } from "../../db/open";
import { type CountLine, readLinesById } from "./count-lines";

/** A line that is to come, of whichever order; with what its count is sent with. It holds no price. */
export type OpenLine = CountLine & {
  order: OrderId;
  number: string;
  version: number;
  supplierName: string;
  buyer: string;
};

/** So many lines of one code are looked at; the earliest due. */
const MOST = 50;

const TO_COME = `
  FROM order_line l JOIN purchase_order o ON o.id = l.purchase_order
  WHERE l.open = 1 AND l.kind <> 'charge' AND o.stage = 'placed' AND o.kind <> 'direct'`;
/** Each part goes by its own index: items by code or GTIN, then lines by item; lines by the supplier's code. */
const BY_CODE = `
  SELECT id FROM (
    SELECT l.id, l.due ${TO_COME} AND l.store = @store AND l.item IN (SELECT id FROM item WHERE code = @code UNION SELECT id FROM item WHERE gtin IN (SELECT value FROM json_each(@gtins)))
    UNION SELECT l.id, l.due ${TO_COME} AND l.store = @store AND l.their_code = @code COLLATE NOCASE AND l.their_code <> '')
  ORDER BY due, id LIMIT ${MOST}`;

/** The open lines of a store that a scan means, over all orders, earliest due first. */
export function findOpenLines(db: Db, store: StoreId, scanned: Scanned): OpenLine[] {
  const gtin = scanned.gtin ?? (/^\d{8,14}$/.test(scanned.code) ? scanned.code : null);
  const ids = sql<{ id: OrderLineId }>(db, BY_CODE).all({
    store,
    code: scanned.gtin === null ? scanned.code : "",
    gtins: JSON.stringify(gtin === null ? [] : gtinForms(gtin)),
  });
  return withOrders(
    db,
    ids.map((r) => r.id),
  );
}

/** These lines as they stand now, as far as they are still to come at that store. */
export function readOpenLines(db: Db, store: StoreId, lines: readonly number[]): OpenLine[] {
  const ids = sql<{ id: OrderLineId }>(
    db,
    `SELECT l.id ${TO_COME.replace("l.open = 1 AND ", "")} AND l.store = @store AND l.id IN (SELECT value FROM json_each(@lines))`,
  ).all({ store, lines: JSON.stringify(lines) });
  return withOrders(
    db,
    ids.map((r) => r.id),
  );
}

function withOrders(db: Db, ids: readonly OrderLineId[]): OpenLine[] {
  const orders = sql<Omit<OpenLine, keyof CountLine> & { line: OrderLineId }>(
    db,
    `SELECT l.id AS line, o.id AS "order", o.number, o.version, s.name AS supplierName, w.name AS buyer
     FROM order_line l JOIN purchase_order o ON o.id = l.purchase_order JOIN supplier s ON s.id = o.supplier JOIN person w ON w.id = o.writer
     WHERE l.id IN (SELECT value FROM json_each(?))`,
  ).all(JSON.stringify(ids));
  const by = new Map(orders.map((o) => [o.line, o]));
  return readLinesById(db, ids).map((l) => ({ ...l, ...by.get(l.line)! }));
}

/** What is said of a code that no open line has: it may be known all the same. */
export function strangerAt(db: Db, storeName: string, scanned: Scanned): string | null {
  const found = sql<{ name: string }>(
    db,
    "SELECT name FROM item WHERE code = @code UNION SELECT name FROM item WHERE gtin IN (SELECT value FROM json_each(@gtins)) LIMIT 1",
  ).get({
    code: scanned.code,
    gtins: JSON.stringify(scanned.gtin === null ? [scanned.code] : gtinForms(scanned.gtin)),
  });
  return found ? `${found.name}: nothing of it is to come to ${storeName}.` : null;
}
