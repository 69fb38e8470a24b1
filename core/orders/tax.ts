import type { BasisPoints } from "../numbers/money";

/** What the tax of a line follows from. */
export interface Taxing {
  /** Does the supplier charge tax? Else we account for it ourselves (reverse charge), and none stands on the order. */
  taxed: boolean;
  /** A rate that somebody typed for the line. */
  typed: BasisPoints | null;
  /** The rate of its item; null for what has none. */
  item: BasisPoints | null;
  /** The house's usual rate. */
  house: BasisPoints;
}

/** The tax rate of a line as it is now. Once an order is placed, its lines keep the rate of that day. */
export const taxRateOf = ({ taxed, typed, item, house }: Taxing): BasisPoints => (taxed ? (typed ?? item ?? house) : 0);
