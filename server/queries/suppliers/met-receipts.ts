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
  /** The same in stock units, and what it is worth at home. */
  stockQuantity: number;
  home: number;
  requested: Day;
  promised: Day | null;
}

/** Each receipt line with every part of its order line's schedule, the part that was expected first before the others. */
const RECEIPTS = `
  SELECT x.id AS came, l.id AS line, l.item, coalesce(i.name, l.words) AS name, o.id AS "order", o.number AS orderNumber, substr(coalesce(o.placed, o.written), 1, 10) AS sent,
         r.id AS receipt, r.number, r.day, x.quantity - coalesce(u.quantity, 0) AS quantity, x.stock_quantity - coalesce(u.stock_quantity, 0) AS stockQuantity,
         x.home_value - coalesce(u.home_value, 0) AS home, s.quantity AS part, s.requested, s.promised
  FROM purchase_order o JOIN order_line l ON l.purchase_order = o.id JOIN receipt_line x ON x.order_line = l.id JOIN receipt r ON r.id = x.receipt
  JOIN order_schedule s ON s.order_line = l.id
  LEFT JOIN (SELECT receipt_line, sum(quantity) AS quantity, sum(stock_quantity) AS stock_quantity, sum(home_value) AS home_value FROM receipt_undo_line GROUP BY receipt_line) u
    ON u.receipt_line = x.id
  LEFT JOIN item i ON i.id = l.item
  WHERE o.supplier = @supplier AND l.kind <> 'charge' AND r.day <= @until AND x.quantity > coalesce(u.quantity, 0)
  ORDER BY l.id, r.day, x.id, coalesce(s.promised, s.requested), s.position`;
type Row = MetReceipt & { came: number; part: number };

/** All that came of a supplier's orders up to a day. What came fills what was expected first. */
export function metReceipts(db: Db, supplier: SupplierId, until: Day): MetReceipt[] {
  const all: MetReceipt[] = [];
  let came = -1;
  /** Of the line, what came before this receipt, and what its schedule has up to the part that is looked at. */
  let before = 0;
  let upTo = 0;
  for (const row of sql<Row>(db, RECEIPTS).iterate({ supplier, until })) {
    if (row.came !== came) {
      const last = all.at(-1);
      before = last?.line === row.line ? before + last.quantity : 0;
      upTo = 0;
      came = row.came;
      const { came: _, part: __, ...receipt } = row;
      all.push(receipt);
    } else if (upTo > before) continue;
    // This receipt meets the part at which the ones before it end, or else the last.
    const here = all.at(-1)!;
    here.requested = row.requested;
    here.promised = row.promised;
    upTo += row.part;
  }
  return all;
}
