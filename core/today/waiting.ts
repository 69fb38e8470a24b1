import { type Day, daysBetween } from "../calendar/day";
import { inOrder } from "../text";

/** What waiting costs, worst first: the order of the list on Today. */
export const COSTS = [
  "a vessel waits",
  "somebody waits for goods",
  "stock runs out",
  "it must be sent today",
  "an order stands still",
  "a colleague waits",
  "a price could be better",
  "something to know",
] as const;
export type CostOfWaiting = (typeof COSTS)[number];

/** One thing that waits for a person, with what happens if it stays. */
export interface Waiting {
  key: string;
  cost: CostOfWaiting;
  /** The day by which it should be done; what is past is late. */
  by: Day | null;
  title: string;
  detail: string;
  /** What happens if it stays. */
  ifItStays: string;
  /** A figure or a word at the right: an amount, or what to do. */
  figure?: { minor: number; currency: string };
  doing?: string;
  stop: string;
  href: string;
}

export interface Ranked extends Waiting {
  daysLate: number;
}

/** Ranks by what waiting costs, then by how late it is, then by amount; stable for equal things. */
export function rank(waiting: readonly Waiting[], today: Day): Ranked[] {
  return waiting
    .map((w) => ({ ...w, daysLate: w.by && w.by < today ? daysBetween(w.by, today) : 0 }))
    .sort(
      (a, b) =>
        COSTS.indexOf(a.cost) - COSTS.indexOf(b.cost) ||
        b.daysLate - a.daysLate ||
        inOrder(a.by ?? "9", b.by ?? "9") ||
        (b.figure?.minor ?? 0) - (a.figure?.minor ?? 0) ||
        inOrder(a.key, b.key),
    );
}
