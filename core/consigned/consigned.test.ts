import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { toDay } from "../calendar/day";
import { unitPrice } from "../numbers/money";
import { notOn, oursOn, overlap, priceOn } from "./agreement";
import { byLot, giveBackParts, type Layer, takeOldest } from "./layers";
import { refillOf, refillSum } from "./refill";
import { lastPeriodEnd, statementTotals } from "./statement";
import { splitUse } from "./use";

const N = 10_000;
const layer = (id: number, day: string, left: number, lot: number | null = null): Layer => ({
  id,
  day: toDay(day),
  lot,
  left: left * N,
  oursOn: oursOn(toDay(day), 90),
});

describe("their stock by age", () => {
  // domain-goods §13: registered 1,000 on 1 Aug and 1,400 on 1 Sep, ours after 90 days.
  const bolts = [layer(2, "2026-09-01", 1_400), layer(1, "2026-08-01", 1_000)];
  it("is used from what was registered first", () => {
    expect(takeOldest(bolts, 350 * N)).toEqual([{ layer: 1, lot: null, quantity: 350 * N }]);
    expect(takeOldest(bolts, 1_200 * N)).toEqual([
      { layer: 1, lot: null, quantity: 1_000 * N },
      { layer: 2, lot: null, quantity: 200 * N },
    ]);
    expect(takeOldest(bolts, 2_401 * N)).toBeNull();
  });
  it("becomes ours on its day", () => {
    expect(bolts.map((l) => l.oursOn)).toEqual(["2026-11-30", "2026-10-30"]);
    expect(oursOn(toDay("2026-08-01"), null)).toBeNull();
  });
  it("gets back what was taken last, so that each delivery is as old as it was", () => {
    const taken = takeOldest(bolts, 1_200 * N)!;
    expect(giveBackParts(taken, 300 * N)).toEqual([
      { layer: 2, lot: null, quantity: 200 * N },
      { layer: 1, lot: null, quantity: 100 * N },
    ]);
  });
  it("never takes more than there is of any delivery, and just what was asked", () => {
    fc.assert(
      fc.property(fc.array(fc.nat(500), { maxLength: 8 }), fc.nat(3_000), (lefts, quantity) => {
        const layers = lefts.map((left, i) => layer(i + 1, `2026-0${1 + (i % 9)}-01`, left, i % 3 || null));
        const all = lefts.reduce((a, l) => a + l, 0) * N;
        const taken = takeOldest(layers, quantity * N);
        if (quantity * N > all) return taken === null;
        const lots = byLot(taken!);
        return (
          taken!.reduce((a, t) => a + t.quantity, 0) === quantity * N &&
          taken!.every((t) => t.quantity <= layers.find((l) => l.id === t.layer)!.left) &&
          lots.reduce((a, l) => a + l.quantity, 0) === quantity * N &&
          giveBackParts(taken!, quantity * N).reduce((a, t) => a + t.quantity, 0) === quantity * N
        );
      }),
    );
  });
});

describe("whose goods a use takes", () => {
  const saltby = { owner: 7, first: "theirs" as const, quantity: 300, oldest: "2026-09-01" };
  const other = { owner: 8, first: "theirs" as const, quantity: 200, oldest: "2026-08-01" };
  it("is as the agreements say: theirs before ours, or after", () => {
    expect(splitUse(100, [saltby], 350)).toEqual({ ours: 50, theirs: [{ owner: 7, quantity: 300 }] });
    expect(splitUse(100, [{ ...saltby, first: "ours" }], 350)).toEqual({
      ours: 100,
      theirs: [{ owner: 7, quantity: 250 }],
    });
  });
  it("is, of two suppliers, whose was registered first", () => {
    expect(splitUse(0, [saltby, other], 250)).toEqual({
      ours: 0,
      theirs: [
        { owner: 8, quantity: 200 },
        { owner: 7, quantity: 50 },
      ],
    });
  });
  it("is nobody's where there is not enough", () => {
    expect(splitUse(100, [saltby], 401)).toBeNull();
  });
});

