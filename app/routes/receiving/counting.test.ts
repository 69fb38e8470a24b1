import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Day } from "../../../core/calendar/day";
import { ONE } from "../../../core/numbers/quantity";
import { NO_TOLERANCE, type Tolerance, toleranceInForce } from "../../../core/receiving/tolerance";
import {
  type CountableLine,
  type CountTexts,
  countingOf,
  countOfLine,
  heardLine,
  keptCount,
  leftOfLine,
  NO_PART,
  NOTHING_COUNTED,
  partsCounted,
  pastOf,
  sentParts,
  stepped,
  withoutPart,
  withPart,
  withRest,
} from "./counting";

const TODAY = "2026-11-24" as Day;
const line = (
  n: number,
  {
    received = 0,
    ordered = 5 * ONE,
    tolerance = {},
    ...more
  }: Partial<CountableLine> & { received?: number; ordered?: number; tolerance?: Partial<Tolerance> } = {},
): CountableLine => ({
  line: n as CountableLine["line"],
  name: `Thing ${n}`,
  code: `T-${n}`,
  theirCode: "",
  gtin: null,
  bin: "",
  counted: {
    schedule: [{ quantity: ordered, required: TODAY, promised: null, received, closedShort: 0 }],
    letOff: 0,
    whole: true,
    tolerance: toleranceInForce([{ scope: "house", ...NO_TOLERANCE, ...tolerance }]),
  },
  lots: null,
  weight: 2 * ONE,
  ...more,
});
const lines = [
  line(1, { bin: "B4", gtin: "4012345678901", tolerance: { overQuantity: ONE } }),
  line(2, { bin: "B4", theirCode: "OX-9", received: 2 * ONE }),
  line(3, { received: 5 * ONE }),
];
const counted = (texts: Record<number, string>): CountTexts => keptCount({ counted: texts });

describe("a count sheet", () => {
  it("counts what is open, and says what waits", () => {
    const now = countingOf(lines, counted({ 1: "6", 2: "4" }), TODAY);
    expect(now.open.map((l) => l.line)).toEqual([1, 2]);
    expect(now.some.map((l) => l.line)).toEqual([1, 2]);
    expect(now.waits.map((l) => l.line)).toEqual([2]); // one over is kept of the first
    expect(now.bins).toEqual(["B4"]);
    expect(now.wrong).toBe(false);
    expect(now.totals).toEqual({ lines: 2, pieces: 10 * ONE, weight: 20 * ONE });
    expect(countingOf(lines, counted({ 3: "1" }), TODAY).waits.map((l) => l.line)).toEqual([3]);
    const wrong = countingOf(lines, counted({ 1: "six" }), TODAY);
    expect([wrong.wrong, wrong.some.length]).toEqual([true, 0]);
  });
  it("holds the delivery note against the count", () => {
    const said = { lines: "2", pieces: "9", weight: "" };
    expect(countingOf(lines, { ...counted({ 1: "5", 2: "3" }), said }, TODAY).off).toEqual([
      "The note says 9 pieces, and 8 came.",
    ]);
    expect(countingOf(lines, { ...counted({ 1: "5", 2: "4" }), said }, TODAY).off).toEqual([]);
  });
  it("counts a line in its lots, and what is not good beside", () => {
    let now = withPart(counted({ 1: "3" }), lines[0]!.line, 0, { lot: "A" });
    now = withPart(now, lines[0]!.line, 1, { count: "2", lot: "B", faulty: "1", fault: "damaged" });
    const of = countOfLine(lines[0]!, partsCounted(now, lines[0]!.line), TODAY)!;
    expect([of.good, of.faulty, of.judged.taken]).toEqual([5 * ONE, ONE, 5 * ONE]);
    expect(sentParts(lines, now).map((p) => [p.line, p.part, p.lot, p.count, p.faulty])).toEqual([
      [1, 0, "A", "3", ""],
      [1, 1, "B", "2", "1"],
    ]);
    expect(partsCounted(withoutPart(now, lines[0]!.line, 0), lines[0]!.line).map((p) => p.lot)).toEqual(["B"]);
    expect(partsCounted(withoutPart(counted({ 1: "3" }), lines[0]!.line, 0), lines[0]!.line)).toEqual([NO_PART]);
  });
  it("steps up and down, never below nought, also from what is no number", () => {
    expect(stepped("", ONE)).toBe("1");
    expect(stepped("2.5", -ONE)).toBe("1.5");
    expect(stepped("0.5", -ONE)).toBe("0");
    expect(stepped("six", ONE)).toBe("1");
  });
  it("hears our code, theirs, a GTIN, or the beginning of a name; what is all in last", () => {
    expect(heardLine(lines, " t-1 ")?.line).toBe(1);
    expect(heardLine(lines, "ox-9")?.line).toBe(2);
    expect(heardLine(lines, "4012345678901")?.line).toBe(1);
    expect(heardLine(lines, "thing 2")?.line).toBe(2);
    expect(heardLine(lines, "T-3")?.line).toBe(3); // one more may have come
    expect(heardLine([line(7, { received: 5 * ONE, code: "T" }), line(8, { code: "T" })], "t")?.line).toBe(8);
    expect(heardLine(lines, "thing 3")).toBeNull();
    expect(heardLine(lines, "  ")).toBeNull();
  });
  it("offers what was counted before the load changed, as far as it is open", () => {
    const { open } = countingOf(lines, NOTHING_COUNTED, TODAY);
    expect(pastOf(open, counted({ 1: "2", 2: "0", 3: "4" })).map((l) => l.line)).toEqual([1]);
    expect(pastOf(open, null)).toEqual([]);
  });
  it("takes the rest as ordered, whatever came before or was counted", () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(900_000), fc.nat(900_000), fc.nat(900_000)), { maxLength: 6 }), (pairs) => {
        const all = pairs.map(([a, b], i) => line(i, { ordered: Math.max(a, b) + 1, received: Math.min(a, b) }));
        const texts = Object.fromEntries(
          pairs.flatMap(([, , n], i) => (n % 2 && n < leftOfLine(all[i]!) ? [[i, stepped("", n)]] : [])),
        );
        const { open } = countingOf(all, NOTHING_COUNTED, TODAY);
        const after = withRest(counted(texts), open);
        const now = countingOf(all, after, TODAY);
        expect(now.waits).toEqual([]);
        for (const l of open) {
          const of = countOfLine(l, partsCounted(after, l.line), TODAY)!;
          expect(of.good).toBe(leftOfLine(l));
          expect(of.judged).toMatchObject({ left: 0, over: 0 });
        }
      }),
    );
  });
});
