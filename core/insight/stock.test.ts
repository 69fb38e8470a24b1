import { describe, expect, it } from "vitest";
import { comesOut } from "../sums/sum";
import { averageValue, coverDays, coverSum, turnsAYear, turnsSum } from "./stock";

const shelf = { value: 90_000, dayValues: 365 * 120_000, used: 480_000 };

describe("what lies there", () => {
  it("turns as often as what was used is more than what lay there on average", () => {
    expect(averageValue(shelf, 365)).toBe(120_000);
    expect(turnsAYear(shelf)).toBe(40_000);
    expect(comesOut(turnsSum(shelf, 365, "EUR")!)).toBe(true);
    expect(turnsAYear({ ...shelf, used: 0 })).toBe(0);
    expect(turnsAYear({ ...shelf, dayValues: 0 })).toBeNull();
    expect(turnsSum({ ...shelf, dayValues: -1 }, 365, "EUR")).toBeNull();
  });

  it("lasts as long as it did lately, and nobody says how long where nothing was used", () => {
    // 900.00 × 365 ÷ 4,800.00 = 68.4375
    expect(coverDays(shelf, 365)).toBe(684_375);
    expect(comesOut(coverSum(shelf, 365, "EUR")!)).toBe(true);
    expect(coverDays({ ...shelf, used: 0 }, 365)).toBeNull();
    expect(coverSum({ ...shelf, used: -5 }, 365, "EUR")).toBeNull();
  });
});
