import type { Day } from "../../../core/calendar/day";
import type { ItemId, OrderId, OrderLineId, SupplierId } from "../../../core/ids";
import { type Db, sql } from "../../db/open";

/** What came of an order line with one receipt, and the part of its schedule that it meets. */
export interface MetReceipt {
  line: OrderLineId;
  item: ItemId | null;
  name: string;
  order: OrderId;
  orderNumber: string;
  /** The day on which the order was sent. */
  sent: Day;
  receipt: number;
  number: string;
  day: Day;
  /** Purchase units that were not undone. */
  quantity: number;
  requested: Day;
  promised: Day | null;
}

const RECEIPTS = `
  SELECT l.id AS line, l.item, coalesce(i.name, l.words) AS name, o.id AS "order", o.number AS orderNumber, substr(coalesce(o.placed, o.written), 1, 10) AS sent,
         r.id AS receipt, r.number, r.day, x.quantity - coalesce(u.quantity, 0) AS quantity
  FROM purchase_order o JOIN order_line l ON l.purchase_order = o.id JOIN receipt_line x ON x.order_line = l.id JOIN receipt r ON r.id = x.receipt
  LEFT JOIN (SELECT receipt_line, sum(quantity) AS quantity FROM receipt_undo_line GROUP BY receipt_line) u ON u.receipt_line = x.id LEFT JOIN item i ON i.id = l.item
  WHERE o.supplier = @supplier AND l.kind <> 'charge' AND r.day <= @until AND x.quantity > coalesce(u.quantity, 0) ORDER BY l.id, r.day, x.id`;
const SCHEDULES = `
  SELECT s.order_line AS line, s.quantity, s.requested, s.promised
  FROM purchase_order o JOIN order_line l ON l.purchase_order = o.id JOIN order_schedule s ON s.order_line = l.id
  WHERE o.supplier = @supplier AND l.received > 0 ORDER BY s.order_line, coalesce(s.promised, s.requested), s.position`;

/** All that came of a supplier's orders up to a day. What came fills what was expected first. */
export function metReceipts(db: Db, supplier: SupplierId, until: Day): MetReceipt[] {
  type Part = { quantity: number; requested: Day; promised: Day | null };
  const parts = new Map<number, Part[]>();
  for (const { line, ...part } of sql<Part & { line: number }>(db, SCHEDULES).iterate({ supplier }))
    parts.set(line, [...(parts.get(line) ?? []), part]);
  const came = new Map<number, number>();
  return sql<Omit<MetReceipt, "requested" | "promised">>(db, RECEIPTS)
    .all({ supplier, until })
    .map((r) => {
      const before = came.get(r.line) ?? 0;
      came.set(r.line, before + r.quantity);
      // This receipt meets the part at which the ones before it end.
      let upTo = 0;
      const schedule = parts.get(r.line)!;
      const { requested, promised } = schedule.find((s) => (upTo += s.quantity) > before) ?? schedule.at(-1)!;
      return { ...r, requested, promised };
    });
}
