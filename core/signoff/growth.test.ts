import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { BasisPoints } from "../numbers/money";
import { grown } from "./growth";
import { type Facts, type Ladder, type Rules, type Signer, WIDE } from "./rulebook";

const YARD: Signer = { kind: "team", team: 1, all: false };
const DIRECTOR: Signer = { kind: "team", team: 2, all: false };
const rung = (upTo: number | null, who: Signer | null) => ({ upTo, who, hours: 8, climbsTo: null });
const ladder = (more: Partial<Ladder> = {}): Ladder => ({
  id: 1,
  name: "Orders",
  papers: ["order"],
  ...WIDE,
  rungs: [rung(80_000, null), rung(1_250_000, YARD), rung(null, DIRECTOR)],
  ...more,
});
const rules = (...ladders: Ladder[]): Rules => ({
  allowance: { percent: 200 as BasisPoints, amount: 10_000 },
  ladders,
});
const facts = (amount: number, more: Partial<Facts> = {}): Facts => ({
  paper: "order",
  amount,
  freight: 0,
  department: 1,
  categories: ["Oil"],
  supplier: 7,
  store: 1,
  kind: "one-off",
  overBudget: false,
  ...more,
});
const ONE = rules(ladder());
const again = (signed: Facts, now: Facts, book = ONE) => grown(signed, now, book, "EUR").again;

describe("a change after sign-off", () => {
  it("carries on up to the smaller of a percentage and an amount (the worked example)", () => {
    const at = (now: number) => again(facts(431_000), facts(now));
    expect(at(439_000)).toBe(false); // 80.00 ≤ 86.20
    expect(at(440_000)).toBe(true); // 90.00
    expect(at(439_620)).toBe(false); // 86.20 to the cent
    expect(at(439_621)).toBe(true);
    expect(at(400_000)).toBe(false);
    expect(grown(facts(431_000), facts(439_000), ONE, "EUR").sum.steps.map((s) => s.label)).toEqual([
      "now",
      "as signed",
      "growth",
      "allowed",
    ]);
  });

  it("needs a new one for another supplier, whatever it comes to", () => {
    expect(grown(facts(431_000), facts(100, { supplier: 8 }), ONE, "EUR")).toMatchObject({
      again: true,
      says: "It goes to another supplier.",
    });
  });

  it("needs a new one where another ladder decides on what it is now: by category, department, kind or store", () => {
    const other = (more: Partial<Ladder>) => rules(ladder({ id: 2, name: "Strict", ...more }), ladder());
    const changed: [Partial<Facts>, Partial<Ladder>][] = [
      [{ categories: ["Oil", "Steel"] }, { categories: ["Steel"] }],
      [{ department: 2 }, { departments: [2] }],
      [{ kind: "direct" }, { kinds: ["direct"] }],
      [{ store: 2 }, { stores: [2] }],
    ];
    for (const [now, narrowed] of changed) {
      expect(grown(facts(431_000), facts(100, now), other(narrowed), "EUR").says).toBe(
        "What it is now comes under the ladder “Strict”.",
      );
      expect(again(facts(431_000), facts(100, now))).toBe(false); // no ladder cares
    }
    const left = { categories: ["Steel"] };
    expect(again(facts(100, left), facts(100), rules(ladder({ categories: ["Steel"] })))).toBe(true);
  });

  it("is never lifted over a limit that a further rung guards", () => {
    expect(grown(facts(1_249_000), facts(1_250_000), ONE, "EUR").again).toBe(false);
    expect(grown(facts(1_249_000), facts(1_250_001), ONE, "EUR")).toMatchObject({
      again: true,
      says: "It passes a limit of the ladder “Orders”.",
    });
    expect(again(facts(1_249_000), facts(1_250_001), rules(ladder({ needs: "one rung" })))).toBe(true);
    // The same for a ladder that is for changes alone.
    const changes = ladder({
      id: 3,
      name: "Changes",
      papers: ["change"],
      rungs: [rung(431_500, YARD), rung(null, DIRECTOR)],
    });
    expect(again(facts(431_000), facts(432_000), rules(ladder(), changes))).toBe(true);
    expect(again(facts(432_000), facts(431_000), rules(ladder(), changes))).toBe(false);
    // Nobody covers it any more.
    expect(again(facts(80_000), facts(80_001), rules(ladder({ rungs: [rung(80_000, YARD)] })))).toBe(true);
  });

  it("needs a new one where its budget asks for a rung that it did not before", () => {
    const rung = { who: DIRECTOR, hours: 8, climbsTo: null };
    const over = facts(431_000, { overBudget: true });
    expect(again(facts(431_000), over, rules(ladder({ overBudget: rung })))).toBe(true);
    expect(again(facts(431_000), over, rules(ladder({ overBudget: "block" })))).toBe(true);
    expect(again(over, over, rules(ladder({ overBudget: rung })))).toBe(false);
    expect(again(facts(431_000), over)).toBe(false);
  });

  it("measures freight, but not against what was signed without it", () => {
    const { freight: _, ...old } = facts(431_000);
    expect(again(facts(431_000), facts(440_500, { freight: 9_500 }))).toBe(true);
    expect(again(old, facts(440_500, { freight: 9_500 }))).toBe(false);
  });

  it("is never missed, however it is cut into versions", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 20, max: 300 }),
        fc.array(fc.integer({ min: -300, max: 400 }), { minLength: 1, maxLength: 60 }),
        (fifties, steps) => {
          const signed = fifties * 5_000; // two percent of it are whole cents
          const limit = Math.min(fifties * 100, 10_000);
          let now = signed;
          for (const step of steps) {
            now = Math.max(0, now + step);
            expect(again(facts(signed), facts(now))).toBe(
              now - signed > limit || (now > 1_250_000 && signed <= 1_250_000),
            );
          }
        },
      ),
    );
  });
});
