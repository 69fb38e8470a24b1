import { expect, it } from "vitest";
import type { OrderSheet } from "../../../../server/queries/orders/order";
import { typedAgainst } from "./typed-against";

const sheet = {
  head: { note: "Ring first", discount: 0 },
  lines: [{ id: 7, quantity: 50_000, price: 624_000_000, required: "2026-12-10" }],
} as unknown as OrderSheet;

it("what somebody typed stands against what is kept, head and line, where it differs", () => {
  const mine = {
    note: "Ring at the gate",
    discount: 0,
    lines: [
      { line: 7, quantity: "6" },
      { line: 9, price: "2" },
    ],
  };
  expect(typedAgainst(mine, sheet)).toEqual([
    { what: "Note", theirs: "Ring first", mine: "Ring at the gate" },
    { what: "Line 1", theirs: "5 at 624.00, 2026-12-10", mine: "6 at 624.00, 2026-12-10" },
    expect.objectContaining({ what: "A line", theirs: "taken off" }),
  ]);
  expect(typedAgainst({ note: "Ring first" }, sheet)).toEqual([]);
  expect(typedAgainst(null, sheet)).toEqual([]);
});
