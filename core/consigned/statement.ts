import { addDays, type Day, toDay, weekday } from "../calendar/day";
import { Big, roundToInteger } from "../numbers/decimal";
import type { Settles } from "./agreement";

/** Where a use statement stands. */
export const STATEMENT_STATES = ["Made", "Sent", "Questioned", "Agreed", "Withdrawn"] as const;
export type StatementState = (typeof STATEMENT_STATES)[number];

/** One use on a statement; what was taken back is below zero. Money in minor units of the agreement's currency. */
export interface StatedUse {
  net: number;
  homeNet: number;
  /** Hundredths of a percent. */
  taxRate: number;
}

export interface StatementTotals {
  net: number;
  /** By rate, as tax is worked out once on all of one rate (EN 16931). */
  taxes: { rate: number; net: number; tax: number }[];
  tax: number;
  total: number;
  homeNet: number;
}

/** What a statement comes to. */
export function statementTotals(uses: readonly StatedUse[]): StatementTotals {
  const rates = new Map<number, number>();
  for (const u of uses) rates.set(u.taxRate, (rates.get(u.taxRate) ?? 0) + u.net);
  const taxes = [...rates]
    .sort(([a], [b]) => a - b)
    .map(([rate, net]) => ({ rate, net, tax: roundToInteger(new Big(net).times(rate).div(10_000)) }));
  const net = uses.reduce((a, u) => a + u.net, 0);
  const tax = taxes.reduce((a, t) => a + t.tax, 0);
  return { net, taxes, tax, total: net + tax, homeNet: uses.reduce((a, u) => a + u.homeNet, 0) };
}

/**
 * The last day of the last period that is over before a day: yesterday where each use is settled, the last Sunday of a
 * week, the last day of a month.
 */
export function lastPeriodEnd(settles: Settles, today: Day): Day {
  if (settles === "use") return addDays(today, -1);
  if (settles === "month") return addDays(toDay(`${today.slice(0, 7)}-01`), -1);
  return addDays(today, -weekday(today));
}
