import { addDays, type Day, daysBetween } from "../calendar/day";

/** How an item is told apart on the shelf. */
export interface LotRule {
  byLot: boolean;
  /** Each piece has a number of its own: a lot of one. */
  bySerial: boolean;
  /** So many days it keeps from the day it comes; null: not known. */
  shelfDays: number | null;
  /** So many days must be left of it when it comes; null: any. */
  leastDays: number | null;
}

/** Until when goods keep that come today and say nothing themselves. */
export const usualExpiry = (rule: LotRule, today: Day): Day | null =>
  rule.shelfDays === null ? null : addDays(today, rule.shelfDays);

export type Freshness = "fresh" | "soon" | "expired";

/** May goods with this last day be taken in? What expired may not; what expires soon is seen first. */
export function freshness(rule: LotRule, expires: Day | null, today: Day): Freshness {
  if (expires === null) return "fresh";
  if (expires < today) return "expired";
  return rule.leastDays !== null && daysBetween(today, expires) < rule.leastDays ? "soon" : "fresh";
}

/** In the dock's words; empty where there is nothing to say. */
export function freshnessWords(rule: LotRule, expires: Day | null, today: Day): string {
  if (expires === null) return "";
  const days = daysBetween(today, expires);
  switch (freshness(rule, expires, today)) {
    case "expired":
      return days === -1 ? "expired yesterday" : `expired ${-days} days ago`;
    case "soon":
      return `expires in ${days === 1 ? "1 day" : `${days} days`}: ${rule.leastDays} should be left`;
    case "fresh":
      return "";
  }
}
