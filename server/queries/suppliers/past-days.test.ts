import { afterEach, beforeEach, expect, it } from "vitest";
import { addDays } from "../../../core/calendar/day";
import { addLines } from "../../acts/orders/add-lines";
import { changeOrder } from "../../acts/orders/change-order";
import { placeOrder } from "../../acts/orders/place-order";
import { startOrder } from "../../acts/orders/start-order";
import { submitOrder } from "../../acts/orders/submit-order";
import { receiveGoods } from "../../acts/receiving/receive-goods";
import { sql } from "../../db/open";
import { must, type TestHouse, TODAY, testHouse, versionOf } from "../../testing";
import { readOrder } from "../orders/order";
import { chancesOf } from "./chances";
import { pastDays } from "./past-days";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => h.close());

const ttl = () => h.id("supplier", "TTL");
const soon = (n: number) => addDays(TODAY, n);
const at = (order: number) => ({ order, version: versionOf(h.db, "purchase_order", order) });

async function placed(lines: object[], change: (ids: number[]) => object[] = () => []) {
  const { order } = must(startOrder(h.desk("ines"), { supplier: ttl(), store: h.id("store", "TQ") }));
  must(addLines(h.desk("ines"), { ...at(order), add: lines }));
  const ids = readOrder(h.db, order)!.lines.map((l) => l.id);
  must(changeOrder(h.desk("ines"), { ...at(order), lines: change(ids) }));
  must(submitOrder(h.desk("ines"), at(order)));
  must(await placeOrder(h.desk("ines"), at(order)));
  return { order, ids };
}
const count = (order: number, day: typeof TODAY, counted: [number, string][]) =>
  must(
    receiveGoods(
      { ...h.desk("tobias"), day },
      { ...at(order), deliveryNote: "", lines: counted.map(([line, n]) => ({ line, counted: n })) },
    ),
  );
const days = (item: string | null, today = soon(40)) =>
  pastDays(h.db, ttl(), item === null ? null : h.id("item", item), today);

it("each receipt says by how many days it missed the day of its part of the line", async () => {
  const { order, ids } = await placed(
    [
      { code: "ROP", quantity: "5", price: "10" },
      { code: "OIL", quantity: "1", price: "10" },
    ],
    ([rope, oil]) => [
      {
        line: rope!,
        instalments: [
          { quantity: "2", required: soon(5) },
          { quantity: "3", required: soon(20) },
        ],
      },
      { line: oil!, required: soon(10) },
    ],
  );
  const [rope, oil] = ids as [number, number];
  expect(days("ROP")).toEqual({ item: [], all: [] });
  count(order, soon(4), [[rope, "1"]]); // of the first part, a day early
  count(order, soon(8), [
    [rope, "2"], // begins with the rest of the first part
    [oil, "1"],
  ]);
  count(order, soon(23), [[rope, "2"]]);
  expect(days("ROP").item).toEqual([-1, 3, 3]);
  expect(days("OIL").item).toEqual([-2]);
  expect(days(null)).toEqual({ item: [], all: [-1, 3, 3, -2] });
});

it("looks back over 24 months, and at no other supplier's receipts", async () => {
  const { order, ids } = await placed([{ code: "ROP", quantity: "2", price: "10" }], ([rope]) => [
    { line: rope!, required: soon(5) },
  ]);
  count(order, soon(6), [[ids[0]!, "2"]]);
  expect(days("ROP").all).toEqual([1]);
  expect(days("ROP", addDays(soon(6), 729)).all).toEqual([1]);
  expect(days("ROP", addDays(soon(6), 731)).all).toEqual([]);
  expect(pastDays(h.db, h.id("supplier", "BAW"), null, soon(40)).all).toEqual([]);
});

it("a line that is awaited has the chance of the design's example, and one of too few receipts has none", async () => {
  const misses = [-2, -1, 0, 0, 0, 1, 2, 3, 5, 9];
  const asked = misses.map((_, i) => soon(20 * (i + 1)));
  const before = await placed([{ code: "ROP", quantity: "10", price: "10" }], ([rope]) => [
    { line: rope!, instalments: asked.map((required) => ({ quantity: "1", required })) },
  ]);
  for (const [i, d] of misses.entries()) count(before.order, addDays(asked[i]!, d), [[before.ids[0]!, "1"]]);
  const { order, ids } = await placed([{ code: "ROP", quantity: "1", price: "10" }], ([rope]) => [
    { line: rope!, required: soon(302) },
  ]);
  sql(h.db, "UPDATE order_schedule SET promised = ? WHERE order_line = ?").run(soon(300), ids[0]);
  const on = (today: typeof TODAY) => chancesOf(h.db, readOrder(h.db, order)!, today)[ids[0]!]?.[0];
  // Promised 4 Dec, wanted by 6 Dec: on 1 Dec, and on 5 Dec while it is still not here.
  expect(on(soon(297))).toEqual({
    by: soon(302),
    promised: soon(300),
    chance: { k: 7, n: 10, basisPoints: 6_818, of: "item", receipts: 10 },
  });
  expect(on(soon(301))?.chance).toMatchObject({ k: 1, n: 4, basisPoints: 3_000 });
  // Its day has passed: a week from then on is asked about.
  expect(on(soon(304))).toMatchObject({ by: soon(311), chance: { k: 2, n: 2 } });
  expect(on(addDays(TODAY, 297 + 731))?.chance).toBeNull();
});

it("nothing is said of what is in, and of an order that the supplier does not have", async () => {
  const { order, ids } = await placed([{ code: "ROP", quantity: "2", price: "10" }]);
  expect(Object.keys(chancesOf(h.db, readOrder(h.db, order)!, TODAY))).toEqual([String(ids[0])]);
  count(order, soon(1), [[ids[0]!, "2"]]);
  expect(chancesOf(h.db, readOrder(h.db, order)!, TODAY)).toEqual({});
  const { order: draft } = must(startOrder(h.desk("ines"), { supplier: ttl(), store: h.id("store", "TQ") }));
  must(addLines(h.desk("ines"), { ...at(draft), add: [{ code: "ROP", quantity: "1" }] }));
  expect(chancesOf(h.db, readOrder(h.db, draft)!, TODAY)).toEqual({});
});
