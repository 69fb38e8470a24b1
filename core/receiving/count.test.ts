import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { addDays, type Day } from "../calendar/day";
import { ONE } from "../numbers/quantity";
import type { Scheduled } from "../orders/schedule";
import { comesOut } from "../sums/sum";
import { type CountedLine, judge, judgeReason, judgeSum, judgeWords, verdictOf } from "./count";
import { isComplete, NO_TOLERANCE, type Tolerance, toleranceInForce } from "./tolerance";

const TODAY = "2026-11-24" as Day;
const PERCENT = 100;
const row = (quantity: number, more: Partial<Scheduled> = {}): Scheduled => ({
  quantity: quantity * ONE,
  required: TODAY,
  promised: null,
  received: 0,
  closedShort: 0,
  ...more,
});
const line = (schedule: Scheduled[], t: Partial<Tolerance> = {}, more: Partial<CountedLine> = {}): CountedLine => ({
  schedule,
  letOff: 0,
  whole: true,
  tolerance: toleranceInForce([{ scope: "item", ...NO_TOLERANCE, ...t }]),
  ...more,
});
const said = (l: CountedLine, counted: number, unit = "each") =>
  judgeWords(judge(l, counted * ONE, TODAY), unit, "Ines");

describe("the worked examples of domain-goods §11", () => {
  it("ordered 48, over 5 % and at most 3: 50 is kept, of 51 one is beyond", () => {
    const l = line([row(48)], { overPercent: 5 * PERCENT, overQuantity: 3 * ONE });
    expect(said(l, 50)).toBe("2 over, kept");
    expect(judge(l, 51 * ONE, TODAY)).toMatchObject({ taken: 50 * ONE, over: 2 * ONE, heldOver: ONE, left: 0 });
    expect(said(l, 51)).toBe("1 beyond, waits for Ines");
    const sum = judgeSum(l, judge(l, 51 * ONE, TODAY), "each");
    expect(comesOut(sum)).toBe(true);
    expect(sum.steps.map((s) => [s.op, s.label, "value" in s.figure ? s.figure.value / ONE : 0])).toContainEqual([
      "=",
      "may be kept",
      50.4,
    ]);
    expect(sum.steps.at(-1)).toMatchObject({ label: "beyond", figure: { value: ONE } });
  });
  it("ordered 36, under 3 %: 35 completes the line, 34 does not", () => {
    const l = line([row(36)], { underPercent: 3 * PERCENT });
    expect(said(l, 35)).toBe("1 short, line closes");
    expect(judgeReason(judge(l, 35 * ONE, TODAY), l.tolerance)).toBe("under by 3 % counts as complete");
    expect(judge(l, 35 * ONE, TODAY)).toMatchObject({ taken: 35 * ONE, letOff: ONE, left: 0 });
    expect(said(l, 34)).toBe("2 each still to come");
    expect(comesOut(judgeSum(l, judge(l, 34 * ONE, TODAY), "each"))).toBe(true);
  });
  it("ordered 1,250 kg of plate, ±4 %: 1,297.5 is kept and complete, of 1,302 two are beyond", () => {
    const l = line([row(1250)], { overPercent: 4 * PERCENT, underPercent: 4 * PERCENT }, { whole: false });
    expect(judge(l, 1297.5 * ONE, TODAY)).toMatchObject({
      taken: 1297.5 * ONE,
      over: 47.5 * ONE,
      heldOver: 0,
      left: 0,
    });
    expect(judge(l, 1302 * ONE, TODAY)).toMatchObject({ taken: 1300 * ONE, heldOver: 2 * ONE });
    expect(said(l, 1302, "kg")).toBe("2 beyond, waits for Ines");
    expect(judge(l, 1200 * ONE, TODAY)).toMatchObject({ letOff: 50 * ONE, left: 0 });
  });
});

