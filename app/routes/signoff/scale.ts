import type { Ladder } from "../../../core/signoff/rulebook";

/** Amounts on a scale that grows tenfold as evenly as it goes: from the lowest limit's quarter to six times the highest. */
export interface Scale {
  low: number;
  high: number;
  /** 0 at the bottom to 1 at the top. */
  at: (minor: number) => number;
  minorAt: (part: number) => number;
  lines: number[];
}

export function scaleOf(ladders: readonly Ladder[], unit: number): Scale {
  const limits = ladders.flatMap((l) => l.rungs.flatMap((r) => (r.upTo ? [r.upTo] : [])));
  const low = Math.max(unit, Math.min(1_000 * unit, ...limits) / 4);
  const high = Math.max(10_000 * unit, ...limits) * 6;
  const span = Math.log(high / low);
  const lines: number[] = [];
  for (let ten = unit; ten < high; ten *= 10) for (const n of [ten, 3 * ten]) if (n > low && n < high) lines.push(n);
  return {
    low,
    high,
    at: (minor) => Math.min(1, Math.max(0, Math.log(Math.max(minor, low) / low) / span)),
    minorAt: (part) => rounded(low * Math.exp(part * span), unit),
    lines,
  };
}

/** Three figures are as near as anybody slides. */
function rounded(minor: number, unit: number): number {
  const step = Math.max(unit, 10 ** (Math.floor(Math.log10(minor)) - 2));
  return Math.round(minor / step) * step;
}
