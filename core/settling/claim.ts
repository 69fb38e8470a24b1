import { lineNet } from "../numbers/money";
import { type InvoicedLine, taxOn } from "./invoice";
import { type HoldReason, type OrderedLine, orderedNet } from "./match";

/** Where a claim stands. */
export const CLAIM_STATES = ["Open", "Credited", "Dropped", "Withdrawn"] as const;
export type ClaimState = (typeof CLAIM_STATES)[number];

/** What may be asked back of a line; money in minor units of the invoice's currency. */
export interface Claimed {
  /** Purchase units, where goods are missing. */
  quantity: number;
  net: number;
  tax: number;
}

/**
 * What it is fair to ask back of a line: of a quantity what did not come, at their own price and tax; of a price or a
 * charge what is dearer, for what did come. `missing` is what of the line is not here. Null for what is no matter of money.
 */
export function claimFor(
  l: Pick<InvoicedLine, "quantity" | "price" | "standing" | "discount" | "net" | "taxRate">,
  o: OrderedLine,
  reason: HoldReason,
  missing: number,
  currency: string,
): Claimed | null {
  const here = Math.max(0, l.quantity - missing);
  const kept =
    here === l.quantity ? l.net : here === 0 ? 0 : lineNet(here, l.price, l.standing, l.discount, currency).minor;
  const asked = (net: number, quantity: number): Claimed => ({ quantity, net, tax: taxOn(net, l.taxRate) });
  if (reason === "quantity") return asked(l.net - kept, l.quantity - here);
  if (reason === "price" || reason === "charge") return asked(kept - orderedNet(o, here, currency), 0);
  return null;
}
