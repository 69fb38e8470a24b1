import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Day } from "../calendar/day";
import { parseBic, parseIban } from "./bank-account";
import { mayRelease, type Owed, propose } from "./pay-list";

const day = (d: string) => d as Day; // a day of the test
const owed = (id: number, over: Partial<Owed> = {}): Owed => ({
  id,
  supplier: 1,
  currency: "EUR",
  left: 10_000,
  total: 10_000,
  due: day("2026-12-12"),
  earlyPercent: 0,
  earlyBy: null,
  onList: null,
  account: true,
  ...over,
});
const HOW = { day: day("2026-11-24"), dueBy: day("2026-11-30"), leastYearly: 1_000 };

describe("a proposal", () => {
  it("pays what is due by then, with credits set off, the day itself included", () => {
    const { lines, left } = propose(
      [
        owed(1, { due: day("2026-11-30") }),
        owed(2, { due: day("2026-12-01") }),
        owed(3, { left: -4_000, total: -4_000 }),
        owed(4, { supplier: 2, due: day("2026-11-20") }),
      ],
      HOW,
    );
    expect(lines.map((l) => [l.supplier, l.total, l.parts.map((p) => [p.id, p.why])])).toEqual([
      [2, 10_000, [[4, "due"]]],
      [
        1,
        6_000,
        [
          [1, "due"],
          [3, "credit"],
        ],
      ],
    ]);
    expect(left).toEqual([{ id: 2, why: "not due" }]);
  });

  it("takes a discount that is worth it, and none that is late, little or of a part", () => {
    const early = { earlyPercent: 200, earlyBy: day("2026-11-24") };
    // 2 % for 18 days: 41.38 % a year.
    const { lines, left } = propose(
      [
        owed(1, early),
        owed(2, { ...early, earlyBy: day("2026-11-23") }),
        owed(3, { ...early, left: 5_000 }),
        owed(4, { ...early, earlyPercent: 10 }),
        // Due anyway: what can be taken off is.
        owed(5, { ...early, due: day("2026-11-28"), earlyPercent: 10 }),
      ],
      HOW,
    );
    expect(lines[0]!.parts).toEqual([
      { id: 5, minor: 9_990, discount: 10, why: "due" },
      { id: 1, minor: 9_800, discount: 200, why: "early" },
    ]);
    expect(left.map((l) => [l.id, l.why])).toEqual([
      [2, "not due"],
      [3, "not due"],
      [4, "not due"],
    ]);
  });

  it("says of what is left why: on another list, without an account, a credit that is too large", () => {
    const due = { due: day("2026-11-24") };
    const { lines, left } = propose(
      [
        owed(1, { ...due, onList: "Y26-1001" }),
        owed(2, { ...due, supplier: 2, account: false }),
        owed(3, { ...due, supplier: 3 }),
        owed(4, { ...due, supplier: 3, left: -10_000, total: -10_000 }),
        owed(5, { ...due, supplier: 3, currency: "SEK", left: -1, total: -1 }),
      ],
      HOW,
    );
    expect(lines.map((l) => [l.supplier, l.total])).toEqual([[3, 10_000]]);
    expect(left).toEqual([
      { id: 1, why: "on another list" },
      { id: 2, why: "no account" },
      { id: 4, why: "credit too large" },
      { id: 5, why: "not due" },
    ]);
  });

  it("names every paper once, pays none twice nor more than is left, and never nothing", () => {
    const days = ["2026-11-20", "2026-11-24", "2026-11-30", "2026-12-05"].map(day);
    const paper = fc.record({
      supplier: fc.integer({ min: 1, max: 3 }),
      currency: fc.constantFrom("EUR", "SEK"),
      left: fc.integer({ min: -50_000, max: 50_000 }).filter((n) => n !== 0),
      due: fc.constantFrom(...days),
      earlyPercent: fc.integer({ min: 0, max: 1_000 }),
      earlyBy: fc.constantFrom(null, ...days),
      account: fc.boolean(),
      onList: fc.constantFrom(null, null, "Y26-1001"),
    });
    fc.assert(
      fc.property(fc.array(paper, { maxLength: 12 }), (some) => {
        const papers = some.map((p, i) => owed(i + 1, { ...p, total: p.left }));
        const { lines, left } = propose(papers, HOW);
        const parts = lines.flatMap((l) => l.parts);
        expect([...parts, ...left].map((p) => p.id).sort((a, b) => a - b)).toEqual(papers.map((p) => p.id));
        for (const p of parts) expect(p.minor + p.discount).toBe(papers[p.id - 1]!.left);
        for (const l of lines) {
          expect(l.total).toBe(l.parts.reduce((a, p) => a + p.minor, 0));
          expect(l.total).toBeGreaterThan(0);
        }
      }),
    );
  });
});

describe("an account", () => {
  it("is read with its check digits, and refused without", () => {
    expect(parseIban(" de89 3704 0044 0532 0130 00 ")).toEqual({ ok: true, value: "DE89370400440532013000" });
    expect(parseIban("")).toEqual({ ok: true, value: "" });
    for (const wrong of ["DE89 3704 0044 0532 0130 01", "DE89", "XX89370400440532013000", "hello"])
      expect(parseIban(wrong).ok).toBe(false);
    expect(parseBic("cobadeff")).toEqual({ ok: true, value: "COBADEFF" });
    expect(parseBic("COBA").ok).toBe(false);
  });
});

it("above its bound a list takes a second person", () => {
  expect(mayRelease(100_000, 100_000, 1, 1)).toBe(true);
  expect(mayRelease(100_001, 100_000, 1, 1)).toBe(false);
  expect(mayRelease(100_001, 100_000, 1, 2)).toBe(true);
});
