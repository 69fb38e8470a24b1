import { Big, roundToInteger } from "../numbers/decimal";
import { type StockQty, stock } from "../numbers/quantity";
import { covers, leastBuy, type Offer, type PlacedRow, type PlacingProblem, type RowPart } from "./problem";

/** Goods whose use nobody knows are taken to lie so many days. */
const UNKNOWN_DAYS = 365;

/** Goods of a year's holding at a rate of hundredths of a percent, for so many days, rounded to the minor unit. */
export const holdingOf = (home: number, days: number, rate: number): number =>
  roundToInteger(new Big(home).times(rate).div(10_000).times(days).div(365));

/** What a part buys beyond the least that covers the row there, in stock units. */
export const aheadOf = (row: PlacedRow, offer: Offer, buy: RowPart["buy"]): StockQty =>
  stock(Math.max(0, covers(offer, buy) - covers(offer, leastBuy(offer, row.wanted, row.stockUnit))));

/** Days until the last of it is used, at the row's daily use. */
export const daysToUse = (row: Pick<PlacedRow, "use">, quantity: StockQty): number =>
  row.use === null
    ? UNKNOWN_DAYS
    : Number(new Big(quantity).times(row.use.days).div(row.use.used).round(0, Big.roundUp).toFixed(0));

/**
 * What holding costs of what is bought beyond the least that covers a row: that part of the line, in home currency, for as
 * many days as it takes to use it up.
 */
export function holdingAhead(
  row: PlacedRow,
  offer: Offer,
  buy: RowPart["buy"],
  home: number,
  ahead: PlacingProblem["ahead"],
): number {
  const least = leastBuy(offer, row.wanted, row.stockUnit);
  if (buy <= least) return 0;
  const more = aheadOf(row, offer, buy);
  return roundToInteger(
    new Big(home)
      .times(buy - least)
      .times(ahead.rate)
      .times(daysToUse(row, more))
      .div(new Big(buy).times(10_000).times(365)),
  );
}
