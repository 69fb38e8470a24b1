import { lineNet, unitPrice } from "../../../core/numbers/money";
import { factorOf, purchase, toStock } from "../../../core/numbers/quantity";
import { sql } from "../../db/open";
import { nextNumber } from "../../db/series";
import { readOrderLines } from "../../queries/orders/order";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { text } from "../fields";
import { countIntoSchedule } from "../orders/keep-schedule";
import { orderFor, WhichOrder } from "../orders/order-for";
import { settleOrder } from "../orders/settle-order";
import { settleRequisitionsOf } from "../requisitions/settle-requisitions";

/**
 * A direct delivery has reached the job or customer it went to: what was open is received without ever lying in a store,
 * and is used by the demand it was ordered for.
 */
export function arriveDirect(desk: Desk, raw: unknown): Done<{ receipt: number; number: string }> {
  const input = checked(WhichOrder.extend({ deliveryNote: text(60) }), raw);
  if (!input.ok) return input;
  const { order, version, deliveryNote } = input.value;
  return once(desk, "place", (tx) => {
    const found = orderFor(tx.db, desk, order, version, "receive");
    if (!found.ok) return found;
    const head = found.value;
    if (head.kind !== "direct")
      return refuse("", `${head.name} comes to ${head.storeName}: it is counted in on the dock.`);
    const open = readOrderLines(tx.db, order, head.currency).filter(
      (l) => l.kind !== "charge" && l.quantity - l.closedShort > l.received,
    );
    const number = nextNumber(tx.db, "receipt", desk.day);
    const receipt = Number(
      sql(
        tx.db,
        "INSERT INTO receipt (number, purchase_order, store, day, delivery_note, person, at) VALUES (?, ?, ?, ?, ?, ?, ?)",
      ).run(number, order, head.store, desk.day, deliveryNote, desk.person.id, desk.now).lastInsertRowid,
    );
    for (const l of open) {
      const came = purchase(l.quantity - l.closedShort - l.received);
      const value = lineNet(came, l.price ?? unitPrice(0), l.standing, l.discount, head.currency).minor;
      sql(
        tx.db,
        "INSERT INTO receipt_line (receipt, order_line, quantity, stock_quantity, value) VALUES (?, ?, ?, ?, ?)",
      ).run(receipt, l.id, came, toStock(came, factorOf(l.factor)), value);
      countIntoSchedule(tx.db, l.id, came);
      sql(
        tx.db,
        `UPDATE job_demand SET issued = min(quantity, issued + (SELECT coalesce(sum(t.quantity), 0) FROM need_tie t WHERE t.order_line = @line AND t.job_demand = job_demand.id))
         WHERE id IN (SELECT job_demand FROM need_tie WHERE order_line = @line AND job_demand IS NOT NULL)`,
      ).run({ line: l.id });
    }
    settleOrder(tx.db, order);
    sql(tx.db, "UPDATE purchase_order SET version = version + 1 WHERE id = ?").run(order);
    settleRequisitionsOf(tx.db, order);
    tx.record("goods.arrived", `order ${order}`, { number, deliveryNote, lines: open.map((l) => l.id) });
    return done({ receipt, number });
  });
}
