import type { Day } from "../calendar/day";
import { inOrder } from "../text";

/** What came of their goods at once, of one item and lot, and what is left of it. Stock units. */
export interface Layer {
  id: number;
  day: Day;
  lot: number | null;
  left: number;
  /** The day on which what is left becomes ours; null: at use alone. */
  oursOn: Day | null;
}

export interface LayerPart {
  layer: number;
  lot: number | null;
  quantity: number;
}

/** The order in which their goods are used: what was registered first. */
export const byAge = (a: Pick<Layer, "day" | "id">, b: Pick<Layer, "day" | "id">): number =>
  inOrder(a.day, b.day) || a.id - b.id;

/** What so much takes of the layers, the oldest registered first (domain-goods §13). Null where there is not enough. */
export function takeOldest(layers: readonly Layer[], quantity: number): LayerPart[] | null {
  const taken: LayerPart[] = [];
  let rest = quantity;
  for (const l of layers.toSorted(byAge)) {
    if (rest <= 0) break;
    const part = Math.min(rest, l.left);
    if (part > 0) taken.push({ layer: l.id, lot: l.lot, quantity: part });
    rest -= part;
  }
  return rest > 0 ? null : taken;
}

/** Gives so much back to where it was taken from, what was taken last first: each layer is as old as it was. */
export function giveBackParts(taken: readonly LayerPart[], quantity: number): LayerPart[] {
  const back: LayerPart[] = [];
  let rest = quantity;
  for (const t of taken.toReversed()) {
    const part = Math.min(rest, t.quantity);
    if (part > 0) back.push({ ...t, quantity: part });
    rest -= part;
  }
  return back;
}

/** What is taken of each lot, in the order in which it was taken. */
export function byLot(taken: readonly LayerPart[]): { lot: number | null; quantity: number; taken: LayerPart[] }[] {
  const lots = new Map<number | null, LayerPart[]>();
  for (const t of taken) lots.set(t.lot, [...(lots.get(t.lot) ?? []), t]);
  return [...lots].map(([lot, of]) => ({ lot, quantity: of.reduce((a, t) => a + t.quantity, 0), taken: of }));
}
