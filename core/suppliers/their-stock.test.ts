import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { addDays, toDay } from "../calendar/day";
import { unitPrice } from "../numbers/money";
import { ONE, purchase } from "../numbers/quantity";
import { comesOut, figureText } from "../sums/sum";
import { bestDepot, type DepotStock, priceAgainst, servedFrom } from "./their-stock";

const day = toDay("2026-12-01");
const n = (x: number) => purchase(x * ONE);
const depot = (name: string, onHand: number, arrives: number | null, more: [number, number][] = []): DepotStock => ({
  depot: name,
  onHand: n(onHand),
  arrives: arrives === null ? null : addDays(day, arrives),
  more: more.map(([quantity, days]) => ({ quantity: n(quantity), arrives: addDays(day, days) })),
});

describe("what a depot can send", () => {
  it("is all of it at once, all with what comes later, or only a part", () => {
    expect(servedFrom(depot("a", 50, 2), n(50))).toEqual({ whole: true, arrives: "2026-12-03" });
    expect(
      servedFrom(
        depot("a", 20, 2, [
          [40, 12],
          [20, 9],
        ]),
        n(50),
      ),
    ).toEqual({ whole: true, arrives: "2026-12-13" });
    // What lies there takes longer than what comes: the last of it decides.
    expect(servedFrom(depot("a", 20, 9, [[40, 4]]), n(50))).toEqual({ whole: true, arrives: "2026-12-10" });
    expect(servedFrom(depot("a", 20, null, [[5, 3]]), n(50))).toEqual({ whole: false, has: n(25) });
    expect(servedFrom(depot("a", 60, null), n(50))).toEqual({ whole: true, arrives: null });
  });

  it("the best has all of it soonest, else most", () => {
    const few = depot("few", 5, 1);
    const later = depot("later", 80, 6);
    const soon = depot("soon", 40, 1, [[40, 4]]);
    const unsaid = depot("unsaid", 90, null);
    expect(bestDepot([few, later, unsaid, soon], n(50))!.depot).toBe("soon");
    expect(bestDepot([few, unsaid], n(50))!.depot).toBe("unsaid");
    expect(bestDepot([few, depot("more", 9, 30)], n(50))!.depot).toBe("more");
    expect(bestDepot([], n(50))).toBeNull();
  });

  it("never has more than lies there and comes, and a smaller wish is never served later", () => {
    const depots = fc.record({
      onHand: fc.integer({ min: 0, max: 60 }),
      arrives: fc.option(fc.integer({ min: 0, max: 30 }), { nil: null }),
      more: fc.array(fc.tuple(fc.integer({ min: 0, max: 30 }), fc.integer({ min: 0, max: 40 })), { maxLength: 4 }),
    });
    fc.assert(
      fc.property(depots, fc.integer({ min: 1, max: 120 }), ({ onHand, arrives, more }, wanted) => {
        const d = depot("d", onHand, arrives, more);
        const all = onHand + more.reduce((a, [q]) => a + q, 0);
        const served = servedFrom(d, n(wanted));
        expect(served.whole).toBe(all >= wanted);
        if (!served.whole) expect(served.has).toBe(n(all));
        const less = servedFrom(d, n(Math.max(1, wanted - 1)));
        if (served.whole && less.whole && less.arrives !== null && served.arrives !== null)
          expect(less.arrives <= served.arrives).toBe(true);
      }),
      { numRuns: 500 },
    );
  });
});

describe("their price against ours", () => {
  const about = { quantity: n(40), currency: "EUR", unit: "each" };
  it("is told with its sum", () => {
    const ours = { price: unitPrice(18_400_000), words: "price list, from 10" };
    const found = priceAgainst(unitPrice(18_100_000), ours, about)!;
    expect(found.more).toBe(-1200);
    expect(comesOut(found.sum)).toBe(true);
    expect(found.sum.steps.map((s) => `${s.op} ${s.label} ${figureText(s.figure)}`)).toEqual([
      "· for 40 each",
      "· ours: price list, from 10 18.40 EUR/each",
      "· theirs, as they said 18.10 EUR/each",
      " at their price 724.00 EUR",
      "− at ours 736.00 EUR",
      "= theirs is cheaper by -12.00 EUR",
    ]);
    expect(priceAgainst(null, ours, about)).toBeNull();
    expect(priceAgainst(unitPrice(1), null, about)).toBeNull();
  });
});
