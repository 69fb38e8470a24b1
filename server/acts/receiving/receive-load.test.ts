import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { readScan } from "../../../exchange/gs1/scan";
import { sql } from "../../db/open";
import { brokenTruths } from "../../queries/always-true";
import { findOpenLines, readOpenLines, strangerAt } from "../../queries/receiving/open-count";
import { must, refusal, type TestHouse, testHouse } from "../../testing";
import { receiveLoad } from "./receive-goods";
import { receiveWhole } from "./receive-whole";
import { countIn, lineAt, orderAt, placedOrder } from "./testing";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => {
  expect(brokenTruths(h.db)).toEqual([]);
  h.close();
});

const found = (code: string, store = "TQ") => {
  const scanned = readScan(code);
  if (!scanned.ok) throw new Error(scanned.says);
  return findOpenLines(h.db, h.id("store", store) as never, scanned.value);
};
const anodes = (quantity: string) => placedOrder(h, "BAW", [{ code: "ANO", quantity, price: "31.20" }]);
const load = (orders: { order: number; lines: Record<string, unknown>[] }[], who = "tobias") =>
  receiveLoad(h.desk(who), {
    deliveryNote: "DN 7",
    orders: orders.map((o) => ({ ...o, version: orderAt(h, o.order as never).version })),
  });

it("goods that are weighed when they come are weighed: the weight stands on the receipt, and in the totals", async () => {
  sql(h.db, "UPDATE item SET by_weight = 1 WHERE code = 'ANO'").run();
  const { order, lines } = await anodes("3");
  const count = (more: object) =>
    countIn(h, order, [{ line: lines[0], counted: "3", ...more }], { said: { lines: "", pieces: "", weight: "33.5" } });
  expect(refusal(count({}))).toEqual(["lines.0.weight: Weigh it: how many kilograms are these?"]);
  expect(refusal(count({ weight: "33" }))).toEqual(["difference: The note says 33.5 kg, and 33 kg came. Say why."]);
  must(count({ weight: "33.5" }));
  expect(sql(h.db, "SELECT weight FROM receipt_line").get()).toEqual({ weight: 335_000 });
});

describe("an open count", () => {
  it("finds what is to come by our code, theirs or a GTIN, earliest due first, at its store alone", async () => {
    const late = await anodes("12");
    const soon = await anodes("5");
    sql(h.db, "UPDATE order_schedule SET promised = '2026-11-30' WHERE order_line = ?").run(soon.lines[0]);
    for (const code of ["ano", "zw-110", "4006381333931", "(01)04006381333931(10)A7", "]d20104006381333931"])
      expect(found(code).map((l) => l.order)).toEqual([soon.order, late.order]);
    expect(found("ANO", "HS")).toEqual([]);
    expect(found("NONE")).toEqual([]);
    expect(JSON.stringify(found("ANO"))).not.toMatch(/price|net|3120/i);
    must(countIn(h, soon.order, [{ line: soon.lines[0], counted: "5" }]));
    expect(found("ANO").map((l) => l.order)).toEqual([late.order]);
    expect(
      readOpenLines(h.db, h.id("store", "TQ") as never, [...soon.lines, ...late.lines]).map((l) => l.order),
    ).toEqual([late.order]);
    const scanned = readScan("ROP");
    expect(scanned.ok && strangerAt(h.db, "Tarn Quay", scanned.value)).toBe(
      "Mooring rope: nothing of it is to come to Tarn Quay.",
    );
  });

  it("is taken in for all its orders, or for none", async () => {
    const [a, b] = [await anodes("12"), await anodes("5")];
    const lines = (n: string, m: string) => [
      { order: a.order, lines: [{ line: a.lines[0], counted: n }] },
      { order: b.order, lines: [{ line: b.lines[0], counted: m }] },
    ];
    expect(refusal(load(lines("12", "555")))).toEqual(["orders.1.lines.0.counted: 555 of 5 ordered is surely a slip."]);
    expect(lineAt(h, a.lines[0]!)).toMatchObject({ received: 0 });
    const { loads } = must(load(lines("12", "3")));
    expect(loads.map((l) => [l.number, l.state])).toEqual([
      ["D26-1001", "All in"],
      ["D26-1002", "Part in"],
    ]);
    expect(sql(h.db, "SELECT count(*) FROM audit WHERE act = 'load.received'").pluck().get()).toBe(1);
    expect(refusal(load([lines("1", "1")[1]!, lines("1", "1")[1]!]))).toEqual(["An order stands here twice."]);
    expect(refusal(load(lines("1", "1"), "ines"))).toEqual(["Your role does not allow this."]);
  });

  it("that somebody else changed meanwhile is not taken in, and says which order it is", async () => {
    const a = await anodes("12");
    const { version } = orderAt(h, a.order);
    must(countIn(h, a.order, [{ line: a.lines[0], counted: "4" }]));
    const answer = receiveLoad(h.desk("tobias"), {
      deliveryNote: "",
      orders: [{ order: a.order, version, lines: [{ line: a.lines[0], counted: "12" }] }],
    });
    expect(refusal(answer)[0]).toMatch(/^26-1001 was counted or changed by somebody else meanwhile/);
    expect(answer).toMatchObject({ stale: true });
    expect(lineAt(h, a.lines[0]!)).toMatchObject({ received: 4 });
  });
});

describe("whole loads", () => {
  const whole = (orders: number[], who = "tobias") =>
    receiveWhole(h.desk(who), {
      loads: orders.map((o) => ({ ...orderAt(h, o as never), store: h.id("store", "TQ") })),
    });
  it("are taken in as ordered, many at once, all that is open of each", async () => {
    const [a, b] = [await anodes("12"), await anodes("5")];
    must(countIn(h, a.order, [{ line: a.lines[0], counted: "4" }]));
    expect(must(whole([a.order, b.order])).numbers).toEqual(["D26-1002", "D26-1003"]);
    expect(lineAt(h, a.lines[0]!)).toMatchObject({ received: 12, open: 0 });
    expect(refusal(whole([a.order]))[0]).toMatch(/26-1001 is all in/);
  });
  it("are refused together where one needs more than a tick", async () => {
    const [a, b] = [await anodes("12"), await placedOrder(h, "TTL", [{ code: "OIL", quantity: "1", price: "660" }])];
    sql(h.db, "UPDATE item SET by_serial = 1 WHERE code = 'ANO'").run();
    expect(refusal(whole([b.order, a.order]))).toEqual(["26-1001: Each piece has its serial number: scan or type it."]);
    expect(lineAt(h, b.lines[0]!)).toMatchObject({ received: 0 });
    sql(h.db, "UPDATE store SET blind = 1").run();
    expect(refusal(whole([b.order]))).toEqual([
      "26-1002 comes to a store that counts blind: it is counted line by line.",
    ]);
    expect(refusal(whole([b.order], "ines"))).toEqual(["Your role does not allow this."]);
  });
});
