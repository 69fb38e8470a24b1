import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Day } from "../../../core/calendar/day";
import { ONE } from "../../../core/numbers/quantity";
import { NO_TOLERANCE, type Tolerance, toleranceInForce } from "../../../core/receiving/tolerance";
import { readScan } from "../../../exchange/gs1/scan";
import {
  type CountableLine,
  type CountTexts,
  countingOf,
  countOfLine,
  heardLines,
  keptCount,
  leftOfLine,
  lineForScan,
  lineWords,
  NO_PART,
  NOTHING_COUNTED,
  partsCounted,
  pastOf,
  sentParts,
  stepped,
  strangerWords,
  withNote,
  withoutPart,
  withPallet,
  withPart,
  withRest,
  withScan,
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
  unitCode: "C62",
  factor: ONE,
  bin: "",
  counted: {
    schedule: [{ quantity: ordered, required: TODAY, promised: null, received, closedShort: 0 }],
    letOff: 0,
    whole: true,
    tolerance: toleranceInForce([{ scope: "house", ...NO_TOLERANCE, ...tolerance }]),
  },
  lots: null,
  weighed: false,
  weight: 2 * ONE,
  ...more,
});
const lines = [
  line(1, { bin: "B4", gtin: "4006381333931", tolerance: { overQuantity: ONE } }),
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
  it("says of what is not good that it came, too", () => {
    const says = (count: string, faulty: string) =>
      lineWords(countOfLine(lines[0]!, [{ ...NO_PART, count, faulty }], TODAY)!, "each", "Ines");
    expect(says("3", "")).toBe("2 each still to come");
    expect(says("3", "1")).toBe("1 each still to come");
    expect(says("3", "2")).toBe("all of it came");
    expect(says("5", "1")).toBe("as ordered");
  });
  it("steps up and down, never below nought, also from what is no number", () => {
    expect(stepped("", ONE)).toBe("1");
    expect(stepped("2.5", -ONE)).toBe("1.5");
    expect(stepped("0.5", -ONE)).toBe("0");
    expect(stepped("six", ONE)).toBe("1");
  });
  it("hears our code, theirs, a GTIN, or the beginning of a name; what is all in last", () => {
    const heard = (code: string, all = lines, count = NOTHING_COUNTED) => {
      const scanned = readScan(code);
      return scanned.ok ? (lineForScan(heardLines(all, scanned.value), count, TODAY)?.line ?? null) : scanned.says;
    };
    expect(heard(" t-1 ")).toBe(1);
    expect(heard("ox-9")).toBe(2);
    expect(heard("4006381333931")).toBe(1);
    expect(heard("(01)04006381333931(10)A7")).toBe(1);
    expect(heard("thing 2")).toBe(2);
    expect(heard("T-3")).toBe(3); // one more may have come
    expect(heard("thing 3")).toBeNull();
    expect(heard("  ")).toBeNull();
    const twice = [line(7, { received: 5 * ONE, code: "T" }), line(8, { code: "T" }), line(9, { code: "T" })];
    expect(heard("t", twice)).toBe(8);
    expect(heard("t", twice, counted({ 8: "5" }))).toBe(9); // the next order takes what the first does not
    expect(heard("t", twice, counted({ 8: "5", 9: "5" }))).toBe(8); // one over, on the first
  });
  it("counts a scan in the part of its lot, as much as the code says", () => {
    const lots = { byLot: true, bySerial: false, shelfDays: null, leastDays: null };
    const oil = line(1, { lots, gtin: "4006381333931", factor: 200 * ONE });
    const scan = (count: CountTexts, of: CountableLine, code: string) => {
      const scanned = readScan(code);
      if (!scanned.ok) throw new Error(scanned.says);
      return withScan(count, of, scanned.value);
    };
    const must = (answer: ReturnType<typeof withScan>) => {
      if (!answer.ok) throw new Error(answer.says);
      return answer.count;
    };
    let now = must(scan(NOTHING_COUNTED, oil, "(01)04006381333931(10)A7(17)271201"));
    now = must(scan(now, oil, "(01)04006381333931(10)a7"));
    now = must(scan(now, oil, "(01)04006381333931(10)B1(37)400"));
    expect(partsCounted(now, oil.line).map((p) => [p.lot, p.count, p.expires])).toEqual([
      ["A7", "2", "2027-12-01"],
      ["B1", "2", ""],
    ]);
    const plate = line(2, { unitCode: "KGM" });
    expect(
      partsCounted(must(scan(NOTHING_COUNTED, plate, "(01)04006381333931(3102)012345")), plate.line)[0]?.count,
    ).toBe("123.45");
    const pump = line(3, { lots: { ...lots, bySerial: true } });
    now = must(scan(must(scan(NOTHING_COUNTED, pump, "(01)04006381333931(21)S1")), pump, "(01)04006381333931(21)S2"));
    expect(partsCounted(now, pump.line).map((p) => [p.lot, p.count])).toEqual([
      ["S1", "1"],
      ["S2", "1"],
    ]);
    expect(scan(now, pump, "(01)04006381333931(21)S1")).toEqual({
      ok: false,
      says: "Serial number S1 of Thing 3 is counted already.",
    });
  });
  it("says of a strange code that it is strange, or was read wrongly", () => {
    const scanned = (code: string) => ({
      code,
      gtin: null,
      lot: null,
      expires: null,
      serial: null,
      weight: null,
      count: null,
      pallet: null,
    });
    expect(strangerWords(scanned("HYD-1"), "on this order")).toBe("“HYD-1” is not on this order.");
    expect(strangerWords(scanned("4006381333932"), "on this order")).toMatch(/read wrongly/);
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

it("what is weighed when it comes counts by its scale, also as a code says it", () => {
  const plate = line(1, { weighed: true, gtin: "4006381333931", lots: null });
  const scanned = readScan("(01)04006381333931(3102)001250");
  if (!scanned.ok) throw new Error(scanned.says);
  const next = withScan(NOTHING_COUNTED, plate, scanned.value);
  expect(next.ok && partsCounted(next.count, plate.line)).toMatchObject([{ count: "1", weight: "12.5" }]);
  const by = (weight: string) =>
    countingOf([plate], { ...NOTHING_COUNTED, parts: { 1: [{ ...NO_PART, count: "2", weight }] } }, TODAY).totals
      .weight;
  expect(by("25.3")).toBe(253_000);
  expect(by("")).toBe(4 * ONE); // not weighed yet: as the item usually weighs
});

it("a delivery note fills the lines that it names, and a pallet counts beside what was counted", () => {
  const count = withPart(withPart(NOTHING_COUNTED, 1 as never, 0, { count: "2" }), 2 as never, 0, { count: "9" });
  const noted = withNote(count, [
    { line: 1 as never, count: "5", lot: "A", expires: "2028-01-31" },
    { line: 1 as never, count: "3", lot: "B", expires: "" },
  ]);
  expect(partsCounted(noted, 1 as never).map((p) => [p.count, p.lot, p.expires])).toEqual([
    ["5", "A", "2028-01-31"],
    ["3", "B", ""],
  ]);
  expect(partsCounted(noted, 2 as never)[0]!.count).toBe("9");
  const stood = withPallet(noted, [
    { line: 1 as never, quantity: 4 * ONE, lot: "b", expires: null },
    { line: 1 as never, quantity: 2 * ONE, lot: "C", expires: null },
  ]);
  expect(partsCounted(stood, 1 as never).map((p) => [p.count, p.lot])).toEqual([
    ["5", "A"],
    ["7", "b"],
    ["2", "C"],
  ]);
});
