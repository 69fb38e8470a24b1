import { brokenLink } from "../db/audit";
import { type Db, sql } from "../db/open";
import { orderTotals, readOrderLines } from "./orders/order";

/** What must hold in any company's file at any time. An empty list is the good answer; else each sentence names a row. */
export function brokenTruths(db: Db): string[] {
  const found: string[] = [];
  const none = (says: string, query: string) => {
    for (const row of sql<{ what: string }>(db, query).all()) found.push(`${says}: ${row.what}`);
  };
  none(
    "stock is not the sum of its movements",
    `SELECT p.item || '/' || p.store AS what FROM item_store p
     LEFT JOIN (SELECT item, store, sum(quantity) AS moved FROM movement GROUP BY item, store) m ON m.item = p.item AND m.store = p.store
     WHERE p.on_hand <> coalesce(m.moved, 0)`,
  );
  none(
    "a lot is not the sum of its movements",
    `SELECT l.item || '/' || l.store || '/' || l.lot AS what FROM stock_lot l
     LEFT JOIN (SELECT item, store, bin, lot, sum(quantity) AS moved FROM movement WHERE lot IS NOT NULL GROUP BY item, store, bin, lot) m
       ON m.item = l.item AND m.store = l.store AND m.bin = l.bin AND m.lot = l.lot
     WHERE l.on_hand <> coalesce(m.moved, 0)`,
  );
  none(
    "more lies in lots than is on hand",
    `SELECT l.item || '/' || l.store AS what FROM stock_lot l JOIN item_store p ON p.item = l.item AND p.store = l.store
     GROUP BY l.item, l.store HAVING sum(l.on_hand) > p.on_hand`,
  );
  none(
    "a moved transfer has not left and arrived alike",
    `SELECT t.number AS what FROM transfer t JOIN transfer_line l ON l.transfer = t.id
     LEFT JOIN (SELECT transfer_line, store, sum(quantity) AS moved FROM movement WHERE transfer_line IS NOT NULL GROUP BY transfer_line, store) o ON o.transfer_line = l.id AND o.store = t.from_store
     LEFT JOIN (SELECT transfer_line, store, sum(quantity) AS moved FROM movement WHERE transfer_line IS NOT NULL GROUP BY transfer_line, store) i ON i.transfer_line = l.id AND i.store = t.to_store
     WHERE coalesce(-o.moved, 0) <> iif(t.state = 'Moved', l.quantity, 0) OR coalesce(i.moved, 0) <> iif(t.state = 'Moved', l.quantity, 0)`,
  );
  none(
    "more was ordered for a job than is tied to it",
    `SELECT 'demand ' || d.id AS what FROM job_demand d WHERE d.tied < (SELECT coalesce(sum(t.quantity), 0) FROM need_tie t WHERE t.job_demand = d.id)`,
  );
  none(
    "goods moved without a place",
    "SELECT DISTINCT m.item || '/' || m.store AS what FROM movement m LEFT JOIN item_store p ON p.item = m.item AND p.store = m.store WHERE p.item IS NULL",
  );
  none(
    "received is not the sum of the receipts",
    `SELECT 'line ' || l.id AS what FROM order_line l LEFT JOIN (SELECT order_line, sum(quantity) AS counted FROM receipt_line GROUP BY order_line) r ON r.order_line = l.id
     WHERE l.received <> coalesce(r.counted, 0)`,
  );
  none("more was received than ordered", "SELECT 'line ' || id AS what FROM order_line WHERE received > quantity");
  none(
    "a line is open that should not be, or the other way",
    `SELECT 'line ' || l.id AS what FROM order_line l JOIN purchase_order o ON o.id = l.purchase_order
     WHERE l.open <> (l.received < l.quantity AND o.state <> 'Cancelled')`,
  );
  none(
    "an order is not in the state that its lines say",
    `SELECT 'order ' || o.id AS what FROM purchase_order o JOIN (SELECT purchase_order, min(received >= quantity) AS whole, max(received > 0) AS some FROM order_line GROUP BY purchase_order) l
       ON l.purchase_order = o.id
     WHERE o.placed IS NOT NULL AND o.state <> CASE WHEN l.whole THEN 'All in' WHEN l.some THEN 'Part in' ELSE 'With supplier' END`,
  );
  none(
    "a placed order has no version",
    "SELECT o.number AS what FROM purchase_order o WHERE o.placed IS NOT NULL AND NOT EXISTS (SELECT 1 FROM order_version v WHERE v.purchase_order = o.id)",
  );
  for (const [kind, table, letter] of [
    ["order", "purchase_order", ""],
    ["requisition", "requisition", "R"],
    ["receipt", "receipt", "D"],
    ["transfer", "transfer", "T"],
  ] as const) {
    for (const { year, last } of sql<{ year: number; last: number }>(
      db,
      "SELECT year, last FROM series WHERE kind = ?",
    ).all(kind)) {
      const start = `${letter}${String(year).slice(2)}-`;
      const { n } = sql<{ n: number }>(db, `SELECT count(DISTINCT number) AS n FROM ${table} WHERE number LIKE ?`).get(
        `${start}%`,
      )!;
      if (n !== last - 1000) found.push(`the series ${start} has ${n} papers for ${last - 1000} numbers`);
    }
  }
  for (const o of sql<{ id: number; currency: string; discount: number; net: number; total: number }>(
    db,
    "SELECT id, currency, discount, net, total FROM purchase_order",
  ).all()) {
    const t = orderTotals(readOrderLines(db, o.id, o.currency), o.discount, o.currency);
    if (t.net.minor !== o.net || t.total.minor !== o.total)
      found.push(`order ${o.id} keeps other totals than its lines come to`);
  }
  const broken = brokenLink(db);
  if (broken !== null) found.push(`the audit trail is broken at row ${broken}`);
  return found;
}
