import type { JobId, OrderId, RequisitionId } from "../../../core/ids";
import { type Db, sql } from "../../db/open";
import { orderName } from "../orders/order";

/** The stops of a paper's way, in their order. */
type Stop = "asked for" | "agreed before" | "ordered" | "came";

/** A paper on the way of a need, from who asked for it to what came of it. */
export interface PaperAround {
  stop: Stop;
  label: string;
  state: string;
  href: string;
}

interface OrderRow {
  id: OrderId;
  number: string | null;
  state: string;
  supplier: string;
}

const ORDERS_OF = `
  SELECT DISTINCT o.id, o.number, o.state, s.name AS supplier FROM purchase_order o JOIN supplier s ON s.id = o.supplier
  JOIN order_line l ON l.purchase_order = o.id JOIN need_tie t ON t.order_line = l.id`;

/** Every paper before and after an order: who asked, what it draws on, its receipts. */
export function papersAroundOrder(db: Db, order: OrderId): PaperAround[] {
  const own = sql<OrderRow>(
    db,
    "SELECT o.id, o.number, o.state, s.name AS supplier FROM purchase_order o JOIN supplier s ON s.id = o.supplier WHERE o.id = ?",
  ).all(order);
  const asked = sql<{ href: string; label: string; state: string }>(
    db,
    `SELECT DISTINCT '/requisitions/' || r.id AS href, r.number || ', ' || p.name AS label, r.state FROM order_line l JOIN need_tie t ON t.order_line = l.id
       JOIN requisition_line q ON q.id = t.requisition_line JOIN requisition r ON r.id = q.requisition JOIN person p ON p.id = r.asker WHERE l.purchase_order = @order
     UNION SELECT '/jobs/' || j.id, j.kind || ' ' || j.code || iif(j.vessel = '', '', ', ' || j.vessel), iif(j.closed IS NULL, 'open', 'closed') FROM order_line l JOIN need_tie t ON t.order_line = l.id
       JOIN job_demand d ON d.id = t.job_demand JOIN job j ON j.id = d.job WHERE l.purchase_order = @order`,
  ).all({ order });
  const before = sql<{ href: string; label: string; state: string }>(
    db,
    `SELECT DISTINCT '/orders/' || b.id AS href, coalesce(b.number, 'Draft ' || b.id) || ', blanket' AS label, b.state FROM order_line l JOIN order_line d ON d.id = l.blanket_line
       JOIN purchase_order b ON b.id = d.purchase_order WHERE l.purchase_order = @order
     UNION SELECT '/quotes/' || q.id, q.number || ', prices', iif(q.ended IS NULL, 'open', 'ended') FROM order_line l JOIN quote q ON q.number = json_extract(l.price_source, '$.quote') WHERE l.purchase_order = @order`,
  ).all({ order });
  const calls = sql<OrderRow>(
    db,
    `SELECT DISTINCT o.id, o.number, o.state, s.name AS supplier FROM order_line d JOIN order_line l ON l.blanket_line = d.id JOIN purchase_order o ON o.id = l.purchase_order
     JOIN supplier s ON s.id = o.supplier WHERE d.purchase_order = ? ORDER BY o.id`,
  ).all(order);
  return [
    ...asked.map((a): PaperAround => ({ stop: "asked for", ...a })),
    ...before.map((b): PaperAround => ({ stop: "agreed before", ...b })),
    ...[...own, ...calls].map(orderPaper),
    ...receiptsOf(db, [order]),
  ];
}

const orderPaper = (o: OrderRow): PaperAround => ({
  stop: "ordered",
  label: `${orderName(o.id, o.number)}, ${o.supplier}`,
  state: o.state,
  href: `/orders/${o.id}`,
});

const receiptsOf = (db: Db, orders: readonly number[]): PaperAround[] =>
  sql<{ id: number; number: string; day: string }>(
    db,
    "SELECT id, number, day FROM receipt WHERE purchase_order IN (SELECT value FROM json_each(?)) ORDER BY id",
  )
    .all(JSON.stringify(orders))
    .map((r) => ({ stop: "came", label: r.number, state: r.day, href: `/receipts/${r.id}` }));

/** The same from a requisition. */
export function papersAroundRequisition(db: Db, requisition: RequisitionId): PaperAround[] {
  const own = sql<{ number: string; state: string }>(db, "SELECT number, state FROM requisition WHERE id = ?").get(
    requisition,
  );
  const orders = sql<OrderRow>(
    db,
    `${ORDERS_OF} JOIN requisition_line q ON q.id = t.requisition_line WHERE q.requisition = ? ORDER BY o.id`,
  ).all(requisition);
  const moved = sql<{ id: number; number: string; state: string }>(
    db,
    "SELECT DISTINCT t.id, t.number, t.state FROM transfer t JOIN transfer_line l ON l.transfer = t.id JOIN requisition_line q ON q.id = l.requisition_line WHERE q.requisition = ? ORDER BY t.id",
  ).all(requisition);
  return own
    ? [
        { stop: "asked for", label: own.number, state: own.state, href: `/requisitions/${requisition}` },
        ...orders.map(orderPaper),
        ...receiptsOf(
          db,
          orders.map((o) => o.id),
        ),
        ...moved.map(
          (t): PaperAround => ({ stop: "came", label: t.number, state: t.state, href: `/transfers/${t.id}` }),
        ),
      ]
    : [];
}

/** The same from a job or a customer order: what was ordered for it alone. */
export function papersAroundJob(db: Db, job: JobId): PaperAround[] {
  const own = sql<{ label: string; state: string }>(
    db,
    "SELECT kind || ' ' || code AS label, iif(closed IS NULL, 'open', 'closed') AS state FROM job WHERE id = ?",
  ).get(job);
  const orders = sql<OrderRow>(
    db,
    `${ORDERS_OF} JOIN job_demand d ON d.id = t.job_demand WHERE d.job = ? ORDER BY o.id`,
  ).all(job);
  return own
    ? [
        { stop: "asked for", ...own, href: `/jobs/${job}` },
        ...orders.map(orderPaper),
        ...receiptsOf(
          db,
          orders.map((o) => o.id),
        ),
      ]
    : [];
}
