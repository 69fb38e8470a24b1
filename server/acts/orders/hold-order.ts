import type { OrderId } from "../../../core/ids";
import { sql } from "../../db/open";
import { readOrderHead, readOrderLines } from "../../queries/orders/order";
import { checked, type Desk, type Done, done, once, refuse, stale } from "../desk";
import { text } from "../fields";
import { settleRequisitionsOf } from "../requisitions/settle-requisitions";
import { closeSchedule } from "./keep-schedule";
import { orderFor, WhichOrder } from "./order-for";
import { settleOrder } from "./settle-order";
import { openNeedsAgain } from "./ties";

const Hold = WhichOrder.extend({ reason: text(300, 3, "Say why, so that others know what it waits for.") });

/** Holds an order that is not with the supplier yet: nobody submits or places it until it is let go. */
export function holdOrder(desk: Desk, raw: unknown): Done<{ version: number }> {
  const input = checked(Hold, raw);
  return input.ok ? setHeld(desk, input.value, input.value.reason) : input;
}

/** Lets a held order go on. */
export function letGo(desk: Desk, raw: unknown): Done<{ version: number }> {
  const input = checked(WhichOrder, raw);
  return input.ok ? setHeld(desk, input.value, "") : input;
}

function setHeld(desk: Desk, { order, version }: { order: OrderId; version: number }, reason: string) {
  return once(desk, "write orders", (tx) => {
    const head = readOrderHead(tx.db, order);
    if (!head) return refuse("", "There is no such order.");
    if (head.version !== version) return stale(`${head.name} was changed by somebody else meanwhile.`);
    if (reason && head.stage !== "draft" && head.stage !== "cleared")
      return refuse("", `${head.name} is ${head.state.toLowerCase()}: only what is not on its way can be held.`);
    sql(tx.db, "UPDATE purchase_order SET held = ?, held_by = ?, held_at = ?, version = version + 1 WHERE id = ?").run(
      reason,
      reason ? desk.person.id : null,
      reason ? desk.now : null,
      order,
    );
    tx.record(reason ? "order.held" : "order.let-go", `order ${order}`, { reason: reason || head.held });
    return done({ version: version + 1 });
  });
}

const Close = WhichOrder.extend({ reason: text(300, 3, "Say why the rest is not to come any more.") });

/**
 * Closes an order short: what has not come is not expected any more, goes back to the needs it served, and, where it was
 * drawn from a blanket order, is left there again. A blanket order that is closed gives no more call-offs.
 */
export function closeShort(desk: Desk, raw: unknown): Done<{ state: string }> {
  const input = checked(Close, raw);
  if (!input.ok) return input;
  const { order, version, reason } = input.value;
  return once(desk, "write orders", (tx) => {
    const found = orderFor(tx.db, desk, order, version, "close");
    if (!found.ok) return found;
    const head = found.value;
    if (head.kind !== "blanket") {
      for (const l of readOrderLines(tx.db, order, head.currency)) {
        if (l.kind === "charge") continue;
        const rest = l.quantity - l.received;
        if (rest <= 0) continue;
        closeSchedule(tx.db, l.id);
        openNeedsAgain(tx.db, l.id, l.received, l.factor);
      }
    }
    sql(tx.db, "UPDATE purchase_order SET closed = ?, closed_why = ?, version = version + 1 WHERE id = ?").run(
      desk.now,
      reason,
      order,
    );
    const state = settleOrder(tx.db, order, "closed");
    settleRequisitionsOf(tx.db, order);
    tx.record("order.closed-short", `order ${order}`, { number: head.number, reason });
    return done({ state });
  });
}
