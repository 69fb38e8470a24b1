import { addDays, type Day } from "../../../core/calendar/day";
import { SPEND_CAUSES, type SpendCause } from "../../../core/insight/why";
import type { Db } from "../../db/open";
import { readWhy } from "./why";

/** What was received of a category in seven days, against the seven before; home currency. */
export interface MovedSpend {
  key: string;
  label: string;
  before: number;
  after: number;
  /** What made most of it. */
  cause: SpendCause;
  from: Day;
  until: Day;
}
const MOST_MOVED = 3;

/** The three figures that moved most since last week, each with why; the seven days end with the day. */
export function readMovedMost(db: Db, day: Day): MovedSpend[] {
  const from = addDays(day, -6);
  const why = readWhy(db, {
    by: "category",
    from,
    until: day,
    before: { from: addDays(from, -7), until: addDays(from, -1) },
  });
  return why.rows
    .filter((r) => r.after !== r.before)
    .slice(0, MOST_MOVED)
    .map(({ key, label, before, after, steps }) => ({
      key,
      label,
      before,
      after,
      cause: SPEND_CAUSES.reduce((a, c) => (Math.abs(steps[c]) > Math.abs(steps[a]) ? c : a)),
      from,
      until: day,
    }));
}