describe("a count", () => {
  it("is as ordered, a part, or over, where nothing is allowed", () => {
    const l = line([row(48, { received: 20 * ONE })]);
    expect(said(l, 0)).toBe("not counted yet");
    expect(said(l, 28)).toBe("as ordered");
    expect(said(l, 27)).toBe("1 each still to come");
    expect(said(l, 30)).toBe("2 over, waits for Ines");
    expect(judgeReason(judge(l, 30 * ONE, TODAY), l.tolerance)).toBe("none over is allowed: keep 28, set 2 aside");
  });
  it("keeps, holds or refuses what is beyond, as is set", () => {
    expect(said(line([row(12)], { beyond: "keep" }), 20)).toBe("8 over, kept");
    expect(said(line([row(12)], { beyond: "refuse", overQuantity: ONE }), 20)).toBe("7 over, goes back");
    expect(judge(line([row(12)], { beyond: "refuse", overQuantity: ONE }), 20 * ONE, TODAY)).toMatchObject({
      taken: 13 * ONE,
      refusedOver: 7 * ONE,
    });
  });
  it("asks about what is too early for its instalment, the earliest taking first", () => {
    const l = line([row(5), row(3, { promised: addDays(TODAY, 6) })], { earlyDays: 5 });
    expect(said(l, 5)).toBe("3 each still to come");
    expect(said(l, 8)).toBe("3 early by 6 days, ask");
    expect(judge(l, 8 * ONE, TODAY)).toMatchObject({ taken: 5 * ONE, heldEarly: 3 * ONE, left: 3 * ONE });
    expect(said({ ...l, tolerance: { ...l.tolerance, earlyDays: 6 } }, 8)).toBe("as ordered");
    expect(said({ ...l, tolerance: { ...l.tolerance, early: "take" } }, 8)).toBe("as ordered");
    expect(said({ ...l, tolerance: { ...l.tolerance, early: "refuse" } }, 9)).toBe("4 early by 6 days, goes back");
  });
  it("of what was let off takes it after all", () => {
    const l = line([row(36, { received: 35 * ONE, closedShort: ONE })], { underPercent: 3 * PERCENT }, { letOff: ONE });
    expect(said(l, 1)).toBe("as ordered");
    expect(said(l, 2)).toBe("1 over, waits for Ines");
  });
  it("always adds up, never takes more than may be kept, and says nothing that is not so", () => {
    const part = fc.record({ quantity: fc.integer({ min: 1, max: 60 }), received: fc.nat(60), days: fc.nat(12) });
    const some = <T>(a: fc.Arbitrary<T>) => fc.option(a, { nil: null });
    const tolerance = fc.record({
      overPercent: some(fc.nat(3_000)),
      overQuantity: some(fc.nat(5 * ONE)),
      underPercent: some(fc.nat(3_000)),
      underQuantity: some(fc.nat(5 * ONE)),
      earlyDays: some(fc.nat(9)),
      beyond: some(fc.constantFrom("keep", "hold", "refuse") as fc.Arbitrary<Tolerance["beyond"]>),
      early: some(fc.constantFrom("take", "ask", "refuse") as fc.Arbitrary<Tolerance["early"]>),
    });
    fc.assert(
      fc.property(
        fc.array(part, { minLength: 1, maxLength: 4 }),
        tolerance,
        fc.nat(200 * ONE),
        fc.boolean(),
        (parts, t, counted, whole) => {
          const rows = parts.map((p) =>
            row(p.quantity, { received: Math.min(p.received, p.quantity) * ONE, promised: addDays(TODAY, p.days) }),
          );
          const l = line(rows, t, { whole });
          const j = judge(l, counted, TODAY);
          expect(j.taken + j.heldOver + j.heldEarly + j.refusedOver + j.refusedEarly).toBe(counted);
          for (const n of Object.values(j)) expect(n).toBeGreaterThanOrEqual(0);
          const ordered = rows.reduce((a, r) => a + r.quantity, 0);
          const before = rows.reduce((a, r) => a + r.received, 0);
          const most = Number(
            [
              t.overPercent === null ? null : (BigInt(ordered) * BigInt(t.overPercent)) / 10_000n,
              t.overQuantity === null ? null : BigInt(t.overQuantity),
            ]
              .filter((n) => n !== null)
              .sort((a, b) => (a < b ? -1 : 1))[0] ?? 0n,
          );
          if (t.beyond !== "keep") expect(before + j.taken).toBeLessThanOrEqual(ordered + most);
          if (whole && j.heldOver > 0 && ordered >= before) expect((before + j.taken) % ONE).toBe(0);
          expect(before + j.taken - j.over + j.left + j.letOff).toBe(ordered);
          expect(comesOut(judgeSum(l, j, "each"))).toBe(true);
          if (j.letOff > 0) expect(isComplete(l.tolerance, ordered, before + j.taken)).toBe(true);
          if (counted > 0) expect(verdictOf(j)).not.toBe("not counted");
        },
      ),
    );
  });
});

describe("tolerances", () => {
  it("are looked up value by value, the narrowest scope first, and say where each is from", () => {
    const t = toleranceInForce([
      { scope: "house", ...NO_TOLERANCE, overPercent: 200, overQuantity: 3 * ONE, beyond: "hold" },
      { scope: "supplier", ...NO_TOLERANCE, underPercent: 100 },
      { scope: "item at supplier", ...NO_TOLERANCE, overPercent: 500 },
      { scope: "order line", ...NO_TOLERANCE, underPercent: 0 },
    ]);
    expect(t).toMatchObject({ overPercent: 500, overQuantity: 3 * ONE, underPercent: 0, beyond: "hold", early: null });
    expect(t.from).toEqual({
      overPercent: "item at supplier",
      overQuantity: "house",
      underPercent: "order line",
      beyond: "house",
    });
  });
});
