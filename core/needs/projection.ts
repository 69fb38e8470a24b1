import { type Day, laterOf } from "../calendar/day";
import type { SupplierId } from "../ids";
import { type StockQty, stock } from "../numbers/quantity";

/** With whom goods are on order, and the day they promised, or were asked for. */
export interface OrderedFrom {
  supplier: SupplierId;
  promised: Day;
}

/** Something that moves stock on a day to come: demand takes, an open order brings. */
export interface Stir {
  day: Day;
  /** Below zero for demand, above zero for supply. */
  quantity: StockQty;
  kind: "demand" | "order" | "being written" | "output" | "transfer" | "expiry";
  label: string;
  href?: string;
  /** Of what its supplier has the order of. */
  from?: OrderedFrom;
  /** The promised day has passed; it is expected today and may well not come. */
  doubtful: boolean;
}

/** Stock at the end of a day: available(t) of domain §3. */
export interface Level {
  day: Day;
  available: StockQty;
}

export interface Availability {
  onHand: StockQty;
  committed: StockQty;
  onOrder: StockQty;
  available: StockQty;
}

/**
 * Overdue demand is due, and overdue promises are expected, on the day of the plan (domain §3); doubtful is what is
 * overdue already today. Sorted by day.
 */
export function expect(stirs: readonly Stir[], day: Day, today: Day = day): Stir[] {
  return stirs
    .map((s) => (s.day < day ? { ...s, day, doubtful: s.quantity > 0 && s.day < today } : s))
    .sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : 0));
}

/** The company's setting leaves what is on order with suppliers out; transfers and what jobs give back still count. */
export const counts = (s: Stir, countOnOrder: boolean) =>
  countOnOrder || s.quantity < 0 || (s.kind !== "order" && s.kind !== "being written");

/** On hand (less what has expired), committed, on order and available up to and with that day. `countOnOrder` is the company's setting. */
export function availability(onHand: StockQty, stirs: readonly Stir[], upTo: Day, countOnOrder = true): Availability {
  let committed = 0;
  let onOrder = 0;
  let available: number = onHand;
  let lost = 0;
  for (const s of stirs) {
    if (s.day > upTo) continue;
    if (s.kind === "expiry") lost -= s.quantity;
    else if (s.quantity < 0) committed -= s.quantity;
    else onOrder += s.quantity;
    if (counts(s, countOnOrder)) available += s.quantity;
  }
  return {
    onHand: stock(onHand - lost),
    committed: stock(committed),
    onOrder: stock(onOrder),
    available: stock(available),
  };
}

/**
 * The step line of available stock from today to the last day: one level for today and one for each day on which it
 * changes. Between two levels it stays.
 */
export function project(onHand: StockQty, stirs: readonly Stir[], today: Day, last: Day, countOnOrder = true): Level[] {
  const levels: Level[] = [{ day: today, available: onHand }];
  for (const s of stirs) {
    const day = laterOf(s.day, today);
    if (day > last) break;
    if (!counts(s, countOnOrder)) continue;
    const top = levels[levels.length - 1]!;
    const available = stock(top.available + s.quantity);
    if (top.day === day) top.available = available;
    else levels.push({ day, available });
  }
  return levels;
}
