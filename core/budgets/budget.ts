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
