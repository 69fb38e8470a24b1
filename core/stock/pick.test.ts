import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Day } from "../calendar/day";
import { type Lying, type PickFrom, pickFrom } from "./pick";

const lying = (
  bin: string,
  lot: number | null,
  quantity: number,
  expires: string | null = null,
  usable = true,
): Lying => ({
  bin,
  lot,
  quantity,
  expires: expires as Day | null,
  usable,
});

describe("picking", () => {
  const shelf = [
    lying("B", null, 5),
    lying("A", 3, 4),
    lying("A", 2, 3, "2027-03-01"),
    lying("C", 1, 2, "2026-12-01"),
    lying("B", 4, 9, "2026-01-01", false),
  ];
  it("takes first what expires first, then what keeps, then what has no lot", () => {
    expect(pickFrom(shelf, 10)).toEqual([
      { bin: "C", lot: 1, quantity: 2 },
      { bin: "A", lot: 2, quantity: 3 },
      { bin: "A", lot: 3, quantity: 4 },
      { bin: "B", lot: null, quantity: 1 },
    ]);
  });
  it("leaves what is held or expired, unless any will do, and says where there is not enough", () => {
    expect(pickFrom(shelf, 15)).toBeNull();
    expect(pickFrom(shelf, 15, "any")?.at(-1)).toEqual({ bin: "B", lot: 4, quantity: 1 });
    expect(pickFrom(shelf, 24, "any")).toBeNull();
  });
  it("takes what has no lot first, where a count found less", () => {
    expect(pickFrom(shelf, 6, "no lot first")).toEqual([
      { bin: "B", lot: null, quantity: 5 },
      { bin: "C", lot: 1, quantity: 1 },
    ]);
  });
  it("never takes more than lies there, and always what was asked", () => {
    const one = fc.record({
      bin: fc.constantFrom("A", "B", "C"),
      lot: fc.option(fc.nat(5), { nil: null }),
      quantity: fc.integer({ min: -5, max: 30 }),
      expires: fc.constantFrom<Day | null>(null, "2026-12-01" as Day, "2027-01-01" as Day),
      usable: fc.boolean(),
    });
    fc.assert(
      fc.property(
        fc.array(one, { maxLength: 8 }),
        fc.nat(90),
        fc.constantFrom<PickFrom>("usable", "any", "no lot first"),
        (all, quantity, from) => {
          const picked = pickFrom(all, quantity, from);
          const there = all.reduce(
            (a, l) => a + (l.quantity > 0 && (from !== "usable" || l.usable) ? l.quantity : 0),
            0,
          );
          if (picked === null) {
            expect(there).toBeLessThan(quantity);
            return;
          }
          expect(picked.reduce((a, p) => a + p.quantity, 0)).toBe(quantity);
          for (const p of picked) expect(p.quantity).toBeGreaterThan(0);
        },
      ),
    );
  });
});
