import type { Day } from "../calendar/day";
import { Big, roundToInteger } from "../numbers/decimal";
import { ONE } from "../numbers/quantity";
import { amount, quantity, type Sum } from "../sums/sum";

/** Our stock of some places at the end of a day, and what went out in the days up to it. Home currency, minor units. */
export interface StockFigures {
  value: number;
  /** What it was worth at the end of each of the days, added up. */
  dayValues: number;
  /** What was used in them. */
  used: number;
}
const YEAR = 365;

/** By what stock is told. */
export const STOCK_BY = ["store", "category", "item"] as const;
export type StockBy = (typeof STOCK_BY)[number];

export interface StockAsked {
  by: StockBy;
  /** The end of this day. */
  on: Day;
  /** The first of the days over which use is looked at: a year. */
  from: Day;
  /** As it was known then: without what was written down later for that day or one before. */
  knownThen: boolean;
  store: number | null;
  category: string | null;
}

/** What it was worth on average over so many days. */
export const averageValue = (f: Pick<StockFigures, "dayValues">, days: number): number =>
  roundToInteger(new Big(f.dayValues).div(days));

/** How often a year all of it is used, in ten-thousandths: used × 365 ÷ day values; null where nothing lay there. */
export const turnsAYear = (f: Pick<StockFigures, "dayValues" | "used">): number | null =>
  f.dayValues > 0 ? roundToInteger(new Big(f.used).times(YEAR).times(ONE).div(f.dayValues)) : null;

/** For how many days, in ten-thousandths, what lies there lasts at the pace of the last `days`; null where nothing was used. */
export const coverDays = (f: Pick<StockFigures, "value" | "used">, days: number): number | null =>
  f.used > 0 ? roundToInteger(new Big(f.value).times(days).times(ONE).div(f.used)) : null;

/** The turns with their sum. */
export function turnsSum(f: StockFigures, days: number, currency: string): Sum | null {
  const turns = turnsAYear(f);
  if (turns === null) return null;
  return {
    title: "How often a year it is used up",
    steps: [
      { op: "", label: "used", figure: amount(f.used, currency) },
      { op: "×", label: "a year has", figure: quantity(YEAR * ONE, "days") },
      { op: "÷", label: "worth at the end of each day, added up", figure: amount(f.dayValues, currency) },
      { op: "=", label: "turns", figure: quantity(turns, "a year") },
      { op: "·", label: `worth on average over ${days} days`, figure: amount(averageValue(f, days), currency) },
    ],
  };
}

/** The cover with its sum. */
export function coverSum(f: StockFigures, days: number, currency: string): Sum | null {
  const cover = coverDays(f, days);
  if (cover === null) return null;
  return {
    title: "How long it lasts",
    steps: [
      { op: "", label: "worth", figure: amount(f.value, currency) },
      { op: "×", label: "looked at", figure: quantity(days * ONE, "days") },
      { op: "÷", label: "used in them", figure: amount(f.used, currency) },
      { op: "=", label: "lasts", figure: quantity(cover, "days") },
    ],
  };
}
