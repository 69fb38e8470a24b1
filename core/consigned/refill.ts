import type { Day } from "../calendar/day";
import { quantity, type Sum } from "../sums/sum";

/** Where a refill stands. */
export type RefillState = "Asked" | "Promised" | "Part in" | "In" | "Given up";

/** Where a refill stands: by its lines, how many of them are open, and what was said. */
export const refillState = (f: {
  open: number;
  lines: number;
  ended: Day | null;
  promised: Day | null;
}): RefillState =>
  f.ended !== null && f.open === 0 && f.lines > 0
    ? "Given up"
    : f.open === 0
      ? "In"
      : f.open < f.lines
        ? "Part in"
        : f.promised
          ? "Promised"
          : "Asked";

/** Their goods of one item at one store, as a refill looks at it. Stock units. */
export interface ToRefill {
  least: number;
  most: number;
  /** A refill comes in whole packs of so many. */
  pack: number;
  here: number;
  /** Asked for and not here yet. */
  onItsWay: number;
}

/**
 * How much to ask for: nothing while what is here and on its way is at the least or above; below it, up to the most, in
 * whole packs that do not go above it, but at least one pack (domain-goods §13).
 */
export function refillOf(r: ToRefill): number {
  const coming = r.here + r.onItsWay;
  if (coming >= r.least) return 0;
  return Math.max(1, Math.floor((r.most - coming) / r.pack)) * r.pack;
}

/** The same with its sum. */
export function refillSum(r: ToRefill, unit: string): Sum {
  const ask = refillOf(r);
  const room = r.most - r.here - r.onItsWay;
  return {
    title: ask > 0 ? "Why so much is asked for" : "Why nothing is asked for",
    steps: [
      { op: "", label: "theirs, on our shelf", figure: quantity(r.here, unit) },
      { op: "+", label: "on its way", figure: quantity(r.onItsWay, unit) },
      { op: "=", label: "comes to", figure: quantity(r.here + r.onItsWay, unit) },
      { op: "·", label: "the least", figure: quantity(r.least, unit) },
      ...(ask > 0
        ? ([
            { op: "→", label: "up to the most", figure: quantity(room, unit) },
            ...(ask !== room ? [{ op: "→" as const, label: "in whole packs", figure: quantity(ask, unit) }] : []),
          ] as const)
        : []),
    ],
  };
}
