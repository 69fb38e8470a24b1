import { describe, expect, it } from "vitest";
import { addDays, toDay } from "../calendar/day";
import { stock } from "../numbers/quantity";
import { availability, expect as expecting, project, type Stir } from "./projection";

const TODAY = toDay("2026-11-24");
const day = (n: number) => addDays(TODAY, n);
const stir = (on: number, quantity: number, kind: Stir["kind"] = quantity < 0 ? "demand" : "order"): Stir => ({
  day: day(on),
  quantity: stock(quantity),
  kind,
  label: kind,
  doubtful: false,
});

describe("availability", () => {
  const stirs = expecting([stir(-3, -20), stir(-5, 8), stir(2, -30), stir(6, 40), stir(9, -5)], TODAY);
  it("counts what is overdue as due today, and marks promises that have passed", () => {
    expect(stirs.map((s) => [s.day, s.quantity, s.doubtful])).toEqual([
      [TODAY, -20, false],
      [TODAY, 8, true],
      [day(2), -30, false],
      [day(6), 40, false],
      [day(9), -5, false],
    ]);
    expect(availability(stock(50), stirs, TODAY)).toEqual({ onHand: 50, committed: 20, onOrder: 8, available: 38 });
  });
  it("is known for any day", () => {
    expect([day(1), day(2), day(6), day(9)].map((d) => availability(stock(50), stirs, d).available)).toEqual([
      38, 8, 48, 43,
    ]);
  });
  it("leaves what is on order out where the company wants it so; transfers and what jobs give back still count", () => {
    const more = [...stirs, stir(3, 7, "transfer"), stir(3, 2, "output"), stir(3, 11, "being written")];
    expect(availability(stock(50), more, day(9), false).available).toBe(50 - 55 + 9);
    expect(availability(stock(50), more, day(9), true).available).toBe(50 - 55 + 48 + 20);
    expect(project(stock(50), expecting(more, TODAY), TODAY, day(9), false).at(-1)).toEqual({
      day: day(9),
      available: 4,
    });
  });
  it("on a later day takes what is due until then as come, and doubts only what was overdue before", () => {
    const later = expecting([stir(-1, 5), stir(3, 7)], day(5), TODAY);
    expect(later.map((s) => [s.day, s.doubtful])).toEqual([
      [day(5), true],
      [day(5), false],
    ]);
  });
});

describe("the projection", () => {
  it("has one level for each day on which it changes, and ends with the last day", () => {
    const stirs = expecting([stir(2, -30), stir(2, 10), stir(6, 40), stir(30, -5)], TODAY);
    expect(project(stock(50), stirs, TODAY, day(10))).toEqual([
      { day: TODAY, available: 50 },
      { day: day(2), available: 30 },
      { day: day(6), available: 70 },
    ]);
  });
});
