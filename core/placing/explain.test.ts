import { describe, expect, it } from "vitest";
import { comesOut } from "../sums/sum";
import { differenceSum, movesBetween } from "./explain";
import { drawer, madeUp } from "./made-up";
import { preferredPlacing, quantitiesOf, type RowPart, termsOf } from "./problem";
import { reckonPlacing } from "./reckon";

/** Any placing at all, so that every kind of move turns up. */
function anyPlacing(p: ReturnType<typeof madeUp>, seed: number) {
  const draw = drawer(seed);
  const terms = termsOf(p);
  const placing: Record<string, RowPart[]> = {};
  for (const row of p.rows) {
    const offer = row.offers[draw(row.offers.length)]!;
    const buys = quantitiesOf(row, offer, terms.get(offer.supplier)!, p);
    placing[row.id] = [{ supplier: offer.supplier, buy: buys[draw(buys.length)]! }];
  }
  return placing;
}

describe("the difference between two placings", () => {
  it("adds up to the cent, whatever moves", () => {
    const kinds = new Set<string>();
    for (let seed = 1; seed <= 300; seed++) {
      const p = madeUp({
        seed,
        rows: 9,
        suppliers: 4,
        items: 6,
        stores: 2,
        offers: [1, 4],
        foreign: true,
        joins: seed % 2 === 0,
      });
      const [from, to] = [seed % 3 ? preferredPlacing(p) : anyPlacing(p, seed + 7), anyPlacing(p, seed)];
      const moves = movesBetween(p, from, to);
      for (const m of moves) kinds.add(m.kind);
      expect(moves.reduce((a, m) => a + m.adds, 0)).toBe(reckonPlacing(p, to).cost - reckonPlacing(p, from).cost);
      const sum = differenceSum(p, from, to, 5);
      expect(comesOut(sum)).toBe(true);
      expect(sum.steps.length).toBeLessThanOrEqual(7);
      expect(sum.steps.at(-1)!.figure).toEqual({ kind: "money", minor: reckonPlacing(p, to).cost, currency: "EUR" });
    }
    expect([...kinds].sort()).toEqual(["draft", "freight", "moved", "price"]);
  });

  it("is nothing where nothing moves", () => {
    const p = madeUp({ seed: 3, rows: 5, suppliers: 3, offers: [1, 3] });
    expect(movesBetween(p, preferredPlacing(p), preferredPlacing(p))).toEqual([]);
  });
});
