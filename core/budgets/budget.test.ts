import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { comesOut } from "../sums/sum";
import { BUDGET_FIGURES, budgetState } from "./budget";

const of = (amount: number) => ({ amount, name: "Slip season" });

describe("a budget line", () => {
  it("is used by what is billed, received, on order and asked for", () => {
    const state = budgetState(
      of(1_000_000),
      [
        { figure: "received", minor: 249_600 },
        { figure: "ordered", minor: 147_500 },
        { figure: "ordered", minor: 52_500 },
        { figure: "asked", minor: 80_000 },
      ],
      "EUR",
      100_000,
    );
    expect(state.figures).toEqual({ billed: 0, received: 249_600, ordered: 200_000, asked: 80_000 });
    expect([state.used, state.left]).toEqual([629_600, 370_400]);
    expect(comesOut(state.sum)).toBe(true);
  });

  it("always sums from its papers, also where it is overdrawn", () => {
    const paper = fc.record({
      figure: fc.constantFrom(...BUDGET_FIGURES),
      minor: fc.integer({ min: -1_000_000, max: 1_000_000_000 }),
    });
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 1_000_000_000 }), fc.array(paper), (amount, papers) => {
        const s = budgetState(of(amount), papers, "EUR");
        expect(s.left).toBe(amount - papers.reduce((a, p) => a + p.minor, 0));
        for (const f of BUDGET_FIGURES)
          expect(s.figures[f]).toBe(papers.filter((p) => p.figure === f).reduce((a, p) => a + p.minor, 0));
        expect(comesOut(s.sum)).toBe(true);
      }),
    );
  });
});
