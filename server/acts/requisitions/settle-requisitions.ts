import type { OrderId, RequisitionId } from "../../../core/ids";
import { ONE } from "../../../core/numbers/quantity";
import { stateOfRequisition } from "../../../core/requisitions/state";
import { type Db, sql } from "../../db/open";

/** Works out again what the requisitions behind an order have come to. Call after its lines or their receipts change. */
export function settleRequisitionsOf(db: Db, order: OrderId): void {
  const touched = sql<{ id: number }>(
    db,
    `SELECT DISTINCT q.requisition AS id FROM order_line l JOIN need_tie t ON t.order_line = l.id
     JOIN requisition_line q ON q.id = t.requisition_line WHERE l.purchase_order = ?`,
  ).all(order);
  for (const { id } of touched) settleRequisition(db, id);
}

/** The state of one open requisition, from what became of its lines. */
export function settleRequisition(db: Db, id: RequisitionId): void {
  const lines = sql<{ dropped: number; tied: number; met: number; begun: number }>(
    db,
    `SELECT q.declined IS NOT NULL AS dropped,
            x.id IS NOT NULL OR coalesce(sum(t.quantity), 0) >= coalesce(q.decided, q.quantity, ${ONE}) AS tied,
            coalesce(x.state = 'Moved', coalesce(sum(t.quantity), 0) >= coalesce(q.decided, q.quantity, ${ONE}) AND min(l.received + l.closed_short >= l.quantity)) AS met,
            count(t.order_line) > 0 AS begun
     FROM requisition_line q LEFT JOIN need_tie t ON t.requisition_line = q.id AND t.quantity > 0 LEFT JOIN order_line l ON l.id = t.order_line
     LEFT JOIN transfer_line m ON m.requisition_line = q.id LEFT JOIN transfer x ON x.id = m.transfer WHERE q.requisition = ? GROUP BY q.id`,
  ).all(id);
  const state = stateOfRequisition(
    lines.map((l) => ({ dropped: l.dropped === 1, ordered: l.tied === 1, begun: l.begun === 1, met: l.met === 1 })),
  );
  sql(db, "UPDATE requisition SET state = ? WHERE id = ? AND state IN ('Open', 'Part ordered', 'Ordered', 'Met')").run(
    state,
    id,
  );
}
