import type { DecimalMark } from "../../core/numbers/decimal";

/** A number that only its file can tell: "1,250" is 1.25 in one and 1250 in another. */
const UNCLEAR = /^-?[1-9]\d{0,2}([.,])\d{3}$/;
const NUMBER = /^-?\d+([.,])\d+$/;

/**
 * How the numbers of a file are written, by those that leave no doubt ("12,5", "0,500"); null where none does and some need
 * it. Groups of thousands have no place in a file.
 */
export function markOf(cells: Iterable<string>): DecimalMark | null {
  const sure = new Set<DecimalMark>();
  let unclear = false;
  for (const cell of cells) {
    const text = cell.trim();
    const mark = NUMBER.exec(text)?.[1];
    if (mark !== "." && mark !== ",") continue;
    if (UNCLEAR.test(text)) unclear = true;
    else sure.add(mark);
  }
  const [mark, another] = sure;
  if (mark && !another) return mark;
  return sure.size === 0 && !unclear ? "." : null;
}

/** A number of a file with a point and nothing else, or undefined where it is written otherwise than the file's others. */
export function plainNumber(cell: string, mark: DecimalMark): string | undefined {
  const text = cell.trim().replace("−", "-");
  const shape = mark === "," ? /^-?\d+(,\d+)?$/ : /^-?\d+(\.\d+)?$/;
  return shape.test(text) ? text.replace(",", ".") : undefined;
}
