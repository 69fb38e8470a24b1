import { z } from "zod";
import type { Day } from "../../../core/calendar/day";
import type { OrderId, OrderLineId } from "../../../core/ids";
import { showDay } from "../../../core/numbers/format";
import { openOfAll } from "../../../core/orders/schedule";
import { partsLeft, type SaidOfLine } from "../../../core/suppliers/answer";
import { readColumn, SaidColumn } from "../../db/json-columns";
import { type Db, sql } from "../../db/open";
import { documentOf } from "../../queries/orders/document";
import { type OrderHead, type OrderLine, readOrder, readOrderHead, readOrderLines } from "../../queries/orders/order";
import { readSchedule } from "../../queries/orders/schedule";
import { outgrown } from "../../queries/signoff/route";
import { agreedSheet } from "../../queries/suppliers/agreed";
import { countOpenAnswers } from "../../queries/suppliers/answers";
import { checked, type Desk, type Done, done, once, refuse, stale } from "../desk";
import { Id, text } from "../fields";
import { retire, servedBy, tellFollowers } from "../notices";
import { bindRevision } from "../orders/bind-revision";
import { markEvent } from "../orders/marks";
import { WhichOrder } from "../orders/order-for";
import { keepTotals } from "../orders/price-order";
import { settleOrder } from "../orders/settle-order";
import { openNeedsAgain, refitTies } from "../orders/ties";
import { settleRequisitionsOf } from "../requisitions/settle-requisitions";
import { keepPromises } from "./promises";

const Which = WhichOrder.extend({ lines: z.array(Id).min(1, "Choose what is decided.").max(2000) });
const Refuse = Which.extend({ why: text(300, 3, "Say why: they will read it.") });

/** What waits of a line, to be taken or refused. */
export interface Waiting {
  id: number;
  answer: number;
  line: OrderLineId;
  /** What was still to come of the line when they said it. */
  open: number;
  said: SaidOfLine;
  by: string;
}

/** What waits of these answers, all of one order in the version that the person looked at. */
function waitingOf(
  db: Db,
  { order, version, lines }: z.output<typeof Which>,
): Done<{ head: OrderHead; waiting: Waiting[] }> {
  const head = readOrderHead(db, order);
  if (!head) return refuse("", "There is no such order.");
  if (head.version !== version) return stale(`${head.name} was changed by somebody else meanwhile.`);
  if (head.stage !== "placed")
    return refuse("", `${head.name} is ${head.state.toLowerCase()}: nothing of it is to be decided.`);
  const waiting = readWaiting(db, order, lines);
  if (waiting.length < new Set(lines).size)
    return refuse("", "Some of this was decided meanwhile, or they have said something else. Load the page again.");
  return done({ head, waiting });
}

/** What of these answers to an order is still to be decided. */
export const readWaiting = (db: Db, order: OrderId, answers: readonly number[]): Waiting[] =>
  sql<Omit<Waiting, "said"> & { said: string }>(
    db,
    `SELECT w.id, w.answer, w.order_line AS line, w.open, w.said, a.said_by AS by FROM answer_line w JOIN answer a ON a.id = w.answer
     WHERE a.purchase_order = ? AND w.state = 'waits' AND w.id IN (SELECT value FROM json_each(?)) ORDER BY w.id`,
  )
    .all(order, JSON.stringify(answers))
    .map((r) => ({ ...r, said: readColumn(SaidColumn, r.said) }));

/** Keeps what was decided; once nothing of the order is left to decide, nobody is asked to any more. */
function decide(db: Db, desk: Desk, order: OrderId, waiting: readonly Waiting[], state: "taken" | "refused", why = "") {
  const set = sql(db, "UPDATE answer_line SET state = ?, decided = ?, decided_by = ?, why = ? WHERE id = ?");
  for (const w of waiting) set.run(state, desk.now, desk.person.id, why, w.id);
  if (countOpenAnswers(db, order) === 0) retire(db, desk.now, `/answers?order=${order}`);
}

/**
 * Takes what a supplier said of lines: days and parts become their promises, quantities and prices the order's own. What was
 * taken together makes one new version of the order, which binds. It may not grow beyond what was signed for.
 */
