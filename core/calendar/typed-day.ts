import { addDays, type Day, parseDay, weekday } from "./day";

const formats = new Map<string, { write: Intl.DateTimeFormat; order: string; months: Map<string, number> }>();

const PART: Partial<Record<Intl.DateTimeFormatPartTypes, string>> = { day: "d", month: "m", year: "y" };

/** How a locale writes days: the order of day, month and year, and what months and weekdays are called. */
function formatOf(locale: string) {
  let f = formats.get(locale);
  if (f) return f;
  const write = new Intl.DateTimeFormat(locale, { day: "numeric", month: "short", year: "numeric", timeZone: "UTC" });
  const order = new Intl.DateTimeFormat(locale, { day: "2-digit", month: "2-digit", year: "numeric", timeZone: "UTC" })
    .formatToParts(new Date(0))
    .map((p) => PART[p.type] ?? "")
    .join("");
  const months = new Map<string, number>();
  for (const month of ["long", "short"] as const)
    for (const l of [locale, "en-GB"])
      for (let m = 1; m <= 12; m++) {
        const name = new Intl.DateTimeFormat(l, { month, timeZone: "UTC" }).format(new Date(Date.UTC(2026, m - 1, 1)));
        months.set(plain(name), m);
        months.set(plain(name.replace("Sept", "Sep")), m);
      }
  formats.set(locale, (f = { write, order, months }));
  return f;
}

const plain = (s: string) => s.toLocaleLowerCase().replace(/[.,]/g, "").trim();
const two = (n: number) => String(n).padStart(2, "0");

/** A day as a field shows it, in the person's format: "10 Dec 2026". */
export const dayInField = (day: Day, locale: string): string =>
  formatOf(locale)
    .write.format(new Date(`${day}T00:00:00Z`))
    .replace("Sept ", "Sep ");

/** An example of how a day may be typed, in the order of the locale. */
export function dayExample(today: Day, locale: string): string {
  const [y, m, d] = today.split("-");
  const parts: Record<string, string> = { y: y!, m: m!, d: d! };
  return [...formatOf(locale).order].map((k) => parts[k]).join("/");
}

const WEEKDAYS = ["mon", "tue", "wed", "thu", "fri", "sat", "sun"];

/**
 * The day that a person typed, or null. Understood are 2026-12-10, the locale's order of figures with any marks between
 * them (10/12, 10.12.26, 101226), months by name (10 dec), +5 for five days from today, a weekday for the next one, and
 * "today" and "tomorrow". Without a year it is the next such day, today included; two figures of a year are of this
 * century. Days lie from 2000 to 2099.
 */
export function typedDay(text: string, today: Day, locale = "en-GB"): Day | null {
  const t = plain(text);
  if (t === "") return null;
  const iso = parseDay(text.trim());
  if (iso) return iso;
  if (t === "today") return today;
  if (t === "tomorrow") return addDays(today, 1);
  const plus = /^\+(\d{1,3})$/.exec(t);
  if (plus) return addDays(today, Number(plus[1]));
  const at = WEEKDAYS.indexOf(t.slice(0, 3));
  if (at >= 0 && /^[a-z]+$/.test(t) && !formatOf(locale).months.has(t))
    return addDays(today, (at + 8 - weekday(today)) % 7 || 7);
  return named(t, today, locale) ?? inFigures(text.trim(), today, locale);
}

/** "10 dec", "10 December 2026", "Dec 10 26". */
function named(t: string, today: Day, locale: string): Day | null {
  const words = t.split(/[\s/-]+/).filter(Boolean);
  const { months } = formatOf(locale);
  const at = words.findIndex((w) => months.has(w));
  if (at < 0 || words.length < 2 || words.length > 3) return null;
  const [first, second] = words.filter((_, i) => i !== at);
  if (!/^\d{1,2}$/.test(first!) || (second !== undefined && !/^(\d{2}|\d{4})$/.test(second))) return null;
  return dated(Number(first), months.get(words[at]!)!, second, today);
}

/** Figures in the locale's order. */
function inFigures(text: string, today: Day, locale: string): Day | null {
  const order = formatOf(locale).order;
  let parts = text.split(/[\s./-]+/).filter(Boolean);
  if (parts.length === 1 && /^\d+$/.test(text)) parts = cut(text, order);
  if (parts.some((p) => !/^\d{1,4}$/.test(p))) return null;
  const keys = parts.length === 2 ? order.replace("y", "") : parts.length === 3 ? order : "";
  if (!keys) return null;
  const by = Object.fromEntries([...keys].map((k, i) => [k, parts[i]!]));
  if (by.y !== undefined && by.y.length !== 2 && by.y.length !== 4) return null;
  return dated(Number(by.d), Number(by.m), by.y, today);
}

/** Figures without marks between them: 1012, 101226, 10122026. */
function cut(text: string, order: string): string[] {
  const year = text.length === 8 ? 4 : text.length === 6 ? 2 : 0;
  if (text.length !== 4 + year) return [];
  const parts: string[] = [];
  let at = 0;
  for (const k of year ? order : order.replace("y", "")) {
    const length = k === "y" ? year : 2;
    parts.push(text.slice(at, at + length));
    at += length;
  }
  return parts;
}

function dated(d: number, m: number, year: string | undefined, today: Day): Day | null {
  const of = (y: string) => parseDay(`${y}-${two(m)}-${two(d)}`);
  if (year !== undefined) return of(year.length === 2 ? `20${year}` : year);
  const now = Number(today.slice(0, 4));
  // The 29th of February waits for a year that has it.
  for (let y = now; y <= now + 8; y++) {
    const day = of(String(y));
    if (day && day >= today) return day;
  }
  return null;
}
