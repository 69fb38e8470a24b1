import { existsSync, readdirSync } from "node:fs";
import { join } from "node:path";
import fc from "fast-check";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import type { OrderId } from "../../../core/ids";
import { sql } from "../../db/open";
import { brokenTruths } from "../../queries/always-true";
import { readNeeds, usualPlan } from "../../queries/needs/needs";
import { readAskerOrder } from "../../queries/orders/asker-order";
import { readOrder } from "../../queries/orders/order";
import { readRequisition } from "../../queries/requisitions/requisition";
import { postMail } from "../../standins/post-office";
import { must, refusal, stateOf, type TestHouse, TODAY, testHouse, versionOf } from "../../testing";
import { receiveGoods } from "../receiving/receive-goods";
import { saveRequisition, startRequisition, submitRequisition } from "../requisitions/raise-requisition";
import { sendBack, sign } from "../signoff/sign";
import { changeOrder } from "./change-order";
import { dropLines, dropOrder } from "./drop-lines";
import { placeOrder } from "./place-order";
import { submitOrder } from "./submit-order";
import { writeOrders } from "./write-orders";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => h.close());

const needs = () => readNeeds(h.db, usualPlan(TODAY));
const version = (order: OrderId) => versionOf(h.db, "purchase_order", order);
const at = (order: OrderId) => ({ order, version: version(order) });
const write = (...picks: [string, string][]) =>
  must(writeOrders(h.desk("ines"), { picks: picks.map(([need, quantity]) => ({ need, quantity })) })).orders;
const oilNeed = () => `s:${h.id("item", "OIL")}:${h.id("store", "TQ")}`;
const keep = (
  order: OrderId,
  change: (
    l: { line: number; quantity: string; price: string; discount: string; required: string },
    i: number,
  ) => object,
  more: object = {},
) => {
  const sheet = readOrder(h.db, order)!;
  const lines = sheet.lines.map((l, i) => {
    const kept = {
      line: l.id,
      quantity: String(l.quantity / 10_000),
      price: l.price === null ? "" : String(l.price / 1_000_000),
      discount: "",
      required: l.required as string,
    };
    return { ...kept, ...change(kept, i) };
  });
  return changeOrder(h.desk("ines"), { ...at(order), note: "", discount: "", lines, ...more });
};
const ask = (item: string, store: string, quantity: string) => {
  const id = must(startRequisition(h.desk("joss"))).requisition;
  must(
    saveRequisition(h.desk("joss"), {
      requisition: id,
      version: 1,
      store: h.id("store", store),
      neededBy: "2026-12-20",
      reason: "Refit",
      lines: [{ item: h.id("item", item), words: "", quantity, estimate: "" }],
    }),
  );
  must(submitRequisition(h.desk("joss"), { requisition: id, version: 2 }));
  if (stateOf(h.db, "requisition", id) === "In sign-off")
    must(sign(h.desk("maud"), { paper: "requisition", id, version: 3 }));
  return id;
};
const clear = (order: OrderId) => {
  let waits = must(submitOrder(h.desk("ines"), at(order))).waitsFor;
  while (waits)
    waits = must(
      sign(h.desk(waits === "Yard manager" ? "maud" : "halden"), {
        paper: "order",
        id: order,
        version: version(order),
      }),
    ).left;
};
const count = (order: OrderId, counted: string[], login = "tobias") => {
  const lines = readOrder(h.db, order)!.lines.map((l, i) => ({ line: l.id, counted: counted[i] ?? "" }));
  return receiveGoods(h.desk(login), { ...at(order), deliveryNote: "", lines });
};
const onHand = (item: string, store: string) =>
  sql<{ n: number }>(h.db, "SELECT on_hand AS n FROM item_store WHERE item = ? AND store = ?").get(
    h.id("item", item),
    h.id("store", store),
  )!.n / 10_000;

describe("needs", () => {
  it("find the oil of the worked example: 8 drums at the break of 5", () => {
    expect(needs().map((n) => [n.code, n.buy, n.unit, n.amount])).toEqual([["OIL", 80_000, "drum", 499_200]]);
    expect(needs()[0]!.stock).toEqual({
      onHand: 3_400_000,
      committed: 2_600_000,
      onOrder: 0,
      available: 800_000,
      reorderPoint: 4_000_000,
    });
  });
});

