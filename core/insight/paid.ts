import { Big, roundToInteger } from "../numbers/decimal";

/** What was paid for an item at one time: stock units in ten-thousandths, and what it came to at home, minor units. */
export interface PaidOnce {
  quantity: number;
  home: number;
}

/** The least that was paid for a stock unit, exactly as that purchase has it; null where nothing was bought for anything. */
export function leastPaid<P extends PaidOnce>(paid: readonly P[]): P | null {
  let least: P | null = null;
  for (const p of paid) {
    if (p.quantity <= 0) continue;
    // p.home ÷ p.quantity < least.home ÷ least.quantity, without a division.
    if (!least || new Big(p.home).times(least.quantity).lt(new Big(least.home).times(p.quantity))) least = p;
  }
  return least;
}

/** What all of it came to above the same quantity at the least price, home currency, half away from zero. */
export function aboveLeast(paid: readonly PaidOnce[]): number {
  const least = leastPaid(paid);
  if (!least) return 0;
  const bought = paid.filter((p) => p.quantity > 0);
  const all = bought.reduce((a, p) => a + p.home, 0);
  const quantity = bought.reduce((a, p) => a + p.quantity, 0);
  return all - roundToInteger(new Big(quantity).times(least.home).div(least.quantity));
}

/** The price of a stock unit, home currency, in millionths: what it came to divided by how much it was. `places` are those of the currency. */
export const unitPaid = ({ quantity, home }: PaidOnce, places: number): number =>
  roundToInteger(
    new Big(home)
      .times(10 ** (6 - places))
      .times(10_000)
      .div(quantity),
  );
