import { quantityText } from "../numbers/quantity";
import { quantity, type Step, type Sum } from "../sums/sum";

/** Where a count of the stock stands: being counted; all of it counted; its differences booked; dropped without a trace in stock. */
export const COUNT_STATES = ["Open", "Counted", "Booked", "Dropped"] as const;
export type CountState = (typeof COUNT_STATES)[number];

/** What is decided of a difference: it becomes stock, is counted again, or stays as the books say. */
export const VERDICTS = ["book", "again", "leave"] as const;
export type CountVerdict = (typeof VERDICTS)[number];

/** A line of a count. Stock units. */
export interface CountedPlace {
  /** What lay there by the books when the list was made, and when it was counted. */
  expected: number;
  lay: number | null;
  counted: number | null;
  verdict: CountVerdict | "";
}

/** More was found above zero, less below; null where nothing was counted. Goods that moved before it was counted are no difference. */
export const differenceOf = (l: Pick<CountedPlace, "lay" | "counted">): number | null =>
  l.counted === null || l.lay === null ? null : l.counted - l.lay;

/** A difference in words. */
export function countWords(difference: number | null): string {
  if (difference === null) return "not counted yet";
  if (difference === 0) return "as it should be";
  return `${quantityText(Math.abs(difference))} ${difference > 0 ? "more" : "missing"}`;
}

/** How a difference comes about. */
export function countSum(l: CountedPlace, unit: string): Sum | null {
  const difference = differenceOf(l);
  if (difference === null || l.lay === null || l.counted === null) return null;
  const of = (n: number) => quantity(n, unit);
  const moved = l.lay - l.expected;
  const since: Step[] = moved
    ? [
        { op: "", label: "lay there when the list was made", figure: of(l.expected) },
        { op: moved > 0 ? "+" : "−", label: `${moved > 0 ? "came" : "went"} since`, figure: of(Math.abs(moved)) },
        { op: "=", label: "lay there when it was counted", figure: of(l.lay) },
        { op: "→", label: "counted", figure: of(l.counted) },
        { op: "−", label: "by the books", figure: of(l.lay) },
      ]
    : [
        { op: "", label: "counted", figure: of(l.counted) },
        { op: "−", label: "lay there by the books", figure: of(l.lay) },
      ];
  return {
    title: "How the count differs",
    steps: [...since, { op: "=", label: difference < 0 ? "missing" : "more", figure: of(difference) }],
  };
}

/** What a count comes to as it stands: lines counted, left, that differ, and whose difference nobody has decided about. */
export function countStanding(lines: readonly CountedPlace[]) {
  const differ = lines.filter((l) => (differenceOf(l) ?? 0) !== 0);
  return {
    counted: lines.filter((l) => l.counted !== null).length,
    left: lines.filter((l) => l.counted === null).length,
    differ: differ.length,
    undecided: differ.filter((l) => l.verdict === "").length,
  };
}

/** Why a count cannot be booked yet; null where it can. */
export function notToBook(lines: readonly CountedPlace[]): string | null {
  const s = countStanding(lines);
  if (s.counted === 0) return "Nothing of it has been counted.";
  if (lines.some((l) => l.verdict === "again")) return "Some of it is to be counted again first.";
  if (s.undecided > 0)
    return s.undecided === 1 ? "One difference is not decided yet." : `${s.undecided} differences are not decided yet.`;
  return null;
}
