import { Big, roundToInteger } from "../numbers/decimal";
import { lineNet } from "../numbers/money";
import { type InvoicedLine, taxOn } from "./invoice";
import { type HoldReason, type OrderedLine, orderedNet } from "./match";

/** Where a claim stands. */
export const CLAIM_STATES = ["Open", "Credited", "Dropped", "Withdrawn"] as const;
export type ClaimState = (typeof CLAIM_STATES)[number];

/** Why something is asked back once an invoice matched: goods turned out not good, or they agreed to it. */
export const LATER_REASONS = ["faulty", "agreed"] as const;
export type LaterReason = (typeof LATER_REASONS)[number];
/** Why something is asked back: what was held, or what showed later. */
export type ClaimReason = HoldReason | LaterReason;

/** What may be asked back of a line; money in minor units of the invoice's currency. */
export interface Claimed {
  /** Purchase units, where goods are missing. */
  quantity: number;
  net: number;
  tax: number;
}

type BilledLine = Pick<InvoicedLine, "quantity" | "price" | "standing" | "discount" | "net" | "taxRate">;

/**
 * What it is fair to ask back of a line: of a quantity what did not come, at their own price and tax; of a price or a
 * charge what is dearer, for what did come. `missing` is what of the line is not here. Null for what is no matter of money.
 */
export function claimFor(
  l: BilledLine,
  o: OrderedLine,
  reason: HoldReason,
  missing: number,
  currency: string,
): Claimed | null {
  const here = Math.max(0, l.quantity - missing);
  const kept = netFor(l, here, currency);
  const asked = (net: number, quantity: number): Claimed => ({ quantity, net, tax: taxOn(net, l.taxRate) });
  if (reason === "quantity") return asked(l.net - kept, l.quantity - here);
  if (reason === "price" || reason === "charge") return asked(kept - orderedNet(o, here, currency), 0);
  return null;
}

/** What so much of a line costs at their own price and discounts; all of it is what the line says. */
const netFor = (l: BilledLine, quantity: number, currency: string): number =>
  quantity === l.quantity
    ? l.net
    : quantity === 0
      ? 0
      : lineNet(quantity, l.price, l.standing, l.discount, currency).minor;

/** What `pieces` of a line that turned out not good are worth: what the line costs less what the good ones do. */
export const billedFor = (l: BilledLine, pieces: number, currency: string): number =>
  l.net - netFor(l, l.quantity - pieces, currency);

/** What a claim asks, and what it was booked at in home currency with its tax. */
export interface ClaimedSum {
  net: number;
  tax: number;
  home: number;
}

/**
 * Parts a claim of which `total`, with tax, is credited and more than nothing is not: both parts add up to it. The tax of
 * the part is its share of the claim's, half away from zero.
 */
export function partClaim(c: ClaimedSum, total: number): { credited: ClaimedSum; left: ClaimedSum } {
  const share = (of: number) => roundToInteger(new Big(of).times(total).div(c.net + c.tax));
  const tax = share(c.tax);
  const credited = { net: total - tax, tax, home: share(c.home) };
  return { credited, left: { net: c.net - credited.net, tax: c.tax - tax, home: c.home - credited.home } };
}
