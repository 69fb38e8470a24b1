import { Big, roundToInteger } from "../numbers/decimal";
import { ONE } from "../numbers/quantity";
import { percent, quantity, type Step, type Sum } from "../sums/sum";

/** Receipts that count: of this item where there are so many, else of all items of the supplier; fewer say nothing. */
const OF_ITEM = 8;
const LEAST = 5;

/** How many days after the promise goods came, for each past receipt of a supplier; before it is below nought. */
export interface Past {
  item: readonly number[];
  all: readonly number[];
}

/** What is known of a supplier's days: of how many receipts, and of which. */
export type KnownDays = { of: "item" | "supplier"; days: readonly number[] };

/** The receipts that a chance is counted from; null where there are too few to say anything. */
export function knownDays({ item, all }: Past): KnownDays | null {
  if (item.length >= OF_ITEM) return { of: "item", days: item };
  return all.length >= LEAST ? { of: "supplier", days: all } : null;
}

export interface Chance {
  /** Of the receipts that came later than today stands now, so many came by the day; */
  k: number;
  /** of so many. */
  n: number;
  /** Hundredths of a percent: (k + ½) ÷ (n + 1), the estimate that is never 0 nor 1. */
  basisPoints: number;
}

/**
 * The chance that goods are here by a day that lies `by` days after the promise, where today is `now` days after it and they
 * are not here. They cannot be here by a day that has passed: a `by` before `now` is taken for `now`.
 */
export function chanceOf(days: readonly number[], now: number, by: number): Chance {
  const until = Math.max(now, by);
  const open = days.filter((d) => d > now);
  const k = open.filter((d) => d <= until).length;
  const n = open.length;
  return { k, n, basisPoints: roundToInteger(new Big(20_000 * k + 10_000).div(2 * n + 2)) };
}

/** A chance as it is shown, in whole percents: an estimate that is never none nor certain does not read so either. */
export const shownChance = (basisPoints: number): number =>
  Math.min(9_900, Math.max(100, Math.round(basisPoints / 100) * 100));

/** How the chance comes about; `words` says of what receipts, and until when. */
export const chanceSum = (
  { k, n, basisPoints }: Chance,
  title: string,
  words: { came: string; open: string },
): Sum => ({
  title,
  steps: [
    { op: "", label: words.came, figure: quantity(k * ONE, "") },
    { op: "+", label: "half a one, for what was never seen", figure: quantity(ONE / 2, "") },
    { op: "÷", label: `${words.open}, and one`, figure: quantity((n + 1) * ONE, "") },
    { op: "=", label: "chance to be in time", figure: percent(basisPoints) },
  ],
});

/** The chance that everything is there: each line by itself, taken as independent of the others. */
export const chanceOfAll = (chances: readonly Chance[]): number =>
  roundToInteger(chances.reduce((p, { k, n }) => p.times(2 * k + 1).div(2 * n + 2), new Big(10_000)));

/** A load that is awaited: what, from whom and for when, and its chance. */
export interface AwaitedLoad extends Chance {
  what: string;
}

/** The sum behind a product of chances: each by how it was counted, so that nothing is rounded on the way. */
export const waitSum = (title: string, loads: readonly AwaitedLoad[]): Sum => ({
  title,
  steps: [
    { op: "", label: "certain", figure: percent(10_000) },
    ...loads.flatMap(({ what, k, n }): Step[] => [
      { op: "×", label: `${what}: in by the day, and half a one`, figure: quantity(k * ONE + ONE / 2, "") },
      { op: "÷", label: "still out at this point, and one", figure: quantity((n + 1) * ONE, "") },
    ]),
    { op: "=", label: "chance to be in time", figure: percent(chanceOfAll(loads)) },
  ],
});

/** How likely what somebody waits for is here on their day. */
export interface WaitChance {
  /** One for each load that is awaited, taken as independent of each other; null where of one too little is known. */
  loads: AwaitedLoad[] | null;
  /** Hundredths of a percent; null where it cannot be known, or some of it is on no placed order. */
  basisPoints: number | null;
}

/** The chance that a whole job has everything on its day, and the line that decides it; null where nothing is awaited. */
export function chanceOfJob<L extends { chance: WaitChance | null }>(
  lines: readonly L[],
): { basisPoints: number | null; loads: AwaitedLoad[]; decides: L } | null {
  const waits = lines.filter((l) => l.chance !== null);
  if (waits.length === 0) return null;
  const least = [...waits].sort((a, b) => (a.chance!.basisPoints ?? -1) - (b.chance!.basisPoints ?? -1))[0]!;
  const loads = waits.flatMap((l) => (l.chance!.basisPoints === null ? [null] : l.chance!.loads!));
  const known = loads.filter((c) => c !== null);
  return { basisPoints: known.length === loads.length ? chanceOfAll(known) : null, loads: known, decides: least };
}
