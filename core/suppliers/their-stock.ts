import type { Day } from "../calendar/day";
import { lineNet, type UnitPrice } from "../numbers/money";
import { type PurchaseQty, plus } from "../numbers/quantity";
import { amount, price, quantity as quantityOf, type Step, type Sum } from "../sums/sum";

/** What lies in one of a supplier's depots, and what it expects, in the unit that they sell in. */
export interface DepotStock {
  depot: string;
  onHand: PurchaseQty;
  /** The day on which what lies there would be here; null where they do not say. */
  arrives: Day | null;
  /** What comes to the depot later, by the day on which it would be here. */
  more: readonly { quantity: PurchaseQty; arrives: Day }[];
}

/** How a depot serves a quantity: all of it on a day, or not all of it, or at once on a day that they do not name. */
export type Served = { whole: true; arrives: Day | null } | { whole: false; has: PurchaseQty };

/** What a depot can send of a quantity: everything by the day on which the last of it is here. */
export function servedFrom({ onHand, arrives, more }: DepotStock, wanted: PurchaseQty): Served {
  if (onHand >= wanted) return { whole: true, arrives };
  let has = onHand;
  for (const m of [...more].sort((a, b) => (a.arrives < b.arrives ? -1 : 1))) {
    has = plus(has, m.quantity);
    if (has >= wanted) return { whole: true, arrives: arrives !== null && arrives > m.arrives ? arrives : m.arrives };
  }
  return { whole: false, has };
}

/** The depot that has all of it soonest; else the one that has most. Null where no depot is named. */
export function bestDepot(depots: readonly DepotStock[], wanted: PurchaseQty): DepotStock | null {
  const rank = (d: DepotStock): [number, string, number] => {
    const s = servedFrom(d, wanted);
    return s.whole ? [0, s.arrives ?? "9999", 0] : [1, "", -s.has];
  };
  const sooner = (a: DepotStock, b: DepotStock) => {
    const [x, y] = [rank(a), rank(b)];
    return x[0] - y[0] || (x[1] < y[1] ? -1 : x[1] > y[1] ? 1 : 0) || x[2] - y[2];
  };
  return [...depots].sort(sooner)[0] ?? null;
}

/** Their price for a quantity against ours, discounts taken off: what taking theirs over changes. Null where one is not known. */
export function priceAgainst(
  theirs: UnitPrice | null,
  ours: { price: UnitPrice; words: string } | null,
  { quantity, currency, unit }: { quantity: PurchaseQty; currency: string; unit: string },
): { more: number; sum: Sum } | null {
  if (theirs === null || ours === null) return null;
  const worth = (p: UnitPrice) => lineNet(quantity, p, 0, 0, currency).minor;
  const [at, was] = [worth(theirs), worth(ours.price)];
  const steps: Step[] = [
    { op: "·", label: "for", figure: quantityOf(quantity, unit) },
    { op: "·", label: `ours: ${ours.words}`, figure: price(ours.price, currency, unit) },
    { op: "·", label: "theirs, as they said", figure: price(theirs, currency, unit) },
    { op: "", label: "at their price", figure: amount(at, currency) },
    { op: "−", label: "at ours", figure: amount(was, currency) },
    {
      op: "=",
      label: at > was ? "theirs is dearer by" : at < was ? "theirs is cheaper by" : "the same",
      figure: amount(at - was, currency),
    },
  ];
  return { more: at - was, sum: { title: "Their price against ours", steps } };
}
