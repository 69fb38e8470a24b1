import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { monthEnd, toDay } from "../calendar/day";
import { ONE } from "../numbers/quantity";
import { comesOut } from "../sums/sum";
import { type CostLine, costSum, spreadCharges } from "./charges";
import { deliveryWords, payBy, termsWords } from "./terms";

const goods = (id: number, net: number, weight: number | null = null): CostLine => ({
  id,
  position: id,
  kind: "stocked",
  spread: "expense",
  net,
  weight,
});
const charge = (id: number, net: number, spread: CostLine["spread"]): CostLine => ({
  ...goods(id, net),
  kind: "charge",
  spread,
});

describe("charges", () => {
  it("are spread over the goods by value or weight, and the shares add up", () => {
    const byValue = spreadCharges([goods(1, 30_000), goods(2, 10_000), charge(3, 4_000, "value")]);
    expect([...byValue.shares]).toEqual([
      [1, 3_000],
      [2, 1_000],
    ]);
    const byWeight = spreadCharges([goods(1, 30_000, 10 * ONE), goods(2, 10_000, 20 * ONE), charge(3, 100, "weight")]);
    expect([...byWeight.shares.values()]).toEqual([33, 67]);
  });

  it("say why they cannot be spread", () => {
    expect(spreadCharges([goods(1, 1), charge(2, 5, "weight")]).problems).toEqual([
      { line: 2, says: "Line 1 has no weight. Give its item one, or spread by value." },
    ]);
    expect(spreadCharges([charge(2, 5, "value")]).problems[0]!.says).toMatch(/no goods/);
    expect(spreadCharges([charge(2, 5, "expense")]).problems).toEqual([]);
  });

  it("never gain or lose a cent, whatever stands on the order and in whatever order", () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 10_000_000 }), { minLength: 1, maxLength: 20 }),
        fc.array(
          fc.tuple(fc.integer({ min: 1, max: 1_000_000 }), fc.constantFrom<"value" | "weight">("value", "weight")),
          {
            maxLength: 4,
          },
        ),
        (nets, charges: [number, "value" | "weight"][]) => {
          const lines = [
            ...nets.map((n, i) => goods(i + 1, n, n)),
            ...charges.map(([n, s], i) => charge(100 + i, n, s)),
          ];
          const { shares } = spreadCharges(lines);
          expect([...shares.values()].reduce((a, b) => a + b, 0)).toBe(charges.reduce((a, [n]) => a + n, 0));
          for (const l of lines.filter((l) => l.kind === "stocked"))
            expect(comesOut(costSum(l, lines, ONE, "EUR"))).toBe(true);
        },
      ),
    );
  });
});

describe("terms", () => {
  it("read as people say them, and give the day to pay by", () => {
    const net = { days: 30, from: "invoice" as const, earlyPercent: 200, earlyDays: 10 };
    expect(termsWords(net)).toBe("30 days net, 2 % within 10 days");
    const month = { days: 15, from: "end of month" as const, earlyPercent: 0, earlyDays: 0 };
    expect(termsWords(month)).toBe("end of month + 15 days");
    expect(payBy(net, toDay("2026-11-24"))).toBe("2026-12-24");
    expect(payBy(month, toDay("2026-11-24"))).toBe("2026-12-15");
    expect(["2026-02-03", "2028-02-29", "2026-12-31"].map((d) => monthEnd(toDay(d)))).toEqual([
      "2026-02-28",
      "2028-02-29",
      "2026-12-31",
    ]);
    expect(deliveryWords("DAP", "Tarn Quay")).toBe("DAP Tarn Quay (Incoterms 2020)");
  });
});
