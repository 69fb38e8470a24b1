import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { balances } from "../stock/posting";
import { bookedOf, paymentPostings, paymentTotal } from "./payment";

const roles = (parts: Parameters<typeof paymentPostings>[0], paid: number) =>
  Object.fromEntries(paymentPostings(parts, paid).map((p) => [p.role, p.minor]));

describe("a payment", () => {
  it("books the design's example: 4.23 lost on the rate", () => {
    expect(roles([{ minor: 6_039_08, discount: 0, booked: 533_85 }], 538_08)).toEqual({
      payable: 533_85,
      bank: -538_08,
      "exchange difference": 4_23,
    });
  });
  it("takes the early discount, and sets credits off", () => {
    const parts = [
      { minor: 4_491_97, discount: 91_67, booked: 4_583_64 },
      { minor: -741_00, discount: 0, booked: -741_00 },
    ];
    expect(paymentTotal(parts)).toBe(3_750_97);
    expect(roles(parts, 3_750_97)).toEqual({ payable: 3_842_64, bank: -3_750_97, "early discount": -91_67 });
  });
  it("in parts comes to what was booked, to the cent, and always balances", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 10_000_000 }),
        fc.integer({ min: 1, max: 90_000_000 }),
        fc.array(fc.integer({ min: 1, max: 1_000_000 }), { maxLength: 6 }),
        (total, home, cuts) => {
          let before = 0;
          let booked = 0;
          for (const cut of [...cuts, total]) {
            const now = Math.min(cut, total - before);
            if (now <= 0) break;
            const part = bookedOf(home, total, before, now);
            expect(balances(paymentPostings([{ minor: now, discount: 0, booked: part }], part + 7))).toBe(true);
            booked += part;
            before += now;
          }
          if (before === total) expect(booked).toBe(home);
        },
      ),
    );
  });
});
