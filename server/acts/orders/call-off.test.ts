import fc from "fast-check";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import type { OrderId } from "../../../core/ids";
import { placingFrom } from "../../../core/placing/choice";
import { landedAt, reckonPlacing, rowsByOrder } from "../../../core/placing/reckon";
import { sql } from "../../db/open";
import { brokenTruths } from "../../queries/always-true";
import { readNeeds, usualPlan } from "../../queries/needs/needs";
import { readBlanket } from "../../queries/orders/blankets";
import { readAllBlanketPrices } from "../../queries/orders/calls";
import { readOrder } from "../../queries/orders/order";
import { readBench } from "../../queries/placing/bench";
import { previewOf } from "../../queries/placing/preview";
import { must, refusal, type TestHouse, TODAY, testHouse, versionOf } from "../../testing";
import type { Done } from "../desk";
import { loadFile } from "../files/load-file";
import { layOutBench } from "../placing/lay-out";
import { writeBench } from "../placing/write-bench";
import { sign } from "../signoff/sign";
import { addLines } from "./add-lines";
import { callOff, planCall } from "./call-off";
import { changeOrder } from "./change-order";
import { dropLines, dropOrder } from "./drop-lines";
import { closeShort } from "./hold-order";
import { placeOrder } from "./place-order";
import { startOrder } from "./start-order";
import { submitOrder } from "./submit-order";
import { writeOrders } from "./write-orders";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => {
  expect(brokenTruths(h.db)).toEqual([]);
  h.close();
});

const at = (order: OrderId) => ({ order, version: versionOf(h.db, "purchase_order", order) });
const place = async (order: OrderId) => {
  let waits = must(submitOrder(h.desk("ines"), at(order))).waitsFor;
  while (waits)
    waits = must(
      sign(h.desk(waits === "Yard manager" ? "maud" : "halden"), { paper: "order", id: order, ...at(order) }),
    ).left;
  must(await placeOrder(h.desk("ines"), at(order)));
};
const blanket = async (quantity = "48", price = "600", more: object = {}) => {
  const { order } = must(
    startOrder(h.desk("ines"), {
      supplier: h.id("supplier", "TTL"),
      store: h.id("store", "TQ"),
      kind: "blanket",
      title: "Oil 2027",
    }),
  );
  must(addLines(h.desk("ines"), { ...at(order), add: [{ code: "OIL", quantity, price }] }));
  const line = readOrder(h.db, order)!.lines[0]!.id;
  must(changeOrder(h.desk("ines"), { ...at(order), ends: "2027-11-23", lines: [{ line, least: "2", ...more }] }));
  await place(order);
  return { order, line };
};
const left = (b: { order: OrderId }) => readBlanket(h.db, b.order, TODAY).lines[0]!.left;
const call = (b: { order: OrderId; line: number }, quantity: string) =>
  callOff(h.desk("ines"), { order: b.order, lines: [{ line: b.line, quantity }] });

