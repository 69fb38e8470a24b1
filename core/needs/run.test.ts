import { describe, expect, it } from "vitest";
import { stock } from "../numbers/quantity";
import { faultOf, RUN_WORDS, RUNS, reorderingFor, type Settings } from "./run";

const q = (n: number) => stock(n * 10_000);
const set = (part: Partial<Settings>): Settings => ({
  policy: "larger of",
  reorderPoint: q(400),
  lot: q(1_600),
  level: q(700),
  coverDays: 45,
  used30: q(612),
  maximum: null,
  reviewDays: 7,
  ...part,
});

describe("a run", () => {
  it("leaves each pair its own policy, or rules for all of them", () => {
    const kinds = (part: Partial<Settings>) => RUNS.map((r) => reorderingFor(r, set(part)).policy.kind);
    expect(kinds({})).toEqual(["larger of", "to order", "shortfall", "fixed lot", "top up"]);
    expect(kinds({ policy: "days of cover" })[0]).toBe("days of cover");
  });
  it("of lots or levels leaves a pair that has none to its own policy", () => {
    const bare = set({ policy: "shortfall", lot: q(0), level: q(0) });
    expect(RUNS.map((r) => reorderingFor(r, bare).policy.kind)).toEqual([
      "shortfall",
      "to order",
      "shortfall",
      "shortfall",
      "shortfall",
    ]);
  });
  it("has words for each", () => {
    expect(new Set(Object.values(RUN_WORDS)).size).toBe(RUNS.length);
  });
});

describe("settings of a pair", () => {
  it.each([
    [{ policy: "fixed lot", lot: q(0) }, "lot"],
    [{ policy: "larger of", lot: q(0) }, "lot"],
    [{ policy: "top up", level: q(0) }, "level"],
    [{ policy: "top up", level: q(399) }, "level"],
    [{ policy: "days of cover", coverDays: 0 }, "cover_days"],
    [{ maximum: q(399) }, "maximum"],
  ] as const)("that cannot work are named: %j", (part, field) => {
    const fault = faultOf(set(part as Partial<Settings>));
    expect(fault?.[0]).toBe(field);
    expect(fault?.[1]).toMatch(/\.$/);
  });
  it.each([
    [{}],
    [{ policy: "top up", level: q(400) }],
    [{ policy: "to order", lot: q(0), level: q(0) }],
    [{ policy: "shortfall", reorderPoint: q(0) }],
    [{ maximum: q(400) }],
  ] as const)("that can work are left alone: %j", (part) => {
    expect(faultOf(set(part as Partial<Settings>))).toBeNull();
  });
});
