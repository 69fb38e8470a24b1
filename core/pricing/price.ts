import type { Day } from "../calendar/day";
import type { BasisPoints, UnitPrice } from "../numbers/money";
import { type PurchaseQty, quantityText } from "../numbers/quantity";
import { onDay, percent, price, type Step, type Sum, words } from "../sums/sum";

export interface PriceBreak {
  from: PurchaseQty;
  price: UnitPrice;
  validFrom: Day | null;
  validTo: Day | null;
}

/** Where a price came from; kept with the order line together with its paper (domain §5). */
export type PriceSource =
  | { kind: "blanket"; order: string; line: number; until: Day }
  | { kind: "quote"; quote: string; from: PurchaseQty; until: Day }
  | { kind: "said"; on: Day; from: PurchaseQty; until: Day }
  | { kind: "price list"; from: PurchaseQty }
  | { kind: "last paid"; order: string; day: Day }
  | { kind: "reference cost" }
  | { kind: "typed" };

export interface Priced {
  price: UnitPrice;
  source: PriceSource;
  /** A price nobody agreed to: the buyer should look at it. */
  warning: boolean;
}

/** What a supplier answered when asked, and the buyer accepted: to a request for prices, or to a look at their stock. */
export type QuotedPrice = { from: PurchaseQty; price: UnitPrice; validFrom: Day; validTo: Day } & (
  | { quote: string; said: null }
  | { quote: null; said: Day }
);

/** A line of a blanket order that is in force or will be, in the unit of its sourcing record. */
export interface BlanketPrice {
  order: string;
  line: number;
  price: UnitPrice;
  starts: Day;
  ends: Day;
  least: PurchaseQty;
  /** What may still be called off, by what limits it; null where nothing does. */
  left: PurchaseQty | null;
}

export interface PriceRecords {
  blankets: readonly BlanketPrice[];
  quotes: readonly QuotedPrice[];
  breaks: readonly PriceBreak[];
  lastPaid: { price: UnitPrice; order: string; day: Day } | null;
  /** Reference cost per purchase unit, in the order's currency. */
  reference: UnitPrice | null;
}

/** The break in force for a quantity: the one with the highest start at or below it. */
export function breakFor<B extends PriceBreak>(breaks: readonly B[], quantity: PurchaseQty, day: Day): B | null {
  let best: B | null = null;
  for (const b of breaks) {
    if (b.from > quantity || (b.validFrom && day < b.validFrom) || (b.validTo && day > b.validTo)) continue;
    if (!best || b.from > best.from) best = b;
  }
  return best;
}

/**
 * The first price that applies on that day. The quantity is that of all lines of the item on the same order, because a
 * break counts them together. Null where a price must be typed.
 */
export function priceFor(records: PriceRecords, quantity: PurchaseQty, day: Day): Priced | null {
  const blanket = records.blankets.find(
    (b) => b.starts <= day && day <= b.ends && quantity >= b.least && (b.left === null || quantity <= b.left),
  );
  if (blanket) {
    const { order, line, ends: until } = blanket;
    return { price: blanket.price, source: { kind: "blanket", order, line, until }, warning: false };
  }
  const quoted = breakFor(records.quotes, quantity, day);
  if (quoted) {
    const { from, validTo: until, price } = quoted;
    const source: PriceSource =
      quoted.quote === null
        ? { kind: "said", on: quoted.said, from, until }
        : { kind: "quote", quote: quoted.quote, from, until };
    return { price, source, warning: false };
  }
  const listed = breakFor(records.breaks, quantity, day);
  if (listed) return { price: listed.price, source: { kind: "price list", from: listed.from }, warning: false };
  const paid = records.lastPaid;
  if (paid) {
    const { order, day: paidOn } = paid;
    return { price: paid.price, source: { kind: "last paid", order, day: paidOn }, warning: false };
  }
  const { reference } = records;
  if (reference !== null) return { price: reference, source: { kind: "reference cost" }, warning: true };
  return null;
}

/** The source of a price in a person's words. */
export function sourceWords(source: PriceSource): string {
  switch (source.kind) {
    case "blanket":
      return `called off from ${source.order}`;
    case "quote":
      return `quote ${source.quote}${source.from > 0 ? `, from ${quantityText(source.from)}` : ""}`;
    case "said":
      return `their word, from ${quantityText(source.from)}`;
    case "price list":
      return `price list, from ${quantityText(source.from)}`;
    case "last paid":
      return `last paid on ${source.order}`;
    case "reference cost":
      return "reference cost, not agreed with them";
    case "typed":
      return "typed by the buyer";
  }
}

/** The sum behind the price of an order line; null while it has none. */
export const linePriceSum = (
  l: {
    price: UnitPrice | null;
    priceSource: PriceSource;
    priceWarning: boolean;
    standing: BasisPoints;
    discount: BasisPoints;
    unit: string;
  },
  currency: string,
): Sum | null =>
  l.price === null
    ? null
    : priceSum(
        { price: l.price, source: l.priceSource, warning: l.priceWarning },
        l.standing,
        l.discount,
        currency,
        l.unit,
      );

export function priceSum(priced: Priced, standing: BasisPoints, line: BasisPoints, currency: string, per: string): Sum {
  const steps: Step[] = [{ op: "", label: sourceWords(priced.source), figure: price(priced.price, currency, per) }];
  if (priced.source.kind === "said") steps.push({ op: "·", label: "said on", figure: onDay(priced.source.on) });
  if (priced.source.kind === "quote" || priced.source.kind === "said" || priced.source.kind === "blanket")
    steps.push({ op: "·", label: "holds until", figure: onDay(priced.source.until) });
  if (priced.source.kind === "last paid") steps.push({ op: "·", label: "paid on", figure: onDay(priced.source.day) });
  if (priced.warning) steps.push({ op: "·", label: "ask before placing", figure: words("a warning") });
  if (standing) steps.push({ op: "−", label: "standing discount", figure: percent(standing) });
  if (line) steps.push({ op: "−", label: "line discount", figure: percent(line) });
  return { title: "Why this price", steps };
}
