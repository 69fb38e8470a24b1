import fc from "fast-check";
import { expect, it } from "vitest";
import type { Judgement } from "./count";
import { shareJudgement } from "./parts";

const judged = (more: Partial<Judgement>): Judgement => ({
  counted: 0,
  taken: 0,
  over: 0,
  heldOver: 0,
  heldEarly: 0,
  refusedOver: 0,
  refusedEarly: 0,
  daysEarly: 0,
  letOff: 0,
  left: 0,
  ...more,
});

it("takes from the first lots what is taken, and lets the last wait", () => {
  const parts = shareJudgement(judged({ counted: 51, taken: 50, over: 2, heldOver: 1 }), [30, 20, 1]);
  expect(parts.map((p) => [p.taken, p.over, p.heldOver])).toEqual([
    [30, 0, 0],
    [20, 2, 0],
    [0, 0, 1],
  ]);
});

it("always comes to the line", () => {
  const n = fc.nat(50);
  fc.assert(
    fc.property(n, n, n, n, n, n, fc.array(fc.nat(40), { maxLength: 6 }), (kept, over, he, re, ho, ro, cuts) => {
      const counted = kept + over + he + re + ho + ro;
      const ends = [...cuts.map((c) => Math.min(c, counted)), counted].sort((a, b) => a - b);
      const parts = ends.map((e, i) => e - (ends[i - 1] ?? 0));
      const j = judged({
        counted,
        taken: kept + over,
        over,
        heldEarly: he,
        refusedEarly: re,
        heldOver: ho,
        refusedOver: ro,
      });
      const shared = shareJudgement(j, parts);
      for (const key of ["taken", "over", "heldEarly", "refusedEarly", "heldOver", "refusedOver"] as const)
        expect(shared.reduce((a, p) => a + p[key], 0)).toBe(j[key]);
      shared.forEach((p, i) => {
        expect(p.taken + p.heldEarly + p.refusedEarly + p.heldOver + p.refusedOver).toBe(parts[i]);
        expect(p.over).toBeLessThanOrEqual(p.taken);
      });
    }),
  );
});
