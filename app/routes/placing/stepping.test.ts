import { expect, it } from "vitest";
import { bySales, nextSupplier } from "./stepping";

const suppliers = [{ id: 1 }, { id: 2 }, { id: 3 }];
const row = { offers: [{ supplier: 3 }, { supplier: 1 }] };

it.each([
  [[], 1, 1],
  [[], -1, 3],
  [[1], 1, 3],
  [[3], -1, 1],
  [[3], 1, null],
  [[1], -1, null],
  [[1, 3], 1, null], // split: there is no one choice to move
  [[2], 1, 1], // it was chosen, and is not sold there any more
] as const)("from %j a step of %i leads to %j", (chosen, by, to) => {
  expect(
    nextSupplier(
      suppliers,
      row,
      chosen.map((supplier) => ({ supplier })),
      by,
    ),
  ).toBe(to);
});

it("leads nowhere where nobody sells it", () => {
  expect(nextSupplier(suppliers, { offers: [] }, [], 1)).toBeNull();
});

it("who sells most of the needs stands first, and names decide among equals", () => {
  const problem = {
    suppliers: ["Tern", "Brannock", "Auk"].map((name, i) => ({ id: i + 1, name })),
    rows: [[1], [1, 2], [3]].map((sold) => ({ offers: sold.map((supplier) => ({ supplier })) })),
  } as unknown as Parameters<typeof bySales>[0];
  expect(bySales(problem).map((s) => s.name)).toEqual(["Tern", "Auk", "Brannock"]);
});
