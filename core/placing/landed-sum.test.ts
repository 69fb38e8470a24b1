import { describe, expect, it } from "vitest";
import { ONE, purchase, stock } from "../numbers/quantity";
import { comesOut, figureText } from "../sums/sum";
import { landedSum } from "./landed-sum";
import { madeUp } from "./made-up";
import { type PlacedRow, type PlacingProblem, preferredPlacing } from "./problem";
import { landedAt, perStockUnit, reckonPlacing, rowsByOrder } from "./reckon";

const level = (from: number, price: number) => ({
  from: purchase(from * ONE),
  price: (price * 10_000) as never,
  source: { kind: "price list" as const, from: purchase(from * ONE) },
  warning: false,
});

/** Two needs of one oil: six and five drums of 200 litres, with a break at ten. */
function oil(freight = 9_500, freeFrom: number | null = null): PlacingProblem {
  const row = (id: string, drums: number): PlacedRow => ({
    id,
    name: "Hydraulic oil",
    item: "oil",
    store: 1,
    wanted: stock(drums * 200 * ONE),
    stockUnit: "L",
    maySplit: false,
    locked: null,
    use: null,
    preferred: 1,
    offers: [
      {
        supplier: 1,
        packing: {
          unit: "drum",
          factor: (200 * ONE) as never,
          minimum: purchase(0),
          multiple: purchase(0),
          brokenPacks: false,
        },
        levels: [level(1, 66_000), level(5, 62_400), level(10, 58_800)],
        standing: 0,
        arrives: "2026-12-01" as never,
        lateBy: 0,
      },
    ],
  });
  return {
    home: "EUR",
    stores: {},
    rows: [row("a", 6), row("b", 5)],
    suppliers: [{ id: 1, name: "Tern & Tallow", currency: "EUR", rate: 1_000_000, minimum: 0, freight, freeFrom }],
    joined: [],
    ahead: { days: 0, rate: 800 as never },
  };
}

describe("the landed price", () => {
  it("takes the break of all lines of an item on the order", () => {
    const p = oil();
    const r = reckonPlacing(p, preferredPlacing(p));
    expect(r.orders[0]!.lines.map((l) => l.net)).toEqual([352_800, 294_000]);
    expect(r.cost).toBe(646_800 + 9_500);
    // Each alone only reaches the break at five.
    const alone = reckonPlacing({ ...p, rows: p.rows.slice(0, 1) }, preferredPlacing(p));
    expect(alone.orders[0]!.lines[0]!.net).toBe(374_400);
  });

  it("adds a line's part of the freight, which is free from an amount on", () => {
    const p = oil();
    const placing = preferredPlacing(p);
    const at = (x: PlacingProblem) => landedAt(x, placing, rowsByOrder(x, placing), x.rows[0]!, placing.a![0]!)!;
    expect(at(p).freightHome).toBe(5_182); // 95.00 × 3,528.00 ÷ 6,468.00
    expect(perStockUnit(at(p), "EUR")).toBe(2_980_000);
    expect(at(oil(9_500, 646_800)).freightHome).toBe(0);
    expect(at(oil(9_500, 646_801)).freightHome).toBe(5_182);
    expect(landedSum(p.rows[0]!, at(p), "EUR").steps.map((s) => `${s.op} ${s.label}: ${figureText(s.figure)}`)).toEqual(
      [
        " wanted: 1200 L",
        "÷ L in one drum: 200 L",
        "= in purchase units: 6 drum",
        "× price list, from 10: 588.00 EUR/drum",
        "· the break counts all lines of the item on the order: 2 lines",
        "= the line: 3528.00 EUR",
        "+ its part of the freight, 95.00 EUR: 51.82 EUR",
        "= landed: 3579.82 EUR",
        "÷ on the shelf: 1200 L",
        "→ for one, rounded: 2.98 EUR/L",
      ],
    );
  });

  it("has a sum that comes out wherever a row could go", () => {
    let seen = 0;
    for (let seed = 1; seed <= 80; seed++) {
      const p = madeUp({
        seed,
        rows: 8,
        suppliers: 5,
        items: 5,
        stores: 2,
        offers: [1, 5],
        foreign: true,
        joins: seed % 2 === 0,
      });
      const placing = preferredPlacing(p);
      const there = rowsByOrder(p, placing);
      for (const row of p.rows) {
        for (const offer of row.offers) {
          const landed = landedAt(p, placing, there, row, { supplier: offer.supplier, buy: purchase(7 * ONE) })!;
          expect(comesOut(landedSum(row, landed, "EUR"))).toBe(true);
          seen++;
        }
      }
    }
    expect(seen).toBeGreaterThan(500);
  });
});
