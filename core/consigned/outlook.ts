import { addDays, type Day, daysBetween } from "../calendar/day";
import { suggestPoint } from "../needs/safety";
import { Big, roundToInteger } from "../numbers/decimal";
import { exponent, lineNet, type UnitPrice } from "../numbers/money";
import { ONE, stock } from "../numbers/quantity";
import { amount, onDay, percent, quantity, type Sum } from "../sums/sum";
import { byAge, type Layer } from "./layers";

/** So many days the use is looked at, and asked for when there is not enough time. */
export const LOOKED_AT = 30;

/** What of a delivery will not be used before it becomes ours, at what is used now. */
export interface Ripening {
  layer: number;
  day: Day;
  oursOn: Day;
  left: number;
  /** Used by then, after the deliveries before it. */
  usedByThen: number;
  /** What becomes ours. */
  becomes: number;
}

/**
 * What will become ours on which day, at the use of the last thirty days: whole units, the oldest delivery used first.
 * Stock units.
 */
export function ripening(layers: readonly Layer[], used30: number, today: Day): Ripening[] {
  let before = 0;
  const found: Ripening[] = [];
  for (const l of layers.toSorted(byAge)) {
    if (l.oursOn === null) continue;
    const days = Math.max(0, daysBetween(today, l.oursOn));
    const use = Math.floor((used30 * days) / LOOKED_AT / ONE) * ONE;
    const usedByThen = Math.min(l.left, Math.max(0, use - before));
    found.push({ layer: l.id, day: l.day, oursOn: l.oursOn, left: l.left, usedByThen, becomes: l.left - usedByThen });
    before += usedByThen;
  }
  return found;
}

/** A way out of what would become ours; money in minor units of the agreement's currency. */
export type WayKind = "let" | "ask" | "send back";
export interface RipeWay {
  kind: WayKind;
  quantity: number;
  cost: number;
}

/**
 * The ways out of a delivery that becomes ours: let it, ask for more days, or send back what will not be used. Proposed is to
 * ask, unless they said no last time, or were asked already: then to send the rest back; where all is used in time, to let it.
 */
export function waysOf(
  r: Ripening,
  price: UnitPrice,
  currency: string,
  asked: "never" | "waits" | "yes" | "no",
): { ways: RipeWay[]; proposed: WayKind } {
  const cost = (q: number) => lineNet(q, price, 0, 0, currency).minor;
  const ways: RipeWay[] = [
    { kind: "let", quantity: r.becomes, cost: cost(r.becomes) },
    ...(asked === "waits" ? [] : [{ kind: "ask" as const, quantity: r.left, cost: 0 }]),
    ...(r.becomes > 0 ? [{ kind: "send back" as const, quantity: r.becomes, cost: -cost(r.becomes) }] : []),
  ];
  const proposed: WayKind = r.becomes === 0 ? "let" : asked === "no" || asked === "waits" ? "send back" : "ask";
  return { ways, proposed };
}

/** Days of use, and how long refills took. */
export interface Measures {
  daily: { mean: number; deviation: number };
  refill: { mean: number; deviation: number };
  serviceLevel: number;
}

/** Are least and most right? */
export interface LeastMost {
  least: number;
  /** So much is used before it becomes ours; null where it never does by its age, or nothing is used. */
  most: number | null;
  /** How many days the least that is set lasts; null where nothing is used. */
  lasts: number | null;
  sum: Sum;
}

/**
 * The least that keeps the wished service level by use and refill times, as for a reorder point (domain §4); and the most
 * that is used before it becomes ours. Stock units.
 */
export function rightLeastMost(
  set: { least: number; most: number; oursAfter: number | null },
  m: Measures,
  unit: string,
  whole: boolean,
): LeastMost {
  const { point, sum } = suggestPoint(m.daily, m.refill, m.serviceLevel, stock(set.least), unit, whole);
  const uses = m.daily.mean > 0;
  const most = uses && set.oursAfter !== null ? Math.floor(m.daily.mean * set.oursAfter) * ONE : null;
  return {
    least: point,
    most,
    lasts: uses ? Math.floor(set.least / ONE / m.daily.mean) : null,
    sum: {
      ...sum,
      title: "Is the least right?",
      steps: sum.steps.map((s) => (s.label === "reorder point" ? { ...s, label: "the least" } : s)),
    },
  };
}

/**
 * What it would have cost to own their goods instead: what lay here, day by day, at its price, times what a year of holding
 * costs. `days` are unit-days (ten-thousandths of a stock unit × days). Minor units.
 */
export function holdingSaved(
  unitDays: number,
  price: UnitPrice,
  ratePerYear: number,
  currency: string,
): { saved: number; mean: number } {
  const value = new Big(unitDays)
    .div(ONE)
    .times(price)
    .div(1_000_000)
    .times(10 ** exponent(currency));
  return {
    saved: roundToInteger(value.times(ratePerYear).div(10_000).div(365)),
    mean: roundToInteger(value.div(365)),
  };
}

/** The same with its sum. */
export function holdingSum(
  of: { unitDays: number; days: number; price: UnitPrice; rate: number; since: Day },
  unit: string,
  currency: string,
): Sum {
  const { saved } = holdingSaved(of.unitDays, of.price, of.rate, currency);
  const mean = roundToInteger(new Big(of.unitDays).div(Math.max(1, of.days)));
  const worth = lineNet(mean, of.price, 0, 0, currency).minor;
  return {
    title: "What it would have cost to own it",
    steps: [
      { op: "", label: `theirs here on average, ${of.days} days`, figure: quantity(mean, unit) },
      { op: "·", label: "since", figure: onDay(of.since) },
      { op: "=", label: "worth at today’s price", figure: amount(worth, currency) },
      { op: "×", label: "holding it for a year costs", figure: percent(of.rate) },
      { op: "=", label: `for ${of.days} days`, figure: amount(saved, currency) },
    ],
  };
}

/** The days of a span, from a year before today at the earliest. */
export const yearBack = (today: Day): Day => addDays(today, -364);
