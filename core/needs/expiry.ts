import { type Day, laterOf } from "../calendar/day";
import type { Stir } from "./projection";

/** A lot on the shelf, and the last day on which it may be used. */
export interface Lot {
  lot: string;
  until: Day;
  quantity: number;
}

/**
 * What is left of each lot after its last day, and lost: what is asked for until then takes of the lots that expire first. Goods
 * that come meanwhile are not among them. Lots of which nothing is left are left out.
 */
export function expiries(
  lots: readonly Lot[],
  stirs: readonly Stir[],
  from: Day,
): { lot: string; until: Day; lost: number }[] {
  const left = [...lots]
    .sort((a, b) => (a.until < b.until ? -1 : a.until > b.until ? 1 : 0))
    .map((l) => ({ ...l, lost: l.quantity }));
  const demand = stirs
    .filter((s) => s.quantity < 0)
    .map((s) => ({ day: laterOf(s.day, from), quantity: -s.quantity }))
    .sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : 0));
  for (const d of demand) {
    let open = d.quantity;
    for (const l of left) {
      if (l.until < d.day) continue;
      const part = Math.min(open, l.lost);
      l.lost -= part;
      open -= part;
      if (open === 0) break;
    }
  }
  return left.filter((l) => l.lost > 0).map(({ lot, until, lost }) => ({ lot, until, lost }));
}
