import { addDays, type Day, daysBetween, laterOf } from "../calendar/day";
import { afterLead, arrival, type Delivery, orderBy } from "../calendar/delivery";
import { Big, roundUpToInteger } from "../numbers/decimal";
import {
  type Factor,
  minus,
  multipleUp,
  ONE,
  type PurchaseQty,
  type StockQty,
  stock,
  toPurchase,
  wholeUp,
} from "../numbers/quantity";
import { onDay, quantity, type Step, type Sum, words } from "../sums/sum";
import { availability, counts, type Level, project, type Stir } from "./projection";

/** How much to buy once stock falls below the reorder point (domain §4). Quantities in stock units. */
export type Policy =
  | { kind: "top up"; level: StockQty }
  | { kind: "fixed lot"; lot: StockQty }
  | { kind: "larger of"; lot: StockQty }
  | { kind: "shortfall" }
  /** So many days at the mean use of the last thirty: what was used in all of them, so that nothing is rounded before it is multiplied. */
  | { kind: "days of cover"; days: number; used30: StockQty }
  | { kind: "to order" };

export interface Reordering {
  policy: Policy;
  reorderPoint: StockQty;
  /** A result above it is flagged, not cut. */
  maximum: StockQty | null;
  reviewDays: number;
}

/** How one supplier sells one item. */
export interface Packing {
  unit: string;
  factor: Factor;
  minimum: PurchaseQty;
  multiple: PurchaseQty;
  brokenPacks: boolean;
}

/** The first day on which stock falls short, and how low it still is once goods ordered today can be there. */
export interface Shortage {
  day: Day;
  lowest: Level;
}

export interface Purchase {
  wanted: StockQty;
  buy: PurchaseQty;
  steps: Step[];
}

export interface Timing {
  orderBy: Day | null;
  arrives: Day | null;
  /** Days after the day of need on which it would arrive if ordered today; 0 where it is in time. */
  lateBy: number;
}

export interface ReckonedReorder extends Timing {
  neededOn: Day;
  /** The day of the lowest projection that ordering can still help. */
  lowestOn: Day;
  /** The first day on which nothing is left for what is due, up to the arrival; null where the stock lasts. */
  runsOut: Day | null;
  /** Days without stock, if ordered today: below the reorder point is a warning, this is a loss. */
  missesBy: number;
  lowest: StockQty;
  wanted: StockQty;
  buy: PurchaseQty;
  aboveMaximum: boolean;
}
export interface Reorder extends ReckonedReorder {
  sum: Sum;
}

export interface StockPosition {
  onHand: StockQty;
  /** As `expect` returns them. */
  stirs: readonly Stir[];
  stockUnit: string;
  store: string;
  /** What suppliers have here, within what is on hand where it is counted. */
  theirs?: { quantity: StockQty; counted: boolean } | null;
  /** Where every movement behind the stock can be seen. */
  href?: string;
}

/** The reorder point that counts: what is bought to order alone has none. */
export const pointOf = (r: Pick<Reordering, "policy" | "reorderPoint">) =>
  r.policy.kind === "to order" ? stock(0) : r.reorderPoint;

/**
 * Looks for a day below (not at) the reorder point up to the last day. Days before `helps` are past helping: where what is
 * already on order brings stock back by then, buying again would only buy twice. Null where stock lasts or comes back.
 */
export function shortage(levels: readonly Level[], point: StockQty, lastDay: Day, helps: Day): Shortage | null {
  const first = levels.find((l) => l.day <= lastDay && l.available < point);
  if (!first) return null;
  let lowest = levels[0]!;
  for (const level of levels) {
    if (level.day <= helps) lowest = { day: helps, available: level.available };
    else if (level.available < lowest.available) lowest = level;
  }
  return lowest.available < point ? { day: first.day, lowest } : null;
}

