import { createContext, type ReactNode, useContext } from "react";
import type { Day } from "../../core/calendar/day";
import { toDay } from "../../core/calendar/day";
import type { PersonId } from "../../core/ids";
import {
  currencySign,
  showAmount,
  showDay,
  showMoment,
  showMoney,
  showPercent,
  showPrice,
  showQuantity,
  showRound,
  showShort,
} from "../../core/numbers/format";
import type { Figure } from "../../core/sums/sum";

interface House {
  locale: string;
  currency: string;
  today: Day;
  /** IANA name of the company's zone: moments are kept in UTC and shown there. */
  zone: string;
  /** Who is signed in: what a browser keeps of their work is theirs. */
  person: PersonId;
}
const Setting = createContext<House>({
  locale: "en-GB",
  currency: "EUR",
  today: toDay("2026-01-01"),
  zone: "UTC",
  person: 0,
});

/** How figures are written here: the locale, the home currency, and the day it is. */
export const WrittenAs = ({ value, children }: { value: House; children: ReactNode }) => (
  <Setting value={value}>{children}</Setting>
);

export function useWriting() {
  const { locale, currency, today, zone, person } = useContext(Setting);
  return {
    person,
    locale,
    home: currency,
    today,
    quantity: (q: number) => showQuantity(q, locale),
    money: (minor: number, cur = currency) => showMoney(minor, cur, locale),
    amount: (minor: number, cur = currency) => showAmount(minor, cur, locale),
    round: (minor: number, cur = currency) => showRound(minor, cur, locale),
    short: (minor: number, cur = currency) => showShort(minor, cur, locale),
    price: (millionths: number, cur = currency) => showPrice(millionths, cur, locale),
    percent: (bp: number) => showPercent(bp, locale),
    day: (day: string, weekday = true) => showDay(day, today, locale, weekday),
    moment: (at: string) => showMoment(at, today, locale, zone),
    figure(f: Figure): { text: string; unit: string } {
      switch (f.kind) {
        case "quantity":
          return { text: showQuantity(f.value, locale), unit: f.unit };
        case "money":
          return { text: showMoney(f.minor, f.currency, locale), unit: f.currency };
        case "price":
          return {
            text: `${currencySign(f.currency)}${showPrice(f.millionths, f.currency, locale)}`,
            unit: `/${f.per}`,
          };
        case "percent":
          return { text: showPercent(f.basisPoints, locale), unit: "" };
        case "day":
          return { text: showDay(f.day, today, locale), unit: "" };
        case "text":
          return { text: f.text, unit: "" };
      }
    },
  };
}
