import { describe, expect, it } from "vitest";
import { toDay } from "../calendar/day";
import { unitPrice } from "../numbers/money";
import { purchase } from "../numbers/quantity";
import { addMove, boughtAtBoth, listedTwice, riseOf } from "./lists";

const FROM = toDay("2025-11-25");
const UNTIL = toDay("2026-11-24");
const breakOf = (from: number, price: number, validFrom: string | null, validTo: string | null) => ({
  from: purchase(from * 10_000),
  price: unitPrice(price * 10_000),
  validFrom: validFrom === null ? null : toDay(validFrom),
  validTo: validTo === null ? null : toDay(validTo),
});

describe("whose list went up", () => {
  const breaks = [
    breakOf(1, 310, null, "2026-03-31"),
    breakOf(1, 325, "2026-04-01", null),
    breakOf(10, 300, null, "2026-03-31"),
    breakOf(10, 300, "2026-04-01", null),
  ];
  it("holds one price against the other for the quantity in which it is bought", () => {
    expect(listedTwice(breaks, purchase(20_000), FROM, UNTIL)).toEqual({ before: 3_100_000, now: 3_250_000 });
    expect(listedTwice(breaks, purchase(120_000), FROM, UNTIL)).toEqual({ before: 3_000_000, now: 3_000_000 });
    expect(listedTwice(breaks.slice(1, 2), purchase(20_000), FROM, UNTIL)).toBeNull();
  });
  it("says by how much, of what it was", () => {
    expect(riseOf(310, 325)).toBe(484); // 4.8387 %
    expect(riseOf(325, 310)).toBe(-462); // −4.615 %
    expect(riseOf(0, 310)).toBeNull();
  });
  it("is what was bought at both lists, net of the standing discount", () => {
    const l = listedTwice(breaks, purchase(10_000), FROM, UNTIL)!;
    // 24 L at 3.10 and 3.25, the example of §16.
    expect(boughtAtBoth(l, purchase(240_000), 0, "EUR")).toEqual({ before: 7_440, now: 7_800 });
    expect(boughtAtBoth(l, purchase(240_000), 200, "EUR")).toEqual({ before: 7_291, now: 7_644 });
    const none = { prices: 0, up: 0, down: 0, before: 0, now: 0 };
    expect(
      addMove(addMove(none, l, { before: 7_440, now: 7_800 }), { before: l.now, now: l.before }, { before: 0, now: 0 }),
    ).toEqual({
      prices: 2,
      up: 1,
      down: 1,
      before: 7_440,
      now: 7_800,
    });
  });
});
