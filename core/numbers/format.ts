import type { Day } from "../calendar/day";
import { type DecimalMark, decimalText } from "./decimal";
import { exponent } from "./money";

/** Writes exact figures the way a locale does: grouping, decimal mark, a true minus. */

const formats = new Map<string, Intl.NumberFormat>();
function numberFormat(locale: string, least: number, most: number): Intl.NumberFormat {
  const key = `${locale}/${least}/${most}`;
  let f = formats.get(key);
  if (!f)
    formats.set(
      key,
      (f = new Intl.NumberFormat(locale, { minimumFractionDigits: least, maximumFractionDigits: most })),
    );
  return f;
}

/** The platform reads decimal text exactly, so no figure passes through binary floating point here. */
const write = (locale: string, text: string, least: number, most: number) =>
  numberFormat(locale, least, most)
    .format(text as unknown as number) // exact of any length as text, which the types of our platform do not know yet
    .replace("-", "−");

/** The mark that a locale writes before the decimals. */
export const decimalMarkOf = (locale: string): DecimalMark =>
  numberFormat(locale, 1, 1)
    .formatToParts(0.5)
    .some((p) => p.type === "decimal" && p.value === ",")
    ? ","
    : ".";

export const showQuantity = (tenThousandths: number, locale = "en-GB") =>
  write(locale, decimalText(tenThousandths, 4), 0, 4);

export function showMoney(minor: number, currency: string, locale = "en-GB"): string {
  const digits = exponent(currency);
  return write(locale, decimalText(minor, digits), digits, digits);
}

/** An amount in whole main units, for headings where the cents do not matter. */
export const showRound = (minor: number, currency: string, locale = "en-GB") =>
  write(locale, decimalText(minor, exponent(currency)), 0, 0);

/** An amount in a word's width, for charts: 15.9k. */
export const showShort = (minor: number, currency: string, locale = "en-GB") =>
  new Intl.NumberFormat(locale, { notation: "compact" })
    .format(decimalText(minor, exponent(currency)) as unknown as number) // as text it is exact
    .replace("-", "−");

export function showPrice(millionths: number, currency: string, locale = "en-GB"): string {
  return write(locale, decimalText(millionths, 6), Math.max(2, exponent(currency)), 6);
}

export const showPercent = (basisPoints: number, locale = "en-GB") =>
  `${write(locale, decimalText(basisPoints, 2), 0, 2)} %`;

const SIGNS: Record<string, string> = { EUR: "€", GBP: "£", USD: "$", JPY: "¥" };
/** A sign people know, else the ISO code with a space. */
export const currencySign = (currency: string) => SIGNS[currency] ?? `${currency} `;
export const showAmount = (minor: number, currency: string, locale = "en-GB") =>
  minor < 0
    ? `−${currencySign(currency)}${showMoney(-minor, currency, locale)}`
    : currencySign(currency) + showMoney(minor, currency, locale);

const days = new Map<string, Intl.DateTimeFormat>();
/** "Fri 4 Dec", with the year where it is another one than `today`'s. */
export function showDay(day: Day | string, today: Day | string, locale = "en-GB", weekday = true): string {
  const year = day.slice(0, 4) !== today.slice(0, 4);
  const key = `${locale}/${year}/${weekday}`;
  let f = days.get(key);
  if (!f) {
    f = new Intl.DateTimeFormat(locale, {
      weekday: weekday ? "short" : undefined,
      day: "numeric",
      month: "short",
      year: year ? "numeric" : undefined,
      timeZone: "UTC",
    });
    days.set(key, f);
  }
  return f
    .format(new Date(`${day.slice(0, 10)}T00:00:00Z`))
    .replace(",", "")
    .replace("Sept", "Sep");
}

const clocks = new Map<string, Intl.DateTimeFormat>();
/** A moment, kept in UTC, as the day and the time of a zone: "2026-11-24 14:05". */
function inZone(moment: string, zone: string): string {
  let f = clocks.get(zone);
  if (!f) {
    f = new Intl.DateTimeFormat("sv-SE", { dateStyle: "short", timeStyle: "short", timeZone: zone });
    clocks.set(zone, f);
  }
  return f.format(new Date(moment));
}

/** "24 Nov 14:05", in the zone of the company. */
export function showMoment(moment: string, today: Day | string, locale = "en-GB", zone = "UTC"): string {
  const there = zone === "UTC" || moment.length < 16 ? moment : inZone(moment, zone);
  return `${showDay(there, today, locale, false)} ${there.slice(11, 16)}`;
}