/** Quantity in stock units by policy, from the lowest projection A; null where the policy asks for nothing. */
export function wantedBy(
  policy: Policy,
  reorderPoint: StockQty,
  lowest: StockQty,
): { wanted: StockQty; why: string } | null {
  const short = minus(reorderPoint, lowest);
  switch (policy.kind) {
    case "top up":
      return { wanted: minus(policy.level, lowest), why: "up to the usual level" };
    case "fixed lot":
      return { wanted: stock(Math.max(1, Math.ceil(short / policy.lot)) * policy.lot), why: "in whole usual lots" };
    case "larger of":
      return policy.lot >= short
        ? { wanted: policy.lot, why: "usual lot is larger" }
        : { wanted: short, why: "shortfall is larger than the usual lot" };
    case "shortfall":
      return { wanted: short, why: "just the shortfall" };
    case "days of cover": {
      const cover = roundUpToInteger(new Big(policy.used30).times(policy.days).div(30));
      return { wanted: stock(cover - lowest), why: `${policy.days} days of cover` };
    }
    case "to order":
      return lowest < 0 ? { wanted: stock(-lowest), why: "just what is lacking" } : null;
  }
}

/** Stock units into purchase units: whole units, minimum, multiple. Each rounding that changes something is a step. */
export function toBuy(wanted: StockQty, packing: Packing, stockUnit: string): { buy: PurchaseQty; steps: Step[] } {
  const steps: Step[] = [];
  let buy = toPurchase(wanted, packing.factor);
  if (packing.factor !== ONE || packing.unit !== stockUnit) {
    steps.push({ op: "÷", label: `${stockUnit} in one ${packing.unit}`, figure: quantity(packing.factor, stockUnit) });
    const whole = buy * packing.factor === wanted * ONE;
    const label = whole ? "in purchase units" : "in purchase units, up to the next ten-thousandth";
    steps.push({ op: whole ? "=" : "→", label, figure: quantity(buy, packing.unit) });
  }
  const round = (next: PurchaseQty, label: string) => {
    if (next !== buy) steps.push({ op: "→", label, figure: quantity(next, packing.unit) });
    buy = next;
  };
  if (!packing.brokenPacks) round(wholeUp(buy), "up to whole units");
  if (buy < packing.minimum) round(packing.minimum, "up to the least they sell");
  round(multipleUp(buy, packing.multiple), `up to a multiple of ${packing.multiple / ONE}`);
  return { buy, steps };
}

/** When to order for a day of need, and how late it would be if ordered today (domain §4). */
export function timing(needed: Day, today: Day, way: Delivery): Timing {
  const by = orderBy(needed, way);
  const arrives = arrival(today, way);
  const lateBy = arrives !== null && arrives > needed ? daysBetween(needed, arrives) : 0;
  return { orderBy: by, arrives, lateBy };
}

/**
 * The last day that one looks at (domain §4): the day on which goods ordered at the next review would be there; and at least
 * the last day that goods ordered tomorrow would come too late for, so that a need is seen on its last day to order.
 */
export function spanEnd(today: Day, reviewDays: number, way: Delivery): Day {
  const review = addDays(today, reviewDays);
  const there = arrival(review, way);
  if (there === null) return afterLead(review, way);
  return laterOf(there, addDays(arrival(addDays(today, 1), way)!, -1));
}

/** The figures of `reorder` without their sum: planning works out thousands, and people look at a few. */
export function reckon(
  position: StockPosition,
  reordering: Reordering,
  packing: Packing,
  way: Delivery,
  today: Day,
  countOnOrder = true,
): ReckonedReorder | null {
  const lastDay = spanEnd(today, reordering.reviewDays, way);
  const arrives = arrival(today, way);
  const helps = arrives ?? today;
  const point = pointOf(reordering);
  const levels = project(position.onHand, position.stirs, today, laterOf(lastDay, helps), countOnOrder);
  const short = shortage(levels, point, lastDay, helps);
  if (!short) return null;
  const lowest = short.lowest.available;
  const by = wantedBy(reordering.policy, point, lowest);
  if (!by || by.wanted <= 0) return null;
  const runsOut = levels.find((l) => l.available < 0)?.day ?? null;
  return {
    neededOn: short.day,
    lowestOn: short.lowest.day,
    lowest,
    wanted: by.wanted,
    buy: toBuy(by.wanted, packing, position.stockUnit).buy,
    aboveMaximum: reordering.maximum !== null && lowest + by.wanted > reordering.maximum,
    orderBy: orderBy(short.day, way),
    arrives,
    lateBy: arrives !== null && arrives > short.day ? daysBetween(short.day, arrives) : 0,
    runsOut,
    missesBy: runsOut && arrives && arrives > runsOut ? daysBetween(runsOut, arrives) : 0,
  };
}

