import Big from "big.js";

/** Exact decimals. Everything that is multiplied or divided goes through here; plain addition stays in safe integers. */
Big.DP = 30;
Big.RM = Big.roundHalfUp; // half away from zero, as domain §1 asks

export { Big };

/** Rounds half away from zero to a safe integer. Throws a RangeError where the figure is too large to be kept exactly. */
export function roundToInteger(x: Big): number {
  return safe(Number(x.round(0, Big.roundHalfUp).toFixed(0)));
}

/** Rounds away from zero to a safe integer. */
export function roundUpToInteger(x: Big): number {
  return safe(Number(x.round(0, Big.roundUp).toFixed(0)));
}

/** A figure is too large to be kept exactly: somebody typed far too much, or a sum of such figures. */
export class TooLargeFigure extends RangeError {
  override name = "TooLargeFigure";
  constructor() {
    super("This comes to more than can be kept exactly. Make the quantity or the price smaller.");
  }
}

/** What is worked out, or null where it comes to more than can be kept: for what is only shown. */
export function unlessTooLarge<T>(work: () => T): T | null {
  try {
    return work();
  } catch (e) {
    if (e instanceof TooLargeFigure) return null;
    throw e;
  }
}

/** A figure that binary arithmetic still holds exactly, or a fault. */
export function safe(n: number): number {
  if (!Number.isSafeInteger(n)) throw new TooLargeFigure();
  return n === 0 ? 0 : n; // no negative zero on paper
}

/** An integer of 10^-places as exact decimal text: (12500, 4) → "1.25". */
export function decimalText(scaled: number, places: number, least = 0): string {
  const sign = scaled < 0 ? "-" : "";
  const digits = String(Math.abs(scaled)).padStart(places + 1, "0");
  const whole = digits.slice(0, digits.length - places);
  let part = places ? digits.slice(digits.length - places) : "";
  while (part.length > least && part.endsWith("0")) part = part.slice(0, -1);
  return sign + whole + (part ? `.${part}` : "");
}

export type DecimalMark = "." | ",";
export type Parsed<T> = { ok: true; value: T } | { ok: false; says: string };

/**
 * Reads what a person typed as an integer of 10^-places. Grouping is taken only where the groups are whole, so that
 * "1,60" is questioned instead of read as 160.
 */
export function parseDecimal(text: string, places: number, mark: DecimalMark = "."): Parsed<number> {
  const group = mark === "." ? "," : ".";
  const clean = text
    .trim()
    .replace(/[\u00a0\u202f ]|(?<=\d)[’'](?=\d{3})/g, "")
    .replace("\u2212", "-");
  const example = mark === "." ? "12.5" : "12,5";
  if (clean === "") return { ok: false, says: "A number is missing." };
  const shape = new RegExp(`^-?(\\d+|\\d{1,3}(\\${group}\\d{3})+)(\\${mark}\\d+)?$`);
  if (!shape.test(clean)) return { ok: false, says: `“${clip(text)}” is not a number. Write it like ${example}.` };
  const [whole = "", part = ""] = clean.replaceAll(group, "").split(mark);
  const kept = part.replace(/0+$/, "");
  if (kept.length > places) {
    return {
      ok: false,
      says: places ? `At most ${places} places after the ${mark === "." ? "point" : "comma"}.` : "Whole numbers only.",
    };
  }
  const value = Number(whole + kept.padEnd(places, "0"));
  if (!Number.isSafeInteger(value)) return { ok: false, says: "This number is too large." };
  return { ok: true, value: value === 0 ? 0 : value };
}

export function clip(text: string, length = 40): string {
  return text.length > length ? `${text.slice(0, length - 1)}…` : text;
}
