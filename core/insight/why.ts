import { Big, roundToInteger, safe } from "../numbers/decimal";

/** What was bought of one thing in one period: stock units in ten-thousandths; what it came to in its currency and at home. */
export interface BoughtOf {
  quantity: number;
  /** Minor units of the currency in which it was bought; of the home currency where there were several. */
  foreign: number;
  home: number;
}
export const NOTHING: BoughtOf = { quantity: 0, foreign: 0, home: 0 };

/** Why spend changed (domain-goods §16). */
export const SPEND_CAUSES = ["price", "currency", "quantity", "new", "gone", "other"] as const;
export type SpendCause = (typeof SPEND_CAUSES)[number];
/** Home currency, minor units, for each cause; what it cost more is above zero. */
export type SpendSteps = Record<SpendCause, number>;

export const NO_STEPS: SpendSteps = { price: 0, currency: 0, quantity: 0, new: 0, gone: 0, other: 0 };

/**
 * What of one thing cost more, exactly: quantity at the old price and rate, currency at the new price and quantity, and
 * price at the old rate and new quantity, which takes the cents that rounding leaves. With p₀ = foreign ÷ quantity and
 * r₀ = home ÷ foreign before, p₁ and r₁ after: price (p₁ − p₀) × r₀ × q₁, quantity p₀ × r₀ × (q₁ − q₀), currency
 * p₁ × (r₁ − r₀) × q₁. What was not bought before is new, what is not bought any more is gone; what has no quantity, or
 * was for nothing before, is other.
 */
export function spendSteps(before: BoughtOf, after: BoughtOf): SpendSteps {
  const change = safe(after.home - before.home);
  const bought = (b: BoughtOf) => b.quantity !== 0 || b.home !== 0;
  if (!bought(before)) return { ...NO_STEPS, new: change };
  if (!bought(after)) return { ...NO_STEPS, gone: change };
  if (before.quantity <= 0 || after.quantity <= 0 || before.foreign <= 0 || before.home <= 0)
    return { ...NO_STEPS, other: change };
  const atOldRate = new Big(after.foreign).times(before.home).div(before.foreign);
  const currency = after.home - roundToInteger(atOldRate);
  const quantity = roundToInteger(new Big(before.home).times(after.quantity - before.quantity).div(before.quantity));
  return { ...NO_STEPS, currency, quantity, price: safe(change - currency - quantity) };
}

/** Steps together. */
export const plusSteps = (a: SpendSteps, b: SpendSteps): SpendSteps => ({
  price: safe(a.price + b.price),
  currency: safe(a.currency + b.currency),
  quantity: safe(a.quantity + b.quantity),
  new: safe(a.new + b.new),
  gone: safe(a.gone + b.gone),
  other: safe(a.other + b.other),
});
export const sumOfSteps = (s: SpendSteps): number => SPEND_CAUSES.reduce((a, c) => safe(a + s[c]), 0);

/** By what a change of spend is told. */
export const WHY_BY = ["category", "supplier", "item"] as const;
export type WhyBy = (typeof WHY_BY)[number];
