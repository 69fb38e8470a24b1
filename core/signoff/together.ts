/** Orders to one supplier within seven days that each stay under a limit but together pass it (domain §8). */

/** A paper and what it is worth, home currency, minor units, net of tax. */
export interface Weighed {
  id: number;
  minor: number;
}

/**
 * The lowest limit that this paper and the others pass only together, with what they come to; null where there is none,
 * or where one of them passes it by itself already.
 */
export function passedTogether(
  paper: Weighed,
  others: readonly Weighed[],
  limits: readonly (number | null)[],
): { limit: number; together: number } | null {
  if (others.length === 0) return null;
  const all = [paper, ...others];
  const together = all.reduce((a, p) => a + p.minor, 0);
  const most = Math.max(...all.map((p) => p.minor));
  const limit = limits.filter((l): l is number => l !== null && most <= l && together > l).sort((a, b) => a - b)[0];
  return limit === undefined ? null : { limit, together };
}
