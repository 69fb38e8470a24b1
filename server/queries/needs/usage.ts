import { addDays, type Day, yearBefore } from "../../../core/calendar/day";
import { Big, roundToInteger } from "../../../core/numbers/decimal";
import { type StockQty, stock } from "../../../core/numbers/quantity";
import { type Db, sql } from "../../db/open";
import { type Pair, pairKey } from "./positions";

/** Issues of the last 30 days, and of the same weeks last year: 30 days before and 30 after this day (domain §3). */
export interface Usage {
  last30: number;
  before: number;
  after: number;
}
export const NO_USAGE: Usage = { last30: 0, before: 0, after: 0 };

/** Needs no table beside the index that keeps issues alone. */
export const USAGE = `
  SELECT item, store,
         -sum(iif(day > @recent, quantity, 0)) AS last30,
         -sum(iif(day <= @yearAgo, quantity, 0)) AS before,
         -sum(iif(day > @yearAgo AND day <= @yearAfter, quantity, 0)) AS after
  FROM movement WHERE kind = 'issue' AND day > @from AND day <= @today`;

const spanOf = (today: Day) => {
  const yearAgo = yearBefore(today);
  return { today, recent: addDays(today, -30), yearAgo, from: addDays(yearAgo, -30), yearAfter: addDays(yearAgo, 30) };
};

/** Usage of every pair that used anything, by "item/store". */
export function readAllUsage(db: Db, today: Day): Map<string, Usage> {
  const by = new Map<string, Usage>();
  const rows = sql<Usage & Pair>(db, `${USAGE} GROUP BY item, store`).iterate(spanOf(today));
  for (const { item, store, ...usage } of rows) by.set(pairKey({ item, store }), usage);
  return by;
}

export function readUsage(db: Db, pair: Pair, today: Day): Usage {
  const row = sql<Usage & Pair>(db, `${USAGE} AND item = @item AND store = @store GROUP BY item, store`).get({
    ...spanOf(today),
    ...pair,
  });
  return row ? { last30: row.last30, before: row.before, after: row.after } : NO_USAGE;
}

/** What would be used in so many days at the pace of the last 30, rounded once. */
export const usedIn = (days: number, u: Usage): StockQty =>
  stock(roundToInteger(new Big(u.last30).times(days).div(30)));

/** On hand ÷ (usage / 30), in tenths of a day; null where nothing was used. */
export const daysOfCover = (onHand: number, u: Usage): number | null =>
  u.last30 > 0 ? roundToInteger(new Big(onHand).times(300).div(u.last30)) : null;
