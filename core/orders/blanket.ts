import { addDays, type Day, daysBetween } from "../calendar/day";
import { Big, roundUpToInteger } from "../numbers/decimal";
import { showDay } from "../numbers/format";
import { quantityText } from "../numbers/quantity";
import { amount, onDay, quantity, type Step, type Sum, words } from "../sums/sum";
import { count } from "../text";
import type { Limit } from "./kinds";

/** One line of a blanket order (domain §7). Quantities in its purchase unit, values in minor units of its currency. */
export interface BlanketLine {
  limits: Limit;
  committed: number;
  committedValue: number;
  least: number;
  starts: Day;
  ends: Day;
  unit: string;
  currency: string;
}

/** What was drawn from a line by one call-off that was not cancelled, without what was closed short of it. */
export interface Call {
  day: Day;
  quantity: number;
  value: number;
  label: string;
  href?: string;
}

export interface Left {
  called: number;
  calledValue: number;
  left: number;
  leftValue: number;
  /** Of what limits the line, how much is used, in basis points; the larger where both do. */
  used: number;
  sum: Sum;
}

const byQuantity = (l: BlanketLine) => l.limits !== "value";
const byValue = (l: BlanketLine) => l.limits !== "quantity";

/** What is left of a line: committed less called off. Cancelled and closed-short parts are no calls, so they come back. */
export function leftOf(line: BlanketLine, calls: readonly Call[]): Left {
  const called = calls.reduce((a, c) => a + c.quantity, 0);
  const calledValue = calls.reduce((a, c) => a + c.value, 0);
  const left = line.committed - called;
  const leftValue = line.committedValue - calledValue;
  const part = (of: number, whole: number) =>
    whole > 0 ? Number(new Big(of).times(10_000).div(whole).round(0, Big.roundDown).toFixed(0)) : 0;
  const used = Math.max(
    byQuantity(line) ? part(called, line.committed) : 0,
    byValue(line) ? part(calledValue, line.committedValue) : 0,
  );
  const figures = byQuantity(line)
    ? { of: quantity(line.committed, line.unit), left: quantity(left, line.unit) }
    : { of: amount(line.committedValue, line.currency), left: amount(leftValue, line.currency) };
  const steps: Step[] = [{ op: "", label: "committed", figure: figures.of }];
  for (const c of calls)
    steps.push({
      op: "−",
      label: c.label,
      figure: byQuantity(line) ? quantity(c.quantity, line.unit) : amount(c.value, line.currency),
      href: c.href,
    });
  steps.push({ op: "=", label: "left", figure: figures.left });
  if (line.limits === "both") steps.push({ op: "·", label: "left in value", figure: amount(leftValue, line.currency) });
  return { called, calledValue, left, leftValue, used, sum: { title: "What is left", steps } };
}

/** Why a call-off cannot be drawn, or null where it can. `value` is its net in minor units. */
export function refusesCall(
  line: BlanketLine,
  left: Pick<Left, "left" | "leftValue">,
  call: { quantity: number; value: number; day: Day },
): string | null {
  if (call.day < line.starts) return `The blanket order begins on ${showDay(line.starts, call.day)}.`;
  if (call.day > line.ends) return `The blanket order ended on ${showDay(line.ends, call.day)}.`;
  if (call.quantity < line.least) return `At least ${quantityText(line.least)} ${line.unit} are called off at once.`;
  if (byQuantity(line) && call.quantity > left.left)
    return `Only ${quantityText(Math.max(0, left.left))} ${line.unit} are left of the blanket order.`;
  if (byValue(line) && call.value > left.leftValue) return "This is worth more than is left of the blanket order.";
  return null;
}

export interface Burn {
  /** The day on which nothing is left at the pace so far; null where nothing was called off yet. */
  runsOut: Day | null;
  /** What would be left on the last day at that pace; below zero where it would not last. */
  unused: number;
  sum: Sum;
}

