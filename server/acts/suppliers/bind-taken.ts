import type { Day } from "../../../core/calendar/day";
import type { OrderLineId, PersonId } from "../../../core/ids";
import { showDay } from "../../../core/numbers/format";
import { leftOf } from "../../../core/orders/blanket";
import { expectedOn } from "../../../core/orders/schedule";
import { type Db, sql } from "../../db/open";
import { readBlanketLine, readCalls } from "../../queries/orders/calls";
import { documentOf } from "../../queries/orders/document";
import { type OrderHead, type OrderLine, readOrder } from "../../queries/orders/order";
import { outgrown } from "../../queries/signoff/route";
import { agreedSheet } from "../../queries/suppliers/agreed";
import { type Done, done, refuse } from "../desk";
import { servedBy, tellFollowers } from "../notices";
import { bindRevision } from "../orders/bind-revision";
import { markEvent } from "../orders/marks";
import { settleOrder } from "../orders/settle-order";
import { settleRequisitionsOf } from "../requisitions/settle-requisitions";
import type { WaitingAnswer } from "./take-lines";

/** Who binds the order, and when. */
type Hand = { now: string; day: Day; person: { id: PersonId } };

/**
 * What follows once lines were taken as their supplier said them: one new version of the order, which binds; askers hear of
 * other days. It may not grow beyond what was signed for, nor draw more from a blanket order than is left of it. Call
 * inside the act's transaction, which is undone where this refuses.
 */
export function bindTaken(
  db: Db,
  desk: Hand,
  head: OrderHead,
  waiting: readonly WaitingAnswer[],
): Done<{ revision: number; state: string }> {
  if (outgrown(db, head.id, desk.day))
    return refuse("", "With this it comes to more than was signed for, beyond what may be added without asking again.");
  const over = overdrawn(db, waiting);
  if (over) return refuse("", over);
  settleRequisitionsOf(db, head.id);
  const state = settleOrder(db, head.id);
  if (state === "Confirmed") markEvent(db, desk.now, head.id, "confirmed");
  const sheet = readOrder(db, head.id)!;
  const revision = bindRevision(db, desk, head.id, documentOf(db, agreedSheet(sheet), desk.day));
  sql(db, "UPDATE purchase_order SET version = version + 1 WHERE id = ?").run(head.id);
  tellAskers(
    db,
    desk,
    head,
    sheet.lines,
    waiting.filter((w) => w.said.parts !== null).map((w) => w.line),
  );
  return done({ revision, state });
}

/** Why a blanket order has not enough left for what its call-offs would be now. */
function overdrawn(db: Db, waiting: readonly WaitingAnswer[]): string | null {
  for (const { line } of waiting) {
    const row = sql<{ blanket: number | null }>(db, "SELECT blanket_line AS blanket FROM order_line WHERE id = ?").get(
      line,
    );
    const blanket = row?.blanket ? readBlanketLine(db, row.blanket) : null;
    if (!blanket) continue;
    const { left, leftValue } = leftOf(blanket, readCalls(db, row!.blanket!));
    if ((blanket.limits !== "value" && left < 0) || (blanket.limits !== "quantity" && leftValue < 0))
      return `Blanket order ${blanket.name} has not so much left. Refuse it, or propose less.`;
  }
  return null;
}

/** Whoever asked for what comes on another day, or not at all, is told so; `of` are the lines whose days are others now. */
export function tellAskers(
  db: Db,
  desk: { now: string; day: Day },
  head: OrderHead,
  lines: readonly OrderLine[],
  of: readonly OrderLineId[],
): void {
  const moved = new Set(of);
  const days = lines
    .filter((l) => moved.has(l.id) && l.quantity > l.closedShort)
    .flatMap((l) => (l.instalments.length ? l.instalments.map(expectedOn) : [l.due]))
    .sort();
  if (moved.size === 0) return;
  const last = days.at(-1);
  const from = `order ${head.number} to ${head.supplierName}`;
  for (const a of servedBy(db, head.id, [...moved]))
    tellFollowers(
      db,
      desk.now,
      a.requisition,
      `${last ? "Expected anew" : "Not coming"}: ${a.what}`,
      last ? `${from}, the last of it ${showDay(last, desk.day)}` : `${from}; it is to be bought again`,
    );
}
