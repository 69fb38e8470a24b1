import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { Big, decimalText, parseDecimal } from "./decimal";
import { exponent, lineNet, moneyText, parsePrice, share, toMinor, unitPrice } from "./money";
import { factorOf, multipleUp, parseQuantity, purchase, stock, toPurchase, toStock, wholeUp } from "./quantity";

describe("decimals as people type them", () => {
  it.each([
    ["7", ".", 70_000],
    ["1,600.5", ".", 16_005_000],
    ["1 600,5", ",", 16_005_000],
    ["−3", ".", -30_000],
    ["0.1250", ".", 1_250],
    ["-0", ".", 0],
  ] as const)("%s with %s", (text, mark, value) => {
    const parsed = parseDecimal(text, 4, mark);
    expect(parsed).toEqual({ ok: true, value });
    expect(Object.is(parsed.ok && parsed.value, -0)).toBe(false);
  });

  it.each(["", "abc", "1,60", "1.2.3", "1e9", "0x10", "Infinity", "12.34567", "9".repeat(30)])("refuses %s", (text) => {
    const parsed = parseDecimal(text, 4);
    expect(parsed.ok).toBe(false);
    if (!parsed.ok) expect(parsed.says).toMatch(/\.$/);
  });

  it("writes back what it read", () => {
    fc.assert(
      fc.property(fc.integer({ min: -1e12, max: 1e12 }), fc.integer({ min: 0, max: 6 }), (n, places) => {
        expect(parseDecimal(decimalText(n, places), places)).toEqual({ ok: true, value: n });
      }),
    );
  });

  it("questions absurd and negative quantities and prices", () => {
    expect(parseQuantity("-3")).toEqual({ ok: false, says: "A quantity cannot be negative." });
    expect(parseQuantity("0")).toEqual({ ok: false, says: "A quantity must be above zero." });
    expect(parseQuantity("0", ".", "zero allowed").ok).toBe(true);
    expect(parseQuantity("100,000,001").ok).toBe(false);
    expect(parsePrice("-0.01").ok).toBe(false);
  });
});

describe("money", () => {
  it("knows the digits of a currency", () => {
    expect([exponent("EUR"), exponent("JPY"), exponent("KWD")]).toEqual([2, 0, 3]);
    expect(moneyText({ minor: 1234, currency: "KWD" })).toBe("1.234");
    expect(moneyText({ minor: -5, currency: "EUR" })).toBe("-0.05");
  });

  it("rounds half away from zero", () => {
    expect(toMinor(new Big("3.125"), "EUR")).toBe(313);
    expect(toMinor(new Big("-3.125"), "EUR")).toBe(-313);
    expect(toMinor(new Big("0.4999999"), "JPY")).toBe(0);
  });

  it("nets a line as the worked example", () => {
    expect(lineNet(70_000, unitPrice(624_500_000), 300, 200, "EUR").minor).toBe(415_555);
    expect(lineNet(1_250, unitPrice(1_180_000_000), 0, 0, "EUR").minor).toBe(14_750);
    expect(lineNet(2_500_000, unitPrice(12_500), 0, 0, "EUR").minor).toBe(313);
  });

  it("shares an amount so that the parts add up, each within one of its due", () => {
    const amounts = fc.integer({ min: -1e9, max: 1e9 });
    fc.assert(
      fc.property(
        amounts,
        fc.array(fc.integer({ min: 0, max: 1e9 }), { minLength: 1, maxLength: 9 }),
        (minor, weights) => {
          const parts = share(minor, weights);
          expect(parts.reduce((a, b) => a + b, 0)).toBe(minor);
          const total = weights.reduce((a, b) => a + b, 0);
          if (total > 0) {
            parts.forEach((p, i) => {
              expect(new Big(minor).times(weights[i]!).div(total).minus(p).abs().lt(1)).toBe(true);
            });
          }
        },
      ),
    );
  });
});

describe("units", () => {
  const factors = fc.integer({ min: 1, max: 5_000 * 10_000 });
  it("turns drums into litres and back", () => {
    expect(toStock(purchase(80_000), factorOf(2_000_000))).toBe(stock(16_000_000));
    expect(toPurchase(stock(6_200_000), factorOf(2_000_000))).toBe(31_000);
  });

  it("never buys less than was needed", () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 1e10 }), factors, (q, f) => {
        const bought = toPurchase(stock(q), factorOf(f));
        expect(new Big(bought).times(f).gte(new Big(q).times(10_000))).toBe(true);
        expect(new Big(bought - 1).times(f).lt(new Big(q).times(10_000))).toBe(true);
      }),
    );
  });

  it("rounds up to whole units and multiples", () => {
    expect(wholeUp(purchase(31_000))).toBe(40_000);
    expect(wholeUp(purchase(40_000))).toBe(40_000);
    expect(multipleUp(purchase(50_000), purchase(20_000))).toBe(60_000);
    expect(multipleUp(purchase(50_000), purchase(0))).toBe(50_000);
  });
});
