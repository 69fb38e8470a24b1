import { Big, type DecimalMark, decimalText, type Parsed, parseDecimal, roundToInteger, safe } from "./decimal";
import { QTY_PLACES } from "./quantity";

/** Money in the minor unit of its currency (cents for EUR, yen for JPY, fils for KWD). Never a fraction of it. */
export interface Money {
  readonly minor: number;
  readonly currency: string;
}

declare const perUnit: unique symbol;
/** A price per purchase unit as an integer of millionths of the currency's main unit. */
export type UnitPrice = number & { readonly [perUnit]: true };
export const PRICE_PLACES = 6;
export const unitPrice = (millionths: number) => safe(millionths) as UnitPrice; // here alone a number becomes a price

/** Hundredths of a percent: 1.5 % is 150. */
export type BasisPoints = number;

const exponents = new Map<string, number>();
/** Digits of the minor unit by ISO 4217, as the platform's own currency data has them: EUR 2, JPY 0, KWD 3. */
export function exponent(currency: string): number {
  let digits = exponents.get(currency);
  if (digits === undefined) {
    digits = new Intl.NumberFormat("en", { style: "currency", currency }).resolvedOptions().maximumFractionDigits ?? 2;
    exponents.set(currency, digits);
  }
  return digits;
}

export const money = (minor: number, currency: string): Money => ({ minor: safe(minor), currency });

export function addMoney(a: Money, b: Money): Money {
  if (a.currency !== b.currency) throw new Error(`${a.currency} and ${b.currency} cannot be added.`);
  return money(a.minor + b.minor, a.currency);
}

const powers = new Map<number, Big>();
/** A power of ten. Multiplying by one is exact, and a good deal quicker than dividing. */
function tenTo(n: number): Big {
  let power = powers.get(n);
  if (!power) powers.set(n, (power = new Big(`1e${n}`)));
  return power;
}

/** Rounds an amount in main units to the currency's minor unit, half away from zero. */
export const toMinor = (amount: Big, currency: string) => roundToInteger(amount.times(tenTo(exponent(currency))));

/** Price × (1 − standing discount) × (1 − line discount), in main units per purchase unit, not rounded (domain §1). */
export function netPrice(price: UnitPrice, standing: BasisPoints, line: BasisPoints): Big {
  const millionths = new Big(price);
  if (standing === 0 && line === 0) return millionths.times(tenTo(-PRICE_PLACES));
  return millionths
    .times(10_000 - standing)
    .times(10_000 - line)
    .times(tenTo(-PRICE_PLACES - 8));
}

/** What one unit costs after the discount on everything that a supplier sells, to the sixth place. */
export const netUnitPrice = (price: UnitPrice, standing: BasisPoints): UnitPrice =>
  unitPrice(roundToInteger(netPrice(price, standing, 0).times(tenTo(PRICE_PLACES))));

/** The price from which discounts come to a net one (in main units), to the sixth place: `netPrice` the other way round. */
export function listedPrice(net: Big, standing: BasisPoints, line: BasisPoints): Parsed<UnitPrice> {
  const kept = new Big(10_000 - standing).times(10_000 - line);
  if (kept.eq(0)) return { ok: false, says: "its price cannot be told from a line that is free." };
  const listed = net.times(100_000_000).div(kept).times(1_000_000);
  if (listed.gt(MOST_PRICE)) return { ok: false, says: "a price above a billion is surely a slip." };
  return { ok: true, value: unitPrice(roundToInteger(listed)) };
}

/** Quantity × net price, rounded to the currency (domain §1). */
export function lineNet(
  qty: number,
  price: UnitPrice,
  standing: BasisPoints,
  line: BasisPoints,
  currency: string,
): Money {
  if (standing === 0 && line === 0) {
    // Whole numbers below 2⁵³ are exact, and most lines are: then no decimal need be made for it.
    const product = qty * price;
    const by = 10 ** (QTY_PLACES + PRICE_PLACES - exponent(currency));
    if (Number.isSafeInteger(product)) {
      const rest = product % by;
      return money((product - rest) / by + (Math.abs(rest) * 2 >= by ? Math.sign(rest) : 0), currency);
    }
  }
  return money(toMinor(netPrice(price, standing, line).times(qty).times(tenTo(-QTY_PLACES)), currency), currency);
}

/** Parts of an amount in proportion to weights, by largest remainder, so that they add up to it exactly. */
export function share(minor: number, weights: readonly number[]): number[] {
  const total = weights.reduce((a, b) => a + b, 0);
  if (total === 0) return weights.map((_, i) => (i === 0 ? minor : 0));
  const exact = weights.map((w) => new Big(minor).times(w).div(total));
  const parts = exact.map((x) => Number(x.round(0, Big.roundDown).toFixed(0)));
  let left = minor - parts.reduce((a, b) => a + b, 0);
  const step = Math.sign(left);
  const byRemainder = exact
    .map((x, i) => ({ i, rest: x.minus(parts[i] ?? 0).abs() }))
    .sort((a, b) => b.rest.cmp(a.rest) || a.i - b.i);
  for (const { i } of byRemainder) {
    if (left === 0) break;
    parts[i] = (parts[i] ?? 0) + step;
    left -= step;
  }
  return parts.map((p) => p + 0);
}

/** A billion. */
const MOST_PRICE = 1_000_000_000 * 1_000_000;

/** A price typed by a person: at least zero, at most a billion. */
export function parsePrice(text: string, mark: DecimalMark = "."): Parsed<UnitPrice> {
  const parsed = parseDecimal(text, PRICE_PLACES, mark);
  if (!parsed.ok) return parsed;
  if (parsed.value < 0) return { ok: false, says: "A price cannot be negative." };
  if (parsed.value > MOST_PRICE) return { ok: false, says: "A price above a billion is surely a slip." };
  return { ok: true, value: unitPrice(parsed.value) };
}

/** An amount typed by a person, in main units of the currency. */
export function parseMoney(text: string, currency: string, mark: DecimalMark = "."): Parsed<number> {
  const parsed = parseDecimal(text, exponent(currency), mark);
  if (parsed.ok && parsed.value < 0) return { ok: false, says: "An amount cannot be negative." };
  return parsed;
}

/** Exact text with a point and no grouping: for files and tests. */
export const moneyText = (m: Money) => decimalText(m.minor, exponent(m.currency), exponent(m.currency));
export const priceText = (p: number, least = 2) => decimalText(p, PRICE_PLACES, least);

/** Home currency in another one, at the rate of one of it in home currency (millionths). */
export function exchangedBack(home: Money, rate: number, to: string): Money {
  const main = new Big(home.minor).times(tenTo(PRICE_PLACES - exponent(home.currency))).div(rate);
  return money(toMinor(main, to), to);
}

/** An amount in another currency at a rate of millionths, rounded to that currency. */
export function exchanged(from: Money, rate: number, to: string): Money {
  const main = new Big(from.minor).times(rate).times(tenTo(-PRICE_PLACES - exponent(from.currency)));
  return money(toMinor(main, to), to);
}
