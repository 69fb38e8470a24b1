import type { Day } from "../../../core/calendar/day";
import type { OrderId } from "../../../core/ids";
import { type Effect, effectsOf, type Surroundings } from "../../../core/suppliers/effects";
import type { Db } from "../../db/open";
import { usualPlan } from "../../queries/needs/need";
import { readOrderHead, readOrderLines } from "../../queries/orders/order";
import { standingOf } from "../../queries/suppliers/standing";
import { keepCommitments } from "../budgets/keep-commitments";
import { tried } from "../tried";
import { readWaiting, takeLines } from "./take-lines";

/** How things stand around what was said, as it is and with it taken. */
export interface TriedAnswer {
  before: Surroundings;
  after: Surroundings;
  effects: Effect[];
}

/**
 * What taking these answers of an order would do, worked out before anybody decides: they are taken for a moment in the
 * words of the act, everything around them is planned and counted anew, and all is taken back. Null where nothing of them
 * waits any more.
 */
export function tryAnswers(
  db: Db,
  order: OrderId,
  answers: readonly number[],
  { now, day, hour }: { now: string; day: Day; hour: number },
): TriedAnswer | null {
  const plan = usualPlan(day, hour);
  return tried(db, () => {
    const waiting = readWaiting(db, order, answers);
    const head = readOrderHead(db, order);
    if (head?.stage !== "placed" || waiting.length === 0) return null;
    const lines = waiting.map((w) => w.line);
    const standing = { head, lines: readOrderLines(db, order, head.currency) };
    const before = standingOf(db, order, lines, plan, { now: standing });
    const taken = takeLines(db, head, waiting, { now, day }, standing.lines);
    keepCommitments(db);
    const after = standingOf(db, order, lines, plan, { now: taken });
    return { before, after, effects: effectsOf(before, after) };
  });
}
