import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { BasisPoints } from "../numbers/money";
import { type Facts, type Ladder, type Rules, type Signer, WIDE } from "./rulebook";
import { type PastPaper, startTrial } from "./trial";
import { type People, wayFor } from "./way";

const NAMES = ["", "Yard manager", "Finance director"];
const people: People = {
  membersOf: (who) => (who.kind === "team" ? [{ id: who.team * 10, name: NAMES[who.team]! }] : []),
  nameOf: (who) => (who.kind === "team" ? NAMES[who.team]! : "?"),
};
const team = (n: number): Signer => ({ kind: "team", team: n, all: false });
const rules = (low: number, high: number): Rules => ({
  allowance: { percent: 200 as BasisPoints, amount: null },
  ladders: [
    {
      id: 1,
      name: "Orders",
      papers: ["order"],
      ...WIDE,
      rungs: [
        { upTo: low, who: null, hours: 8, climbsTo: null },
        { upTo: high, who: team(1), hours: 8, climbsTo: null },
        { upTo: null, who: team(2), hours: 16, climbsTo: null },
      ],
    } satisfies Ladder,
  ],
});
const paper = (id: number, amount: number): PastPaper => ({
  id,
  number: `26-${id}`,
  href: `/orders/${id}`,
  writer: 1,
  facts: {
    paper: "order",
    amount,
    department: null,
    categories: [],
    supplier: 1,
    store: 1,
    kind: null,
    overBudget: false,
  },
});

describe("trying other rules on the past", () => {
  it("says which papers go another way, what it saves and what nobody signs any more", () => {
    const trial = startTrial(rules(80_000, 1_250_000), rules(150_000, 1_250_000), people, (p) =>
      p === 10 ? 90 : null,
    );
    for (const [i, minor] of [50_000, 80_000, 80_001, 150_000, 150_001, 2_000_000].entries())
      trial.add(paper(i, minor));
    expect(trial.result()).toMatchObject({
      papers: 6,
      moved: 2,
      shown: [
        { number: "26-3", minor: 150_000, before: "Yard manager", after: "nobody" },
        { number: "26-2", minor: 80_001, before: "Yard manager", after: "nobody" },
      ],
      signatures: { before: 5, after: 3 },
      // The yard manager takes 90 minutes; the finance director has signed nothing, and has 16 hours.
      minutes: { before: 4 * 90 + 960, after: 2 * 90 + 960 },
      unsigned: { before: 130_000, after: 360_001 },
      people: [
        { name: "Finance director", before: 1, after: 1 },
        { name: "Yard manager", before: 4, after: 2 },
      ],
    });
  });

  it("names the rungs that nothing came up to", () => {
    const trial = startTrial(rules(80_000, 1_250_000), rules(80_000, 1_250_000), people, () => 0);
    for (const minor of [50_000, 90_000]) trial.add(paper(minor, minor));
    expect(trial.result().unreached).toEqual([{ ladder: "Orders", rung: 2, above: 1_250_000, papers: 2 }]);
    trial.add(paper(3, 1_250_001));
    expect(trial.result().unreached).toEqual([]);
  });

  it("counts what could not be submitted", () => {
    const short = {
      ...rules(0, 1),
      ladders: [{ ...rules(0, 1).ladders[0]!, rungs: rules(80_000, 1).ladders[0]!.rungs.slice(0, 1) }],
    };
    const trial = startTrial(rules(80_000, 1_250_000), short, people, () => 0);
    trial.add(paper(1, 90_000));
    expect(trial.result()).toMatchObject({
      stuck: { before: 0, after: 90_000 },
      shown: [{ after: "cannot be submitted" }],
    });
  });

  it("moves exactly the papers whose ways differ, whatever the limits", () => {
    const limits = fc
      .tuple(fc.integer({ min: 0, max: 1_000 }), fc.integer({ min: 1, max: 1_000 }))
      .map(([a, b]) => rules(a, a + b));
    fc.assert(
      fc.property(
        limits,
        limits,
        fc.array(fc.integer({ min: 0, max: 3_000 }), { maxLength: 40 }),
        (before, after, amounts) => {
          const trial = startTrial(before, after, people, () => 60);
          const papers = amounts.map((minor, i) => paper(i, minor));
          for (const p of papers) trial.add(p);
          const way = (r: Rules, facts: Facts) => {
            const found = wayFor(r, facts, 1, people, "EUR");
            return found.ok && found.seats.map((s) => s.name).join();
          };
          const differ = papers.filter((p) => way(before, p.facts) !== way(after, p.facts)).length;
          const { moved, bands } = trial.result();
          expect(moved).toBe(differ);
          expect(bands.reduce((a, b) => a + b.same + b.moved + b.nobody, 0)).toBe(papers.length);
        },
      ),
    );
  });
});
