import type { Day } from "../calendar/day";
import { inOrder } from "../text";

/** Goods of an item that lie in a bin, of a lot or of none. Stock units. */
export interface Lying {
  bin: string;
  lot: number | null;
  quantity: number;
  expires: Day | null;
  /** Its lot is neither held nor expired. */
  usable: boolean;
}

export interface Picked {
  bin: string;
  lot: number | null;
  quantity: number;
}

/**
 * What may be taken: what is usable alone; any of it, held and expired lots last; or, where a count found less and nobody
 * knows of which lot, what has no lot before all others.
 */
export type PickFrom = "usable" | "any" | "no lot first";

const ofNoLot = (l: Lying) => Number(l.lot === null);

/** The order in which goods are taken: what expires first, then lots that keep for ever, then what has no lot; bins by name. */
const before = (from: PickFrom) => (a: Lying, b: Lying) =>
  Number(b.usable) - Number(a.usable) ||
  (from === "no lot first" ? ofNoLot(b) - ofNoLot(a) : ofNoLot(a) - ofNoLot(b)) ||
  inOrder(a.expires ?? "9", b.expires ?? "9") ||
  (a.lot ?? 0) - (b.lot ?? 0) ||
  inOrder(a.bin, b.bin);

/** From where so much is taken: first expired, first out. Null where there is not enough. */
export function pickFrom(lying: readonly Lying[], quantity: number, from: PickFrom = "usable"): Picked[] | null {
  const picked: Picked[] = [];
  let left = quantity;
  for (const l of lying.filter((x) => (x.usable || from !== "usable") && x.quantity > 0).sort(before(from))) {
    if (left <= 0) break;
    const part = Math.min(left, l.quantity);
    picked.push({ bin: l.bin, lot: l.lot, quantity: part });
    left -= part;
  }
  return left > 0 ? null : picked;
}
