import { quantityText } from "../numbers/quantity";
import { count } from "../text";

/** What a delivery note says came in all, or what was counted: lines, pieces in purchase units, kilograms. Null: not said, or not known. */
export interface ControlTotals {
  lines: number | null;
  /** Ten-thousandths. */
  pieces: number | null;
  weight: number | null;
}

/** What a load comes to by its count; its weight only where every line's is known. Quantities in ten-thousandths. */
export function countedTotals(lines: readonly { counted: number; weight: number | null }[]): ControlTotals {
  const some = lines.filter((l) => l.counted > 0);
  return {
    lines: some.length,
    pieces: some.reduce((a, l) => a + l.counted, 0),
    weight: some.some((l) => l.weight === null) ? null : some.reduce((a, l) => a + (l.weight ?? 0), 0),
  };
}

/** Where the delivery note and the count say different things, each in a sentence. */
export function totalDifferences(said: ControlTotals, counted: ControlTotals): string[] {
  const found: string[] = [];
  if (said.lines !== null && said.lines !== counted.lines)
    found.push(`The note says ${count(said.lines, "line")}, and ${count(counted.lines ?? 0, "line")} came.`);
  if (said.pieces !== null && said.pieces !== counted.pieces)
    found.push(`The note says ${quantityText(said.pieces)} pieces, and ${quantityText(counted.pieces ?? 0)} came.`);
  if (said.weight !== null && counted.weight !== null && said.weight !== counted.weight)
    found.push(`The note says ${quantityText(said.weight)} kg, and ${quantityText(counted.weight)} kg came.`);
  return found;
}
