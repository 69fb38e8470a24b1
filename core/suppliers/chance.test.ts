import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { comesOut } from "../sums/sum";
import { chanceOf, chanceOfAll, chanceOfJob, chanceSum, knownDays, shownChance } from "./chance";

const DAYS = [-2, -1, 0, 0, 0, 1, 2, 3, 5, 9];

describe("the chance to be in time", () => {
  // Promised 4 Dec, wanted by 6 Dec.
  it("on 1 Dec is 7 of 10, which is 68.2 %", () => {
    expect(chanceOf(DAYS, -3, 2)).toEqual({ k: 7, n: 10, basisPoints: 6_818 });
  });

  it("on 5 Dec, still not here, is 1 of 4, which is 30.0 %", () => {
    expect(chanceOf(DAYS, 1, 2)).toEqual({ k: 1, n: 4, basisPoints: 3_000 });
  });

  it("is shown in whole percents, never as none and never as certain", () => {
    expect([3, 49, 50, 149, 150, 5_449, 9_949, 9_960, 10_000].map(shownChance)).toEqual([
      100, 100, 100, 100, 200, 5_400, 9_900, 9_900, 9_900,
    ]);
  });

  it("comes out as it is written", () => {
    for (const now of [-3, 1]) {
      const sum = chanceSum(chanceOf(DAYS, now, 2), "Chance", { came: "came by 6 Dec", open: "came later than now" });
      expect(comesOut(sum)).toBe(true);
    }
    const wrong = chanceSum({ ...chanceOf(DAYS, 1, 2), basisPoints: 3_002 }, "Chance", { came: "", open: "" });
    expect(comesOut(wrong)).toBe(false);
  });

  it("is of the item where there are eight of it, else of the supplier; fewer than five say nothing", () => {
    const eight = Array(8).fill(0);
    expect(knownDays({ item: eight, all: DAYS })).toEqual({ of: "item", days: eight });
    expect(knownDays({ item: eight.slice(1), all: DAYS })).toEqual({ of: "supplier", days: DAYS });
    expect(knownDays({ item: [], all: DAYS.slice(0, 4) })).toBeNull();
  });

  const some = fc.array(fc.integer({ min: -20, max: 60 }), { minLength: 5, maxLength: 60 });
  const day = fc.integer({ min: -30, max: 70 });

  it("lies between none and certain, and never falls when the wanted day moves later", () => {
    fc.assert(
      fc.property(some, day, day, fc.nat(20), (days, now, by, later) => {
        const [one, two] = [chanceOf(days, now, by), chanceOf(days, now, by + later)];
        expect(one.basisPoints).toBeGreaterThan(0);
        expect(one.basisPoints).toBeLessThanOrEqual(10_000);
        expect(two.basisPoints).toBeGreaterThanOrEqual(one.basisPoints);
      }),
    );
  });

  it("is what a slow count says", () => {
    fc.assert(
      fc.property(some, day, fc.nat(60), (days, now, more) => {
        const by = now + more;
        let k = 0;
        let n = 0;
        for (const d of days) {
          if (d <= now) continue;
          n++;
          if (d <= by) k++;
        }
        expect(chanceOf(days, now, by)).toEqual({ k, n, basisPoints: Math.round(((k + 0.5) * 10_000) / (n + 1)) });
      }),
    );
  });
});

describe("a job's chance to have everything", () => {
  it("is the product of its lines'", () => {
    const [a, b] = [chanceOf(DAYS, -3, 2), chanceOf(DAYS, 1, 2)];
    expect(chanceOfAll([a, b])).toBe(2_045); // 7.5 ÷ 11 × 1.5 ÷ 5
    expect(chanceOfAll([])).toBe(10_000);
  });

  it("names the line that decides it, and says nothing where of one nothing is known", () => {
    const line = (name: string, basisPoints: number | null, k = 1, n = 1) => ({
      name,
      chance: { loads: basisPoints === null ? null : [{ k, n, basisPoints, what: "Shaft anode" }], basisPoints },
    });
    const whole = chanceOfJob([line("a", 7500), { name: "here", chance: null }, line("b", 2500, 0, 1)]);
    expect([whole?.basisPoints, whole?.decides.name]).toEqual([1_875, "b"]);
    const unknown = chanceOfJob([line("a", 7500), line("c", null)]);
    expect([unknown?.basisPoints, unknown?.decides.name]).toEqual([null, "c"]);
    expect(chanceOfJob([{ chance: null }])).toBeNull();
  });

  it("is at most that of its least likely line", () => {
    fc.assert(
      fc.property(fc.array(fc.record({ k: fc.nat(30), n: fc.nat(30) }), { minLength: 1, maxLength: 8 }), (lines) => {
        const chances = lines.map(({ k, n }) => ({ k: Math.min(k, n), n, basisPoints: 0 }));
        const each = chances.map((c) => chanceOfAll([c]));
        expect(chanceOfAll(chances)).toBeLessThanOrEqual(Math.min(...each));
      }),
    );
  });
});