/**
 * How much to buy so that the projection stays at or above the reorder point, when, and why. Null where nothing is
 * needed within lead time + review days.
 */
export function reorder(
  position: StockPosition,
  reordering: Reordering,
  packing: Packing,
  way: Delivery,
  today: Day,
  countOnOrder = true,
): Reorder | null {
  const found = reckon(position, reordering, packing, way, today, countOnOrder);
  if (!found) return null;
  const unit = position.stockUnit;
  const point = pointOf(reordering);
  const steps: Step[] = [
    ...availableSteps(position, found.lowestOn, countOnOrder),
    {
      op: "·",
      label: `short of reorder point ${plain(point)}`,
      figure: quantity(Math.max(0, point - found.lowest), unit),
    },
    {
      op: "→",
      label: wantedBy(reordering.policy, point, found.lowest)!.why,
      figure: quantity(found.wanted, unit),
    },
    ...toBuy(found.wanted, packing, unit).steps,
  ];
  if (found.aboveMaximum) {
    steps.push({
      op: "·",
      label: "goes above the most this store should hold",
      figure: quantity(reordering.maximum!, unit),
    });
  }
  return { ...found, sum: { title: "Why this much", steps } };
}

/** On hand − committed + on order = available, line by line with the papers behind each. */
export function availableSteps(position: StockPosition, upTo: Day, countOnOrder = true): Step[] {
  const unit = position.stockUnit;
  const steps: Step[] = [
    { op: "", label: `on hand, ${position.store}`, figure: quantity(position.onHand, unit), href: position.href },
  ];
  if (position.theirs)
    steps.push({
      op: "·",
      label: position.theirs.counted ? "of it suppliers’, on our shelf" : "and suppliers’ on our shelf, not counted",
      figure: quantity(position.theirs.quantity, unit),
    });
  let supply = 0;
  for (const s of position.stirs) {
    if (s.day > upTo) continue;
    if (s.quantity > 0) {
      supply++;
      if (!counts(s, countOnOrder)) continue;
    }
    const sign = s.quantity < 0 ? "−" : "+";
    const label = s.doubtful ? `${s.label}, overdue` : s.label;
    steps.push({ op: sign, label, figure: quantity(Math.abs(s.quantity), unit), href: s.href });
  }
  if (supply === 0) steps.push({ op: "+", label: "on order", figure: quantity(0, unit) });
  const { available } = availability(position.onHand, position.stirs, upTo, countOnOrder);
  steps.push({ op: "=", label: "available", figure: quantity(available, unit) });
  steps.push({ op: "·", label: "lowest once it can be there", figure: onDay(upTo) });
  return steps;
}

/** What was asked for, turned into what can be bought. */
export function asAsked(
  asked: StockQty,
  packing: Packing,
  stockUnit: string,
  needed: Day,
  today: Day,
  way: Delivery,
  because: string,
  href?: string,
): Purchase & Timing & { sum: Sum } {
  const bought = toBuy(asked, packing, stockUnit);
  const steps: Step[] = [
    { op: "", label: because, figure: quantity(asked, stockUnit), href },
    ...bought.steps,
    { op: "·", label: "needed on", figure: onDay(needed) },
  ];
  if (bought.steps.length === 0) steps.push({ op: "·", label: "sold in the same unit", figure: words(packing.unit) });
  return { wanted: asked, ...bought, ...timing(needed, today, way), sum: { title: "Why this much", steps } };
}

const plain = (q: StockQty) => (q / ONE).toLocaleString("en-GB", { maximumFractionDigits: 4 });