/** How fast a line is used up: what was called off per day since its first day (domain §7), today included. */
export function burnOf(line: BlanketLine, { called, calledValue, left, leftValue }: Left, today: Day): Burn {
  const inQuantity = byQuantity(line);
  const drawn = inQuantity ? called : calledValue;
  const rest = inQuantity ? left : leftValue;
  const show = (n: number) => (inQuantity ? quantity(n, line.unit) : amount(n, line.currency));
  const upTo = today > line.ends ? line.ends : today;
  const days = Math.max(1, daysBetween(line.starts, upTo) + 1);
  const ahead = Math.max(0, daysBetween(upTo, line.ends));
  const steps: Step[] = [
    { op: "", label: "called off so far", figure: show(drawn) },
    { op: "·", label: "in", figure: words(count(days, "day")) },
  ];
  if (drawn <= 0) {
    steps.push({ op: "·", label: "nothing is drawn, so all would be left", figure: show(rest) });
    return { runsOut: null, unused: rest, sum: { title: "How fast it is used up", steps } };
  }
  // Days until nothing is left: rest ÷ (drawn ÷ days), rounded up to the day on which the last of it goes.
  const last = rest <= 0 ? 0 : roundUpToInteger(new Big(rest).times(days).div(drawn));
  const runsOut = addDays(upTo, Math.min(last, 36_500));
  const gone = Number(new Big(drawn).times(ahead).div(days).round(0, Big.roundDown).toFixed(0));
  const unused = rest - gone;
  steps.push(
    { op: "·", label: "left", figure: show(rest) },
    { op: "·", label: "at this pace it is used up on", figure: onDay(runsOut) },
    { op: "·", label: "the blanket order ends on", figure: onDay(line.ends) },
    unused >= 0
      ? { op: "·", label: "left unused then", figure: show(unused) }
      : { op: "·", label: "short by then", figure: show(-unused) },
  );
  return { runsOut, unused, sum: { title: "How fast it is used up", steps } };
}

export type Warning = {
  kind: "runs out" | "not used up" | "nearly used" | "ends soon" | "ended";
  says: string;
  does: string;
};

/** What stands out about a line today, the gravest first: 80 % used, 30 days before the end, and where the pace leads. */
export function warningsOf(line: BlanketLine, left: Left, burn: Burn, today: Day): Warning[] {
  const found: Warning[] = [];
  if (today > line.ends) {
    if (left.left > 0 || left.leftValue > 0)
      found.push({
        kind: "ended",
        says: "It has ended, and not all was called off.",
        does: "Close it, or agree on more time.",
      });
    return found;
  }
  const daysLeft = daysBetween(today, line.ends);
  if (burn.runsOut && burn.runsOut < line.ends && burn.unused < 0)
    found.push({
      kind: "runs out",
      says: `It runs out ${count(daysBetween(burn.runsOut, line.ends), "day")} before it ends.`,
      does: "Agree on more at this price now, or call off less.",
    });
  // A pace says little in the first tenth of the time.
  const begun = daysBetween(line.starts, today) * 10 >= daysBetween(line.starts, line.ends);
  const whole = byQuantity(line) ? line.committed : line.committedValue;
  if (begun && burn.unused * 10 > whole)
    found.push({
      kind: "not used up",
      says: "At this pace a good part of it will not be called off.",
      does: "Move needs onto it, or agree on less before they charge for it.",
    });
  if (left.used >= 8_000)
    found.push({
      kind: "nearly used",
      says: `${Math.floor(left.used / 100)} % is used.`,
      does: "Begin to agree on the next one.",
    });
  if (daysLeft <= 30)
    found.push({
      kind: "ends soon",
      says: daysLeft === 0 ? "It ends today." : `It ends in ${count(daysLeft, "day")}.`,
      does: "Call off what is still wanted, and agree on the next one.",
    });
  return found;
}
