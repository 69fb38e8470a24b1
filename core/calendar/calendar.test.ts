import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { addDays, daysBetween, parseDay, toDay, weekday } from "./day";
import { arrival, type Delivery, EVERY_DAY, MONDAY_TO_FRIDAY, orderBy } from "./delivery";

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
  it("finds the very last day", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 400 }),
        fc.integer({ min: 0, max: 60 }),
        fc.integer({ min: 1, max: 127 }),
        fc.boolean(),
        (offset, leadDays, delivers, working) => {
          const way: Delivery = { leadDays, leadKind: working ? "working" : "calendar", delivers, receives: EVERY_DAY };
          const needed = addDays(toDay("2026-11-24"), offset);
          const last = orderBy(needed, way)!;
          expect(arrival(last, way)! <= needed).toBe(true);
          expect(arrival(addDays(last, 1), way)! > needed).toBe(true);
        },
      ),
    );
  });
});
