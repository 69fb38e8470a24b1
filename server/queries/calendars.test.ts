import { describe, expect, it } from "vitest";
import { toDay } from "../../core/calendar/day";
import { holidaysAround, isRegion, regions } from "./calendars";

const AT = toDay("2026-11-24");

describe("public holidays of a region", () => {
  it("are those of the year before to three years on, and movable ones move", () => {
    const norway = holidaysAround("NO", AT);
    for (const day of ["2025-12-25", "2026-12-25", "2026-05-17", "2027-03-26", "2029-12-26"])
      expect(norway.has(toDay(day)), day).toBe(true); // Good Friday of 2027 is the 26th of March
    expect(norway.has(toDay("2026-11-26"))).toBe(false);
    expect(holidaysAround("US", AT).has(toDay("2026-11-26"))).toBe(true);
    expect(holidaysAround("US", AT).has(toDay("2027-11-25"))).toBe(true);
  });
  it("of several days are kept on each of them", () => {
    const turkey = holidaysAround("TR", AT);
    for (const [day, kept] of [
      ["2026-03-19", false],
      ["2026-03-20", true],
      ["2026-03-21", true],
      ["2026-03-22", true],
      ["2026-03-23", false],
      ["2026-05-30", true],
      ["2026-05-31", false],
    ] as const)
      expect(turkey.has(toDay(day)), day).toBe(kept);
    expect(holidaysAround("SA", AT).has(toDay("2026-03-22"))).toBe(true);
  });
  it("differ within a country, and where none is named nobody keeps any", () => {
    expect(holidaysAround("GB-SCT", AT).has(toDay("2026-11-30"))).toBe(true);
    expect(holidaysAround("GB-ENG", AT).has(toDay("2026-11-30"))).toBe(false);
    expect(holidaysAround("", AT).size).toBe(0);
  });
  it("are known for countries and their parts, and for nothing else", () => {
    expect(["NO", "GB-SCT", "IM"].map(isRegion)).toEqual([true, true, true]);
    expect(["", "XX", "GB-XX", "NORWAY"].map(isRegion)).toEqual([false, false, false, false]);
    const all = regions();
    expect(all.length).toBeGreaterThan(150);
    expect(all).toContainEqual({ code: "NO", name: "Norway" });
    expect(new Set(all.map((r) => r.code)).size).toBe(all.length);
  });
});
