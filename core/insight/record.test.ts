import { describe, expect, it } from "vitest";
import { toDay } from "../calendar/day";
import { daysToHere, type MetLoad, movedPromises, type PromiseSaid, shareInTime } from "./record";

const load = (sent: string, day: string, requested: string, promised: string | null, tolerated = 0): MetLoad => ({
  sent: toDay(sent),
  day: toDay(day),
  requested: toDay(requested),
  promised: promised === null ? null : toDay(promised),
  tolerated,
});

describe("a supplier's record", () => {
  const loads = [
    load("2026-10-01", "2026-10-11", "2026-10-10", "2026-10-12"),
    load("2026-10-01", "2026-10-14", "2026-10-10", "2026-10-12", 1),
    load("2026-10-05", "2026-10-13", "2026-10-13", null),
    load("2026-10-05", "2026-10-14", "2026-10-13", "2026-10-13", 1),
  ];

  it("says how many came in time, tolerance counted; of what they promised only where they did", () => {
    expect(shareInTime(loads, "promised")).toEqual({ of: 2, all: 3 });
    expect(shareInTime(loads, "requested")).toEqual({ of: 2, all: 4 });
    expect(shareInTime([], "promised")).toEqual({ of: 0, all: 0 });
  });

  it("measures days from sent to here: mean, spread, and within which nine of ten came", () => {
    expect(daysToHere(loads)).toEqual({
      count: 4,
      mean: 10,
      deviation: expect.closeTo(Math.sqrt((0 + 9 + 4 + 1) / 3), 9),
      ninetieth: 13,
    });
    expect(daysToHere(loads.slice(0, 1))).toEqual({ count: 1, mean: 10, deviation: 0, ninetieth: 10 });
    expect(daysToHere([])).toBeNull();
  });

  it("counts a promise as moved each time they said another last day, parts of one saying together", () => {
    const said = (line: number, day: string, at: string): PromiseSaid => ({ line, day: toDay(day), at });
    expect(
      movedPromises([
        said(1, "2026-10-12", "2026-10-01T08"),
        said(1, "2026-10-15", "2026-10-01T08"),
        said(1, "2026-10-20", "2026-10-05T08"),
        said(1, "2026-10-20", "2026-10-06T08"),
        said(1, "2026-10-18", "2026-10-07T08"),
        said(2, "2026-10-12", "2026-10-02T08"),
      ]),
    ).toEqual([
      { line: 1, from: "2026-10-15", to: "2026-10-20", at: "2026-10-05T08", days: 5 },
      { line: 1, from: "2026-10-20", to: "2026-10-18", at: "2026-10-07T08", days: -2 },
    ]);
  });
});
