import { expect, it } from "vitest";
import type { Day } from "../calendar/day";
import { freshness, freshnessWords, usualExpiry } from "./lot";

const TODAY = "2026-11-24" as Day;
const rule = { byLot: true, bySerial: false, shelfDays: 365, leastDays: 90 };

it("says until when goods keep, and what is too old to be taken in", () => {
  expect(usualExpiry(rule, TODAY)).toBe("2027-11-24");
  expect(usualExpiry({ ...rule, shelfDays: null }, TODAY)).toBeNull();
  expect(freshness(rule, null, TODAY)).toBe("fresh");
  expect(freshness(rule, TODAY, TODAY)).toBe("soon"); // it may still be used today
  expect(freshness(rule, "2027-02-22" as Day, TODAY)).toBe("fresh"); // 90 days
  expect(freshness(rule, "2027-02-21" as Day, TODAY)).toBe("soon");
  expect(freshness(rule, "2026-11-23" as Day, TODAY)).toBe("expired");
  expect(freshnessWords(rule, "2026-11-23" as Day, TODAY)).toBe("expired yesterday");
  expect(freshnessWords(rule, "2026-11-20" as Day, TODAY)).toBe("expired 4 days ago");
  expect(freshnessWords(rule, "2026-12-04" as Day, TODAY)).toBe("expires in 10 days: 90 should be left");
  expect(freshnessWords({ ...rule, leastDays: null }, "2026-12-04" as Day, TODAY)).toBe("");
});
