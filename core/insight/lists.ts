import type { Day } from "../calendar/day";
import { Big, roundToInteger, safe } from "../numbers/decimal";
import { type BasisPoints, lineNet, type UnitPrice } from "../numbers/money";
import type { PurchaseQty } from "../numbers/quantity";
import { breakFor, type PriceBreak } from "../pricing/price";

/** A price of a list on two days, for the quantity in which it is bought as usual. */
export interface ListedTwice {
  before: UnitPrice;
  now: UnitPrice;
}

/** What a list said on both days for a quantity; null where it had no price on one of them. */
export function listedTwice(
  breaks: readonly PriceBreak[],
  quantity: PurchaseQty,
  from: Day,
  until: Day,
): ListedTwice | null {
  const before = breakFor(breaks, quantity, from);
  const now = breakFor(breaks, quantity, until);
  return before && now ? { before: before.price, now: now.price } : null;
}

/** By how much something moved, in hundredths of a percent of what it was, half away from zero; null from nothing. */
export const riseOf = (before: number, now: number): BasisPoints | null =>
  before === 0 ? null : (roundToInteger(new Big(now).minus(before).times(10_000).div(before)) as BasisPoints); // a share of what it was

/** What was bought of one thing, at its list of before and of now. Minor units of the list's currency, net of the standing discount. */
export function boughtAtBoth(
  l: ListedTwice,
  bought: PurchaseQty,
  standing: BasisPoints,
  currency: string,
): { before: number; now: number } {
  const at = (price: UnitPrice) => lineNet(bought, price, standing, 0, currency).minor;
  return { before: at(l.before), now: at(l.now) };
}

/** Whose list moved, in the currency of the list. */
export interface ListMove {
  /** Prices that the list had on both days, and how many of them went up and down. */
  prices: number;
  up: number;
  down: number;
  /** What was bought in the days between, at the list of before and of now. */
  before: number;
  now: number;
}
export const addMove = (m: ListMove, l: ListedTwice, bought: { before: number; now: number }): ListMove => ({
  prices: m.prices + 1,
  up: m.up + (l.now > l.before ? 1 : 0),
  down: m.down + (l.now < l.before ? 1 : 0),
  before: safe(m.before + bought.before),
  now: safe(m.now + bought.now),
});
