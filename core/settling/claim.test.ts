import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { unitPrice } from "../numbers/money";
import { billedFor, partClaim } from "./claim";

describe("a claim that is credited in part", () => {
  it("is parted so that both parts add up to it", () => {
    expect(partClaim({ net: 61_750, tax: 12_350, home: 74_100 }, 24_700)).toEqual({
      credited: { net: 20_583, tax: 4_117, home: 24_700 },
      left: { net: 41_167, tax: 8_233, home: 49_400 },
    });
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 10_000_000 }),
        fc.integer({ min: 0, max: 2_500_000 }),
        fc.integer({ min: 1, max: 20_000_000 }),
        fc.nat(),
        (net, tax, home, at) => {
          fc.pre(net + tax > 1);
          const total = 1 + (at % (net + tax - 1));
          const { credited, left } = partClaim({ net, tax, home }, total);
          expect(credited.net + credited.tax).toBe(total);
          for (const of of ["net", "tax", "home"] as const) {
            expect(credited[of]).toBeGreaterThanOrEqual(0);
            expect(left[of]).toBeGreaterThanOrEqual(0);
          }
          expect([credited.net + left.net, credited.tax + left.tax, credited.home + left.home]).toEqual([
            net,
            tax,
            home,
          ]);
        },
      ),
    );
  });
});

describe("goods that turn out not good", () => {
  const line = { quantity: 30_000, price: unitPrice(3_333_333), standing: 500, discount: 0, net: 950, taxRate: 2000 };
  it("are worth what they were billed at, all of them the whole line", () => {
    expect(billedFor(line, 30_000, "EUR")).toBe(950);
    // 3.333333 × 2 less 5 % = 6.33: the third of the line is worth the rest of it.
    expect(billedFor(line, 10_000, "EUR")).toBe(317);
    expect(billedFor(line, 0, "EUR")).toBe(0);
  });
});