describe("a blanket order", () => {
  it("brings nothing by itself, and its call-offs are drawn at its price", async () => {
    const b = await blanket();
    expect(readNeeds(h.db, usualPlan(TODAY))[0]).toMatchObject({ code: "OIL", price: 600_000_000 });
    const { order } = must(call(b, "8"));
    const sheet = readOrder(h.db, order)!;
    expect(sheet.head.kind).toBe("call-off");
    expect(sheet.lines[0]).toMatchObject({
      price: 600_000_000,
      blanketLine: b.line,
      priceSource: { kind: "blanket", order: "26-1001" },
    });
    expect(left(b)).toMatchObject({ called: 80_000, left: 400_000 });
  });

  it("is what Needs and the Bench draw from where enough is left, and the list is where it is not", async () => {
    const b = await blanket("10");
    const need = readNeeds(h.db, usualPlan(TODAY))[0]!;
    const [order] = must(writeOrders(h.desk("ines"), { picks: [{ need: need.key }] })).orders;
    expect(readOrder(h.db, order!)).toMatchObject({ head: { kind: "call-off" }, lines: [{ blanketLine: b.line }] });
    must(addLines(h.desk("ines"), { ...at(order!), add: [{ code: "ROP", quantity: "1" }] }));
    expect(readOrder(h.db, order!)!.head.kind).toBe("one-off");
    expect(left(b).left).toBe(20_000);
    const { order: second } = must(
      startOrder(h.desk("ines"), { supplier: h.id("supplier", "TTL"), store: h.id("store", "TQ") }),
    );
    must(addLines(h.desk("ines"), { ...at(second), add: [{ code: "OIL", quantity: "8" }] }));
    expect(readOrder(h.db, second)!.lines[0]).toMatchObject({ blanketLine: null, priceSource: { kind: "price list" } });
  });

  it("refuses a call-off past what is left, under the least and outside its time, also when a draft grows", async () => {
    const b = await blanket("10");
    expect(refusal(call(b, "11"))).toEqual([`call.${b.line}: Only 10 drum are left of the blanket order.`]);
    expect(refusal(call(b, "1"))).toEqual([`call.${b.line}: At least 2 drum are called off at once.`]);
    const { order } = must(call(b, "8"));
    const line = readOrder(h.db, order)!.lines[0]!.id;
    must(changeOrder(h.desk("ines"), { ...at(order), lines: [{ line, quantity: "12" }] }));
    expect(refusal(submitOrder(h.desk("ines"), at(order)))).toEqual([
      `line.${line}.quantity: Only 10 drum are left of the blanket order.`,
    ]);
    // It can be priced from the list instead, and then draws nothing.
    must(changeOrder(h.desk("ines"), { ...at(order), lines: [{ line, blanketLine: "", price: "" }] }));
    expect(readOrder(h.db, order)!.lines[0]).toMatchObject({ blanketLine: null, price: 588_000_000 });
    expect(left(b).left).toBe(100_000);
  });

  it("may be limited by its value", async () => {
    const b = await blanket("10", "600", { limits: "value", committedValue: "5000" });
    expect(readOrder(h.db, b.order)!.totals.net.minor).toBe(500_000);
    expect(refusal(call(b, "9"))[0]).toMatch(/worth more than is left/);
    must(call(b, "8"));
    expect(left(b)).toMatchObject({ leftValue: 20_000, used: 9_600 });
  });

  it("keeps planned call-offs within what is left", async () => {
    const b = await blanket("10");
    const plan = (quantity: string, due = "2026-12-20") =>
      planCall(h.desk("ines"), { ...at(b.order), line: b.line, quantity, due });
    must(plan("6"));
    expect(refusal(plan("6"))[0]).toMatch(/Only 4 drum are left.*What is planned already counts/);
    expect(refusal(plan("2", "2026-11-01"))[0]).toMatch(/passed/);
  });

  it("gives no more call-offs once it is closed", async () => {
    const b = await blanket();
    must(closeShort(h.desk("ines"), { ...at(b.order), reason: "They raised their prices" }));
    expect(refusal(call(b, "8"))[0]).toMatch(/was closed: They raised/);
    expect(readNeeds(h.db, usualPlan(TODAY))[0]!.price).toBe(624_000_000);
  });

  it("never loses count, whatever is called off, cut, cancelled and closed in any order", async () => {
    const b = await blanket("1000", "1");
    type Act = { kind: "call" | "cut" | "drop" | "cancel" | "place" | "close"; which: number; quantity: number };
    const acts = fc.array(
      fc.record<Act>({
        kind: fc.constantFrom("call", "call", "cut", "drop", "cancel", "place", "close"),
        which: fc.nat(20),
        quantity: fc.integer({ min: 2, max: 60 }),
      }),
      { minLength: 4, maxLength: 14 },
    );
    const orders: OrderId[] = [];
    await fc.assert(
      fc.asyncProperty(acts, async (run) => {
        for (const a of run) {
          const order = orders[a.which % (orders.length || 1)];
          if (a.kind === "call") {
            const made = call(b, String(a.quantity));
            if (made.ok) orders.push(made.value.order);
          } else if (order !== undefined && readOrder(h.db, order)) {
            const line = readOrder(h.db, order)!.lines[0]?.id;
            if (a.kind === "cut" && line)
              changeOrder(h.desk("ines"), { ...at(order), lines: [{ line, quantity: String(a.quantity) }] });
            if (a.kind === "drop" && line) dropLines(h.desk("ines"), { ...at(order), lines: [line] });
            if (a.kind === "cancel") dropOrder(h.desk("ines"), at(order));
            if (a.kind === "place" && submitOrder(h.desk("ines"), at(order)).ok)
              await placeOrder(h.desk("ines"), at(order));
            if (a.kind === "close") closeShort(h.desk("ines"), { ...at(order), reason: "no more" });
          }
        }
        const drawn = sql<{ n: number }>(
          h.db,
          `SELECT coalesce(sum(l.quantity - l.closed_short), 0) AS n FROM order_line l JOIN purchase_order o ON o.id = l.purchase_order
           WHERE l.blanket_line = ? AND o.state <> 'Cancelled'`,
        ).get(b.line)!.n;
        expect(left(b).left).toBe(10_000_000 - drawn);
        expect(left(b).left).toBeGreaterThanOrEqual(0);
      }),
      { numRuns: 6 },
    );
  });
});

