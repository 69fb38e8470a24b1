import { type Day, daysBetween } from "../calendar/day";
import { measured, spread } from "../needs/safety";

/** A part of an order line that came, with the part of its schedule that it meets. */
export interface MetLoad {
  day: Day;
  /** When its order was sent. */
  sent: Day;
  requested: Day;
  /** The day that they last said; null: they said none. */
  promised: Day | null;
  /** So many days later is still in time. */
  tolerated: number;
}

/** Days after what was said; null where nothing was. */
export const daysLate = (l: MetLoad, against: "promised" | "requested"): number | null => {
  const said = l[against];
  return said === null ? null : daysBetween(said, l.day);
};
export const inTime = (l: MetLoad, against: "promised" | "requested"): boolean | null => {
  const late = daysLate(l, against);
  return late === null ? null : late <= l.tolerated;
};

/** So many of so many; nothing can be said of none. */
export interface Ratio {
  of: number;
  all: number;
}
export const shareInTime = (loads: readonly MetLoad[], against: "promised" | "requested"): Ratio => {
  const known = loads.map((l) => inTime(l, against)).filter((x) => x !== null);
  return { of: known.filter(Boolean).length, all: known.length };
};

/** Days from sent to here: an estimate, worked in ordinary numbers. */
export interface Days {
  count: number;
  mean: number;
  /** Standard deviation of a sample. */
  deviation: number;
  /** Nine of ten came within as many days (nearest rank). */
  ninetieth: number;
}
export function daysToHere(loads: readonly MetLoad[]): Days | null {
  if (loads.length === 0) return null;
  const days = loads.map((l) => daysBetween(l.sent, l.day)).sort((a, b) => a - b);
  const { mean, deviation } = spread(measured(days));
  return { count: days.length, mean, deviation, ninetieth: days[Math.ceil(days.length * 0.9) - 1]! };
}

/** What they said of a line, one after the other. */
export interface PromiseSaid {
  line: number;
  day: Day;
  /** The moment at which it was taken. */
  at: string;
}

/**
 * Promises that were moved: each time they said another last day for a line. `days` adds up how much later each time;
 * earlier is below nought. What is said at one moment of several parts of a line is one saying.
 */
export function movedPromises(
  said: readonly PromiseSaid[],
): { line: number; from: Day; to: Day; at: string; days: number }[] {
  const last = new Map<string, PromiseSaid>();
  for (const s of said) {
    const key = `${s.line}\n${s.at}`;
    const known = last.get(key);
    if (!known || s.day > known.day) last.set(key, s);
  }
  const sayings = [...last.values()].sort((a, b) => a.line - b.line || a.at.localeCompare(b.at));
  return sayings.flatMap((s, i) => {
    const before = sayings[i - 1];
    return before && before.line === s.line && before.day !== s.day
      ? [{ line: s.line, from: before.day, to: s.day, at: s.at, days: daysBetween(before.day, s.day) }]
      : [];
  });
}

/** The figures of a record, in the order in which they are read. */
export const RECORD_FIGURES = [
  "promised",
  "requested",
  "days",
  "inFull",
  "moved",
  "answered",
  "price",
  "aside",
  "held",
] as const;
export type RecordFigure = (typeof RECORD_FIGURES)[number];
