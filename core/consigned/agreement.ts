import { addDays, type Day } from "../calendar/day";
import type { UnitPrice } from "../numbers/money";

/** Where an agreement stands. A draft of a next version is *Taken in* once it binds; the agreement itself goes on as it was. */
export const AGREEMENT_STATES = ["Draft", "In sign-off", "Running", "Ended", "Taken in"] as const;
export type AgreementState = (typeof AGREEMENT_STATES)[number];

/** Whose goods a use takes first. */
export const FIRST = ["theirs", "ours"] as const;
export type First = (typeof FIRST)[number];

/** How often it is settled. */
export const SETTLES = ["use", "week", "month"] as const;
export type Settles = (typeof SETTLES)[number];
export const SETTLES_WORDS: Record<Settles, string> = { use: "each use", week: "weekly", month: "monthly" };

/** Who bears what is lost of it. */
export const BEARS = ["us", "them"] as const;
export type Bears = (typeof BEARS)[number];

/** What of the store is for their goods alone. */
export const PLACES = ["", "bins", "store"] as const;
export type TheirPlace = (typeof PLACES)[number];

/** What an agreement says, but for its items. */
export interface AgreementTerms {
  starts: Day;
  ends: Day;
  /** Days from registering until what is left becomes ours; null: at use alone. */
  oursAfter: number | null;
  first: First;
  settles: Settles;
  bears: Bears;
}

/** A price and the day from which it holds; per stock unit, in the agreement's currency. */
export interface DatedPrice {
  day: Day;
  price: UnitPrice;
}

/** The price of a day: the last that began by then; null where none had. */
export const priceOn = (prices: readonly DatedPrice[], day: Day): UnitPrice | null =>
  prices.reduce<DatedPrice | null>((a, p) => (p.day <= day && (a === null || p.day > a.day) ? p : a), null)?.price ??
  null;

/** The day on which what is registered now becomes ours (domain-goods §13); null: at use alone. */
export const oursOn = (registered: Day, after: number | null): Day | null =>
  after === null ? null : addDays(registered, after);

/** "at use", "at use, or after 90 days". */
export const passesWords = (after: number | null): string =>
  after === null ? "ours at use" : `ours at use or after ${after} ${after === 1 ? "day" : "days"}`;

/** Does an agreement hold on a day? */
export const holdsOn = (a: Pick<AgreementTerms, "starts" | "ends"> & { ended: Day | null }, day: Day): boolean =>
  a.starts <= day && day <= a.ends && (a.ended === null || day <= a.ended);

/** Why nothing is registered, used or asked for under an agreement on a day; null where it may be. */
export function notOn(
  a: Pick<AgreementTerms, "starts" | "ends"> & { name: string; ended: Day | null; state: AgreementState },
  day: Day,
  shown: (day: Day) => string,
): string | null {
  if (a.state === "Draft" || a.state === "In sign-off") return `${a.name} is not signed yet.`;
  if (day < a.starts) return `${a.name} begins on ${shown(a.starts)}.`;
  const last = a.ended !== null && a.ended < a.ends ? a.ended : a.ends;
  if (day > last || a.state === "Ended")
    return `${a.name} ended on ${shown(last)}: what is left is bought or sent back.`;
  return null;
}

/** Two agreements for one item in one store at one time do not go with one supplier: nobody could say which price holds. */
export const overlap = (
  a: Pick<AgreementTerms, "starts" | "ends">,
  b: Pick<AgreementTerms, "starts" | "ends">,
): boolean => a.starts <= b.ends && b.starts <= a.ends;
