import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type BoughtOf, NO_STEPS, NOTHING, plusSteps, spendSteps, sumOfSteps } from "./why";

const at = (quantity: number, foreign: number, home = foreign): BoughtOf => ({
  quantity: quantity * 10_000,
  foreign,
  home,
});

describe("why spend changed", () => {
  it("is the design's example to the cent: 20 L at 3.10, then 24 L at 3.25", () => {
    expect(spendSteps(at(20, 62_00), at(24, 78_00))).toEqual({ ...NO_STEPS, price: 3_60, quantity: 12_40 });
  });

  it("keeps a foreign price and its rate apart", () => {
    // 10 at 100.00 SEK at 0.09, then 12 at 110.00 SEK at 0.10: price 10 × 0.09 × 12, currency 110 × 0.01 × 12.
    expect(spendSteps(at(10, 1_000_00, 90_00), at(12, 1_320_00, 132_00))).toEqual({
      ...NO_STEPS,
      price: 10_80,
      currency: 13_20,
      quantity: 18_00,
    });
  });

  it("says plainly what is new, what is gone, and what nothing can be said of", () => {
    expect(spendSteps(NOTHING, at(3, 9_00))).toEqual({ ...NO_STEPS, new: 9_00 });
    expect(spendSteps(at(3, 9_00), NOTHING)).toEqual({ ...NO_STEPS, gone: -9_00 });
    expect(spendSteps(at(3, 0), at(3, 9_00))).toEqual({ ...NO_STEPS, other: 9_00 });
    expect(spendSteps(at(0, 4_00), at(3, 9_00))).toEqual({ ...NO_STEPS, other: 5_00 });
    expect(spendSteps(NOTHING, NOTHING)).toEqual(NO_STEPS);
  });

  it("adds up to the cent, whatever was bought", () => {
    const bought = fc
      .tuple(fc.integer({ min: 0, max: 900 }), fc.integer({ min: 0, max: 99_999 }), fc.integer({ min: 1, max: 300 }))
      .map(([quantity, price, rate]) => at(quantity, quantity * price, Math.round((quantity * price * rate) / 100)));
    fc.assert(
      fc.property(fc.array(fc.tuple(bought, bought), { maxLength: 20 }), (pairs) => {
        const steps = pairs.map(([a, b]) => spendSteps(a, b)).reduce(plusSteps, NO_STEPS);
        expect(sumOfSteps(steps)).toBe(pairs.reduce((x, [a, b]) => x + b.home - a.home, 0));
      }),
    );
  });
});
