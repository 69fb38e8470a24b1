import type { Day } from "../calendar/day";
import type { OrderLineId } from "../ids";
import type { UnitPrice } from "../numbers/money";
import { type SaidPart, type TakenRow, takenSchedule } from "../suppliers/answer";
import { expectedOn, openOf, type Scheduled } from "./schedule";

/** What we ask to be different of a line that its supplier has. What is null stays. */
export interface LineChange {
  line: OrderLineId;
  /** What was still to come of it when it was asked: of what came since, the earliest is taken off. */
  open: number;
  /** All that is still to come, in its parts; none at all where nothing more of it is wanted. */
  parts: readonly SaidPart[] | null;
  price: UnitPrice | null;
}

/**
 * A line's schedule once we ask for something else of what is still to come. What is promised for a day that stays keeps its
 * promise; everything else is asked for on its day, and promised by nobody yet.
 */
export function changedSchedule(schedule: readonly Scheduled[], parts: readonly SaidPart[]): TakenRow[] {
  const stands = (day: Day) => schedule.find((s) => openOf(s) > 0 && expectedOn(s) === day);
  return takenSchedule(schedule, parts).map((row) => {
    if (openOf(row) === 0 || row.promised === null) return row;
    const same = stands(row.promised);
    return { ...row, required: same?.required ?? row.promised, promised: same?.promised ?? null };
  });
}
