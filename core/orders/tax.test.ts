import { describe, expect, it } from "vitest";
import { taxRateOf } from "./tax";

describe("the tax of a line", () => {
  it("is the typed rate, else the item's, else the house's; none where we account for it ourselves", () => {
    const all = { taxed: true, typed: 500, item: 1_000, house: 2_000 };
    expect(taxRateOf(all)).toBe(500);
    expect(taxRateOf({ ...all, typed: null })).toBe(1_000);
    expect(taxRateOf({ ...all, typed: null, item: null })).toBe(2_000);
    expect(taxRateOf({ ...all, typed: 0 })).toBe(0);
    expect(taxRateOf({ ...all, taxed: false })).toBe(0);
  });
});
