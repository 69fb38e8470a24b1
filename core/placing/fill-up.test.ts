import { describe, expect, it } from "vitest";
import { ONE, purchase, stock } from "../numbers/quantity";
import { comesOut } from "../sums/sum";
import { holdingOf } from "./ahead";
import { candidatesFor, fillUpModel, targetSays, targetsOf, weigh } from "./fill-up";
import { madeUp } from "./made-up";
import { orderKey, type PlacedRow, type PlacingProblem, preferredPlacing } from "./problem";
import { reckonPlacing } from "./reckon";

/** One need at one supplier: goods of 400.00, freight of 60.00 that is free from 500.00, no order under 450.00. */
function just(): PlacingProblem {
  const row: PlacedRow = {
    ...madeUp({ seed: 1, rows: 1, suppliers: 1, offers: [1, 1] }).rows[0]!,
    id: "a",
    name: "Hull anode",
    item: "anode",
    store: 1,
    wanted: stock(8 * ONE),
    preferred: 1,
    offers: [
      {
        supplier: 1,
        packing: {
          unit: "each",
          factor: ONE as never,
          minimum: purchase(0),
          multiple: purchase(0),
          brokenPacks: false,
        },
        levels: [
          {
            from: purchase(ONE),
            price: 50_000_000 as never,
            source: { kind: "price list", from: purchase(ONE) },
            warning: false,
          },
          {
            from: purchase(12 * ONE),
            price: 45_000_000 as never,
            source: { kind: "price list", from: purchase(12 * ONE) },
            warning: false,
          },
        ],
        standing: 0,
        arrives: "2026-12-01" as never,
        lateBy: 0,
      },
    ],
  };
  return {
    home: "EUR",
    stores: { 1: "Yard" },
    rows: [row],
    suppliers: [
      { id: 1, name: "Brannock", currency: "EUR", rate: 1_000_000, minimum: 45_000, freight: 6_000, freeFrom: 50_000 },
    ],
    joined: [],
    ahead: { days: 0, rate: 800 as never },
  };
}

describe("filling an order up", () => {
  const p = just();
  const placing = preferredPlacing(p);

  it("sees what an order just lacks", () => {
    const targets = targetsOf(p, placing);
    expect(targets.map((t) => [t.kind, t.gap])).toEqual([
      ["minimum", 5_000],
      ["freight", 10_000],
      ["break", 4 * ONE],
    ]);
    expect(targets.map((t) => targetSays(p, t))).toEqual([
      "Brannock lacks 50.00 EUR to their least order.",
      "Brannock: 100.00 EUR more, and freight is free.",
      "Hull anode at Brannock: 4 more reach the price from 12 each.",
    ]);
  });

  it("weighs what it saves against what holding costs", () => {
    const [, freight] = targetsOf(p, placing);
    const more: PlacedRow = { ...p.rows[0]!, id: "b", name: "Shaft anode", item: "shaft", wanted: stock(2 * ONE) };
    const ahead = [{ row: more, daysEarly: 73 }];
    const candidates = candidatesFor(p, freight!, ahead, 1_800);
    // 100.00 for 73 days at 18 % a year
    expect(candidates.map((c) => [c.here, c.later, c.holding, c.counts])).toEqual([[10_000, 10_000, 360, 10_000]]);
    const fill = weigh(p, placing, freight!, ahead, candidates, true);
    expect([fill.saves, fill.holding, fill.pays]).toEqual([6_000, 360, true]);
    expect(comesOut(fill.sum)).toBe(true);
    const all = { ...p, rows: [...p.rows, more] };
    expect(reckonPlacing(all, { ...placing, b: [{ supplier: 1, buy: purchase(2 * ONE) }] }).cost).toBe(50_000);
  });

  it("takes only more of the same for a break, and counts it in units", () => {
    const target = targetsOf(p, placing).find((t) => t.kind === "break")!;
    const same: PlacedRow = { ...p.rows[0]!, id: "a+", name: "more Hull anode", wanted: stock(4 * ONE) };
    const other: PlacedRow = { ...same, id: "c", item: "shaft" };
    const candidates = candidatesFor(
      p,
      target,
      [
        { row: same, daysEarly: 30 },
        { row: other, daysEarly: 30 },
      ],
      1_800,
    );
    expect(candidates.map((c) => [c.id, c.counts])).toEqual([["a+", 4 * ONE]]);
    const model = fillUpModel(target, candidates);
    expect(model.rules[0]).toMatchObject({ least: 4 * ONE, entries: [[0, 4 * ONE]] });
    // Twelve at 45.00 and no freight, instead of eight at 50.00 with it and four more later.
    expect(weigh(p, placing, target, [{ row: same, daysEarly: 30 }], candidates, true).saves).toBe(12_000);
    expect(target.order).toBe(orderKey(1, 1));
  });

  it("rounds the cost of holding to the cent", () => {
    expect([holdingOf(10_000, 365, 1_800), holdingOf(1, 1, 1), holdingOf(0, 9, 1_800)]).toEqual([1_800, 0, 0]);
  });
});
