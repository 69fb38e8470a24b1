import type { Judgement } from "./count";

/** What becomes of one part of a line's count: a lot, or a serial number. Purchase units. */
export type PartJudgement = Pick<
  Judgement,
  "taken" | "over" | "heldOver" | "heldEarly" | "refusedOver" | "refusedEarly"
>;

/**
 * Shares a line's judgement over the parts in which it was counted, in their order: what is taken in comes from the first,
 * what waits or goes back from the last. The figures of all parts come to those of the line.
 */
export function shareJudgement(j: Judgement, parts: readonly number[]): PartJudgement[] {
  // The count as one row of goods, from the first taken to the last that goes back.
  const within = j.taken - j.over;
  const ends: number[] = [];
  for (const n of [within, j.over, j.heldEarly, j.refusedEarly, j.heldOver, j.refusedOver])
    ends.push((ends.at(-1) ?? 0) + n);
  let at = 0;
  return parts.map((n) => {
    const from = at;
    at += n;
    const of = ends.map((end, i) => Math.max(0, Math.min(at, end) - Math.max(from, ends[i - 1] ?? 0)));
    const [kept = 0, over = 0, heldEarly = 0, refusedEarly = 0, heldOver = 0, refusedOver = 0] = of;
    return { taken: kept + over, over, heldEarly, refusedEarly, heldOver, refusedOver };
  });
}
