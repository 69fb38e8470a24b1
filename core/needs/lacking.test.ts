import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { addDays, type Day, toDay } from "../calendar/day";
import { stock } from "../numbers/quantity";
import { coverOf, sharedOut } from "./lacking";

const day = (n: number): Day => addDays(toDay("2026-11-24"), n);
const want = (id: number, on: number, quantity: number) => ({ id, day: day(on), quantity: stock(quantity) });
const come = (on: number, quantity: number) => ({ day: day(on), quantity: stock(quantity), label: "order" });

describe("what was ordered for some lines alone", () => {
  it("serves the earliest due first, in the order of its days, and says what comes too late for whom", () => {
    const parts = [
      { day: day(9), quantity: 20 },
      { day: day(2), quantity: 10 },
    ];
    const own = sharedOut(parts, [want(1, 12, 15), want(2, 3, 12)]);
    expect([...own.values()].map(({ draws: _, ...o }) => o)).toEqual([
      { inTime: 10, late: 2, lateDay: day(9) },
      { inTime: 15, late: 0, lateDay: null },
    ]);
  });
  it("never gives more than there is, nor more than is wanted", () => {
    const some = fc.array(fc.tuple(fc.nat(30), fc.integer({ min: 1, max: 40 })), { maxLength: 8 });
    fc.assert(
      fc.property(some, some, (parts, wants) => {
        const own = sharedOut(
          parts.map(([d, quantity]) => ({ day: day(d), quantity })),
          wants.map(([d, q], i) => want(i, d, q)),
        );
        const given = [...own].map(([i, o]) => [o.inTime + o.late, wants[i]![1]]);
        for (const [got, wanted] of given) expect(got).toBeLessThanOrEqual(wanted!);
        const all = parts.reduce((a, [, q]) => a + q, 0);
        const asked = wants.reduce((a, [, q]) => a + q, 0);
        expect(given.reduce((a, [got]) => a + got!, 0)).toBe(Math.min(all, asked));
      }),
    );
  });
});

describe("what jobs lack", () => {
  it("serves the earliest job first, from the shelf, then from what comes in time", () => {
    expect(coverOf(stock(10), [want(2, 9, 10), want(1, 3, 8)], [come(5, 4), come(20, 2)])).toEqual([
      { id: 1, fromShelf: 8, inTime: 0, late: 0, lateDay: null, lacking: 0, draws: [] },
      {
        id: 2,
        fromShelf: 2,
        inTime: 4,
        late: 2,
        lateDay: day(20),
        lacking: 2,
        draws: [{ quantity: 4 }, { quantity: 2 }],
      },
    ]);
  });
  it("does not let a late order for one job take what another would get in time", () => {
    const [first, second] = coverOf(stock(0), [want(1, 1, 5), want(2, 10, 5)], [come(4, 5)]);
    expect([first!.lacking, second!.inTime]).toEqual([5, 5]);
  });
  it("gives nothing twice and loses nothing", () => {
    const lines = fc.array(fc.tuple(fc.integer({ min: 0, max: 30 }), fc.integer({ min: 1, max: 50 })), {
      maxLength: 12,
    });
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 200 }), lines, lines, (shelf, wants, comes) => {
        const covers = coverOf(
          stock(shelf),
          wants.map(([d, q], i) => want(i, d, q)),
          comes.map(([d, q]) => come(d, q)),
        );
        const total = (k: "fromShelf" | "inTime" | "late" | "lacking") => covers.reduce((a, c) => a + c[k], 0);
        expect(total("fromShelf")).toBeLessThanOrEqual(shelf);
        expect(total("inTime") + total("late")).toBeLessThanOrEqual(comes.reduce((a, [, q]) => a + q, 0));
        for (const c of covers) {
          expect(c.fromShelf + c.inTime + c.late + c.lacking).toBe(wants[c.id]![1]);
          expect(Math.min(c.fromShelf, c.inTime, c.late, c.lacking)).toBeGreaterThanOrEqual(0);
        }
        // Nothing lies idle while somebody lacks it.
        const idle =
          shelf + comes.reduce((a, [, q]) => a + q, 0) - total("fromShelf") - total("inTime") - total("late");
        expect(Math.min(idle, total("lacking"))).toBe(0);
      }),
    );
  });
});
