import { Big, roundToInteger } from "../numbers/decimal";
import type { BasisPoints } from "../numbers/money";
import { amount, type Sum } from "../sums/sum";

/** How much a paper may grow after it was signed, before it has to be signed again: whichever is smaller. */
export interface Allowance {
  percent: BasisPoints;
  /** Home currency, minor units; null: the percentage alone. */
  amount: number | null;
}

export interface Growth {
  again: boolean;
  /** Why, where it has to be signed again. */
  says: string;
  sum: Sum;
}

/**
 * Does a change after sign-off need a new one (domain §8)? What counts is the growth since the last signature, over all
 * versions since: it is measured against what was signed, so cutting it into small steps changes nothing.
 */
export function grown(
  signed: number,
  now: number,
  allowed: Allowance,
  otherSupplier: boolean,
  currency: string,
): Growth {
  const share = roundToInteger(new Big(signed).times(allowed.percent).div(10_000));
  const limit = allowed.amount === null ? share : Math.min(share, allowed.amount);
  const growth = now - signed;
  const over = growth > limit;
  return {
    again: over || otherSupplier,
    says: otherSupplier ? "It goes to another supplier." : over ? "It grew by more than is allowed." : "",
    sum: {
      title: "Growth since it was signed",
      steps: [
        { op: "", label: "now", figure: amount(now, currency) },
        { op: "−", label: "as signed", figure: amount(signed, currency) },
        { op: "=", label: "growth", figure: amount(growth, currency) },
        { op: "·", label: "allowed", figure: amount(limit, currency) },
      ],
    },
  };
}
