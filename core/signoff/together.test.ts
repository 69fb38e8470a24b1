import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { passedTogether } from "./together";

const LIMITS = [80_000, 1_250_000, null];
const paper = (minor: number, id = 1) => ({ id, minor });

describe("orders that pass a limit together", () => {
  it("are named with the limit, where each stays under it", () => {
    expect(passedTogether(paper(50_000), [paper(40_000, 2)], LIMITS)).toEqual({ limit: 80_000, together: 90_000 });
    expect(passedTogether(paper(80_000), [paper(1, 2)], LIMITS)).toEqual({ limit: 80_000, together: 80_001 });
  });

  it("are none alone, below the limit, or where one is above it anyway", () => {
    expect(passedTogether(paper(50_000), [], LIMITS)).toBeNull();
    expect(passedTogether(paper(50_000), [paper(30_000, 2)], LIMITS)).toBeNull();
    expect(passedTogether(paper(90_000), [paper(20_000, 2)], LIMITS)).toBeNull();
  });

  it("does not depend on which of them is looked at", () => {
    fc.assert(
      fc.property(fc.array(fc.nat(3_000_000), { minLength: 2, maxLength: 6 }), (amounts) => {
        const all = amounts.map((minor, id) => paper(minor, id));
        const seen = all.map((p) =>
          passedTogether(
            p,
            all.filter((o) => o !== p),
            LIMITS,
          ),
        );
        expect(new Set(seen.map((s) => JSON.stringify(s))).size).toBe(1);
      }),
    );
  });
});
