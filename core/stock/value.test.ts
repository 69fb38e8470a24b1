import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { money, unitPrice } from "../numbers/money";
import { ONE } from "../numbers/quantity";
import { comesOut } from "../sums/sum";
import { balances, receiptPostings, stockPostings } from "./posting";
import {
  goodsValue,
  meanCost,
  meanCostSum,
  receivedValue,
  type ValuedLine,
  valueFound,
  valueOut,
  valueOutSum,
  valueUndone,
} from "./value";

const goods = (id: number, net: number, ordered = 4 * ONE): ValuedLine => ({
  id,
  position: id,
  kind: "stocked",
  spread: "expense",
  net,
  weight: null,
  ordered,
});
const charge = (id: number, net: number): ValuedLine => ({ ...goods(id, net), kind: "charge", spread: "value" });

describe("the worked example of domain-goods §12", () => {
  // 340 L worth 1,054.00; in 4 drums of 200 L at 624.00.
  const before = { quantity: 340 * ONE, value: 105_400 };
  const received = { quantity: before.quantity + 800 * ONE, value: before.value + 4 * 62_400 };
  it("takes goods in at their price", () => {
    expect(received).toEqual({ quantity: 1_140 * ONE, value: 355_000 });
  });
  const out = valueOut(received, 500 * ONE);
  const left = { quantity: received.quantity - 500 * ONE, value: received.value - out };
  it("issues 500 L of it at 1,557.02, and 1,992.98 is left", () => {
    expect(out).toBe(155_702);
    expect(left).toEqual({ quantity: 640 * ONE, value: 199_298 });
    expect(comesOut(valueOutSum(received, 500 * ONE, "L", "EUR"))).toBe(true);
  });
  it("is worth 3.114035 a litre on average, and says how", () => {
    expect(meanCost(received, "EUR")).toBe(3_114_035);
    expect(comesOut(meanCostSum(received, "L", "EUR")!)).toBe(true);
    expect(meanCostSum({ quantity: 0, value: 0 }, "L", "EUR")).toBeNull();
  });
  it("spreads freight of 95.00 over 2,496.00 and 637.20 by value: 75.68 and 19.32", () => {
    const value = goodsValue(
      [goods(1, 249_600), goods(2, 63_720), charge(3, 9_500)],
      money(0, "EUR"),
      1_000_000,
      "EUR",
    );
    expect([value.get(1)! - 249_600, value.get(2)! - 63_720]).toEqual([7_568, 1_932]);
  });
  it("undoes 3 drums of it: 600 L, 1,872.00 out; left 40 L, 120.98", () => {
    expect(valueUndone(left, 600 * ONE, 187_200)).toEqual({ out: 187_200, difference: 0 });
    expect(left.value - 187_200).toBe(12_098);
  });
});

describe("values", () => {
  it("leave nothing at no quantity: the rest of an undone receipt is a difference", () => {
    expect(valueUndone({ quantity: 10, value: 90 }, 10, 100)).toEqual({ out: 90, difference: 10 });
    expect(valueUndone({ quantity: 10, value: 110 }, 10, 100)).toEqual({ out: 110, difference: -10 });
    expect(valueUndone({ quantity: 20, value: 80 }, 10, 100)).toEqual({ out: 80, difference: 20 });
    expect(valueOut({ quantity: 10, value: 90 }, 10)).toBe(90);
  });
  it("of what a count finds follow what is there, else the reference cost", () => {
    expect(valueFound({ quantity: 4 * ONE, value: 1_000 }, ONE, unitPrice(9_000_000), "EUR")).toBe(250);
    expect(valueFound({ quantity: 0, value: 0 }, 2 * ONE, unitPrice(9_000_000), "EUR")).toBe(1_800);
    expect(valueFound({ quantity: 0, value: 0 }, 2 * ONE, null, "EUR")).toBe(0);
  });
  it("are in home currency at the order’s rate, less the discount on the whole order", () => {
    const value = goodsValue([goods(1, 10_000), goods(2, 30_000)], money(400, "SEK"), 88_400, "EUR");
    expect([...value.values()]).toEqual([875, 2_625]);
    expect(goodsValue([goods(1, 10_000)], money(0, "SEK"), null, "EUR").get(1)).toBe(0);
  });
  it("of parts come to the whole, however it comes", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 10_000_000 }),
        fc.array(fc.integer({ min: 1, max: 50_000 }), { minLength: 1, maxLength: 9 }),
        (whole, parts) => {
          const ordered = parts.reduce((a, b) => a + b, 0);
          let before = 0;
          let all = 0;
          for (const p of parts) {
            const v = receivedValue(whole, ordered, before, p);
            expect(v).toBeGreaterThanOrEqual(0);
            all += v;
            before += p;
          }
          expect(all).toBe(whole);
        },
      ),
    );
  });
});

describe("postings", () => {
  it("of a receipt debit stock or the expense, and credit what is not invoiced", () => {
    const entry = receiptPostings([
      { line: 1, minor: 2_496_00, stocked: true, account: "4620" },
      { line: 2, minor: 120_00, stocked: false, account: "4620" },
      { line: 3, minor: 0, stocked: true, account: null },
    ]);
    expect(entry).toEqual([
      { role: "stock", account: null, minor: 249_600, line: 1 },
      { role: "received not invoiced", account: null, minor: -249_600, line: 1 },
      { role: "expense", account: "4620", minor: 12_000, line: 2 },
      { role: "received not invoiced", account: null, minor: -12_000, line: 2 },
    ]);
    expect(balances(entry)).toBe(true);
    expect(balances(stockPostings(-730, "stock difference"))).toBe(true);
    expect(balances([{ minor: 1 }])).toBe(false);
  });
});
