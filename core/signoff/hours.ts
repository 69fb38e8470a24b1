import type { Day } from "../calendar/day";
import { toDay } from "../calendar/day";

/** When somebody works: by the clock of the place where the server stands (TZ). */
export interface WorkingTime {
  /** Weekdays as bits, Monday the lowest. */
  works: number;
  /** Minutes of the day. */
  from: number;
  to: number;
  /** Holidays and days away. */
  closed: (day: Day) => boolean;
}

/** Monday to Friday, 8 to 16, where nothing else is known. */
export const OFFICE: WorkingTime = { works: 31, from: 480, to: 960, closed: () => false };

const two = (n: number) => String(n).padStart(2, "0");
const dayOf = (at: Date) => toDay(`${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}`);
const opens = (at: Date, time: WorkingTime) =>
  ((time.works >> ((at.getDay() + 6) % 7)) & 1) === 1 && !time.closed(dayOf(at));

/** Somebody who is away for so long never gets there; a year of closed days is as far as anybody looks. */
const MOST_DAYS = 400;

/** The working time between two moments, as stretches; ends after `MOST_DAYS`. */
function* stretches(from: string, time: WorkingTime): Generator<[number, number]> {
  const at = new Date(from);
  for (let n = 0; n < MOST_DAYS; n++) {
    if (opens(at, time)) {
      const start = new Date(at);
      start.setHours(0, time.from, 0, 0);
      const end = new Date(at);
      end.setHours(0, time.to, 0, 0);
      const begun = Math.max(start.getTime(), at.getTime());
      if (begun < end.getTime()) yield [begun, end.getTime()];
    }
    at.setDate(at.getDate() + 1);
    at.setHours(0, 0, 0, 0);
  }
}

/** The moment by which something asked for should be done, so that a weekend makes nobody late. */
export function dueAt(asked: string, hours: number, time: WorkingTime = OFFICE): string {
  let left = hours * 3_600_000;
  let last = new Date(asked).getTime();
  for (const [from, to] of stretches(asked, time)) {
    if (left <= to - from) return new Date(from + left).toISOString();
    left -= to - from;
    last = to;
  }
  return new Date(last).toISOString();
}

/** Working time between two moments, in minutes. */
export function minutesBetween(from: string, to: string, time: WorkingTime = OFFICE): number {
  const end = new Date(to).getTime();
  let minutes = 0;
  for (const [start, stop] of stretches(from, time)) {
    if (start >= end) break;
    minutes += (Math.min(stop, end) - start) / 60_000;
  }
  return Math.round(minutes);
}

/** When an answer is due of whom is asked: of the first of them who can, or of the last where all have to. */
export function dueOf(asked: string, hours: number, times: readonly WorkingTime[], all: boolean): string {
  const due = (times.length ? times : [OFFICE]).map((t) => dueAt(asked, hours, t)).sort();
  return all ? due.at(-1)! : due[0]!;
}
