import { sql } from "../../db/open";
import { checked, type Desk, type Done, done, once } from "../desk";
import { retire } from "../notices";
import { orderFor, WhichOrder } from "./order-for";
import { settleOrder } from "./settle-order";

/**
 * Makes a cleared order a draft again, to change it before it is placed. What was signed is kept: handed in again it
 * carries on without being signed, where it has hardly grown since (domain §8).
 */
export function reviseOrder(desk: Desk, raw: unknown): Done<{ version: number }> {
  const input = checked(WhichOrder, raw);
  if (!input.ok) return input;
  const { order, version } = input.value;
  return once(desk, "write orders", (tx) => {
    const found = orderFor(tx.db, desk, order, version, "revise");
    if (!found.ok) return found;
    sql(tx.db, "UPDATE purchase_order SET cleared = NULL, version = version + 1 WHERE id = ?").run(order);
    settleOrder(tx.db, order, "draft");
    retire(tx.db, desk.now, `/orders/${order}`);
    tx.record("order.revised", `order ${order}`, { number: found.value.number });
    return done({ version: version + 1 });
  });
}