describe("a price", () => {
  const prices = [
    { day: toDay("2026-01-01"), price: unitPrice(180_000) },
    { day: toDay("2026-10-01"), price: unitPrice(190_000) },
  ];
  it("holds from its day until the next begins", () => {
    expect(priceOn(prices, toDay("2026-09-30"))).toBe(180_000);
    expect(priceOn(prices, toDay("2026-10-01"))).toBe(190_000);
    expect(priceOn(prices, toDay("2025-12-31"))).toBeNull();
  });
});

describe("an agreement", () => {
  const running = {
    name: "A26-1001",
    state: "Running" as const,
    starts: toDay("2026-01-01"),
    ends: toDay("2026-12-31"),
    ended: null,
  };
  const on = (day: string, more = {}) => notOn({ ...running, ...more }, toDay(day), (d) => d);
  it("holds from its first day to its last, or to the day on which it was ended", () => {
    expect(on("2026-01-01")).toBeNull();
    expect(on("2026-12-31")).toBeNull();
    expect(on("2025-12-31")).toBe("A26-1001 begins on 2026-01-01.");
    expect(on("2027-01-01")).toBe("A26-1001 ended on 2026-12-31: what is left is bought or sent back.");
    expect(on("2026-06-02", { ended: toDay("2026-06-01") })).toMatch(/ended on 2026-06-01/);
    expect(on("2026-06-01", { state: "In sign-off" })).toBe("A26-1001 is not signed yet.");
  });
  it("overlaps another where they share a day", () => {
    const of = (starts: string, ends: string) => ({ starts: toDay(starts), ends: toDay(ends) });
    expect(overlap(running, of("2026-12-31", "2027-12-31"))).toBe(true);
    expect(overlap(running, of("2027-01-01", "2027-12-31"))).toBe(false);
  });
});

describe("a refill", () => {
  const bolts = { least: 600 * N, most: 3_000 * N, pack: 500 * N, here: 380 * N, onItsWay: 0 };
  it("goes up to the most in whole packs, once there is less than the least", () => {
    expect(refillOf(bolts)).toBe(2_500 * N);
    expect(refillOf({ ...bolts, here: 600 * N })).toBe(0);
    expect(refillOf({ ...bolts, onItsWay: 220 * N })).toBe(0);
    expect(refillOf({ ...bolts, onItsWay: 219 * N })).toBe(2_000 * N);
    expect(refillSum(bolts, "each").steps.map((s) => s.label)).toContain("in whole packs");
  });
  it("is one pack where not even one fits below the most", () => {
    expect(refillOf({ least: 10 * N, most: 12 * N, pack: 20 * N, here: 0, onItsWay: 0 })).toBe(20 * N);
  });
});

describe("a use statement", () => {
  it("comes to its uses, with tax once for each rate", () => {
    const t = statementTotals([
      { net: 2_520, homeNet: 2_520, taxRate: 2_000 },
      { net: 1_620, homeNet: 1_620, taxRate: 2_000 },
      { net: 108, homeNet: 108, taxRate: 0 },
      { net: -33, homeNet: -33, taxRate: 2_000 },
    ]);
    expect(t).toEqual({
      net: 4_215,
      taxes: [
        { rate: 0, net: 108, tax: 0 },
        { rate: 2_000, net: 4_107, tax: 821 },
      ],
      tax: 821,
      total: 5_036,
      homeNet: 4_215,
    });
  });
  it("ends with the day, the week or the month", () => {
    const wednesday = toDay("2026-11-25");
    expect(lastPeriodEnd("use", wednesday)).toBe("2026-11-24");
    expect(lastPeriodEnd("week", wednesday)).toBe("2026-11-22");
    expect(lastPeriodEnd("week", toDay("2026-11-23"))).toBe("2026-11-22");
    expect(lastPeriodEnd("week", toDay("2026-11-22"))).toBe("2026-11-15");
    expect(lastPeriodEnd("month", wednesday)).toBe("2026-10-31");
  });
});
