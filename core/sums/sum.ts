import type { Day } from "../calendar/day";
import { decimalText } from "../numbers/decimal";
import { exponent } from "../numbers/money";

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

/**
 * Works a sum of one kind of figure again from its additions: true where every "=" holds. Tests and the check command
 * use it, so that no page can show a sum that does not come out.
 */
export function comesOut(sum: Sum): boolean {
  let running = 0;
  for (const { op, figure } of sum.steps) {
    const n = figure.kind === "quantity" ? figure.value : figure.kind === "money" ? figure.minor : null;
    if (op === "·") continue;
    if (op === "×" || op === "÷") {
      running = Number.NaN; // units change here: the next line says what it came to
      continue;
    }
    if (n === null) continue;
    if (op === "" || op === "→") running = n;
    else if (op === "+") running += n;
    else if (op === "−") running -= n;
    else if (Number.isNaN(running)) running = n;
    else if (n !== running) return false;
  }
  return true;
}
