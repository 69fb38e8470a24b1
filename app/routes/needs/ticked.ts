import type { Ticked } from "../../../server/queries/needs/needs";

/** So many needs are written at once. */
export const MOST_WRITTEN = 2_000;

export interface TickedSum {
  orders: number;
  suppliers: number;
  /** Net, home currency, minor units, of those that have a price. */
  home: number;
  unpriced: number;
  late: number;
  unsupplied: number;
  /** Those that lie on a bench already. */
  lying: readonly Ticked[];
  /** A quantity cannot be read. */
  wrong: boolean;
}

/** What the ticked needs come to; an order is written for each supplier and store. */
export const sumOfTicked = (ticked: readonly Ticked[]): TickedSum => ({
  orders: new Set(ticked.map((t) => `${t.supplier}/${t.store}`)).size,
  suppliers: new Set(ticked.map((t) => t.supplier)).size,
  home: ticked.reduce((a, t) => a + (t.home ?? 0), 0),
  unpriced: ticked.filter((t) => t.home === null).length,
  late: ticked.filter((t) => t.missesBy > 0).length,
  unsupplied: ticked.filter((t) => t.supplier === null).length,
  lying: ticked.filter((t) => t.bench !== null),
  wrong: ticked.some((t) => !t.ok),
});

/** Why the ticked needs cannot be written as they stand; null where they can. */
export function whyNotWritten(sum: Pick<TickedSum, "wrong" | "unsupplied">, ticked: number): string | null {
  if (sum.wrong) return "A quantity is not a number above zero.";
  if (sum.unsupplied > 0)
    return `${sum.unsupplied} of the ticked needs ${sum.unsupplied === 1 ? "has" : "have"} no supplier yet.`;
  return ticked > MOST_WRITTEN ? "At most 2,000 needs can be written at once." : null;
}
