import { stateOfRequisition } from "../../../core/orders/state";
import { type Db, sql } from "../../db/open";

/** Works out again what the requisitions behind an order have come to. Call after its lines or their receipts change. */
export function settleRequisitionsOf(db: Db, order: number): void {
  const touched = sql<{ id: number }>(
    db,
    `SELECT DISTINCT q.requisition AS id FROM order_line l JOIN need_tie t ON t.order_line = l.id
     JOIN requisition_line q ON q.id = t.requisition_line WHERE l.purchase_order = ?`,
  ).all(order);
  for (const { id } of touched) settleRequisition(db, id);
}

/** The state of one open requisition, from what became of its lines. */
export function settleRequisition(db: Db, id: number): void {
  const lines = sql<{ dropped: number; tied: number; met: number }>(
    db,
    `SELECT q.declined IS NOT NULL AS dropped, l.id IS NOT NULL OR x.id IS NOT NULL AS tied,
            coalesce(l.received >= l.quantity, x.state = 'Moved', 0) AS met
     FROM requisition_line q LEFT JOIN need_tie t ON t.requisition_line = q.id LEFT JOIN order_line l ON l.id = t.order_line
     LEFT JOIN transfer_line m ON m.requisition_line = q.id LEFT JOIN transfer x ON x.id = m.transfer WHERE q.requisition = ?`,
  ).all(id);
  const state = stateOfRequisition(
    lines.map((l) => ({ dropped: l.dropped === 1, ordered: l.tied === 1, met: l.met === 1 })),
  );
  sql(db, "UPDATE requisition SET state = ? WHERE id = ? AND state IN ('Open', 'Part ordered', 'Ordered', 'Met')").run(
    state,
    id,
  );
}
