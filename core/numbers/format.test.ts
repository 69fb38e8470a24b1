import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { decimalText } from "./decimal";
import { showAmount, showDay, showMoment, showMoney, showPercent, showPrice, showQuantity, showShort } from "./format";

describe("figures as a locale writes them", () => {
  it("groups, marks decimals and uses a true minus", () => {
    expect(showQuantity(16_005_000)).toBe("1,600.5");
    expect(showQuantity(-180_000)).toBe("−18");
    expect(showQuantity(16_005_000, "de-DE")).toBe("1.600,5");
    expect(showMoney(-5, "EUR")).toBe("−0.05");
    expect(showMoney(1_234_567, "JPY")).toBe("1,234,567");
    expect(showMoney(1_234_567, "KWD")).toBe("1,234.567");
    expect(showPrice(12_500, "EUR")).toBe("0.0125");
    expect(showPrice(624_500_000, "EUR")).toBe("624.50");
    expect(showPercent(150)).toBe("1.5 %");
    expect([showShort(319_00, "EUR"), showShort(9_743_10, "EUR"), showShort(25_000, "JPY")]).toEqual([
      "319",
      "9.7k",
      "25k",
    ]);
    expect([showAmount(-26_00, "EUR"), showAmount(100, "NOK")]).toEqual(["−€26.00", "NOK 1.00"]);
  });

  it("writes dates as Fri 4 Dec, with the year where it is another one", () => {
    expect(showDay("2026-12-04", "2026-11-24")).toBe("Fri 4 Dec");
    expect(showDay("2027-01-08", "2026-11-24")).toBe("Fri 8 Jan 2027");
    expect(showDay("2026-09-04", "2026-11-24", "en-GB", false)).toBe("4 Sep");
    expect(showMoment("2026-11-24T14:05:33.000Z", "2026-11-24")).toBe("24 Nov 14:05");
  });

  it("never loses a digit, however large the figure", () => {
    fc.assert(
      fc.property(fc.integer({ min: -9e15, max: 9e15 }), (n) => {
        expect(showQuantity(n).replaceAll(",", "").replace("−", "-")).toBe(decimalText(n, 4));
      }),
    );
  });
});
