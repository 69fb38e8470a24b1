import type { OrderId } from "../../../core/ids";
import { ClosedRest, readColumn } from "../../db/json-columns";
import { sql } from "../../db/open";
import { readOrderHead, readOrderLines } from "../../queries/orders/order";
import { checked, type Desk, type Done, done, once, refuse, stale } from "../desk";
import { text } from "../fields";
import { servedBy, tellFollowers } from "../notices";
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
    const rest = sql<{ schedule: number; quantity: number }>(
      tx.db,
      `SELECT s.id AS schedule, s.quantity - s.received - s.closed_short AS quantity FROM order_line l JOIN order_schedule s ON s.order_line = l.id
       WHERE l.purchase_order = ? AND l.kind <> 'charge' AND s.received + s.closed_short < s.quantity`,
    ).all(order);
    if (head.kind !== "blanket") {
      for (const l of readOrderLines(tx.db, order, head.currency)) {
        if (l.kind === "charge") continue;
        if (l.quantity - l.received <= 0) continue;
        closeSchedule(tx.db, l.id);
        openNeedsAgain(tx.db, l.id, l.received, l.factor);
      }
    }
    sql(
      tx.db,
      "UPDATE purchase_order SET closed = ?, closed_why = ?, closed_rest = ?, version = version + 1 WHERE id = ?",
    ).run(desk.now, reason, JSON.stringify(head.kind === "blanket" ? [] : rest), order);
    const state = settleOrder(tx.db, order, "closed");
    settleRequisitionsOf(tx.db, order);
    for (const a of servedBy(tx.db, order))
      tellFollowers(
        tx.db,
        desk.now,
        a.requisition,
        `Not coming: ${a.what}`,
        `order ${head.number} to ${head.supplierName} was closed; what has not come is to be bought again`,
      );
    tx.record("order.closed-short", `order ${order}`, { number: head.number, reason });
    return done({ state });
  });
}

const Reopen = WhichOrder.extend({ reason: text(300, 3, "Say why it is to come after all.") });

/**
 * A lead opens an order again that somebody closed by hand: what was closed with it is awaited as before. The needs behind
 * it went their own ways meanwhile: what comes is for the stock.
 */
export function reopenOrder(desk: Desk, raw: unknown): Done<{ state: string }> {
  const input = checked(Reopen, raw);
  if (!input.ok) return input;
  const { order, version, reason } = input.value;
  return once(desk, "open again", (tx) => {
    const head = readOrderHead(tx.db, order);
    if (!head) return refuse("", "There is no such order.");
    if (head.version !== version) return stale(`${head.name} was changed by somebody else meanwhile.`);
    if (head.stage !== "closed" || head.closed === null)
      return refuse("", `${head.name} is ${head.state.toLowerCase()}: only what was closed by hand is opened again.`);
    const paid = sql<{ number: string | null }>(
      tx.db,
      `SELECT group_concat(DISTINCT v.number) AS number FROM order_line d JOIN invoice_line l ON l.order_line = d.id JOIN invoice v ON v.id = l.invoice
       WHERE d.purchase_order = ? AND v.state IN ('Part paid', 'Paid')`,
    ).get(order)?.number;
    if (paid) return refuse("", `Invoice ${paid} of it is paid: write another order for what is to come after all.`);
    const row = sql<{ rest: string }>(tx.db, "SELECT closed_rest AS rest FROM purchase_order WHERE id = ?").get(order)!;
    const rest = readColumn(ClosedRest, row.rest);
    const open = sql(tx.db, "UPDATE order_schedule SET closed_short = closed_short - ? WHERE id = ?");
    for (const r of rest) open.run(r.quantity, r.schedule);
    sql(
      tx.db,
      "UPDATE purchase_order SET closed = NULL, closed_why = '', closed_rest = '[]', version = version + 1 WHERE id = ?",
    ).run(order);
    const state = settleOrder(tx.db, order, "placed");
    settleRequisitionsOf(tx.db, order);
    tx.record("order.opened-again", `order ${order}`, { number: head.number, reason, was: head.closedWhy });
    return done({ state });
  });
}
