import { afterEach, beforeEach, describe, expect, it } from "vitest";
import type { OrderId } from "../../../core/ids";
import { sql } from "../../db/open";
import { brokenTruths } from "../../queries/always-true";
import { readOrder } from "../../queries/orders/order";
import { must, refusal, type TestHouse, TODAY, testHouse, versionOf } from "../../testing";
import { addLines } from "../orders/add-lines";
import { changeOrder } from "../orders/change-order";
import { placeOrder } from "../orders/place-order";
import { startOrder } from "../orders/start-order";
import { submitOrder } from "../orders/submit-order";
import { sign } from "../signoff/sign";
import { takeOut } from "../stock/stock";
import { receiveGoods } from "./receive-goods";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => {
  expect(brokenTruths(h.db)).toEqual([]);
  h.close();
});

const at = (order: OrderId) => ({ order, version: versionOf(h.db, "purchase_order", order) });
const lineIds = (order: OrderId) => readOrder(h.db, order)!.lines.map((l) => l.id);

/** A placed order of four drums of oil and a charge that is spread by value. */
async function placed(): Promise<OrderId> {
  const { order } = must(
    startOrder(h.desk("ines"), { supplier: h.id("supplier", "TTL"), store: h.id("store", "TQ"), kind: "one-off" }),
  );
  must(
    addLines(h.desk("ines"), {
      ...at(order),
      add: [
        { code: "OIL", quantity: "4", price: "624" },
        { words: "Freight", kind: "charge", quantity: "1", price: "95" },
      ],
    }),
  );
  const [, charge] = lineIds(order);
  must(changeOrder(h.desk("ines"), { ...at(order), lines: [{ line: charge, spread: "value" }] }));
  must(submitOrder(h.desk("ines"), at(order)));
  must(sign(h.desk("maud"), { paper: "order", id: order, version: versionOf(h.db, "purchase_order", order) }));
  must(await placeOrder(h.desk("ines"), at(order)));
  return order;
}

const stock = () =>
  sql<{ quantity: number; value: number }>(
    h.db,
    "SELECT on_hand / 10000 AS quantity, value FROM item_store WHERE item = ? AND store = ?",
  ).get(h.id("item", "OIL"), h.id("store", "TQ"))!;
const balance = (role: string) =>
  sql<{ minor: number }>(h.db, "SELECT coalesce(sum(minor), 0) AS minor FROM posting WHERE role = ?").get(role)!.minor;

describe("goods that are counted in", () => {
  it("are worth their price and their share of the charges, in parts that come to the whole", async () => {
    const order = await placed();
    const [oil] = lineIds(order);
    const before = stock();
    const owed = balance("received not invoiced");
    const count = (counted: string) =>
      receiveGoods(h.desk("tobias"), { ...at(order), deliveryNote: "", lines: [{ line: oil, counted }] });
    must(count("1"));
    expect(readOrder(h.db, order)!.head).toMatchObject({ stage: "placed", state: "Part in" });
    must(count("3"));
    expect(readOrder(h.db, order)!.head).toMatchObject({ stage: "closed", state: "All in" });
    // 4 × 624.00 + 95.00
    expect(stock().value - before.value).toBe(259_100);
    expect(stock().quantity - before.quantity).toBe(800);
    expect(balance("received not invoiced") - owed).toBe(-259_100);
    expect(sql(h.db, "SELECT home_value AS v FROM receipt_line ORDER BY id").pluck().all()).toEqual([64_775, 194_325]);
    expect(refusal(count("1"))[0]).toMatch(/is all in: it is not expected on the dock/);
  });

  it("leave at what they are worth on average, and the last of them with all that is left", async () => {
    const order = await placed();
    const [oil] = lineIds(order);
    must(receiveGoods(h.desk("tobias"), { ...at(order), deliveryNote: "", lines: [{ line: oil, counted: "4" }] }));
    const { quantity, value } = stock();
    const item = h.id("item", "OIL");
    const store = h.id("store", "TQ");
    const by = { day: TODAY, now: h.desk("tobias").now, person: null };
    takeOut(h.db, by, { item, store, quantity: 500 * 10_000 });
    const out = Number(((BigInt(value) * 500n * 2n + BigInt(quantity)) / (2n * BigInt(quantity))).toString());
    expect(stock()).toEqual({ quantity: quantity - 500, value: value - out });
    takeOut(h.db, by, { item, store, quantity: (quantity - 500) * 10_000 });
    expect(stock()).toEqual({ quantity: 0, value: 0 });
    expect(balance("used")).toBe(value);
  });

  it("wait for the buyer beyond what was ordered, where no tolerance is set", async () => {
    const order = await placed();
    const [oil] = lineIds(order);
    const before = stock();
    must(receiveGoods(h.desk("tobias"), { ...at(order), deliveryNote: "", lines: [{ line: oil, counted: "5" }] }));
    expect(stock().quantity - before.quantity).toBe(800);
    expect(sql(h.db, "SELECT why, undecided / 10000 AS n FROM set_aside").all()).toEqual([{ why: "over", n: 1 }]);
  });
});
