import { afterAll, beforeAll, expect, it } from "vitest";
import { toDay } from "../../../core/calendar/day";
import { on } from "../../acts/consigned/testing";
import { receiveGoods } from "../../acts/receiving/receive-goods";
import { orderAt, placedOrder } from "../../acts/receiving/testing";
import { sql } from "../../db/open";
import { must, type TestHouse, testHouse } from "../../testing";
import { readPaidItems, readPaidOf } from "./paid";

let h: TestHouse;
beforeAll(() => {
  h = testHouse();
});
afterAll(() => h.close());

async function bought(quantity: string, price: string, day: string) {
  const { order, lines } = await placedOrder(h, "TTL", [{ code: "OIL", quantity, price }]);
  must(
    receiveGoods(on(h.desk("tobias"), day), {
      ...orderAt(h, order),
      deliveryNote: "",
      lines: [{ line: lines[0], counted: quantity }],
    }),
  );
}

it("says what an item cost above the least that was paid for it, with each receipt", async () => {
  await bought("2", "620", "2026-03-10");
  await bought("3", "650", "2026-09-10");
  await bought("1", "600", "2025-03-10");
  const year = { from: toDay("2026-01-01"), until: toDay("2026-12-31") };
  // 620.00 for a drum of 200 L is 3.10 for one.
  expect(readPaidItems(h.db, year)).toEqual([
    {
      item: h.id("item", "OIL"),
      code: "OIL",
      name: "Hydraulic oil",
      stockUnit: "L",
      suppliers: 1,
      home: 2 * 620_00 + 3 * 650_00,
      above: 3 * 30_00,
      least: { unit: 3_100_000, supplier: "Tern & Tallow", day: "2026-03-10" },
      last: { unit: 3_250_000, supplier: "Tern & Tallow", day: "2026-09-10" },
    },
  ]);
  expect(readPaidOf(h.db, h.id("item", "OIL"), year).map((p) => [p.day, p.quantity, p.home, p.unit])).toEqual([
    ["2026-03-10", 4_000_000, 1_240_00, 3_100_000],
    ["2026-09-10", 6_000_000, 1_950_00, 3_250_000],
  ]);
  expect(readPaidItems(h.db, { from: toDay("2024-01-01"), until: toDay("2024-12-31") })).toEqual([]);
  expect(sql(h.db, "SELECT count(*) FROM receipt").pluck().get()).toBe(3);
});
