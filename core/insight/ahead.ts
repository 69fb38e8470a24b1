import { addDays, type Day, daysBetween, laterOf, weekday } from "../calendar/day";
import { Big, roundToInteger, safe } from "../numbers/decimal";
import type { BasisPoints } from "../numbers/money";
import { type PayTerms, payBy } from "../orders/terms";

/** What is still to come is read by week, supplier, job or budget line. */
export const AHEAD_BY = ["week", "supplier", "job", "budget"] as const;
export type AheadBy = (typeof AHEAD_BY)[number];

/** A part of an order line that is still to come; money in home currency, minor units, before tax. */
export interface PartAhead {
  supplier: number;
  requested: Day;
  /** When it is expected: the day they last said, or else the day we asked for. */
  due: Day;
  value: number;
  /** What will be billed for it, with tax. */
  billed: number;
  /** When that is to be paid, were it billed on the day it comes. */
  payBy: Day;
}

/** What so much of a line comes to: its part of what the line comes to at home, half away from zero. */
export const worthOfPart = (homeNet: number, open: number, ordered: number): number =>
  roundToInteger(new Big(homeNet).times(open).div(ordered));
export const withTax = (value: number, rate: BasisPoints): number =>
  safe(value + roundToInteger(new Big(value).times(rate).div(10_000)));
/** When goods that are expected on a day are to be paid, were they billed as they come, and no earlier than today. */
export const paidOnceHere = (t: PayTerms, due: Day, today: Day): Day => payBy(t, laterOf(due, today));

/** The Monday of a day's week. */
export const weekOf = (day: Day): Day => addDays(day, 1 - weekday(day));
/** Weeks that are read one by one, this one the first. */
export const WEEKS = 13;

/** Where a day stands: "late" before today, the Monday of its week, or "later". */
export function weekKey(day: Day, today: Day): string {
  if (day < today) return "late";
  const week = weekOf(day);
  return week < addDays(weekOf(today), 7 * WEEKS) ? week : "later";
}

export interface WeekAhead {
  key: string;
  /** Null before all that is late. */
  from: Day | null;
  /** Null after all weeks. */
  until: Day | null;
  /** Goods that are expected in it. */
  coming: number;
  /** Of those, what was asked for on an earlier day. */
  moved: number;
  /** What is owed for invoices, by the day on which it is due. */
  owed: number;
  /** What will be owed for goods that are not billed yet, with tax. */
  toBill: number;
  /** All that goes out up to its end. */
  out: number;
}

/** What is to be paid on a day. */
export interface DueMoney {
  due: Day;
  minor: number;
}

/** Goods and money by week, with what goes out in all up to the end of each. */
export function weeksAhead(
  parts: readonly PartAhead[],
  owed: readonly DueMoney[],
  toBill: readonly DueMoney[],
  today: Day,
): WeekAhead[] {
  const first = weekOf(today);
  const empty = { coming: 0, moved: 0, owed: 0, toBill: 0, out: 0 };
  const weeks: WeekAhead[] = [
    { key: "late", from: null, until: addDays(today, -1), ...empty },
    ...Array.from({ length: WEEKS }, (_, i) => ({
      key: String(addDays(first, 7 * i)),
      from: laterOf(addDays(first, 7 * i), today),
      until: addDays(first, 7 * i + 6),
      ...empty,
    })),
    { key: "later", from: addDays(first, 7 * WEEKS), until: null, ...empty },
  ];
  const by = new Map(weeks.map((w) => [w.key, w]));
  const at = (day: Day) => by.get(weekKey(day, today))!;
  for (const p of parts) {
    const w = at(p.due);
    w.coming = safe(w.coming + p.value);
    if (p.due > p.requested) w.moved = safe(w.moved + p.value);
    const pay = at(p.payBy);
    pay.toBill = safe(pay.toBill + p.billed);
  }
  for (const o of owed) at(o.due).owed = safe(at(o.due).owed + o.minor);
  for (const b of toBill) at(b.due).toBill = safe(at(b.due).toBill + b.minor);
  let out = 0;
  for (const w of weeks) {
    out = safe(out + w.owed + w.toBill);
    w.out = out;
  }
  return weeks;
}

/** How late something that has not come is on a day. */
export const LATE_BANDS = ["1 to 7 days", "8 to 30 days", "over 30 days"] as const;
/** The band of what was due on a day, 0 to 2; null where it is not late. */
export function lateBand(due: Day, today: Day): 0 | 1 | 2 | null {
  const late = daysBetween(due, today);
  return late <= 0 ? null : late <= 7 ? 0 : late <= 30 ? 1 : 2;
}

/** What is still to come of one group. */
export interface ComingFigures {
  parts: number;
  coming: number;
  /** By band of how late it is. */
  late: [number, number, number];
  /** Not late yet, and expected after the day that was asked for. */
  moved: number;
}

/** Adds up what is still to come by a key; parts without one are left out. */
export function stillComingBy<P extends PartAhead>(
  parts: readonly P[],
  keyOf: (p: P) => string | null,
  today: Day,
): Map<string, ComingFigures> {
  const by = new Map<string, ComingFigures>();
  for (const p of parts) {
    const key = keyOf(p);
    if (key === null) continue;
    const f = by.get(key) ?? { parts: 0, coming: 0, late: [0, 0, 0], moved: 0 };
    by.set(key, f);
    f.parts++;
    f.coming = safe(f.coming + p.value);
    const band = lateBand(p.due, today);
    if (band !== null) f.late[band] = safe(f.late[band] + p.value);
    else if (p.due > p.requested) f.moved = safe(f.moved + p.value);
  }
  return by;
}
