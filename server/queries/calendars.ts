import { createRequire } from "node:module";
import type DateHolidays from "date-holidays";
import { addDays, type Day, toDay } from "../../core/calendar/day";
import type { Holidays } from "../../core/calendar/delivery";

const require = createRequire(import.meta.url);
/** The calendars of the world take long to load: not before the house listens, and soon after, when nobody waits. */
export const calendars = (): typeof DateHolidays => require("date-holidays");

const NONE: Holidays = new Set();
const years = new Map<string, Day[]>();

/** Splits "GB-SCT" into what date-holidays asks for. */
const calendarOf = (region: string) => new (calendars())(...(region.split("-") as [string, string]));

/** Is this a region whose public holidays are known? */
export function isRegion(region: string): boolean {
  const [country, state] = region.split("-");
  const known = new (calendars())();
  if (!country || !known.getCountries()[country]) return false;
  return state === undefined || known.getStates(country)?.[state] !== undefined;
}

/** Every region with its name, for a list to choose from: countries, and their states where holidays differ. */
export function regions(): { code: string; name: string }[] {
  const known = new (calendars())();
  return Object.entries(known.getCountries("en")).flatMap(([code, name]) => [
    { code, name },
    ...Object.entries(known.getStates(code, "en") ?? {}).map(([state, part]) => ({
      code: `${code}-${state}`,
      name: `${name}, ${part}`,
    })),
  ]);
}

/** A holiday of several days is one entry with its end; hours after the last whole day are no day of it, a clock set forth or back is none either. */
function daysOf(h: { date: string; start: Date; end: Date }): Day[] {
  const first = toDay(h.date.slice(0, 10));
  const length = Math.max(1, Math.floor((h.end.getTime() - h.start.getTime()) / 86_400_000 + 0.1));
  return Array.from({ length }, (_, i) => addDays(first, i));
}

function holidaysOfYear(region: string, year: number): Day[] {
  const key = `${region}/${year}`;
  let known = years.get(key);
  if (!known) {
    known = calendarOf(region)
      .getHolidays(year)
      .filter((h) => h.type === "public")
      .flatMap(daysOf);
    years.set(key, known);
  }
  return known;
}

/** Public holidays of a region from a year before to three years after a day; none for an empty or unknown region. */
export function holidaysAround(region: string, day: Day): Holidays {
  if (region === "") return NONE;
  const from = Number(addDays(day, -366).slice(0, 4));
  return new Set([0, 1, 2, 3, 4].flatMap((n) => holidaysOfYear(region, from + n)));
}
