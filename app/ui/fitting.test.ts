import { expect, it } from "vitest";
import { goingOrder } from "./fitting";

it("columns go from the right, the least kept first, and the first one never", () => {
  const columns = [
    { key: "item" },
    { key: "store", keep: -1 },
    { key: "hand" },
    { key: "by", keep: 2 },
    { key: "supplier", keep: -1 },
    { key: "price" },
    { key: "buy", keep: 2 },
  ];
  expect(goingOrder(columns).map((c) => c.key)).toEqual(["supplier", "store", "price", "hand", "buy", "by"]);
  expect(goingOrder([{ key: "item", keep: -9 }])).toEqual([]);
});
