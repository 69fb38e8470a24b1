import { describe, expect, it } from "vitest";
import { toDay } from "../calendar/day";
import { unitPrice } from "../numbers/money";
import { ONE, purchase } from "../numbers/quantity";
import { type PriceBreak, priceFor, sourceWords } from "./price";

const today = toDay("2026-11-24");
const at = (
  from: number,
  price: number,
  validFrom: string | null = null,
  validTo: string | null = null,
): PriceBreak => ({
  from: purchase(from * ONE),
  price: unitPrice(Math.round(price * 1_000_000)),
  validFrom: validFrom ? toDay(validFrom) : null,
  validTo: validTo ? toDay(validTo) : null,
});
const oil = {
  blankets: [],
  quotes: [],
  breaks: [at(1, 3.3), at(5, 3.12), at(10, 2.94)],
  lastPaid: null,
  reference: null,
};
const priceOf = (n: number, records = oil) => priceFor(records, purchase(n * ONE), today)?.price;

describe("the price of a line", () => {
  it("takes the break of the worked example", () => {
    expect(priceOf(8)).toBe(3_120_000);
    expect(priceOf(6 + 5)).toBe(2_940_000);
    expect([priceOf(4), priceOf(5), priceOf(10)]).toEqual([3_300_000, 3_120_000, 2_940_000]);
  });

  it("leaves out breaks that are not in force", () => {
    const dated = { ...oil, breaks: [at(1, 3.3), at(1, 2, "2026-12-01"), at(5, 1, null, "2026-11-23")] };
    expect(priceOf(8, dated)).toBe(3_300_000);
  });

  it("takes an accepted quote in its dates before the list", () => {
    const quote = {
      quote: "Q26-1001",
      said: null,
      from: purchase(2 * ONE),
      price: unitPrice(2_500_000),
      validFrom: today,
      validTo: toDay("2026-12-01"),
    };
    const quoted = { ...oil, quotes: [quote] };
    const found = priceFor(quoted, purchase(8 * ONE), today)!;
    expect([found.price, sourceWords(found.source)]).toEqual([2_500_000, "quote Q26-1001, from 2"]);
    expect(priceFor(quoted, purchase(ONE), today)!.price).toBe(3_300_000);
    expect(priceFor(quoted, purchase(8 * ONE), toDay("2026-12-02"))!.price).toBe(3_120_000);
  });

  it("falls back to what was last paid, then to the reference cost, then to nothing", () => {
    const lastPaid = { price: unitPrice(9_000_000), order: "26-1001", day: toDay("2026-05-05") };
    const none = { blankets: [], quotes: [], breaks: [at(5, 1)], lastPaid, reference: unitPrice(7_000_000) };
    const priced = priceFor(none, purchase(ONE), today)!;
    expect([priced.price, sourceWords(priced.source), priced.warning]).toEqual([
      9_000_000,
      "last paid on 26-1001",
      false,
    ]);
    const reference = priceFor({ ...none, lastPaid: null }, purchase(ONE), today)!;
    expect([reference.price, reference.warning]).toEqual([7_000_000, true]);
    expect(
      priceFor({ blankets: [], quotes: [], breaks: [], lastPaid: null, reference: null }, purchase(ONE), today),
    ).toBeNull();
  });
});
