import { addDays, type Day, weekday } from "./day";

/** Weekdays as seven bits, Monday the lowest: 31 is Monday to Friday, 127 every day. */
export type Weekdays = number;
export const EVERY_DAY: Weekdays = 127;
export const MONDAY_TO_FRIDAY: Weekdays = 31;

export const hasWeekday = (days: Weekdays, d: Day) => (days & (1 << (weekday(d) - 1))) !== 0;

export interface Delivery {
  leadDays: number;
  leadKind: "calendar" | "working";
  /** Days on which the supplier delivers. */
  delivers: Weekdays;
  /** Days on which the store takes goods in. */
  receives: Weekdays;
}

/** The day after the lead time, before looking at who delivers and receives when. */
export function afterLead(sent: Day, way: Pick<Delivery, "leadDays" | "leadKind">): Day {
  if (way.leadKind === "calendar") return addDays(sent, way.leadDays);
  let d = sent;
  for (let left = way.leadDays; left > 0; ) {
    d = addDays(d, 1);
    if (hasWeekday(MONDAY_TO_FRIDAY, d)) left--;
  }
  return d;
}

/** When an order sent that day arrives (domain §4); null where supplier and store share no weekday. */
export function arrival(sent: Day, way: Delivery): Day | null {
  const both = way.delivers & way.receives;
  if (both === 0) return null;
  let d = afterLead(sent, way);
  while (!hasWeekday(both, d)) d = addDays(d, 1);
  return d;
}

/** The latest day on which an order still arrives by the day needed; null where nothing ever arrives. */
export function orderBy(needed: Day, way: Delivery): Day | null {
  const both = way.delivers & way.receives;
  if (both === 0) return null;
  let landing = needed;
  while (!hasWeekday(both, landing)) landing = addDays(landing, -1);
  let sent = addDays(landing, -way.leadDays);
  if (way.leadKind === "working") while (afterLead(sent, way) > landing) sent = addDays(sent, -1);
  return sent;
}
