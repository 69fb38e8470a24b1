import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { addDays, toDay } from "../calendar/day";
import {
  lateBand,
  type PartAhead,
  paidOnceHere,
  stillComingBy,
  WEEKS,
  weekKey,
  weeksAhead,
  withTax,
  worthOfPart,
} from "./ahead";

// A Tuesday.
const TODAY = toDay("2026-11-24");
const part = (p: Partial<PartAhead>): PartAhead => ({
  supplier: 1,
  requested: TODAY,
  due: TODAY,
  value: 10_000,
  billed: 12_000,
  payBy: addDays(TODAY, 30),
  ...p,
});

describe("what is still to come", () => {
  it("is worth its part of the line, and is billed with tax", () => {
    expect(worthOfPart(10_000, 10_000, 30_000)).toBe(3_333);
    expect(worthOfPart(10_001, 5_000, 10_000)).toBe(5_001); // 5,000.5
    expect(withTax(3_333, 2_000)).toBe(4_000); // 666.6
  });

  it("is to be paid by the order's terms, as if billed the day it comes, and never before today's", () => {
    const terms = { days: 30, from: "invoice" as const, earlyPercent: 0, earlyDays: 0 };
    expect(paidOnceHere(terms, toDay("2026-12-01"), TODAY)).toBe("2026-12-31");
    expect(paidOnceHere(terms, toDay("2026-11-01"), TODAY)).toBe("2026-12-24");
    expect(paidOnceHere({ ...terms, from: "end of month", days: 15 }, toDay("2026-12-01"), TODAY)).toBe("2027-01-15");
  });

  it("stands in the week of its day, from Monday to Sunday; what was due yesterday is late", () => {
    expect(weekKey(toDay("2026-11-23"), TODAY)).toBe("late");
    expect(weekKey(TODAY, TODAY)).toBe("2026-11-23");
    expect(weekKey(toDay("2026-11-29"), TODAY)).toBe("2026-11-23");
    expect(weekKey(toDay("2026-11-30"), TODAY)).toBe("2026-11-30");
    expect(weekKey(addDays(toDay("2026-11-23"), 7 * WEEKS - 1), TODAY)).not.toBe("later");
    expect(weekKey(addDays(toDay("2026-11-23"), 7 * WEEKS), TODAY)).toBe("later");
  });

  it("goes out as it falls due, with all that went before", () => {
    const weeks = weeksAhead(
      [part({ due: toDay("2026-11-20"), requested: toDay("2026-11-18") }), part({ payBy: toDay("2026-12-02") })],
      [
        { due: toDay("2026-11-10"), minor: 500 },
        { due: toDay("2026-12-01"), minor: 700 },
      ],
      [{ due: toDay("2026-12-01"), minor: 90 }],
      TODAY,
    );
    expect(weeks.slice(0, 3)).toEqual([
      { key: "late", from: null, until: "2026-11-23", coming: 10_000, moved: 10_000, owed: 500, toBill: 0, out: 500 },
      { key: "2026-11-23", from: TODAY, until: "2026-11-29", coming: 10_000, moved: 0, owed: 0, toBill: 0, out: 500 },
      {
        key: "2026-11-30",
        from: "2026-11-30",
        until: "2026-12-06",
        coming: 0,
        moved: 0,
        owed: 700,
        toBill: 12_090,
        out: 13_290,
      },
    ]);
  });

  it("is late by bands", () => {
    const late = (n: number) => lateBand(addDays(TODAY, -n), TODAY);
    expect([0, 1, 7, 8, 30, 31].map(late)).toEqual([null, 0, 0, 1, 1, 2]);
  });

  it("adds up to the same by week, by supplier and in all, whatever there is", () => {
    const days = fc.integer({ min: -200, max: 400 }).map((n) => addDays(TODAY, n));
    const parts = fc.array(
      fc.record({
        supplier: fc.integer({ min: 1, max: 4 }),
        requested: days,
        due: days,
        value: fc.integer({ min: 0, max: 9_000_000 }),
        billed: fc.integer({ min: 0, max: 9_000_000 }),
        payBy: days,
      }),
    );
    const money = fc.array(fc.record({ due: days, minor: fc.integer({ min: -50_000, max: 900_000 }) }));
    fc.assert(
      fc.property(parts, money, money, (all, owed, toBill) => {
        const weeks = weeksAhead(all, owed, toBill, TODAY);
        const sum = (n: readonly number[]) => n.reduce((a, b) => a + b, 0);
        const value = sum(all.map((p) => p.value));
        expect(sum(weeks.map((w) => w.coming))).toBe(value);
        const by = [...stillComingBy(all, (p) => String(p.supplier), TODAY).values()];
        expect(sum(by.map((f) => f.coming))).toBe(value);
        expect(sum(by.flatMap((f) => f.late))).toBe(weeks[0]!.coming);
        expect(weeks.at(-1)!.out).toBe(sum([...owed, ...toBill].map((m) => m.minor)) + sum(all.map((p) => p.billed)));
      }),
    );
  });
});