describe("an asker who buys nothing", () => {
  it("gets their own lines of the order, and no field beyond those named: no price, condition or note of ours", () => {
    ask("ROP", "TQ", "220");
    const [order] = write([oilNeed(), "8"], [needs().find((n) => n.source === "requisition")!.key, "1"]);
    const secret = "41.77";
    must(changeOrder(h.desk("ines"), { ...at(order!), note: secret, ourReference: secret, texts: secret }));
    sql(h.db, "UPDATE purchase_order SET freight = 4177, rate = 1417700 WHERE id = ?").run(order);
    sql(h.db, "UPDATE order_line SET own_note = ?, note = ? WHERE purchase_order = ?").run(secret, secret, order);
    const seen = readAskerOrder(h.db, order!, h.id("person", "joss"))!;
    expect(seen.lines.map((l) => [l.code, l.serves.length])).toEqual([["ROP", 1]]);
    expect(Object.keys(seen).sort().join(" ")).toBe(
      "cleared closed held id lines name placed receipts required state storeName supplierName writerName written",
    );
    expect(Object.keys(seen.lines[0]!).sort().join(" ")).toBe(
      "closedShort code due id position promised quantity received serves unit words",
    );
    const price = readOrder(h.db, order!)!.lines[1]!;
    const text = JSON.stringify(seen);
    for (const never of [secret, "4177", String(price.price), String(price.net)]) expect(text).not.toContain(never);
    expect(readAskerOrder(h.db, order!, h.id("person", "tobias"))).toBeNull();
  });
});

describe("writing orders", () => {
  it("makes one for each supplier and store, and takes the needs out of the pool", () => {
    ask("ANO", "HS", "20");
    ask("ROP", "TQ", "220");
    ask("ANO", "TQ", "3");
    const picks = needs().map((n): [string, string] => [n.key, String(n.buy / 10_000)]);
    const orders = write(...picks).map((o) => readOrder(h.db, o)!);
    expect(orders.map((o) => [o.head.supplierName, o.head.storeName, o.lines.length]).sort()).toEqual([
      ["Brannock", "Holm Slip", 1],
      ["Brannock", "Tarn Quay", 1],
      ["Tern & Tallow", "Tarn Quay", 2],
    ]);
    expect(needs()).toEqual([]);
    expect(brokenTruths(h.db)).toEqual([]);
  });

  it("counts all lines of an item for the break: six and five take the price from ten", () => {
    ask("OIL", "TQ", "1000");
    const [order] = write([oilNeed(), "6"], [needs().find((n) => n.source === "requisition")!.key, "5"]);
    expect(readOrder(h.db, order!)!.lines.map((l) => l.price)).toEqual([588_000_000, 588_000_000]);
  });

  it("happens once, and asks again where a need is gone", () => {
    const picks = [{ need: oilNeed(), quantity: "8" }];
    const [first, second] = [1, 2].map(() => must(writeOrders(h.desk("ines", "clicked-twice"), { picks })));
    expect(first).toEqual(second);
    expect(writeOrders(h.desk("ines"), { picks })).toMatchObject({ ok: false, stale: true });
  });

  it("refuses quantities that are none, and people who may not", () => {
    expect(refusal(writeOrders(h.desk("ines"), { picks: [{ need: oilNeed(), quantity: "-8" }] }))).toEqual([
      "picks.0.quantity: A quantity cannot be negative.",
    ]);
    expect(refusal(writeOrders(h.desk("joss"), { picks: [{ need: oilNeed(), quantity: "8" }] }))).toEqual([
      "Your role does not allow this.",
    ]);
    expect(refusal(writeOrders(h.desk("ines"), { picks: [] }))).toEqual(["picks: Tick at least one need."]);
  });

  it("gives the need back when its line or its draft goes", () => {
    const requisition = ask("ROP", "TQ", "220");
    const [order] = write([oilNeed(), "8"], [needs().find((n) => n.source === "requisition")!.key, "1"]);
    expect(stateOf(h.db, "requisition", requisition)).toBe("Ordered");
    const rope = readOrder(h.db, order!)!.lines[1]!.id;
    must(dropLines(h.desk("ines"), { ...at(order!), lines: [rope] }));
    expect(stateOf(h.db, "requisition", requisition)).toBe("Open");
    must(dropOrder(h.desk("ines"), at(order!)));
    expect(
      needs()
        .map((n) => n.code)
        .sort(),
    ).toEqual(["OIL", "ROP"]);
    expect(readOrder(h.db, order!)).toBeNull();
  });
});

