import { addDays, type Day } from "../calendar/day";
import { dueAt } from "../signoff/hours";

/** What a supplier is asked for: a confirmation, a word before goods are due, a word on goods that are overdue. */
export const CHASED = ["confirm", "announce", "overdue"] as const;
export type Chased = (typeof CHASED)[number];
/** All that a supplier is asked for a word about: orders, and prices that they were asked for. */
export type ChaseAbout = Chased | "prices";

export interface ChaseRule {
  /** Working hours after an order was sent in which it is to be confirmed. */
  confirmHours: number;
  /** A word is wanted so many days before goods are due. */
  announceDays: number;
  /** Nobody is asked about the same twice within so many days. */
  againDays: number;
  byClock: boolean;
}

/** What is known of an order that its supplier has. */
export interface Awaited {
  /** When it was placed, ISO in UTC. */
  placed: string;
  /** Some of what is open was never confirmed. */
  silent: boolean;
  /** The day on which something of it is expected next. */
  due: Day;
}

/** What an order needs a word about now; null where nothing. Overdue goods stand above everything else. */
export function needsWord(a: Awaited, rule: ChaseRule, now: string, today: Day): Chased | null {
  if (a.due < today) return "overdue";
  if (a.silent && dueAt(a.placed, rule.confirmHours) <= now) return "confirm";
  return a.due <= addDays(today, rule.announceDays) && !a.silent ? "announce" : null;
}

/** Whether they may be asked again, who were asked about the same last on that day. */
export const mayAskAgain = (last: Day | null, rule: ChaseRule, today: Day): boolean =>
  last === null || addDays(last, rule.againDays) <= today;
