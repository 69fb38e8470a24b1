import { count } from "../text";

/** Why goods are set aside, in the dock's words; the first two the house says itself, by its tolerances. */
export const ASIDE_REASONS = [
  "over",
  "early",
  "damaged",
  "wrong goods",
  "spoilt or expired",
  "papers missing",
] as const;
export type AsideReason = (typeof ASIDE_REASONS)[number];
/** Those that a person gives for goods that are not good. */
export const FAULTS = ["damaged", "wrong goods", "spoilt or expired", "papers missing"] as const;
export type GoodsFault = (typeof FAULTS)[number];

/** Why goods lie there, in a few words. */
export const asideWords = (a: { why: AsideReason; daysEarly: number }): string =>
  a.why === "early" ? `early by ${count(a.daysEarly, "day")}` : a.why === "over" ? "more than may be kept" : a.why;

/** What is done with goods that were set aside. */
export const ASIDE_DECISIONS = ["keep", "send back", "scrap", "turned away", "not counted"] as const;
export type AsideDecision = (typeof ASIDE_DECISIONS)[number];

/** What a return waits for: goods instead, money instead, or nothing, as with goods that nobody ordered. */
export const AWAITS = ["replacement", "credit", "nothing"] as const;
export type Awaits = (typeof AWAITS)[number];

/** How much of goods that are not good meets the order: no more than is left once the good ones are in. */
export const faultyWithin = (left: number, faulty: number): { ordered: number; beyond: number } => {
  const ordered = Math.min(left, faulty);
  return { ordered, beyond: faulty - ordered };
};

/** What a decision leaves behind in its order. */
export type AfterDecision =
  | "taken in"
  /** It is to come once more. */
  | "open again"
  /** It will not come any more. */
  | "closed short"
  | "nothing";

export function afterDecision(aside: { ordered: boolean }, what: AsideDecision, awaits: Awaits): AfterDecision {
  if (what === "keep") return "taken in";
  if (!aside.ordered) return "nothing";
  return awaits === "replacement" ? "open again" : "closed short";
}