describe("a draft order", () => {
  it("is priced again when its quantity changes, unless the price was typed", () => {
    const [order] = write([oilNeed(), "8"]);
    must(keep(order!, () => ({ quantity: "10" })));
    expect(readOrder(h.db, order!)!.lines[0]).toMatchObject({
      price: 588_000_000,
      priceSource: { kind: "price list", from: 100_000 },
    });
    must(keep(order!, () => ({ price: "600" })));
    must(keep(order!, () => ({ quantity: "2" })));
    expect(readOrder(h.db, order!)!.lines[0]).toMatchObject({ price: 600_000_000, priceSource: { kind: "typed" } });
    must(keep(order!, () => ({ price: "" })));
    expect(readOrder(h.db, order!)!.lines[0]!.price).toBe(660_000_000);
  });

  it("refuses a stale save, a line of another order, and nonsense in its fields", () => {
    const [order] = write([oilNeed(), "8"]);
    must(keep(order!, () => ({}), { note: "one" }));
    expect(keep(order!, () => ({}), { version: 1, note: "two" })).toMatchObject({ ok: false, stale: true });
    expect(refusal(keep(order!, () => ({ line: 999 })))).toEqual([
      "line.999.quantity: This line is not on this order.",
    ]);
    expect(refusal(keep(order!, () => ({ discount: "101", required: "2026-02-30" })))).toEqual([
      `line.${readOrder(h.db, order!)!.lines[0]!.id}.discount: Between 0 and 100 percent.`,
      `line.${readOrder(h.db, order!)!.lines[0]!.id}.required: There is no such date.`,
    ]);
    expect(readOrder(h.db, order!)!.head.note).toBe("one");
  });
});

describe("sign-off", () => {
  it.each([
    ["100", "Cleared", null],
    ["100.000125", "In sign-off", "Yard manager"],
    ["1562.5", "In sign-off", "Yard manager"],
    ["1562.501", "In sign-off", "Yard manager"],
  ])("8 drums at %s: %s", (price, state, waitsFor) => {
    const [order] = write([oilNeed(), "8"]);
    must(keep(order!, () => ({ price })));
    expect(must(submitOrder(h.desk("ines"), at(order!))).waitsFor).toBe(price === "100.000125" ? null : waitsFor);
    expect(stateOf(h.db, "purchase_order", order!)).toBe(price === "100.000125" ? "Cleared" : state);
  });

  it("keeps to the cent: 800.00 needs nobody, 800.01 the yard manager, 12,500.01 the finance director too", () => {
    const signers = (eachPrice: string) => {
      ask("ANO", "HS", "1");
      const [order] = write([needs().find((n) => n.source === "requisition")!.key, "1"]);
      must(keep(order!, () => ({ price: eachPrice })));
      must(submitOrder(h.desk("ines"), at(order!)));
      return readOrder(h.db, order!)!
        .signings.at(-1)!
        .seats.map((t) => t.name);
    };
    expect(signers("800")).toEqual([]);
    expect(signers("800.01")).toEqual(["Yard manager"]);
    expect(signers("12500")).toEqual(["Yard manager"]);
    expect(signers("12500.01")).toEqual(["Yard manager", "Finance director"]);
  });

  it("locks the order, goes rung by rung, and sends back with a reason", () => {
    const [order] = write([oilNeed(), "80"]);
    must(submitOrder(h.desk("ines"), at(order!)));
    expect(refusal(keep(order!, () => ({ quantity: "1" })))).toEqual([
      "26-1001 is being signed off, and nobody can change it meanwhile.",
    ]);
    expect(refusal(dropOrder(h.desk("ines"), at(order!)))[0]).toMatch(/26-1001 is in sign-off/);
    const paper = { paper: "order", id: order! };
    expect(refusal(sign(h.desk("halden"), { ...paper, version: version(order!) }))).toEqual([
      "This waits for the yard manager.",
    ]);
    expect(refusal(sign(h.desk("ines"), { ...paper, version: version(order!) }))).toEqual([
      "Nobody signs their own paper.",
    ]);
    expect(must(sign(h.desk("maud"), { ...paper, version: version(order!) })).left).toBe("Finance director");
    expect(refusal(sendBack(h.desk("halden"), { ...paper, version: version(order!), reason: " x " }))).toEqual([
      "reason: Say why, so that the writer knows what to change.",
    ]);
    must(sendBack(h.desk("halden"), { ...paper, version: version(order!), reason: "Too much at once" }));
    expect(readOrder(h.db, order!)!.head).toMatchObject({
      state: "Draft",
      number: "26-1001",
      sentBack: "Too much at once (Halden)",
    });
    must(dropOrder(h.desk("ines"), at(order!)));
    expect(stateOf(h.db, "purchase_order", order!)).toBe("Cancelled");
    expect(brokenTruths(h.db)).toEqual([]);
  });

  it("lets nobody sign what they wrote themselves", () => {
    sql(h.db, "INSERT INTO person_role (person, role) VALUES (?, 'buyer')").run(h.id("person", "maud"));
    const { orders } = must(writeOrders(h.desk("maud"), { picks: [{ need: oilNeed(), quantity: "8" }] }));
    expect(refusal(submitOrder(h.desk("maud"), at(orders[0]!)))).toEqual([
      "Nobody but its writer could sign as the yard manager, so it cannot be submitted.",
    ]);
  });

  it("asks for what is missing before anybody signs", () => {
    const [order] = write([oilNeed(), "8"]);
    must(keep(order!, () => ({ required: "2026-11-20" })));
    expect(refusal(submitOrder(h.desk("ines"), at(order!)))).toEqual([
      `line.${readOrder(h.db, order!)!.lines[0]!.id}.required: This day has passed.`,
    ]);
  });
});

