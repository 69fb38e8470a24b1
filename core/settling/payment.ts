import { Big, roundToInteger, safe } from "../numbers/decimal";
import type { Posting } from "../stock/posting";

/** What of a payable a payment settles; minor units of its currency, below zero for a credit that is set off. */
export interface SettledPart {
  /** What is paid of it. */
  minor: number;
  /** What is taken off for paying early. */
  discount: number;
  /** What both were booked at, home currency. */
  booked: number;
}

/** What `now` of a payable was booked at when `before` is settled already: parts come to the whole exactly. Home currency. */
export function bookedOf(homeTotal: number, total: number, before: number, now: number): number {
  const upTo = (q: number) => roundToInteger(new Big(homeTotal).times(q).div(total));
  return upTo(before + now) - upTo(before);
}

/** What a payment comes to, its currency. */
export const paymentTotal = (parts: readonly SettledPart[]) => parts.reduce((a, p) => safe(a + p.minor), 0);

/** What of a part's booked value is its discount. */
const discountOf = (p: SettledPart) =>
  p.discount === 0 ? 0 : roundToInteger(new Big(p.booked).times(p.discount).div(p.minor + p.discount));

/**
 * A payment: what was owed is no more, the bank has less, what was taken off earns; paid at another rate than it was booked
 * is an exchange difference (domain-goods §14). `paid` is the payment at the rate of its day, home currency.
 */
export function paymentPostings(parts: readonly SettledPart[], paid: number): Posting[] {
  const booked = parts.reduce((a, p) => safe(a + p.booked), 0);
  const discount = parts.reduce((a, p) => safe(a + discountOf(p)), 0);
  const sides: Posting[] = [
    { role: "payable", account: null, minor: booked, line: null },
    { role: "bank", account: null, minor: -paid, line: null },
    { role: "early discount", account: null, minor: -discount, line: null },
    { role: "exchange difference", account: null, minor: paid + discount - booked, line: null },
  ];
  return sides.filter((p) => p.minor !== 0);
}
