import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { bandAt, bandOf } from "./bands";

describe("headings among rows", () => {
  it("stand above the first row of their group", () => {
    const groups = [{ start: 0 }, { start: 3 }];
    expect([0, 1, 2, 3, 4, 5].map((b) => bandAt(groups, b))).toEqual([
      { group: 0 },
      { row: 0 },
      { row: 1 },
      { row: 2 },
      { group: 1 },
      { row: 3 },
    ]);
    expect(bandOf(groups, 3)).toBe(5);
  });
  it("leave each row in one place, whatever the groups", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 300 }), fc.array(fc.integer({ min: 0, max: 299 })), (rows, cuts) => {
        const groups = [...new Set([0, ...cuts.filter((c) => c < rows)])]
          .sort((a, b) => a - b)
          .map((start) => ({ start }));
        const found = Array.from({ length: rows + groups.length }, (_, b) => bandAt(groups, b));
        expect(found.flatMap((f) => ("row" in f ? [f.row] : []))).toEqual(Array.from({ length: rows }, (_, i) => i));
        expect(found.flatMap((f) => ("group" in f ? [f.group] : []))).toEqual(groups.map((_, i) => i));
        for (let row = 0; row < rows; row++) expect(bandAt(groups, bandOf(groups, row))).toEqual({ row });
      }),
    );
  });
});
