import ical, { ICalCalendarMethod, ICalEventTransparency } from "ical-generator";

/** A load that is expected on a day. */
export interface Arrival {
  /** The same for the same order, store and day, so that a calendar moves it instead of adding another. */
  id: string;
  /** ISO 8601. */
  day: string;
  title: string;
  lines: readonly string[];
  place: string;
  href: string;
}

/** Expected loads as iCalendar (RFC 5545), each as an event of a whole day that blocks nobody's time. */
export function arrivalsCalendar(name: string, arrivals: readonly Arrival[], now: Date): string {
  const calendar = ical({
    name,
    prodId: { company: "Wharf Tally", product: "Arrivals" },
    method: ICalCalendarMethod.PUBLISH,
    ttl: 3_600,
  });
  for (const a of arrivals)
    calendar.createEvent({
      id: a.id,
      start: a.day,
      allDay: true,
      stamp: now,
      summary: a.title,
      description: a.lines.join("\n"),
      location: a.place,
      url: a.href,
      transparency: ICalEventTransparency.TRANSPARENT,
    });
  return calendar.toString();
}
