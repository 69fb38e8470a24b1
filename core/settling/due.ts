import { addDays, type Day, daysBetween } from "../calendar/day";
import { Big, roundToInteger } from "../numbers/decimal";
import { type BasisPoints, exchanged, money } from "../numbers/money";
import { type PayTerms, payBy } from "../orders/terms";
import { amount, onDay, percent, type Sum } from "../sums/sum";

/** When an invoice of a day is paid, and what is taken off where it is paid early. */
export interface Due {
  by: Day;
  /** Null where nothing is taken off. */
  early: { percent: BasisPoints; by: Day } | null;
}

export const paidBy = (t: PayTerms, invoiced: Day): Due => ({
  by: payBy(t, invoiced),
  early: t.earlyPercent > 0 ? { percent: t.earlyPercent, by: addDays(invoiced, t.earlyDays) } : null,
});

/** What is taken off a total that is paid early. Minor units. */
export const earlyDiscount = (total: number, rate: BasisPoints) =>
  roundToInteger(new Big(total).times(rate).div(10_000));

/**
 * What paying early earns in a year, hundredths of a percent: the discount on what is paid, for the days that the money
 * goes earlier, over 365 days, without interest on interest. Null where it is not paid earlier.
 */
export function yearlyRate(due: Due): BasisPoints | null {
  if (!due.early || due.early.percent >= 10_000) return null;
  const days = daysBetween(due.early.by, due.by);
  if (days <= 0) return null;
  return roundToInteger(
    new Big(due.early.percent)
      .times(10_000)
      .times(365)
      .div(new Big(10_000 - due.early.percent).times(days)),
  );
}

/** The discount with its sum. */
export function earlySum(total: number, due: Due, currency: string): Sum | null {
  const rate = yearlyRate(due);
  if (!due.early || rate === null) return null;
  return {
    title: "Paid early",
    steps: [
      { op: "", label: "to be paid", figure: amount(total, currency) },
      { op: "×", label: "taken off", figure: percent(due.early.percent) },
      { op: "=", label: "less", figure: amount(earlyDiscount(total, due.early.percent), currency) },
      { op: "·", label: "if it is paid by", figure: onDay(due.early.by) },
      { op: "·", label: `instead of ${daysBetween(due.early.by, due.by)} days later, a year`, figure: percent(rate) },
    ],
  };
}

/** How late what is owed is on a day. */
export const AGES = ["not yet due", "1 to 30 days", "31 to 60 days", "61 to 90 days", "over 90 days"] as const;
export type Age = (typeof AGES)[number];

/** Days after the due day; zero or less: not yet due. */
export const daysOver = (due: Day, on: Day) => daysBetween(due, on);

export function ageOf(due: Day, on: Day): Age {
  const over = daysOver(due, on);
  if (over <= 0) return "not yet due";
  return over <= 30 ? "1 to 30 days" : over <= 60 ? "31 to 60 days" : over <= 90 ? "61 to 90 days" : "over 90 days";
}

/** What paying at another rate than it was booked at costs, home currency: above zero is a loss (domain-goods §14). */
export function exchangeLoss(
  minor: number,
  currency: string,
  booked: number,
  paid: number,
  home: string,
): { booked: number; paid: number; loss: number } {
  const at = (rate: number) => exchanged(money(minor, currency), rate, home).minor;
  return { booked: at(booked), paid: at(paid), loss: at(paid) - at(booked) };
}
