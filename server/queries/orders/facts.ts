import type { OrderId } from "../../../core/ids";
import type { LineFacts, OrderFacts, OrderStage } from "../../../core/orders/status";
import { type Db, sql } from "../../db/open";

/** What tells where an order stands; `stage` instead of the one that is kept. Only lines that bring goods count. */
export function readFacts(db: Db, order: OrderId, stage?: OrderStage): OrderFacts {
  const head = sql<{ stage: OrderStage; closed: string | null }>(
    db,
    "SELECT stage, closed FROM purchase_order WHERE id = ?",
  ).get(order)!;
  const lines = sql<Omit<LineFacts, "answered"> & { answered: number }>(
    db,
    `SELECT answered IS NOT NULL AS answered, quantity AS ordered, received, closed_short AS closedShort
     FROM order_line WHERE purchase_order = ? AND awaited = 1`,
  ).all(order);
  return {
    stage: stage ?? head.stage,
    closedByHand: head.closed !== null,
    lines: lines.map((l) => ({ ...l, answered: l.answered === 1 })),
  };
}
