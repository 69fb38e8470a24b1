import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { grown } from "./growth";

const ALLOWED = { percent: 200, amount: 10_000 };
const again = (now: number, other = false) => grown(431_000, now, ALLOWED, other, "EUR").again;

describe("a change after sign-off", () => {
  it("carries on up to the smaller of a percentage and an amount (the worked example)", () => {
    expect(again(439_000)).toBe(false); // 80.00 ≤ 86.20
    expect(again(440_000)).toBe(true); // 90.00
    expect(again(439_620)).toBe(false); // 86.20 to the cent
    expect(again(439_621)).toBe(true);
    expect(again(400_000)).toBe(false);
    expect(grown(431_000, 439_000, ALLOWED, false, "EUR").sum.steps.map((s) => s.label)).toEqual([
      "now",
      "as signed",
      "growth",
      "allowed",
    ]);
  });

  it("needs a new one for another supplier, whatever it comes to", () => {
    expect(grown(431_000, 100, ALLOWED, true, "EUR")).toMatchObject({
      again: true,
      says: "It goes to another supplier.",
    });
  });

  it("is never missed, however it is cut into versions", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 2_000 }),
        fc.array(fc.integer({ min: -300, max: 400 }), { minLength: 1, maxLength: 60 }),
        (fifties, steps) => {
          const signed = fifties * 5_000; // two percent of it are whole cents
          const limit = Math.min(fifties * 100, 10_000);
          let now = signed;
          for (const step of steps) {
            now = Math.max(0, now + step);
            expect(grown(signed, now, ALLOWED, false, "EUR").again).toBe(now - signed > limit);
          }
        },
      ),
    );
  });
});
