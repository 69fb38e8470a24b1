import type { Day } from "../../../core/calendar/day";
import type { OrderId, OrderLineId } from "../../../core/ids";
import { ONE } from "../../../core/numbers/quantity";
import { openOfAll } from "../../../core/orders/schedule";
import { newCharge, partsLeft, type SaidOfLine } from "../../../core/suppliers/answer";
import { readColumn, SaidColumn } from "../../db/json-columns";
import { type Db, sql } from "../../db/open";
import { type OrderHead, type OrderLine, readOrderLines } from "../../queries/orders/order";
import { readSchedule } from "../../queries/orders/schedule";
import { chargesOn } from "../../queries/suppliers/answers";
import { addToPlaced } from "../orders/placed-lines";
import { keepTotals, type OrderNow } from "../orders/price-order";
import { openNeedsAgain, refitTies } from "../orders/ties";
import { keepPromises } from "./promises";

/** What waits of a line, to be taken or refused. */
export interface WaitingAnswer {
  id: number;
  answer: number;
  line: OrderLineId;
  /** What was still to come of the line when they said it. */
  open: number;
  said: SaidOfLine;
  by: string;
}

/** What of these answers to an order is still to be decided. */
export const readWaiting = (db: Db, order: OrderId, answers: readonly number[]): WaitingAnswer[] =>
  sql<Omit<WaitingAnswer, "said"> & { said: string }>(
    db,
    `SELECT w.id, w.answer, w.order_line AS line, w.open, w.said, a.said_by AS by FROM answer_line w JOIN answer a ON a.id = w.answer
     WHERE a.purchase_order = ? AND w.state = 'waits' AND w.id IN (SELECT value FROM json_each(?)) ORDER BY w.id`,
  )
    .all(order, JSON.stringify(answers))
    .map((r) => ({ ...r, said: readColumn(SaidColumn, r.said) }));

/** Lines as they said them, and what the order comes to then. Returns it; `before` are its lines, where they were just read. */
export function takeLines(
  db: Db,
  head: OrderHead,
  waiting: readonly WaitingAnswer[],
  { now, day }: { now: string; day: Day },
  before: readonly OrderLine[] = readOrderLines(db, head.id, head.currency),
): OrderNow {
  const lines = new Map(before.map((l) => [l.id, l]));
  for (const w of waiting) {
    takeLine(db, now, lines.get(w.line)!, w);
    takeCharge(db, head, lines.get(w.line)!, w.said, day);
  }
  const after = readOrderLines(db, head.id, head.currency);
  keepTotals(db, head, after, day, head.rate);
  return { head, lines: after };
}

/** A charge that they add comes onto the order once, as a line of its own. */
function takeCharge(db: Db, head: OrderHead, line: OrderLine, said: SaidOfLine, day: Day): void {
  const charge = newCharge({ charges: chargesOn(db, head.id) }, said);
  if (!charge) return;
  addToPlaced(
    db,
    head,
    [
      {
        ...{
          kind: "charge",
          item: null,
          sourcing: null,
          theirCode: "",
          unit: "C62",
          factor: ONE,
          standing: 0,
          discount: 0,
        },
        ...{ words: charge.words, price: charge.price, source: { kind: "typed" }, note: "", required: line.due },
        quantity: ONE,
        // The cost of goods; what comes with a service stands beside it.
        spread: line.kind === "stocked" || line.kind === "not stocked" ? "value" : "expense",
        taxRate: line.taxRate,
      },
    ],
    day,
  );
}

/** One line as they said it. */
function takeLine(db: Db, now: string, line: OrderLine, { said, open, answer }: WaitingAnswer): void {
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
