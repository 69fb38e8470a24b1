import {
  Big,
  type DecimalMark,
  decimalText,
  type Parsed,
  parseDecimal,
  roundToInteger,
  roundUpToInteger,
  safe,
} from "./decimal";

declare const counted: unique symbol;
/** An exact quantity as an integer of ten-thousandths, in stock units or in purchase units: a litre is never a drum. */
export type Quantity<U extends "stock" | "purchase" = "stock" | "purchase"> = number & { readonly [counted]: U };
export type StockQty = Quantity<"stock">;
export type PurchaseQty = Quantity<"purchase">;

declare const factor: unique symbol;
/** Stock units in one purchase unit, as an integer of ten-thousandths; always above zero. */
export type Factor = number & { readonly [factor]: true };

export const QTY_PLACES = 4;
export const ONE = 10_000;
/** The largest quantity a person may type: a hundred million units. Beyond it, it is a slip of the hand. */
export const QTY_MOST = 100_000_000 * ONE;

// Here alone a number becomes a quantity, of stock or of purchase, or a factor.
export const stock = (tenThousandths: number) => safe(tenThousandths) as StockQty; // the caller’s word
export const purchase = (tenThousandths: number) => safe(tenThousandths) as PurchaseQty; // the caller’s word
export const factorOf = (tenThousandths: number) => {
  if (tenThousandths <= 0) throw new RangeError("A factor is above zero.");
  return safe(tenThousandths) as Factor; // above zero
};

export const plus = <Q extends Quantity>(a: Q, b: Q) => safe(a + b) as Q; // two of one kind
export const minus = <Q extends Quantity>(a: Q, b: Q) => safe(a - b) as Q; // two of one kind

/** Exact text of a quantity with a point and no grouping: for files and tests. */
export const quantityText = (q: number) => decimalText(q, QTY_PLACES);

/** A quantity typed by a person: above zero (or at least zero), within reason. */
export function parseQuantity(
  text: string,
  mark: DecimalMark = ".",
  zero: "zero allowed" | "above zero" = "above zero",
): Parsed<number> {
  const parsed = parseDecimal(text, QTY_PLACES, mark);
  if (!parsed.ok) return parsed;
  if (parsed.value < 0) return { ok: false, says: "A quantity cannot be negative." };
  if (parsed.value === 0 && zero === "above zero") return { ok: false, says: "A quantity must be above zero." };
  if (parsed.value > QTY_MOST) return { ok: false, says: "A quantity above 100,000,000 is surely a slip." };
  return parsed;
}

/** Purchase units turned into stock units, rounded to the fourth place. */
export function toStock(q: PurchaseQty, f: Factor): StockQty {
  const product = q * f;
  if (Number.isSafeInteger(product)) return stock(nearest(product, ONE));
  return stock(roundToInteger(new Big(q).times(f).div(ONE)));
}

/** Stock units turned into purchase units: exact where it can be, else rounded up at the fourth place. */
export function toPurchase(q: StockQty, f: Factor): PurchaseQty {
  const product = q * ONE;
  if (!Number.isSafeInteger(product)) return purchase(roundUpToInteger(new Big(q).times(ONE).div(f)));
  const rest = product % f;
  return purchase((product - rest) / f + Math.sign(rest));
}

/** Stock units turned into purchase units, rounded down at the fourth place: never more than there is. */
export const toPurchaseDown = (q: number, f: Factor): PurchaseQty =>
  purchase(Number(new Big(q).times(ONE).div(f).round(0, Big.roundDown).toFixed(0)));

/** Half away from zero, in whole numbers only: planning does this for every line of every order. */
function nearest(n: number, by: number): number {
  const rest = n % by;
  return (n - rest) / by + (Math.abs(rest) * 2 >= by ? Math.sign(rest) : 0);
}

/** Up to the next whole unit. */
export const wholeUp = (q: PurchaseQty) => purchase(Math.ceil(q / ONE) * ONE);

/** Up to the next multiple; a multiple of zero asks nothing. */
export const multipleUp = (q: PurchaseQty, multiple: PurchaseQty) =>
  multiple > 0 ? purchase(Math.ceil(q / multiple) * multiple) : q;
