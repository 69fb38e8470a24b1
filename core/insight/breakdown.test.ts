import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { laidOut, OTHERS, type SpendGroup, shareOf } from "./breakdown";

const called = (_: unknown, key: string) => `the ${key}`;

describe("a breakdown", () => {
  it("has time in its order, all else by what it comes to, and what is missing as nothing", () => {
    const groups: SpendGroup[] = [
      { row: "a", column: "2026-02", figure: 5 },
      { row: "b", column: "2026-01", figure: 7 },
      { row: "b", column: "2026-02", figure: 1 },
    ];
    expect(laidOut(groups, { rows: "supplier", columns: "month" }, called)).toEqual({
      rows: [
        { key: "b", label: "the b", cells: { "2026-01": 7, "2026-02": 1 }, total: 8 },
        { key: "a", label: "the a", cells: { "2026-02": 5 }, total: 5 },
      ],
      columns: [
        { key: "2026-01", label: "the 2026-01" },
        { key: "2026-02", label: "the 2026-02" },
      ],
      totals: { "2026-01": 7, "2026-02": 6 },
      total: 13,
    });
  });

  it("adds up whatever it is laid out by: rows, columns and cells to one total, the least columns together", () => {
    const group = fc.record({
      row: fc.constantFrom("", "1", "2", "3", "4"),
      column: fc.integer({ min: 1, max: 30 }).map(String),
      figure: fc.integer({ min: -1_000_000, max: 1_000_000 }),
    });
    fc.assert(
      fc.property(fc.array(group, { maxLength: 80 }), fc.boolean(), (groups, wide) => {
        const b = laidOut(groups, { rows: "category", columns: wide ? "item" : null }, called);
        const sum = (all: readonly number[]) => all.reduce((a, x) => a + x, 0);
        expect(b.total).toBe(sum(groups.map((g) => g.figure)));
        expect(sum(b.rows.map((r) => r.total))).toBe(b.total);
        expect(sum(Object.values(b.totals))).toBe(b.total);
        for (const r of b.rows) expect(sum(Object.values(r.cells))).toBe(r.total);
        for (const c of b.columns) expect(sum(b.rows.map((r) => r.cells[c.key] ?? 0))).toBe(b.totals[c.key]);
        expect(b.columns.length).toBeLessThanOrEqual(12);
        const many = new Set(groups.map((g) => g.column)).size > 12;
        expect(b.columns.some((c) => c.key === OTHERS)).toBe(wide && many);
      }),
    );
  });

  it("says what a part is of the whole, and nothing where there is none", () => {
    expect([shareOf(1, 3), shareOf(2, 3), shareOf(-1, 3), shareOf(5, 0), shareOf(0, 7)]).toEqual([
      3_333,
      6_667,
      -3_333,
      null,
      0,
    ]);
    expect(shareOf(-1, -4)).toBe(2_500);
  });
});
