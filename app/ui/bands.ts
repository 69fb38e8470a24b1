/** Where groups begin, in order; a heading stands above the first row of each. */
export type Starts = readonly { start: number }[];

/** A group's heading or a row, by its place among both. Groups are in order, so halving finds it. */
export function bandAt(groups: Starts, band: number): { group: number } | { row: number } {
  const after = firstWhere(groups, (g, i) => g.start + i > band);
  const group = after - 1;
  return group >= 0 && groups[group]!.start + group === band ? { group } : { row: band - after };
}

/** Where a row stands among the bands: after the headings that come before it. */
export const bandOf = (groups: Starts, row: number): number => row + firstWhere(groups, (g) => g.start > row);

/** The first index at which a test holds that holds for all after it; the length where it holds for none. */
function firstWhere(groups: Starts, test: (g: { start: number }, index: number) => boolean): number {
  let low = 0;
  let high = groups.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (test(groups[middle]!, middle)) high = middle;
    else low = middle + 1;
  }
  return low;
}