describe("placing", () => {
  it("sends the order as PDF by e-mail, keeps its version, and tells the asker", async () => {
    const requisition = ask("ROP", "TQ", "220");
    const [order] = write([needs().find((n) => n.source === "requisition")!.key, "1"]);
    expect(refusal(await placeOrder(h.desk("ines"), at(order!)))[0]).toMatch(/is draft: it cannot be placed/);
    clear(order!);
    expect(must(await placeOrder(h.desk("ines"), at(order!)))).toEqual({
      number: "26-1001",
      recipients: ["orders@ttl.example"],
    });
    expect(stateOf(h.db, "purchase_order", order!)).toBe("With supplier");
    expect(postMail(h.db, join(h.folder, "outbox"))).toBe(1);
    expect(readdirSync(join(h.folder, "outbox"))).toEqual(["000001 Purchase order 26-1001 from Kelpholm Ferries.eml"]);
    const eml = sql<{ eml: Buffer }>(h.db, "SELECT eml FROM mail").get()!.eml.toString("latin1");
    expect(eml).toContain("application/pdf");
    expect(eml).toContain("orders@ttl.example");
    const { document } = sql<{ document: string }>(h.db, "SELECT document FROM order_revision").get()!;
    expect(JSON.parse(document)).toMatchObject({ number: "26-1001", total: 155_760 });
    const told = sql<{ text: string }>(h.db, "SELECT text FROM notice WHERE person = ? AND read IS NULL").all(
      h.id("person", "joss"),
    );
    expect(told.map((t) => t.text)).toContain("Ordered: Mooring rope");
    expect(readRequisition(h.db, requisition)!.trail.map((t) => t.text)).toContain("Order 26-1001 placed");
    // From here on nothing can be deleted, by any way.
    expect(refusal(dropOrder(h.desk("ines"), at(order!)))[0]).toMatch(/cannot be cancelled here/);
    expect(() => sql(h.db, "DELETE FROM purchase_order WHERE id = ?").run(order)).toThrow("never deleted");
    expect(() => sql(h.db, "UPDATE order_revision SET document = '{}'").run()).toThrow("never changed");
  });

  it("says so where nobody would get it, and sends nothing", async () => {
    sql(h.db, "DELETE FROM supplier_contact").run();
    const [order] = write([oilNeed(), "1"]);
    clear(order!);
    expect(refusal(await placeOrder(h.desk("ines"), at(order!)))[0]).toMatch(/has no e-mail address for orders/);
    expect(existsSync(join(h.folder, "outbox"))).toBe(false);
    expect(stateOf(h.db, "purchase_order", order!)).toBe("Cleared");
  });
});

