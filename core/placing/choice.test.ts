import { describe, expect, it } from "vitest";
import { ONE, type StockQty, stock } from "../numbers/quantity";
import { choicesFrom, partOf, placingFrom } from "./choice";
import { drawer, madeUp } from "./made-up";
import { covers, quantitiesOf, type RowPart, termsOf } from "./problem";

describe("choices and the parts they stand for", () => {
  it("give back any plan's parts as they were, and share a need out without a rest", () => {
    let splits = 0;
    for (let seed = 1; seed <= 200; seed++) {
      const p = madeUp({ seed, rows: 6, suppliers: 5, items: 4, offers: [2, 5], splits: 50, minimums: true });
      const terms = termsOf(p);
      const draw = drawer(seed + 11);
      for (const row of p.rows) {
        const parts: RowPart[] = [];
        let left: number = row.wanted;
        for (const offer of row.offers) {
          if (left <= 0 || (parts.length > 0 && !row.maySplit)) break;
          const buys = quantitiesOf(row, offer, terms.get(offer.supplier)!, p);
          const buy = buys[draw(buys.length)]!;
          parts.push({ supplier: offer.supplier, buy });
          left -= covers(offer, buy);
        }
        if (left > 0) continue; // no plan would leave a need uncovered
        if (parts.length > 1) splits++;
        const choices = choicesFrom(row, parts);
        const bySupplier = (list: readonly RowPart[]) => [...list].sort((a, b) => a.supplier - b.supplier);
        const given = bySupplier(placingFrom([row], { [row.id]: choices })[row.id]!);
        expect(given).toEqual(bySupplier(parts));
        expect(choices.every((c) => c.share === null || c.share > 0)).toBe(true);
        const shares = choices.reduce((n, c) => n + (c.share ?? row.wanted), 0);
        expect(shares).toBe(row.wanted);
      }
    }
    expect(splits).toBeGreaterThan(50);
  });

  it("follow another quantity, where nothing was raised by a plan", () => {
    const [row] = madeUp({ seed: 2, rows: 1, suppliers: 2, offers: [2, 2] }).rows as [
      ReturnType<typeof madeUp>["rows"][number],
    ];
    const supplier = row.offers[0]!.supplier;
    const buy = (wanted: StockQty) => partOf({ ...row, wanted }, { supplier, share: null, buy: null })!.buy;
    expect(buy(stock(500 * ONE))).toBeGreaterThan(buy(stock(5 * ONE)));
    expect(partOf(row, { supplier: 99, share: null, buy: null })).toBeNull();
  });
});
