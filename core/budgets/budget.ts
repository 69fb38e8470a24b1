import type { Day } from "../calendar/day";
import type { BudgetId } from "../ids";
import { expectedOn, type Scheduled } from "../orders/schedule";
import { amount, type Step, type Sum } from "../sums/sum";

/** The four figures of a budget line (domain §9), in home currency, minor units; each with its papers. */
export const BUDGET_FIGURES = ["billed", "received", "ordered", "asked"] as const;
export type BudgetFigure = (typeof BUDGET_FIGURES)[number];

export const FIGURE_WORDS: Record<BudgetFigure, string> = {
  billed: "billed",
  received: "received, not billed",
  ordered: "on order",
  asked: "asked for",
};

/** What one line of a paper takes of a budget. */
export interface BudgetPaper {
  figure: BudgetFigure;
  minor: number;
  label: string;
  href: string;
}

export interface BudgetState {
  amount: number;
  figures: Record<BudgetFigure, number>;
  used: number;
  /** Below zero where more is used than there is. */
  left: number;
  sum: Sum;
}

/** A budget line's period, by which a day is found. */
export interface Period {
  id: BudgetId;
  code: string;
  starts: Day;
  ends: Day;
}

/** The period of a budget line in which a day falls: the line that was named where no period has that day. */
export function periodOf(all: readonly Period[], named: number, day: Day): number {
  const line = all.find((b) => b.id === named);
  if (!line) return named;
  const same = all.filter((b) => b.code.toLowerCase() === line.code.toLowerCase());
  return same.find((b) => b.starts <= day && day <= b.ends)?.id ?? named;
}

/** What a part of a paper takes of a period. */
export interface Commitment {
  budget: BudgetId;
  figure: BudgetFigure;
  minor: number;
}

/** An order line as budgets see it; quantities in purchase units, the schedule in the order of its days. */
export interface CommittedLine {
  /** The budget line that it names. */
  budget: BudgetId;
  /** When it was ordered, where the company counts by that day; else each part counts by the day it is due. */
  by: Day | null;
  schedule: readonly Scheduled[];
  /** What of it invoices bill that matched, the earliest loads first. */
  invoiced: number;
  /** What they bill for it, less what is asked back: home currency, each with the day of its invoice. */
  billed: readonly { minor: number; day: Day }[];
  /** What so much of it comes to in home currency, minor units. */
  worth(quantity: number): number;
}

/**
 * What an order line takes: what invoices bill is billed, at what they bill; what came besides is received, what is still
 * to come is on order, both at order prices, each in the period of its day. Without invoices the parts come to the whole
 * line, less what was closed short.
 */
export function commitmentsOf(line: CommittedLine, periods: readonly Period[]): Commitment[] {
  const found: Commitment[] = [];
  let before = 0;
  let left = line.invoiced;
  for (const b of line.billed)
    found.push({ budget: periodOf(periods, line.budget, line.by ?? b.day), figure: "billed", minor: b.minor });
  for (const s of line.schedule) {
    const budget = periodOf(periods, line.budget, line.by ?? expectedOn(s));
    const upTo = (q: number) => line.worth(before + q) - line.worth(before);
    // More may come than was ordered: then all of it is received, and nothing is on order.
    const all = Math.max(s.quantity - s.closedShort, s.received);
    const invoiced = Math.min(left, all);
    left -= invoiced;
    const billed = upTo(invoiced);
    const here = Math.max(billed, upTo(s.received));
    found.push(
      { budget, figure: "received", minor: here - billed },
      { budget, figure: "ordered", minor: upTo(all) - here },
    );
    before += s.quantity - s.closedShort;
  }
  return found.filter((c) => c.minor !== 0);
}

/** The four figures from their papers, and what is left. `wish` is what the paper being written would add. */
export function budgetState(
  budget: { amount: number; name: string },
  papers: readonly Pick<BudgetPaper, "figure" | "minor">[],
  currency: string,
  wish = 0,
): BudgetState {
  const figures: Record<BudgetFigure, number> = { billed: 0, received: 0, ordered: 0, asked: 0 };
  for (const p of papers) figures[p.figure] += p.minor;
  const used = BUDGET_FIGURES.reduce((a, f) => a + figures[f], 0) + wish;
  const steps: Step[] = [{ op: "", label: budget.name, figure: amount(budget.amount, currency) }];
  for (const f of BUDGET_FIGURES)
    if (figures[f] !== 0) steps.push({ op: "−", label: FIGURE_WORDS[f], figure: amount(figures[f], currency) });
  if (wish) steps.push({ op: "−", label: "this paper", figure: amount(wish, currency) });
  const left = budget.amount - used;
  steps.push({ op: "=", label: left < 0 ? "over budget" : "left", figure: amount(left, currency) });
  return { amount: budget.amount, figures, used, left, sum: { title: "The budget", steps } };
}
