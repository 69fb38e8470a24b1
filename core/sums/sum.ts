import type { Day } from "../calendar/day";
import { Big, decimalText } from "../numbers/decimal";
import { exponent, PRICE_PLACES } from "../numbers/money";
import { QTY_PLACES } from "../numbers/quantity";

/** A figure as it is kept: exact integers with what they count, so that every reader can write it their own way. */
export type Figure =
  | { kind: "quantity"; value: number; unit: string }
  | { kind: "money"; minor: number; currency: string }
  | { kind: "price"; millionths: number; currency: string; per: string }
  | { kind: "percent"; basisPoints: number }
  | { kind: "day"; day: Day }
  | { kind: "text"; text: string };

/**
 * One line of a sum. "+", "−", "×" and "÷" act on what stands above; "=" repeats what it has come to; "→" replaces it by
 * a rule that the label names (a rounding, a minimum); "·" is only said beside.
 */
export interface Step {
  op: "" | "+" | "−" | "×" | "÷" | "=" | "→" | "·";
  label: string;
  figure: Figure;
  /** The paper or page behind this line. */
  href?: string;
}

/** The worked calculation behind a figure, the way one writes it on paper. */
export interface Sum {
  title: string;
  steps: Step[];
}

export const quantity = (value: number, unit: string): Figure => ({ kind: "quantity", value, unit });
export const amount = (minor: number, currency: string): Figure => ({ kind: "money", minor, currency });
export const price = (millionths: number, currency: string, per: string): Figure => ({
  kind: "price",
  millionths,
  currency,
  per,
});
export const percent = (basisPoints: number): Figure => ({ kind: "percent", basisPoints });
export const onDay = (day: Day): Figure => ({ kind: "day", day });
export const words = (text: string): Figure => ({ kind: "text", text });

/** A figure as plain exact text, without grouping: for files, tests and screen readers. */
export function figureText(f: Figure): string {
  switch (f.kind) {
    case "quantity":
      return `${decimalText(f.value, 4)} ${f.unit}`.trim();
    case "money":
      return `${decimalText(f.minor, exponent(f.currency), exponent(f.currency))} ${f.currency}`;
    case "price":
      return `${decimalText(f.millionths, 6, 2)} ${f.currency}/${f.per}`;
    case "percent":
      return `${decimalText(f.basisPoints, 2)} %`;
    case "day":
      return f.day;
    case "text":
      return f.text;
  }
}

/** What a figure comes to in whole units, and the step in which it is kept; null for what is no number. */
function worthOf(f: Figure): { value: Big; step: Big } | null {
  const kept = (n: number, places: number) => {
    const step = new Big(10).pow(-places);
    return { value: new Big(n).times(step), step };
  };
  switch (f.kind) {
    case "quantity":
      return kept(f.value, QTY_PLACES);
    case "money":
      return kept(f.minor, exponent(f.currency));
    case "price":
      return kept(f.millionths, PRICE_PLACES);
    case "percent":
      return kept(f.basisPoints, 4);
    default:
      return null;
  }
}

/**
 * Works a sum again, exactly: true where every "=" is what stands above it comes to. After "×" and "÷" it may be rounded
 * to the step in which the figure is kept, by half a step at most. What is multiplied by words is taken as it is said.
 */
export function comesOut(sum: Sum): boolean {
  let running: Big | null = new Big(0);
  let rounded = false;
  for (const { op, figure } of sum.steps) {
    if (op === "·") continue;
    const n = worthOf(figure);
    if (n === null) {
      if (op === "×" || op === "÷") running = null;
      continue;
    }
    if (op === "=") {
      const off = running?.minus(n.value).abs() ?? new Big(0);
      if (rounded ? off.times(2).gt(n.step) : !off.eq(0)) return false;
    }
    if (op === "" || op === "→" || op === "=") {
      running = n.value;
      rounded = false;
    } else if (op === "+") running = running?.plus(n.value) ?? null;
    else if (op === "−") running = running?.minus(n.value) ?? null;
    else {
      running = op === "×" ? (running?.times(n.value) ?? null) : n.value.eq(0) ? null : (running?.div(n.value) ?? null);
      rounded = true;
    }
  }
  return true;
}