export function takeAnswers(desk: Desk, raw: unknown): Done<{ version: number; revision: number }> {
  const input = checked(Which, raw);
  if (!input.ok) return input;
  const { order } = input.value;
  return once(desk, "write orders", (tx) => {
    const found = waitingOf(tx.db, input.value);
    if (!found.ok) return found;
    const { head, waiting } = found.value;
    takeLines(tx.db, head, waiting, desk);
    decide(tx.db, desk, order, waiting, "taken");
    if (outgrown(tx.db, order, desk.day))
      return refuse(
        "",
        "With this it comes to more than was signed for, beyond what may be added without asking again.",
      );
    settleRequisitionsOf(tx.db, order);
    const state = settleOrder(tx.db, order);
    if (state === "Confirmed") markEvent(tx.db, desk.now, order, "confirmed");
    const sheet = readOrder(tx.db, order)!;
    const revision = bindRevision(tx.db, desk, order, documentOf(tx.db, agreedSheet(sheet), desk.day));
    sql(tx.db, "UPDATE purchase_order SET version = version + 1 WHERE id = ?").run(order);
    tellAskers(tx.db, desk, head, sheet.lines, waiting);
    tx.record("order.answer-taken", `order ${order}`, {
      number: head.number,
      revision,
      state,
      lines: waiting.map((w) => ({ line: w.line, said: w.said, by: w.by })),
    });
    return done({ version: head.version + 1, revision });
  });
}

/** Lines as they said them, and what the order comes to then. */
export function takeLines(
  db: Db,
  head: OrderHead,
  waiting: readonly Waiting[],
  { now, day }: { now: string; day: Day },
): void {
  const lines = new Map(readOrderLines(db, head.id, head.currency).map((l) => [l.id, l]));
  for (const w of waiting) takeLine(db, now, lines.get(w.line)!, w);
  keepTotals(db, head, readOrderLines(db, head.id, head.currency), day, head.rate);
}

/** One line as they said it. */
function takeLine(db: Db, now: string, line: OrderLine, { said, open, answer }: Waiting): void {
  const schedule = readSchedule(db, line.id);
  const parts = said.parts && partsLeft(said.parts, open - openOfAll(schedule));
  const whole = keepPromises(db, line.id, schedule, parts, answer, now);
  if (said.price !== null && said.price !== line.price)
    sql(db, "UPDATE order_line SET price = ?, price_source = ? WHERE id = ?").run(
      said.price,
      JSON.stringify({ kind: "typed" }),
      line.id,
    );
  if (said.discount !== null) sql(db, "UPDATE order_line SET discount = ? WHERE id = ?").run(said.discount, line.id);
  if (said.instead)
    sql(db, "UPDATE order_line SET note = trim(note || char(10) || ?, char(10)) WHERE id = ?").run(
      `instead: ${said.instead}`,
      line.id,
    );
  if (parts?.length === 0) openNeedsAgain(db, line.id, line.received, line.factor);
  else if (whole !== line.quantity) refitTies(db, line.id);
}

/** Whoever asked for what comes on another day, or not at all, is told so. */
function tellAskers(
  db: Db,
  desk: Desk,
  head: OrderHead,
  lines: readonly OrderLine[],
  waiting: readonly Waiting[],
): void {
  const moved = new Set(waiting.filter((w) => w.said.parts !== null).map((w) => w.line));
  const days = lines
    .filter((l) => moved.has(l.id) && l.quantity > l.closedShort)
    .flatMap((l) => (l.instalments.length ? l.instalments.map((s) => s.promised) : [l.promised]))
    .filter((d): d is Day => d !== null)
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

/** Does not take what a supplier said of lines, and says why; these stand as they did. */
export function refuseAnswers(desk: Desk, raw: unknown): Done<{ version: number }> {
  const input = checked(Refuse, raw);
  if (!input.ok) return input;
  const { order, why } = input.value;
  return once(desk, "write orders", (tx) => {
    const found = waitingOf(tx.db, input.value);
    if (!found.ok) return found;
    const { head, waiting } = found.value;
    decide(tx.db, desk, order, waiting, "refused", why);
    sql(tx.db, "UPDATE purchase_order SET version = version + 1 WHERE id = ?").run(order);
    tx.record("order.answer-refused", `order ${order}`, {
      number: head.number,
      why,
      lines: waiting.map((w) => ({ line: w.line, said: w.said, by: w.by })),
    });
    return done({ version: head.version + 1 });
  });
}