describe("a bench on which two stores draw on one blanket line", () => {
  it("gives out what is left once: in the grid, in the preview and in the orders that are written", async () => {
    const b = await blanket("8", "10", { least: "0" });
    must(
      loadFile(
        h.desk("osk"),
        "prices",
        Buffer.from("item,supplier,from,price\nOIL,TTL,1,17.00\nOIL,TTL,5,17.00\nOIL,TTL,10,17.00\n"),
        ".",
      ) as Done<unknown>,
    );
    must(
      loadFile(
        h.desk("ines"),
        "needs",
        Buffer.from("item,store,quantity,needed_by\nOIL,TQ,1000,2026-12-20\nOIL,HS,800,2026-12-20\n"),
        ".",
      ) as Done<unknown>,
    );
    const needs = readNeeds(h.db, usualPlan(TODAY, 9))
      .filter((n) => n.key.startsWith("n:"))
      .map((n) => n.key);
    const { bench } = must(layOutBench(h.desk("ines"), { needs }));
    const sheet = readBench(h.db, bench, TODAY, 9)!;
    const placing = placingFrom(sheet.problem.rows, sheet.choices);
    // Five drums of the eight that are left, then four that would be one too many: 50.00 and 68.00.
    expect(reckonPlacing(sheet.problem, placing).cost).toBe(11_800);
    const there = rowsByOrder(sheet.problem, placing);
    const cells = sheet.problem.rows.map(
      (row) => landedAt(sheet.problem, placing, there, row, placing[row.id]![0]!)!.landed,
    );
    expect(cells).toEqual([5_000, 6_800]);
    const preview = previewOf(h.db, sheet, h.id("person", "ines"), TODAY);
    expect(preview.orders.map((o) => o.adds)).toEqual([5_000, 6_800]);
    const { orders } = must(writeBench(h.desk("ines"), { bench, version: sheet.head.version, mark: sheet.mark }));
    expect(orders.map((o) => readOrder(h.db, o)!.totals.net.minor)).toEqual([5_000, 6_800]);
    expect(left(b)).toMatchObject({ left: 30_000 });
  });

  it("knows how much a value that is left still pays for", async () => {
    await blanket("1", "600", { limits: "value", committedValue: "2000", least: "0" });
    const [blankets] = [...readAllBlanketPrices(h.db).values()];
    expect(blankets).toMatchObject([{ left: 33_333 }]); // 2,000.00 ÷ 600.00, never more than it pays for
    const { order } = must(
      startOrder(h.desk("ines"), { supplier: h.id("supplier", "TTL"), store: h.id("store", "TQ") }),
    );
    must(addLines(h.desk("ines"), { ...at(order), add: [{ code: "OIL", quantity: "4", price: "" }] }));
    expect(readOrder(h.db, order)!.lines[0]!.priceSource.kind).toBe("price list");
  });
});
