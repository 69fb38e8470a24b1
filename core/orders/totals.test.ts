import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { lineNet, unitPrice } from "../numbers/money";
import { comesOut } from "../sums/sum";
import { type NetLine, totals } from "./totals";

const line = (
  quantity: number,
  price: number,
  taxRate: number,
  standing = 0,
  discount = 0,
  currency = "EUR",
): NetLine => ({
  net: lineNet(quantity, unitPrice(price), standing, discount, currency).minor,
  taxRate,
});

describe("totals of an order", () => {
  it("come to the worked example", () => {
    const lines = [
      line(70_000, 624_500_000, 2000, 300, 200),
      line(1_250, 1_180_000_000, 1000),
      line(2_500_000, 12_500, 2000),
    ];
    const t = totals(lines, 150, "EUR");
    expect(lines.map((l) => l.net)).toEqual([415_555, 14_750, 313]);
    expect([t.lines.minor, t.discount.minor]).toEqual([430_618, 6_459]);
    expect(t.taxes.map((x) => [x.rate, x.discountShare.minor, x.base.minor, x.tax.minor])).toEqual([
      [2000, 6_238, 409_630, 81_926],
      [1000, 221, 14_529, 1_453],
    ]);
    expect(t.total.minor).toBe(507_538);
    expect(comesOut(t.sum)).toBe(true);
  });

  it("are whole units where the currency has no smaller one", () => {
    expect(totals([line(30_000, 333_333_333, 1000, 0, 0, "JPY")], 0, "JPY").total.minor).toBe(1_100);
  });

  it("are nothing for no lines", () => {
    expect(totals([], 150, "EUR").total.minor).toBe(0);
  });

  it("always add up", () => {
    const anyLine = fc.record({ net: fc.integer({ min: 0, max: 1e10 }), taxRate: fc.constantFrom(0, 500, 1000, 2000) });
    fc.assert(
      fc.property(
        fc.array(anyLine, { maxLength: 12 }),
        fc.integer({ min: 0, max: 10_000 }),
        fc.constantFrom("EUR", "JPY", "KWD"),
        (lines, d, currency) => {
          const t = totals(lines, d, currency);
          expect(t.taxes.reduce((a, x) => a + x.base.minor, 0)).toBe(t.net.minor);
          expect(t.net.minor + t.tax.minor).toBe(t.total.minor);
          expect(lines.reduce((a, l) => a + l.net, 0) - t.discount.minor).toBe(t.net.minor);
          expect(comesOut(t.sum)).toBe(true);
        },
      ),
    );
  });
});
