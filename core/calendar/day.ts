declare const day: unique symbol;
/** A calendar day as ISO 8601 text, such as 2026-11-24. It has no time and no zone, and sorts as text. */
export type Day = string & { readonly [day]: true };

const MS = 86_400_000;
/** Days are counted often and are few: 36,525 of a century at most. */
const numbers = new Map<Day, number>();
function number(d: Day): number {
  const known = numbers.get(d);
  if (known !== undefined) return known;
  const n = Date.UTC(Number(d.slice(0, 4)), Number(d.slice(5, 7)) - 1, Number(d.slice(8, 10))) / MS;
  numbers.set(d, n);
  return n;
}
const fromNumber = (n: number) => new Date(n * MS).toISOString().slice(0, 10) as Day; // what toISOString begins with

/** The day a text names, or null where no such day exists (2026-02-30) or it lies outside 2000 to 2099. */
export function parseDay(text: string): Day | null {
  if (!/^20\d\d-\d\d-\d\d$/.test(text)) return null;
  const at = new Date(`${text}T00:00:00Z`);
  const is = !Number.isNaN(at.getTime()) && at.toISOString().slice(0, 10) === text;
  return is ? (text as Day) : null; // of the form of a day, and there is such a date
}

/** A day that the caller knows to exist; anything else is a fault. */
export function toDay(text: string): Day {
  const d = parseDay(text);
  if (!d) throw new RangeError(`${text} is not a day.`);
  return d;
}

export const addDays = (d: Day, n: number) => fromNumber(number(d) + n);
export const daysBetween = (from: Day, to: Day) => number(to) - number(from);
/** 1 for Monday to 7 for Sunday, as ISO 8601 counts. */
export const weekday = (d: Day) => ((number(d) + 3) % 7) + 1;
/** The same day of the year before; the 29th of February is the 28th there. */
export function yearBefore(d: Day): Day {
  const before = `${Number(d.slice(0, 4)) - 1}${d.slice(4)}`;
  return (d.endsWith("-02-29") ? before.replace("-02-29", "-02-28") : before) as Day; // no leap day is left
}

/** The last day of a day's month. */
export function monthEnd(day: Day): Day {
  const next = addDays(toDay(`${day.slice(0, 8)}28`), 4);
  return addDays(next, -Number(next.slice(8)));
}
export const monthStart = (day: Day): Day => toDay(`${day.slice(0, 8)}01`);

export const laterOf = (a: Day, b: Day) => (a > b ? a : b);
export const earlierOf = (a: Day, b: Day) => (a < b ? a : b);
