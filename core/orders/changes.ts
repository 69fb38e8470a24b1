import type { Day } from "../calendar/day";
import type { ItemId, OrderLineId, SourcingId, StoreId } from "../ids";
import type { BasisPoints, UnitPrice } from "../numbers/money";
import type { PriceSource } from "../pricing/price";
import { type SaidPart, type TakenRow, takenSchedule } from "../suppliers/answer";
import type { LineKind, Spread } from "./kinds";
import { expectedOn, openOf, type Scheduled } from "./schedule";

/** What we ask to be different of a line that its supplier has. What is null stays. */
export interface LineChange {
  line: OrderLineId;
  /** What was still to come of it when it was asked: of what came since, the earliest is taken off. */
  open: number;
  /** All that is still to come, in its parts; none at all where nothing more of it is wanted. */
  parts: readonly SaidPart[] | null;
  price: UnitPrice | null;
  /** Another store that it is to come to; the needs behind it at the one before are open again. */
  store: StoreId | null;
}

/** A line that we ask for besides, as it stands on the order from then on. */
export interface AddedToPlaced {
  kind: LineKind;
  item: ItemId | null;
  sourcing: SourcingId | null;
  words: string;
  theirCode: string;
  unit: string;
  factor: number;
  /** Purchase units. */
  quantity: number;
  price: UnitPrice;
  source: PriceSource;
  standing: BasisPoints;
  discount: BasisPoints;
  taxRate: BasisPoints;
  note: string;
  required: Day;
  /** How the cost of a charge counts. */
  spread: Spread;
}

/**
 * A line's schedule once we ask for something else of what is still to come. What is promised for a day that stays keeps its
 * promise; everything else is asked for on its day, and promised by nobody yet.
 */
export function changedSchedule(schedule: readonly Scheduled[], parts: readonly SaidPart[]): TakenRow[] {
  const stands = (day: Day) => schedule.find((s) => openOf(s) > 0 && expectedOn(s) === day);
  return takenSchedule(schedule, parts).map((row) => {
    if (openOf(row) === 0 || row.promised === null) return row;
    const same = stands(row.promised);
    return { ...row, required: same?.required ?? row.promised, promised: same?.promised ?? null };
  });
}
