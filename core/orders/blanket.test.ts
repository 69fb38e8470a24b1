import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { addDays, toDay } from "../calendar/day";
import { ONE } from "../numbers/quantity";
import { comesOut } from "../sums/sum";
import { type BlanketLine, burnOf, type Call, leftOf, refusesCall, warningsOf } from "./blanket";

const line: BlanketLine = {
  limits: "quantity",
  committed: 48 * ONE,
  committedValue: 0,
  least: 4 * ONE,
  starts: toDay("2026-01-01"),
  ends: toDay("2026-12-31"),
  unit: "drum",
  currency: "EUR",
};
const call = (quantity: number, value = 0): Call => ({
  day: toDay("2026-06-01"),
  quantity: quantity * ONE,
  value,
  label: "26-1100",
});

describe("what is left of a blanket line", () => {
  it("is committed less called off, and says each call", () => {
    const left = leftOf(line, [call(8), call(12)]);
    expect([left.left, left.called, left.used]).toEqual([28 * ONE, 20 * ONE, 4_166]);
    expect(comesOut(left.sum)).toBe(true);
  });

  it("is counted in money where its value is limited, and the tighter of both where both are", () => {
    const byValue: BlanketLine = { ...line, limits: "value", committedValue: 1_000_000 };
    const left = leftOf(byValue, [call(8, 250_000)]);
    expect([left.leftValue, left.used, comesOut(left.sum)]).toEqual([750_000, 2_500, true]);
    expect(leftOf({ ...byValue, limits: "both" }, [call(8, 900_000)]).used).toBe(9_000);
  });

  it("never loses or makes up anything, whatever is called off, cut, cancelled or closed", () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ quantity: fc.integer({ min: 1, max: 9_999_999 }), alive: fc.boolean() }), {
          maxLength: 40,
        }),
        (papers) => {
          const calls = papers.filter((p) => p.alive).map((p) => ({ ...call(0), quantity: p.quantity }));
          const left = leftOf(line, calls);
          expect(left.left + calls.reduce((a, c) => a + c.quantity, 0)).toBe(line.committed);
          expect(comesOut(left.sum)).toBe(true);
        },
      ),
    );
  });
});

describe("a call-off", () => {
  const on = (day: string, quantity: number, value = 0) => ({ day: toDay(day), quantity: quantity * ONE, value });
  const left = { left: 28 * ONE, leftValue: 0 };
  it("is refused beyond what is left, outside the time, and under the least", () => {
    expect(refusesCall(line, left, on("2026-06-01", 28))).toBeNull();
    expect(refusesCall(line, left, on("2026-06-01", 29))).toBe("Only 28 drum are left of the blanket order.");
    expect(refusesCall(line, left, on("2027-01-01", 8))).toMatch(/ended on Thu 31 Dec 2026/);
    expect(refusesCall(line, left, on("2025-12-31", 8))).toMatch(/begins on Thu 1 Jan 2026/);
    expect(refusesCall(line, left, on("2026-06-01", 3))).toBe("At least 4 drum are called off at once.");
  });
  it("is refused where it is worth more than is left", () => {
    const byValue: BlanketLine = { ...line, limits: "value", committedValue: 1_000_000 };
    expect(refusesCall(byValue, { left: 0, leftValue: 10_000 }, on("2026-06-01", 900, 10_001))).toMatch(/worth more/);
    expect(refusesCall(byValue, { left: 0, leftValue: 10_000 }, on("2026-06-01", 900, 10_000))).toBeNull();
  });
});

describe("how fast a line is used up", () => {
  const today = toDay("2026-11-24"); // day 328
  const burn = (drums: number) => {
    const left = leftOf(line, [call(drums)]);
    return { left, burn: burnOf(line, left, today) };
  };
  it("gives the day on which nothing is left: 40 in 328 days leaves 8 for 66 more", () => {
    const { left, burn: b } = burn(40);
    expect(b.runsOut).toBe(addDays(today, 66));
    expect(b.unused).toBe(34_879); // 8 less 40 × 37 ÷ 328 = 4.5121
    expect(warningsOf(line, left, b, today).map((w) => w.kind)).toEqual(["nearly used"]);
  });
  it("tells the one that runs out before its end, and the one that is not used up", () => {
    const out = burn(46);
    expect(out.burn.runsOut).toBe(addDays(today, 15));
    expect(warningsOf(line, out.left, out.burn, today).map((w) => w.kind)).toEqual(["runs out", "nearly used"]);
    const rest = burn(20);
    expect(warningsOf(line, rest.left, rest.burn, today).map((w) => w.kind)).toEqual(["not used up"]);
    expect(burn(0).burn).toMatchObject({ runsOut: null, unused: 48 * ONE });
  });
  it("warns from 80 % and from 30 days on, to the day", () => {
    const kinds = (drums: number, day: string) => {
      const left = leftOf(line, [call(drums)]);
      return warningsOf(line, left, burnOf(line, left, toDay(day)), toDay(day)).map((w) => w.kind);
    };
    expect(kinds(38.4, "2026-11-24")).toContain("nearly used");
    expect(kinds(38.3, "2026-11-24")).not.toContain("nearly used");
    expect(kinds(44, "2026-12-01")).toContain("ends soon");
    expect(kinds(44, "2026-11-30")).not.toContain("ends soon");
    expect(kinds(44, "2027-01-02")).toEqual(["ended"]);
  });
});
