import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { stock } from "../numbers/quantity";
import { comesOut } from "../sums/sum";
import { measured, spread, suggestPoint, upperTail, zOf } from "./safety";

const suggest = (set = 400) =>
  suggestPoint({ mean: 20, deviation: 6 }, { mean: 14, deviation: 3 }, 9500, stock(set * 10_000), "L");

describe("is the reorder point right", () => {
  it("follows the worked example: 280 + 105.4 = 385.4", () => {
    const { point, sum } = suggest();
    expect(point).toBe(3_854_000);
    expect(
      sum.steps.filter((s) => s.op === "" || s.op === "+").map((s) => (s.figure as { value: number }).value),
    ).toEqual([2_800_000, 1_054_000]);
    expect(comesOut(sum)).toBe(true);
  });
  it("says how likely it is to run out at the one that is set", () => {
    expect(suggest(280).chanceAtSet).toBe(5_000);
    expect(suggest(385.4).chanceAtSet).toBe(500);
    expect(suggest(0).chanceAtSet).toBe(10_000);
    expect(
      suggestPoint({ mean: 2, deviation: 0 }, { mean: 5, deviation: 0 }, 9500, stock(100_000), "L").chanceAtSet,
    ).toBe(0);
    expect(
      suggestPoint({ mean: 2, deviation: 0 }, { mean: 5, deviation: 0 }, 9500, stock(99_999), "L").chanceAtSet,
    ).toBe(10_000);
  });
  it("knows the normal distribution as the tables do", () => {
    expect([0.5, 0.9, 0.95, 0.99, 0.999].map((s) => Number(zOf(s).toFixed(3)))).toEqual([0, 1.282, 1.645, 2.326, 3.09]);
    expect(upperTail(1.96)).toBeCloseTo(0.025, 4);
    expect(upperTail(-1.96)).toBeCloseTo(0.975, 4);
  });
  it("measures mean and spread", () => {
    expect(spread(measured([2, 4, 4, 4, 5, 5, 7, 9]))).toEqual({ mean: 5, deviation: Math.sqrt(32 / 7) });
    expect(spread(measured([3]))).toEqual({ mean: 3, deviation: 0 });
    expect(spread(measured([]))).toEqual({ mean: 0, deviation: 0 });
  });
  it("never suggests less for a higher service level", () => {
    const n = fc.double({ min: 0, max: 500, noNaN: true });
    fc.assert(
      fc.property(n, n, n, n, fc.integer({ min: 5_000, max: 9_900 }), (mean, deviation, lead, late, level) => {
        const at = (l: number) =>
          suggestPoint({ mean, deviation }, { mean: lead / 10, deviation: late / 50 }, l, stock(0), "L").point;
        expect(at(level + 99) >= at(level)).toBe(true);
      }),
    );
  });
});
