import { z } from "zod";
import { type Db, sql } from "../../db/open";
import { type OrderLine, readOrderLines } from "../../queries/orders/order";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { Id } from "../fields";
import { settleRequisition } from "../requisitions/settle-requisitions";
import { orderFor, touchOrder, WhichOrder } from "./order-for";
import { priceOrder } from "./price-order";
import { settleOrder } from "./settle-order";

/** Takes lines off a draft; their needs go back to the pool. */
export function dropLines(desk: Desk, raw: unknown): Done<{ left: number }> {
  const input = checked(WhichOrder.extend({ lines: z.array(Id).min(1, "Choose a line.").max(2000) }), raw);
  if (!input.ok) return input;
  const { order, version } = input.value;
  return once(desk, "write orders", (tx) => {
    const head = orderFor(tx.db, desk, order, version, "edit");
    if (!head.ok) return head;
    const lines = readOrderLines(tx.db, order, head.value.currency);
    const gone = lines.filter((l) => input.value.lines.includes(l.id));
    if (gone.length === 0) return refuse("", "This line is not on this order any more.");
    for (const l of gone) sql(tx.db, "DELETE FROM order_line WHERE id = ?").run(l.id);
    freeNeeds(tx.db, gone);
    touchOrder(tx.db, order, version);
    priceOrder(tx.db, order, desk.day);
    tx.record("order.line-dropped", `order ${order}`, gone.length === 1 ? gone[0] : gone);
    return done({ left: lines.length - gone.length });
  });
}

/** Throws a draft away, or, where it has a number already, keeps it as cancelled. Its needs go back to the pool. */
export function dropOrder(desk: Desk, raw: unknown): Done<{ kept: boolean; name: string }> {
  const input = checked(WhichOrder, raw);
  if (!input.ok) return input;
  const { order, version } = input.value;
  return once(desk, "write orders", (tx) => {
    const head = orderFor(tx.db, desk, order, version, "cancel");
    if (!head.ok) return head;
    const lines = readOrderLines(tx.db, order, head.value.currency);
    const kept = head.value.number !== null;
    if (kept) {
      sql(tx.db, "DELETE FROM need_tie WHERE order_line IN (SELECT id FROM order_line WHERE purchase_order = ?)").run(
        order,
      );
      settleOrder(tx.db, order, "cancelled");
      sql(tx.db, "UPDATE purchase_order SET version = version + 1 WHERE id = ?").run(order);
    } else {
      sql(tx.db, "DELETE FROM purchase_order WHERE id = ?").run(order);
    }
    freeNeeds(tx.db, lines);
    tx.record(kept ? "order.cancelled" : "order.deleted", `order ${order}`, { head: head.value, lines });
    return done({ kept, name: head.value.name });
  });
}

/** Requisitions whose line lost its order line are open again. */
function freeNeeds(db: Db, lines: readonly Pick<OrderLine, "serves">[]): void {
  const touched = new Set(lines.flatMap((l) => l.serves.map((s) => s.requisition)).filter((id) => id !== null));
  for (const id of touched) settleRequisition(db, id);
}

/** Puts the lines of a draft into another order. */
export function sequenceLines(desk: Desk, raw: unknown): Done<{ version: number }> {
  const input = checked(WhichOrder.extend({ lines: z.array(Id).min(1).max(2000) }), raw);
  if (!input.ok) return input;
  const { order, version, lines } = input.value;
  return once(desk, "write orders", (tx) => {
    const head = orderFor(tx.db, desk, order, version, "edit");
    if (!head.ok) return head;
    const known = sql<{ id: number }>(tx.db, "SELECT id FROM order_line WHERE purchase_order = ?").all(order);
    const ids = new Set(known.map((l) => l.id));
    if (lines.length !== ids.size || lines.some((id) => !ids.delete(id)))
      return refuse("", "A line was added or taken off meanwhile. Load the page again.");
    // Positions are unique, so they first go where no line stands.
    sql(tx.db, "UPDATE order_line SET position = -position WHERE purchase_order = ?").run(order);
    const set = sql(tx.db, "UPDATE order_line SET position = ? WHERE id = ?");
    lines.forEach((id, i) => {
      set.run(i + 1, id);
    });
    const next = touchOrder(tx.db, order, version);
    tx.record("order.lines-sequenced", `order ${order}`, { lines });
    return done({ version: next });
  });
}
