import { describe, expect, it } from "vitest";
import { toDay } from "../calendar/day";
import type { PayTerms } from "../orders/terms";
import { ageOf, daysOver, earlyDiscount, earlySum, exchangeLoss, paidBy, yearlyRate } from "./due";

const TWELFTH = toDay("2026-11-12");
const terms = (more: Partial<PayTerms>): PayTerms => ({
  days: 30,
  from: "invoice",
  earlyPercent: 0,
  earlyDays: 0,
  ...more,
});

describe("when an invoice is paid", () => {
  it("follows from its terms", () => {
    expect(paidBy(terms({}), TWELFTH)).toEqual({ by: "2026-12-12", early: null });
    expect(paidBy(terms({ from: "end of month", days: 15 }), TWELFTH).by).toBe("2026-12-15");
    expect(paidBy(terms({ earlyPercent: 200, earlyDays: 10 }), TWELFTH)).toEqual({
      by: "2026-12-12",
      early: { percent: 200, by: "2026-11-22" },
    });
  });
  it("early is worth so much a year", () => {
    const due = paidBy(terms({ earlyPercent: 200, earlyDays: 10 }), TWELFTH);
    expect(earlyDiscount(4_583_64, 200)).toBe(91_67);
    expect(yearlyRate(due)).toBe(3724); // 2 ÷ 98 × 365 ÷ 20
    expect(earlySum(4_583_64, due, "EUR")!.steps.map((s) => s.label)).toContain("instead of 20 days later, a year");
    expect(yearlyRate(paidBy(terms({ earlyPercent: 200, earlyDays: 30 }), TWELFTH))).toBeNull();
    expect(yearlyRate(paidBy(terms({}), TWELFTH))).toBeNull();
    expect(earlySum(1, paidBy(terms({}), TWELFTH), "EUR")).toBeNull();
  });
});

describe("what is owed by age", () => {
  it("is the example's on 24 Nov", () => {
    const on = toDay("2026-11-24");
    const age = (day: string) => [daysOver(toDay(day), on), ageOf(toDay(day), on)];
    expect(age("2026-11-30")).toEqual([-6, "not yet due"]);
    expect(age("2026-11-24")).toEqual([0, "not yet due"]);
    expect(age("2026-10-25")).toEqual([30, "1 to 30 days"]);
    expect(age("2026-09-24")).toEqual([61, "61 to 90 days"]);
    expect(age("2026-07-01")).toEqual([146, "over 90 days"]);
    expect(age("2026-10-24")[1]).toBe("31 to 60 days");
    expect(age("2026-08-26")[1]).toBe("61 to 90 days");
    expect(age("2026-08-25")[1]).toBe("over 90 days");
  });
});

it("another rate on the day it is paid costs, or saves", () => {
  expect(exchangeLoss(6_039_08, "SEK", 88_400, 89_100, "EUR")).toEqual({ booked: 533_85, paid: 538_08, loss: 4_23 });
});
