import type { Day } from "../calendar/day";
import { safe } from "../numbers/decimal";
import type { BasisPoints } from "../numbers/money";
import { earlyDiscount, yearlyRate } from "./due";

/** Where a pay list stands. */
export const PAY_LIST_STATES = ["Written", "Released", "With the bank", "Answered", "Dropped"] as const;
export type PayListState = (typeof PAY_LIST_STATES)[number];
/** Where one transfer of it stands. */
export const PAY_LINE_STATES = ["Listed", "Executed", "Rejected", "Left out"] as const;
export type PayLineState = (typeof PAY_LINE_STATES)[number];

/** What it pays is spoken for: nothing else pays it meanwhile. */
export const isOnItsWay = (s: PayListState) => s === "Written" || s === "Released" || s === "With the bank";

/** A paper that may be paid; money in minor units of its currency, below zero for a credit. */
export interface Owed {
  id: number;
  supplier: number;
  currency: string;
  left: number;
  total: number;
  due: Day;
  earlyPercent: BasisPoints;
  earlyBy: Day | null;
  /** Another pay list pays it; null: none. */
  onList: string | null;
  /** Is there an account that the money can go to? */
  account: boolean;
}

/** What of a paper is paid, and what is taken off for paying early. */
export interface ProposedPart {
  id: number;
  minor: number;
  discount: number;
  why: "due" | "early" | "credit";
}
/** One transfer: one supplier, one currency. */
export interface ProposedLine {
  supplier: number;
  currency: string;
  total: number;
  parts: ProposedPart[];
}
export type WhyNot = "on another list" | "no account" | "not due" | "credit too large";

export interface Proposing {
  /** On which the bank pays. */
  day: Day;
  /** What is due by then is paid. */
  dueBy: Day;
  /** A discount is worth taking from so much a year on, hundredths of a percent. */
  leastYearly: BasisPoints;
}

/** Can something be taken off for paying on a day? In time, and of the whole paper alone. */
export const earlyStill = (p: Pick<Owed, "left" | "total" | "earlyBy">, day: Day) =>
  p.earlyBy !== null && p.left === p.total && p.left > 0 && day <= p.earlyBy;

/** Why a paper is proposed: it is due, or paying it early earns enough. Null: neither. */
function reasonOf(p: Owed, { day, dueBy, leastYearly }: Proposing): "due" | "early" | null {
  if (p.due <= dueBy) return "due";
  if (!earlyStill(p, day)) return null;
  const yearly = yearlyRate({ by: p.due, early: { percent: p.earlyPercent, by: p.earlyBy! } });
  return yearly !== null && yearly >= leastYearly ? "early" : null;
}

/**
 * What to pay on a day (domain-goods §14): what is due by `dueBy` and what is worth paying early, together for each supplier
 * and currency; their credits are set off whole, the earliest first, as long as something is left to pay. `left` says of
 * every other paper why it is not paid.
 */
export function propose(
  papers: readonly Owed[],
  how: Proposing,
): { lines: ProposedLine[]; left: { id: number; why: WhyNot }[] } {
  const lines = new Map<string, ProposedLine>();
  const left: { id: number; why: WhyNot }[] = [];
  const keyOf = (p: Owed) => `${p.supplier}/${p.currency}`;
  const inOrder = [...papers].sort((a, b) => (a.due === b.due ? a.id - b.id : a.due < b.due ? -1 : 1));
  for (const p of inOrder.filter((o) => o.left > 0)) {
    const why = reasonOf(p, how);
    const not: WhyNot | null =
      p.onList !== null ? "on another list" : why === null ? "not due" : p.account ? null : "no account";
    if (not !== null || why === null) {
      left.push({ id: p.id, why: not ?? "not due" });
      continue;
    }
    const discount = earlyStill(p, how.day) ? earlyDiscount(p.total, p.earlyPercent) : 0;
    const line = lines.get(keyOf(p)) ?? { supplier: p.supplier, currency: p.currency, total: 0, parts: [] };
    line.parts.push({ id: p.id, minor: p.left - discount, discount, why });
    line.total = safe(line.total + p.left - discount);
    lines.set(keyOf(p), line);
  }
  for (const p of inOrder.filter((o) => o.left < 0)) {
    const line = lines.get(keyOf(p));
    const not: WhyNot | null =
      p.onList !== null ? "on another list" : !line ? "not due" : line.total + p.left > 0 ? null : "credit too large";
    if (not !== null || !line) {
      left.push({ id: p.id, why: not ?? "not due" });
      continue;
    }
    line.parts.push({ id: p.id, minor: p.left, discount: 0, why: "credit" });
    line.total = safe(line.total + p.left);
  }
  return { lines: [...lines.values()], left };
}

/** May this person release a list that somebody wrote? Above the company's bound it takes a second one. */
export const mayRelease = (home: number, bound: number, writer: number, person: number) =>
  home <= bound || writer !== person;