describe("on the dock", () => {
  const placed = async (...picks: [string, string][]) => {
    const [order] = write(...picks);
    clear(order!);
    must(await placeOrder(h.desk("ines"), at(order!)));
    return order!;
  };

  it("turns drums into litres, part first, the rest later", async () => {
    const order = await placed([oilNeed(), "8"]);
    expect(must(count(order, ["3"]))).toMatchObject({ number: "D26-1001", state: "Part in" });
    expect(onHand("OIL", "TQ")).toBe(340 + 600);
    expect(must(count(order, ["5"])).state).toBe("All in");
    expect(onHand("OIL", "TQ")).toBe(340 + 1600);
    expect(
      sql<{ value: number }>(h.db, "SELECT value FROM receipt_line")
        .all()
        .map((r) => r.value),
    ).toEqual([187_200, 312_000]);
    expect(refusal(count(order, ["1"]))[0]).toMatch(/is all in/);
    expect(brokenTruths(h.db)).toEqual([]);
  });

  it("takes in nothing that nobody counted, and nothing by whoever may not count", async () => {
    const order = await placed([oilNeed(), "8"]);
    expect(refusal(count(order, [""]))).toEqual(["Nothing has been counted yet."]);
    expect(refusal(count(order, ["8"], "ines"))).toEqual(["Your role does not allow this."]);
    expect(onHand("OIL", "TQ")).toBe(340);
  });

  it("meets the requisition and tells the asker once it has come", async () => {
    const requisition = ask("ROP", "TQ", "220");
    const order = await placed([needs().find((n) => n.source === "requisition")!.key, "1"]);
    must(count(order, ["0.5"]));
    expect(stateOf(h.db, "requisition", requisition)).toBe("Ordered");
    must(count(order, ["0.5"]));
    expect(stateOf(h.db, "requisition", requisition)).toBe("Met");
    const told = sql<{ text: string }>(h.db, "SELECT text FROM notice WHERE person = ? ORDER BY id")
      .all(h.id("person", "joss"))
      .map((t) => t.text);
    expect(told.slice(-2)).toEqual(["Came in in part: Mooring rope", "Came in: Mooring rope"]);
  });

  it("never changes a movement", async () => {
    expect(() => sql(h.db, "UPDATE movement SET quantity = 1").run()).toThrow("never changed");
    expect(() => sql(h.db, "DELETE FROM movement").run()).toThrow("never deleted");
  });
});

describe("whatever people do", () => {
  it("what must always hold does hold", async () => {
    const act = fc.record({
      what: fc.constantFrom("ask", "write", "keep", "submit", "sign", "back", "place", "count", "drop"),
      n: fc.nat(5),
      quantity: fc.integer({ min: 1, max: 30 }),
    });
    await fc.assert(
      fc.asyncProperty(fc.array(act, { minLength: 5, maxLength: 25 }), async (acts) => {
        h.close();
        h = testHouse();
        for (const { what, n, quantity } of acts) {
          const orders = sql<{ id: OrderId }>(h.db, "SELECT id FROM purchase_order ORDER BY id").all();
          const order = orders[n % Math.max(1, orders.length)]?.id;
          if (what === "ask") ask(["OIL", "ANO", "ROP"][n % 3]!, n % 2 ? "TQ" : "HS", String(quantity));
          else if (what === "write") {
            const pool = needs();
            if (pool.length)
              writeOrders(h.desk("ines"), {
                picks: pool.slice(0, n + 1).map((p) => ({ need: p.key, quantity: String(quantity) })),
              });
          } else if (!order) continue;
          else if (what === "keep")
            keep(order, () => ({ quantity: String(quantity), price: n % 2 ? "7.125" : "" }), {
              discount: n % 3 ? "" : "1.5",
            });
          else if (what === "submit") submitOrder(h.desk("ines"), at(order));
          else if (what === "sign")
            sign(h.desk(n % 2 ? "maud" : "halden"), { paper: "order", id: order, version: version(order) });
          else if (what === "back")
            sendBack(h.desk("maud"), { paper: "order", id: order, version: version(order), reason: "not now" });
          else if (what === "place" && stateOf(h.db, "purchase_order", order) === "Cleared")
            await placeOrder(h.desk("ines"), at(order));
          else if (what === "count") count(order, [String(quantity), String(n)]);
          else if (what === "drop") dropOrder(h.desk("ines"), at(order));
        }
        expect(brokenTruths(h.db)).toEqual([]);
      }),
      { numRuns: 15 },
    );
  }, 60_000);
});
