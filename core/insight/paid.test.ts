import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { aboveLeast, leastPaid, unitPaid } from "./paid";

const paid = (quantity: number, home: number) => ({ quantity: quantity * 10_000, home });

describe("what was paid", () => {
  it("is held against the least of it: 20 L at 3.10 and 24 L at 3.25 came to 3.60 more", () => {
    const both = [paid(20, 62_00), paid(24, 78_00)];
    expect(leastPaid(both)).toEqual(paid(20, 62_00));
    expect(aboveLeast(both)).toBe(3_60);
    expect(both.map((p) => unitPaid(p, 2))).toEqual([3_100_000, 3_250_000]);
  });

  it("says nothing of what has no quantity", () => {
    expect([leastPaid([]), aboveLeast([])]).toEqual([null, 0]);
    expect(leastPaid([paid(0, 5_00), paid(1, 7_00)])).toEqual(paid(1, 7_00));
    expect(aboveLeast([paid(0, 5_00)])).toBe(0);
  });

  it("is never below the least, and nothing above it where all cost the same", () => {
    const one = fc.record({
      quantity: fc.integer({ min: 1, max: 1_000_000 }),
      home: fc.integer({ min: 0, max: 10_000_000 }),
    });
    fc.assert(
      fc.property(fc.array(one, { maxLength: 20 }), (all) => {
        expect(aboveLeast(all)).toBeGreaterThanOrEqual(0);
      }),
    );
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 1_000 }), { minLength: 1 }), (all) => {
        expect(aboveLeast(all.map((n) => ({ quantity: n * 10_000, home: n * 3_17 })))).toBe(0);
      }),
    );
  });
});
