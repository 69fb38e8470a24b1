import { describe, expect, it } from "vitest";
import { toDay } from "../calendar/day";
import { stock } from "../numbers/quantity";
import { expiries } from "./expiry";
import { availability, expect as expecting, project, type Stir } from "./projection";

const TODAY = toDay("2026-11-24");
const demand = (day: string, quantity: number): Stir => ({
  day: toDay(day),
  quantity: stock(-quantity),
  kind: "demand",
  label: "a job",
  doubtful: false,
});
const lots = [
  { lot: "B", until: toDay("2026-12-20"), quantity: 5 },
  { lot: "A", until: toDay("2026-12-05"), quantity: 10 },
];

describe("lots that expire", () => {
  it("lose what is left of them after their last day, the first to expire being used first", () => {
    expect(expiries(lots, [], TODAY)).toEqual([
      { lot: "A", until: "2026-12-05", lost: 10 },
      { lot: "B", until: "2026-12-20", lost: 5 },
    ]);
    expect(expiries(lots, [demand("2026-12-05", 8)], TODAY)[0]).toMatchObject({ lot: "A", lost: 2 });
    expect(expiries(lots, [demand("2026-12-06", 8)], TODAY)).toEqual([{ lot: "A", until: "2026-12-05", lost: 10 }]);
    expect(expiries(lots, [demand("2026-12-01", 12)], TODAY)).toEqual([{ lot: "B", until: "2026-12-20", lost: 3 }]);
    expect(expiries(lots, [demand("2026-11-01", 15)], TODAY)).toEqual([]);
  });

  it("do not cover what is needed later: they are no longer on hand then", () => {
    const stirs = expecting(
      [
        demand("2026-12-10", 4),
        { day: toDay("2026-12-06"), quantity: stock(-10), kind: "expiry", label: "lot A", doubtful: false },
      ],
      TODAY,
    );
    expect(project(stock(10), stirs, TODAY, toDay("2026-12-31")).at(-1)!.available).toBe(-4);
    expect(availability(stock(10), stirs, toDay("2026-12-10"))).toEqual({
      onHand: 0,
      committed: 4,
      onOrder: 0,
      available: -4,
    });
  });
});
