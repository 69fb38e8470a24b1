import type { OrderId } from "../../../core/ids";
import { type OrderStage, type OrderState, orderStatus, stageAfter } from "../../../core/orders/status";
import { type Db, sql } from "../../db/open";
import { readFacts } from "../../queries/orders/facts";

/**
 * Keeps where an order stands: the stage it is brought `to`, or else what follows from its lines. The one writer of stages
 * and of the words kept for lists. Call inside the act's transaction, after its lines are what they are.
 */
export function settleOrder(db: Db, order: OrderId, to?: OrderStage): OrderState {
  const facts = readFacts(db, order, to);
  const stage = stageAfter(facts);
  const state = orderStatus({ ...facts, stage });
  sql(db, "UPDATE purchase_order SET stage = ?, state = ? WHERE id = ? AND (stage <> ? OR state <> ?)").run(
    stage,
    state,
    order,
    stage,
    state,
  );
  if (to === "cancelled") sql(db, "UPDATE order_line SET awaited = 0 WHERE purchase_order = ?").run(order);
  return state;
}
