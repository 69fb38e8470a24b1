import { expect, it } from "vitest";
import type { Ticked } from "../../../server/queries/needs/needs";
import { sumOfTicked, whyNotWritten } from "./ticked";

const ticked = (key: string, more: Partial<Ticked> = {}): Ticked => ({
  key,
  name: key,
  supplier: 1,
  store: 1,
  missesBy: 0,
  ok: true,
  home: 1_000,
  bench: null,
  ...more,
});

it("what is ticked is summed, an order for each supplier and store", () => {
  const sum = sumOfTicked([
    ticked("a"),
    ticked("b", { store: 2, missesBy: 3 }),
    ticked("c", { supplier: 2, home: null, bench: "Slip season" }),
  ]);
  expect(sum).toMatchObject({
    orders: 3,
    suppliers: 2,
    home: 2_000,
    unpriced: 1,
    late: 1,
    unsupplied: 0,
    wrong: false,
  });
  expect(sum.lying.map((t) => t.key)).toEqual(["c"]);
});

it("says why it cannot be written, the first reason of them", () => {
  const one = sumOfTicked([ticked("a", { supplier: null })]);
  expect(whyNotWritten(one, 1)).toBe("1 of the ticked needs has no supplier yet.");
  const two = sumOfTicked([ticked("a", { supplier: null }), ticked("b", { supplier: null })]);
  expect(whyNotWritten(two, 2)).toBe("2 of the ticked needs have no supplier yet.");
  expect(whyNotWritten({ ...two, wrong: true }, 2)).toBe("A quantity is not a number above zero.");
  expect(whyNotWritten(sumOfTicked([]), 2_001)).toBe("At most 2,000 needs can be written at once.");
  expect(whyNotWritten(sumOfTicked([ticked("a")]), 1)).toBeNull();
});
