import { afterEach, beforeEach, describe, expect, it } from "vitest";
import type { OrderId } from "../../../core/ids";
import { addLines } from "../../acts/orders/add-lines";
import { changeOrder } from "../../acts/orders/change-order";
import { placeOrder } from "../../acts/orders/place-order";
import { startOrder } from "../../acts/orders/start-order";
import { submitOrder } from "../../acts/orders/submit-order";
import { sendBack, sign } from "../../acts/signoff/sign";
import { sql } from "../../db/open";
import { must, type TestHouse, TODAY, testHouse, versionOf } from "../../testing";
import { readDecision } from "./decision";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => h.close());

const at = (order: OrderId) => ({ order, version: versionOf(h.db, "purchase_order", order) });
const draft = (quantity: string, price = "") => {
  const { order } = must(startOrder(h.desk("ines"), { supplier: h.id("supplier", "TTL"), store: h.id("store", "TQ") }));
  must(addLines(h.desk("ines"), { ...at(order), add: [{ code: "OIL", quantity, price }] }));
  return order;
};
const submit = (order: OrderId) => must(submitOrder(h.desk("ines"), at(order))).waitsFor;
const decision = (order: OrderId) => readDecision(h.db, "order", order, TODAY, 9)!;

describe("what an approver needs to decide", () => {
  it("is the price against the last one paid and, where it was typed, against the list", async () => {
    const first = draft("1", "600");
    expect(submit(first)).toBeNull();
    must(await placeOrder(h.desk("ines"), at(first)));
    const next = draft("1");
    expect(decision(next).lines).toEqual([
      expect.objectContaining({
        words: "Hydraulic oil",
        quantity: 10_000,
        unit: "drum",
        minor: 66_000,
        last: { supplier: "Tern & Tallow", day: TODAY, dearer: 1_000 },
        list: null,
      }),
    ]);
    const cheap = draft("1", "540");
    // 540 against 600 paid, and against 660 of the list
    expect(decision(cheap).lines[0]).toMatchObject({ last: { dearer: -1_000 }, list: { dearer: -1_818 } });
  });

  it("says until when it may wait, and what is late already", () => {
    const order = draft("2");
    const [line] = sql<{ id: number }>(h.db, "SELECT id FROM order_line WHERE purchase_order = ?").all(order);
    const due = (required: string) =>
      must(changeOrder(h.desk("ines"), { ...at(order), lines: [{ line: line!.id, required }] }));
    due("2026-12-10"); // ten days on the way
    expect(decision(order)).toMatchObject({ sendBy: "2026-11-30", late: 0 });
    due("2026-11-30");
    expect(decision(order)).toMatchObject({ sendBy: "2026-11-20", late: 1 });
  });

  it("names other orders to the supplier with which it passes a limit", () => {
    expect(submit(draft("1"))).toBeNull();
    const second = draft("1", "500");
    expect(submit(second)).toBeNull();
    // 660 and 500 each stay under 800, and come to 1,160 together.
    expect(decision(second).together).toMatchObject({ limit: 80_000, minor: 116_000, others: [{ minor: 66_000 }] });
  });

  it("says what it came to when it was looked at before", () => {
    const order = draft("2");
    expect(submit(order)).toBe("Yard manager");
    expect(decision(order).before).toBeNull();
    must(sendBack(h.desk("maud"), { paper: "order", id: order, ...at(order), reason: "too much" }));
    const [line] = sql<{ id: number }>(h.db, "SELECT id FROM order_line WHERE purchase_order = ?").all(order);
    must(changeOrder(h.desk("ines"), { ...at(order), lines: [{ line: line!.id, quantity: "3" }] }));
    submit(order);
    expect(decision(order).before).toMatchObject({ minor: 132_000, person: "Maud" });
    must(sign(h.desk("maud"), { paper: "order", id: order, ...at(order) }));
  });

  it("is nothing where there is no such paper", () => {
    expect(readDecision(h.db, "order", 99, TODAY, 9)).toBeNull();
    expect(readDecision(h.db, "requisition", 99, TODAY, 9)).toBeNull();
  });
});
