import { z } from "zod";
import { refuses } from "../../../core/orders/state";
import { type Db, sql } from "../../db/open";
import { type OrderHead, readOrderHead, readOrderLines } from "../../read/orders/order";
import { checked, type Desk, type Done, done, once, type Problem, refuse, refuseAll, stale } from "../desk";
import { DayField, Id, Percent, PriceOrNone, Quantity, text, Version } from "../fields";
import { settleRequisition } from "../requisitions/settle-requisitions";
import { priceOrder } from "./price-order";

export const Which = z.object({ order: Id, version: Version });

const Line = z.object({ line: Id, quantity: Quantity, price: PriceOrNone, discount: Percent, required: DayField });
export const ChangeOrder = Which.extend({
  note: text(1000),
  discount: Percent,
  lines: z.array(Line).max(2000, "At most 2,000 lines."),
});

/** An order in the version that the person saw, and in a state that allows the move; or why not. */
export function orderFor(db: Db, id: number, version: number, move: Parameters<typeof refuses>[1]): Done<OrderHead> {
  const head = readOrderHead(db, id);
  if (!head) return refuse("", "There is no such order.");
  const no = refuses(head.state, move, head.name);
  if (no) return refuse("", no);
  if (head.version !== version) return stale(`${head.name} was changed by somebody else meanwhile.`);
  return done(head);
}

/** Keeps a draft as it was typed. A price that differs from the one shown becomes a typed price; an empty one is looked up again. */
export function changeOrder(desk: Desk, raw: unknown): Done<{ version: number }> {
  const input = checked(ChangeOrder, raw);
  if (!input.ok) return input;
  const { order, version, note, discount, lines } = input.value;
  return once(desk, "write orders", (tx) => {
    const head = orderFor(tx.db, order, version, "edit");
    if (!head.ok) return head;
    const known = new Map(readOrderLines(tx.db, order, head.value.currency).map((l) => [l.id, l]));
    const problems: Problem[] = [];
    const set = sql(
      tx.db,
      "UPDATE order_line SET quantity = ?, price = ?, price_source = ?, discount = ?, required = ? WHERE id = ?",
    );
    lines.forEach((l, i) => {
      const was = known.get(l.line);
      if (!was) {
        problems.push({ field: `lines.${i}.quantity`, says: "This line is not on this order." });
        return;
      }
      const typed = l.price !== null && (l.price !== was.price || was.priceSource.kind === "typed");
      const source = typed
        ? { kind: "typed" }
        : was.priceSource.kind === "typed"
          ? { kind: "reference cost" }
          : was.priceSource;
      set.run(l.quantity, l.price ?? null, JSON.stringify(source), l.discount, l.required, l.line);
    });
    if (problems.length) return refuseAll(problems);
    const required = lines.map((l) => l.required).sort()[0] ?? head.value.required;
    sql(
      tx.db,
      "UPDATE purchase_order SET note = ?, discount = ?, required = ?, version = version + 1 WHERE id = ?",
    ).run(note, discount, required, order);
    priceOrder(tx.db, order, desk.day);
    tx.record("order.changed", `order ${order}`, { note, discount, lines });
    return done({ version: version + 1 });
  });
}

/** Takes a line off a draft; its need goes back to the pool. The last line takes the draft with it. */
export function dropLine(desk: Desk, raw: unknown): Done<{ left: number }> {
  const input = checked(Which.extend({ line: Id }), raw);
  if (!input.ok) return input;
  const { order, version, line } = input.value;
  return once(desk, "write orders", (tx) => {
    const head = orderFor(tx.db, order, version, "edit");
    if (!head.ok) return head;
    const lines = readOrderLines(tx.db, order, head.value.currency);
    const gone = lines.find((l) => l.id === line);
    if (!gone) return refuse("", "This line is not on this order any more.");
    if (lines.length === 1) return refuse("", "This is the last line. Delete the draft instead.");
    sql(tx.db, "DELETE FROM order_line WHERE id = ?").run(line);
    freeNeeds(tx.db, [gone]);
    sql(tx.db, "UPDATE purchase_order SET version = version + 1 WHERE id = ?").run(order);
    priceOrder(tx.db, order, desk.day);
    tx.record("order.line-dropped", `order ${order}`, gone);
    return done({ left: lines.length - 1 });
  });
}

/** Throws a draft away, or, where it has a number already, keeps it as cancelled. Its needs go back to the pool. */
export function dropOrder(desk: Desk, raw: unknown): Done<{ kept: boolean; name: string }> {
  const input = checked(Which, raw);
  if (!input.ok) return input;
  const { order, version } = input.value;
  return once(desk, "write orders", (tx) => {
    const head = orderFor(tx.db, order, version, "cancel");
    if (!head.ok) return head;
    const lines = readOrderLines(tx.db, order, head.value.currency);
    const kept = head.value.number !== null;
    if (kept) {
      sql(tx.db, "DELETE FROM need_tie WHERE order_line IN (SELECT id FROM order_line WHERE purchase_order = ?)").run(
        order,
      );
      sql(tx.db, "UPDATE order_line SET open = 0 WHERE purchase_order = ?").run(order);
      sql(tx.db, "UPDATE purchase_order SET state = 'Cancelled', version = version + 1 WHERE id = ?").run(order);
    } else {
      sql(tx.db, "DELETE FROM purchase_order WHERE id = ?").run(order);
    }
    freeNeeds(tx.db, lines);
    tx.record(kept ? "order.cancelled" : "order.deleted", `order ${order}`, { head: head.value, lines });
    return done({ kept, name: head.value.name });
  });
}

/** Requisitions whose line lost its order line are open again. */
function freeNeeds(db: Db, lines: { serves: { requisition: number | null }[] }[]): void {
  const touched = new Set(lines.flatMap((l) => l.serves.map((s) => s.requisition)).filter((id) => id !== null));
  for (const id of touched) settleRequisition(db, id);
}
