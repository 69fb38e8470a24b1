import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { ONE } from "../../../core/numbers/quantity";
import { type CountableLine, countingOf, heardLine, judgeCount, parseCount, pastOf, restOf, stepped } from "./counting";

const line = (n: number, more: Partial<CountableLine> = {}): CountableLine => ({
  line: n,
  name: `Thing ${n}`,
  code: `T-${n}`,
  theirCode: "",
  gtin: null,
  bin: "",
  ordered: 5 * ONE,
  received: 0,
  ...more,
});
const lines = [
  line(1, { bin: "B4", gtin: "4012345678901" }),
  line(2, { bin: "B4", theirCode: "OX-9", received: 2 * ONE }),
  line(3, { received: 5 * ONE }),
];

describe("a count sheet", () => {
  it("counts what is open, and says what is wrong or too much", () => {
    const now = countingOf(lines, { 1: "6", 2: "1", 3: "9" });
    expect(now.open.map((l) => l.line)).toEqual([1, 2]);
    expect(now.some.map((l) => l.line)).toEqual([1, 2]);
    expect(now.over.map((l) => l.line)).toEqual([1]);
    expect(now.bins).toEqual(["B4"]);
    expect(now.wrong).toBe(false);
    expect(countingOf(lines, { 1: "six" }).wrong).toBe(true);
    expect(countingOf(lines, { 1: "six" }).some).toEqual([]);
    expect(judgeCount(lines[1]!, "3")).toEqual({ kind: "as ordered" });
    expect(judgeCount(lines[1]!, "x")).toBeNull();
  });
  it("steps up and down, never below nought, also from what is no number", () => {
    expect(stepped("", 1)).toBe("1");
    expect(stepped("2.5", -1)).toBe("1.5");
    expect(stepped("0.5", -1)).toBe("0");
    expect(stepped("six", 1)).toBe("1");
  });
  it("hears our code, theirs, a GTIN, or the beginning of a name", () => {
    const { open } = countingOf(lines, {});
    expect(heardLine(open, " t-1 ")?.line).toBe(1);
    expect(heardLine(open, "ox-9")?.line).toBe(2);
    expect(heardLine(open, "4012345678901")?.line).toBe(1);
    expect(heardLine(open, "thing 2")?.line).toBe(2);
    expect(heardLine(open, "T-3")).toBeNull(); // all in
    expect(heardLine(open, "  ")).toBeNull();
  });
  it("offers what was counted before the load changed, as far as it is open", () => {
    const { open } = countingOf(lines, {});
    expect(pastOf(open, { 1: "2", 2: "0", 3: "4" }).map((l) => l.line)).toEqual([1]);
    expect(pastOf(open, undefined)).toEqual([]);
  });
  it("takes the rest as ordered, whatever came before", () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(900_000), fc.nat(900_000)), { maxLength: 6 }), (pairs) => {
        const all = pairs.map(([a, b], i) => line(i, { ordered: Math.max(a, b), received: Math.min(a, b) }));
        const { open } = countingOf(all, {});
        const after = countingOf(all, restOf(open));
        expect(after.over).toEqual([]);
        expect(after.some).toHaveLength(open.length);
        for (const l of open) {
          const parsed = parseCount(restOf(open)[l.line]);
          expect(parsed.ok && parsed.value + l.received).toBe(l.ordered);
        }
      }),
    );
  });
});
