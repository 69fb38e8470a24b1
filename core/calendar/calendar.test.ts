import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { addDays, daysBetween, parseDay, toDay, weekday, yearBefore } from "./day";
import { arrival, type Delivery, EVERY_DAY, MONDAY_TO_FRIDAY, orderBy, sentOn } from "./delivery";

const MON_AND_THU = 1 | 8;

describe("days", () => {
  it("knows which days exist", () => {
    expect(parseDay("2028-02-29")).toBe("2028-02-29");
    for (const wrong of ["2026-02-29", "2026-13-01", "2026-1-1", "24.11.2026", "1999-01-01", "", "2026-11-31"]) {
      expect(parseDay(wrong)).toBeNull();
    }
  });
  it("counts across months, years and clock changes", () => {
    expect(addDays(toDay("2026-12-31"), 1)).toBe("2027-01-01");
    expect(daysBetween(toDay("2026-03-28"), toDay("2026-03-30"))).toBe(2);
    expect(weekday(toDay("2026-11-24"))).toBe(2);
  });
});

describe("a year ago", () => {
  it("is the same day of the year before, leap years or not", () => {
    for (const [day, before] of [
      ["2026-11-24", "2025-11-24"],
      ["2028-11-24", "2027-11-24"],
      ["2029-01-10", "2028-01-10"],
      ["2028-02-29", "2027-02-28"],
      ["2029-02-28", "2028-02-28"],
    ] as const)
      expect(yearBefore(toDay(day))).toBe(before);
  });
});

describe("arrival and order-by", () => {
  const boat: Delivery = { leadDays: 10, leadKind: "calendar", delivers: MON_AND_THU, receives: EVERY_DAY };

  it("follows the worked example", () => {
    expect(arrival(toDay("2026-11-24"), boat)).toBe("2026-12-07");
    expect(orderBy(toDay("2026-12-11"), boat)).toBe("2026-11-30");
  });
  it("counts working days where the supplier does", () => {
    const way: Delivery = { leadDays: 5, leadKind: "working", delivers: MONDAY_TO_FRIDAY, receives: MONDAY_TO_FRIDAY };
    expect(arrival(toDay("2026-11-24"), way)).toBe("2026-12-01");
  });
  it("says so where the two never meet", () => {
    expect(arrival(toDay("2026-11-24"), { ...boat, receives: 2 })).toBeNull();
    expect(orderBy(toDay("2026-11-24"), { ...boat, receives: 2 })).toBeNull();
  });
  it("passes over holidays of the supplier's and of the store's region", () => {
    const christmas = new Set([toDay("2026-12-25"), toDay("2026-12-26")]);
    const way: Delivery = { leadDays: 2, leadKind: "working", delivers: MONDAY_TO_FRIDAY, receives: MONDAY_TO_FRIDAY };
    // Thu 24 Dec is the first working day, Fri 25 Dec the second; without it, Mon 28 Dec.
    expect(arrival(toDay("2026-12-23"), way)).toBe("2026-12-25");
    expect(arrival(toDay("2026-12-23"), { ...way, closedThere: christmas })).toBe("2026-12-28");
    // Closed here only: the days still count for the supplier, but nobody takes the goods in.
    expect(arrival(toDay("2026-12-23"), { ...way, closedHere: christmas })).toBe("2026-12-28");
    expect(orderBy(toDay("2026-12-27"), { ...way, closedThere: christmas })).toBe("2026-12-22");
  });
  it("counts an order after the cut-off hour as sent a day later", () => {
    const sent = toDay("2026-11-24");
    expect([sentOn(sent, 13, 14), sentOn(sent, 14, 14), sentOn(sent, 23, null)]).toEqual([
      "2026-11-24",
      "2026-11-25",
      "2026-11-24",
    ]);
    // A day later, Mon 7 Dec still holds; with the boat on Fridays too, it would not.
    expect(arrival(sent, { ...boat, earliest: sentOn(sent, 15, 14) })).toBe("2026-12-07");
    expect(arrival(sent, { ...boat, delivers: EVERY_DAY, earliest: sentOn(sent, 15, 14) })).toBe("2026-12-05");
  });
  it("says so where holidays cover every day they share", () => {
    const never = new Set(Array.from({ length: 900 }, (_, i) => addDays(toDay("2025-11-01"), i)));
    expect(arrival(toDay("2026-11-24"), { ...boat, closedHere: never })).toBeNull();
    expect(orderBy(toDay("2027-11-30"), { ...boat, closedHere: never })).toBeNull();
  });
  it("crosses leap days, year ends and clock changes", () => {
    const way: Delivery = { leadDays: 1, leadKind: "calendar", delivers: EVERY_DAY, receives: EVERY_DAY };
    for (const [sent, comes] of [
      ["2028-02-28", "2028-02-29"],
      ["2027-02-28", "2027-03-01"],
      ["2026-12-31", "2027-01-01"],
      ["2027-03-27", "2027-03-28"],
      ["2026-10-24", "2026-10-25"],
    ] as const) {
      expect(arrival(toDay(sent), way)).toBe(comes);
      expect(orderBy(toDay(comes), way)).toBe(sent);
    }
  });
  it("finds the very last day", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 400 }),
        fc.integer({ min: 0, max: 60 }),
        fc.integer({ min: 1, max: 127 }),
        fc.boolean(),
        fc.uniqueArray(fc.integer({ min: -60, max: 400 }), { maxLength: 40 }),
        fc.uniqueArray(fc.integer({ min: -60, max: 400 }), { maxLength: 40 }),
        (offset, leadDays, delivers, working, there, here) => {
          const start = toDay("2026-11-24");
          const way: Delivery = {
            leadDays,
            leadKind: working ? "working" : "calendar",
            delivers,
            receives: EVERY_DAY,
            closedThere: new Set(there.map((n) => addDays(start, n))),
            closedHere: new Set(here.map((n) => addDays(start, n))),
          };
          const needed = addDays(start, offset);
          const last = orderBy(needed, way)!;
          expect(arrival(last, way)! <= needed).toBe(true);
          expect(arrival(addDays(last, 1), way)! > needed).toBe(true);
        },
      ),
    );
  });
});
