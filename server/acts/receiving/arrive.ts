import type { ReceiptId } from "../../../core/ids";
import { sql } from "../../db/open";
import { readOrderLines } from "../../queries/orders/order";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { text } from "../fields";
import { orderFor, WhichOrder } from "../orders/order-for";
import { receive } from "./receive";

/**
 * A direct delivery has reached the job or customer it went to: what was open is received without ever lying in a store,
 * and is used by the demand it was ordered for.
 */
export function arriveDirect(desk: Desk, raw: unknown): Done<{ receipt: ReceiptId; number: string }> {
  const input = checked(WhichOrder.extend({ deliveryNote: text(60) }), raw);
  if (!input.ok) return input;
  const { order, version, deliveryNote } = input.value;
  return once(desk, "place", (tx) => {
    const found = orderFor(tx.db, desk, order, version, "receive");
    if (!found.ok) return found;
    const head = found.value;
    if (head.kind !== "direct")
      return refuse("", `${head.name} comes to ${head.storeName}: it is counted in on the dock.`);
    const lines = readOrderLines(tx.db, order, head.currency);
    const open = lines.filter((l) => l.kind !== "charge" && l.quantity - l.closedShort > l.received);
    const { receipt, number } = receive(tx.db, desk, {
      head,
      lines,
      came: open.map((l) => ({ line: l.id, quantity: l.quantity - l.closedShort - l.received, over: 0, lot: null })),
      store: head.store,
      deliveryNote,
      passesBy: true,
    });
    for (const l of open)
      sql(
        tx.db,
        `UPDATE job_demand SET issued = min(quantity, issued + (SELECT coalesce(sum(t.quantity), 0) FROM need_tie t WHERE t.order_line = @line AND t.job_demand = job_demand.id))
         WHERE id IN (SELECT job_demand FROM need_tie WHERE order_line = @line AND job_demand IS NOT NULL)`,
      ).run({ line: l.id });
    tx.record("goods.arrived", `order ${order}`, { number, deliveryNote, lines: open.map((l) => l.id) });
    return done({ receipt, number });
  });
}
