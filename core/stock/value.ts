import { Big, roundToInteger } from "../numbers/decimal";
import {
  exchanged,
  exponent,
  lineNet,
  type Money,
  money,
  PRICE_PLACES,
  share,
  type UnitPrice,
  unitPrice,
} from "../numbers/money";
import { ONE } from "../numbers/quantity";
import { type CostLine, spreadCharges } from "../orders/charges";
import { amount, quantity as inStock, price, type Sum } from "../sums/sum";

/** Our stock of an item in a store: quantity in stock units, value in minor units of home currency. */
export interface Held {
  quantity: number;
  value: number;
}

/**
 * What a quantity that goes out takes of the value: value × quantity ÷ quantity on hand, rounded; with the last of it
 * goes all that is left (domain-goods §12).
 */
export function valueOut(held: Held, quantity: number): number {
  if (quantity >= held.quantity) return held.value;
  return roundToInteger(new Big(held.value).times(quantity).div(held.quantity));
}

/** The value of what goes out, with its sum. */
export const valueOutSum = (held: Held, quantity: number, unit: string, currency: string): Sum => ({
  title: "What it was worth",
  steps: [
    { op: "", label: "value on hand", figure: amount(held.value, currency) },
    { op: "×", label: "goes out", figure: inStock(quantity, unit) },
    { op: "÷", label: "on hand", figure: inStock(held.quantity, unit) },
    { op: "=", label: "goes out", figure: amount(valueOut(held, quantity), currency) },
  ],
});

/** What one of an item is worth on average, in millionths of home currency; null where none is there. */
export const meanCost = (held: Held, currency: string): UnitPrice | null =>
  held.quantity <= 0
    ? null
    : unitPrice(
        roundToInteger(
          new Big(held.value)
            .times(ONE)
            .times(10 ** (PRICE_PLACES - exponent(currency)))
            .div(held.quantity),
        ),
      );

/** The same with its sum. */
export function meanCostSum(held: Held, unit: string, currency: string): Sum | null {
  const mean = meanCost(held, currency);
  if (mean === null) return null;
  return {
    title: "What one is worth",
    steps: [
      { op: "", label: "value on hand", figure: amount(held.value, currency) },
      { op: "÷", label: "on hand", figure: inStock(held.quantity, unit) },
      { op: "=", label: "on average", figure: price(mean, currency, unit) },
    ],
  };
}

/**
 * What a count that finds more adds: as much for each as what is there is worth, else the item's reference cost, else
 * nothing.
 */
export function valueFound(held: Held, quantity: number, reference: UnitPrice | null, currency: string): number {
  if (held.quantity > 0 && held.value > 0)
    return roundToInteger(new Big(held.value).times(quantity).div(held.quantity));
  return reference === null ? 0 : lineNet(quantity, reference, 0, 0, currency).minor;
}

/**
 * What a receipt that is undone takes out again: its own value; where that would leave a value below zero, or a value at
 * no quantity, the rest goes to the stock difference.
 */
export function valueUndone(held: Held, quantity: number, value: number): { out: number; difference: number } {
  const all = quantity >= held.quantity;
  const out = all ? held.value : Math.min(value, held.value);
  return { out, difference: value - out };
}

/** A line of an order as its goods are valued; `ordered` in purchase units. */
export interface ValuedLine extends CostLine {
  ordered: number;
}

/**
 * What each line's goods come to in home currency: its net, less its part of the discount on the whole order, plus its
 * share of the charges that belong to stock cost, at the order's rate. By the line's id, minor units; the discount and
 * each charge are shared out whole. Zero where no rate is known.
 */
export function goodsValue(
  lines: readonly ValuedLine[],
  discount: Money,
  rate: number | null,
  home: string,
): Map<number, number> {
  const less = share(
    discount.minor,
    lines.map((l) => l.net),
  );
  const net = lines.map((l, i) => ({ ...l, net: l.net - less[i]! }));
  const { shares } = spreadCharges(net);
  return new Map(
    net.map((l) => {
      const all = money(l.net + (shares.get(l.id) ?? 0), discount.currency);
      return [l.id, rate === null ? 0 : exchanged(all, rate, home).minor];
    }),
  );
}

/**
 * What counting in `now` more of a line is worth when `before` was counted in already: receipts of parts come to the
 * whole exactly. Quantities in purchase units.
 */
export function receivedValue(whole: number, ordered: number, before: number, now: number): number {
  const upTo = (q: number) => roundToInteger(new Big(whole).times(q).div(ordered));
  return upTo(before + now) - upTo(before);
}
