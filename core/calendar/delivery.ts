import { addDays, type Day, laterOf, weekday } from "./day";

/** Weekdays as seven bits, Monday the lowest: 31 is Monday to Friday, 127 every day. */
export type Weekdays = number;
export const EVERY_DAY: Weekdays = 127;
export const MONDAY_TO_FRIDAY: Weekdays = 31;

export const hasWeekday = (days: Weekdays, d: Day) => (days & (1 << (weekday(d) - 1))) !== 0;

/** Days that are holidays in a region. */
export type Holidays = ReadonlySet<Day>;
const NONE: Holidays = new Set();

export interface Delivery {
  leadDays: number;
  leadKind: "calendar" | "working";
  /** Days on which the supplier delivers. */
  delivers: Weekdays;
  /** Days on which the store takes goods in. */
  receives: Weekdays;
  /** Nobody works or delivers there on these days. */
  closedThere?: Holidays;
  /** Nobody takes goods in here on these days. */
  closedHere?: Holidays;
  /** An order sent before this day counts as sent on it: today's cut-off hour has passed. */
  earliest?: Day;
}

/** A supplier and a store that meet on no day of a year never meet. */
const LONGEST_WAIT = 371;

const works = (d: Day, way: Pick<Delivery, "closedThere">) =>
  hasWeekday(MONDAY_TO_FRIDAY, d) && !(way.closedThere ?? NONE).has(d);

const lands = (d: Day, way: Delivery) =>
  hasWeekday(way.delivers & way.receives, d) && !(way.closedThere ?? NONE).has(d) && !(way.closedHere ?? NONE).has(d);

/** The first day on which an order sent now counts as sent. */
export const sentOn = (sent: Day, hour: number, cutOff: number | null): Day =>
  cutOff !== null && hour >= cutOff ? addDays(sent, 1) : sent;

/** The day after the lead time, before looking at who delivers and receives when. */
export function afterLead(sent: Day, way: Pick<Delivery, "leadDays" | "leadKind" | "closedThere" | "earliest">): Day {
  let d = way.earliest ? laterOf(sent, way.earliest) : sent;
  if (way.leadKind === "calendar") return addDays(d, way.leadDays);
  for (let left = way.leadDays; left > 0; ) {
    d = addDays(d, 1);
    if (works(d, way)) left--;
  }
  return d;
}

/** When an order sent that day arrives (domain §4); null where supplier and store share no day. */
export function arrival(sent: Day, way: Delivery): Day | null {
  if ((way.delivers & way.receives) === 0) return null;
  let d = afterLead(sent, way);
  for (let i = 0; i < LONGEST_WAIT; i++, d = addDays(d, 1)) if (lands(d, way)) return d;
  return null;
}

/**
 * The latest day on which an order still arrives by the day needed; null where nothing ever arrives. It may lie in the
 * past, and does not look at today's cut-off.
 */
export function orderBy(needed: Day, way: Delivery): Day | null {
  if ((way.delivers & way.receives) === 0) return null;
  let landing = needed;
  for (let i = 0; !lands(landing, way); i++, landing = addDays(landing, -1)) if (i === LONGEST_WAIT) return null;
  if (way.leadKind === "calendar") return addDays(landing, -way.leadDays);
  let d = landing;
  for (let left = way.leadDays; left > 0; d = addDays(d, -1)) if (works(d, way)) left--;
  return d;
}
