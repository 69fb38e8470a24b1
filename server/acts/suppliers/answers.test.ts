import { join } from "node:path";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import type { OrderId } from "../../../core/ids";
import { DocumentColumn, readColumn } from "../../db/json-columns";
import { openBeside, sql } from "../../db/open";
import { brokenTruths } from "../../queries/always-true";
import { readNeeds, usualPlan } from "../../queries/needs/needs";
import { readOrder } from "../../queries/orders/order";
import { readSchedule } from "../../queries/orders/schedule";
import { countOpenAnswers, ordersAnswered, readOpenAnswers, readSaid } from "../../queries/suppliers/answers";
import { must, refusal, stateOf, type TestHouse, TODAY, testHouse, versionOf } from "../../testing";
import { loadFile } from "../files/load-file";
import { addLines } from "../orders/add-lines";
import { changePlaced } from "../orders/change-placed";
import { closeShort } from "../orders/hold-order";
import { endLink, makeLink } from "../orders/order-link";
import { placeOrder } from "../orders/place-order";
import { startOrder } from "../orders/start-order";
import { submitOrder } from "../orders/submit-order";
import { writeOrders } from "../orders/write-orders";
import { receiveGoods } from "../receiving/receive-goods";
import { saveRequisition, startRequisition, submitRequisition } from "../requisitions/raise-requisition";
import { sign } from "../signoff/sign";
import { answerByLink, writeDownAnswer } from "./answer-order";
import { refuseAnswers, takeAnswers, takeSeveral } from "./decide-answer";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => {
  expect(brokenTruths(h.db)).toEqual([]);
  h.close();
});

const NOW = { now: `${TODAY}T16:20:00.000Z`, day: TODAY };
/** An order that the supplier has: 50 anodes at 18.40, wanted on 4 December. */
function placed(): { order: OrderId; anodes: number; link: string } {
  const file = `order,supplier,store,item,quantity,required,price\nX-1,BAW,TQ,ANO,50,2026-12-04,18.40\n`;
  must(loadFile(h.desk("osk"), "orders", Buffer.from(file), "."));
  const { id } = sql<{ id: OrderId }>(h.db, "SELECT id FROM purchase_order WHERE brought = 'X-1'").get()!;
  const link = must(makeLink(h.desk("ines"), { order: id })).link;
  return { order: id, anodes: readOrder(h.db, id)!.lines[0]!.id, link };
}
const rows = (line: number) =>
  readSchedule(h.db, line).map((s) => [s.quantity / 10_000, s.required, s.promised, s.closedShort / 10_000]);
const waits = (order: OrderId) =>
  sql<{ id: number }>(
    h.db,
    "SELECT w.id FROM answer_line w JOIN answer a ON a.id = w.answer WHERE a.purchase_order = ? AND w.state = 'waits'",
  )
    .all(order)
    .map((w) => w.id);
const at = (order: OrderId) => ({ order, version: versionOf(h.db, "purchase_order", order) });
const state = (order: OrderId) => stateOf(h.db, "purchase_order", order);
const said = (line: number, parts: [string, string][], more: object = {}) => ({
  revision: 1,
  lines: [{ line, parts: parts.map(([quantity, day]) => ({ quantity, day })), ...more }],
});
const SPLIT: [string, string][] = [
  ["30", "2026-12-04"],
  ["20", "2026-12-31"],
];

describe("an answer by the private link", () => {
  it("that confirms all is taken at once: each day is promised, and the order is confirmed", () => {
    const { order, anodes, link } = placed();
    sql(h.db, "INSERT INTO mark (name, event) VALUES ('Sure', 'confirmed')").run();
    expect(must(answerByLink(h.db, link, { revision: 1, all: true, by: "Elspeth" }, NOW))).toEqual({
      asOrdered: [anodes],
      wait: [],
    });
    expect(rows(anodes)).toEqual([[50, "2026-12-04", "2026-12-04", 0]]);
    expect(state(order)).toBe("Confirmed");
    expect(sql(h.db, "SELECT count(*) AS n FROM order_mark WHERE purchase_order = ?").get(order)).toEqual({ n: 1 });
    expect(sql(h.db, "SELECT person, act FROM audit ORDER BY id DESC LIMIT 1").get()).toEqual({
      person: null,
      act: "order.answered",
    });
    expect(sql(h.db, "SELECT binding FROM purchase_order WHERE id = ?").get(order)).toEqual({ binding: 1 });
  });

  it("that says once more what was promised is no news, but as ordered after another wish is", () => {
    const { order, anodes, link } = placed();
    must(answerByLink(h.db, link, { revision: 1, all: true }, NOW));
    expect(refusal(answerByLink(h.db, link, { revision: 1, all: true }, NOW))).toEqual([
      "We have this answer already.",
    ]);
    must(answerByLink(h.db, link, { revision: 1, all: true, remark: "Two pallets." }, NOW));
    must(answerByLink(h.db, link, said(anodes, SPLIT), NOW));
    must(answerByLink(h.db, link, { revision: 1, all: true }, NOW));
    expect(waits(order)).toEqual([]);
    expect(rows(anodes)).toEqual([[50, "2026-12-04", "2026-12-04", 0]]);
  });

  it("may come so often on one day, and no more", () => {
    const { anodes, link } = placed();
    const day = (i: number): [string, string][] => [["", `2026-12-${String(5 + (i % 20)).padStart(2, "0")}`]];
    for (let i = 0; i < 50; i++) must(answerByLink(h.db, link, said(anodes, day(i)), NOW));
    expect(refusal(answerByLink(h.db, link, said(anodes, day(0)), NOW))[0]).toMatch(/very often/);
  });

  it("that splits a line changes nothing until it is taken; then both parts are promised, in a new version", () => {
    const { order, anodes, link } = placed();
    must(answerByLink(h.db, link, said(anodes, SPLIT), NOW));
    expect(rows(anodes)).toEqual([[50, "2026-12-04", null, 0]]);
    expect(state(order)).toBe("With supplier");
    expect(must(takeAnswers(h.desk("ines"), { ...at(order), lines: waits(order) })).revision).toBe(2);
    expect(rows(anodes)).toEqual([
      [30, "2026-12-04", "2026-12-04", 0],
      [20, "2026-12-04", "2026-12-31", 0],
    ]);
    expect(state(order)).toBe("Confirmed");
    const { document } = sql<{ document: string }>(
      h.db,
      "SELECT document FROM order_revision WHERE purchase_order = ? AND revision = 2",
    ).get(order)!;
    expect(readColumn(DocumentColumn, document).lines[0]!.instalments).toEqual([
      { quantity: 300_000, required: "2026-12-04" },
      { quantity: 200_000, required: "2026-12-31" },
    ]);
    expect(sql<{ quantity: number; day: string }>(h.db, "SELECT quantity, day FROM promise ORDER BY id").all()).toEqual(
      [
        { quantity: 300_000, day: "2026-12-04" },
        { quantity: 200_000, day: "2026-12-31" },
      ],
    );
  });

  it("that adds a charge waits; taken, it is a line of its own, once", () => {
    const { order, anodes, link } = placed();
    const charged = (charge: string, chargeFor = "Pallets") => ({
      revision: sql<{ binding: number }>(h.db, "SELECT binding FROM purchase_order WHERE id = ?").get(order)!.binding,
      lines: [{ line: anodes, charge, chargeFor }],
    });
    expect(refusal(answerByLink(h.db, link, charged("12.50", ""), NOW))).toEqual([
      `line.${anodes}.chargeFor: Say what the charge is for.`,
    ]);
    expect(refusal(answerByLink(h.db, link, charged("-1"), NOW))[0]).toMatch(/below zero/);
    must(answerByLink(h.db, link, charged("12.50"), NOW));
    const [open] = readOpenAnswers(h.db, TODAY, order);
    expect(open).toMatchObject({
      differences: [{ kind: "charge", words: "Pallets", price: 12_500_000 }],
      costs: 1_250,
      laterBy: 0,
    });
    const before = readOrder(h.db, order)!.totals.net.minor;
    must(takeAnswers(h.desk("ines"), { ...at(order), lines: waits(order) }));
    const now = readOrder(h.db, order)!;
    expect(now.totals.net.minor - before).toBe(1_250);
    expect(now.lines.at(-1)).toMatchObject({ kind: "charge", words: "Pallets", net: 1_250, spread: "value" });
    // The same charge said once more is no news, and comes onto the order no second time.
    expect(refusal(answerByLink(h.db, link, charged("12.50"), NOW))).toEqual(["We have this answer already."]);
    expect(readOrder(h.db, order)!.lines.filter((l) => l.kind === "charge")).toHaveLength(1);
  });

  it("says another day of all with the day alone", () => {
    const { order, anodes, link } = placed();
    must(answerByLink(h.db, link, said(anodes, [["", "2026-12-11"]]), NOW));
    must(takeAnswers(h.desk("ines"), { ...at(order), lines: waits(order) }));
    expect(rows(anodes)).toEqual([[50, "2026-12-04", "2026-12-11", 0]]);
  });

  it("of fewer at another price makes the order smaller; of nothing closes the line", () => {
    const { order, anodes, link } = placed();
    must(answerByLink(h.db, link, said(anodes, [["40", "2026-12-04"]], { price: "18.25" }), NOW));
    must(takeAnswers(h.desk("ines"), { ...at(order), lines: waits(order) }));
    expect(readOrder(h.db, order)!.totals.net.minor).toBe(73_000);
    must(answerByLink(h.db, link, { revision: 2, lines: [{ line: anodes, cannot: true }] }, NOW));
    must(takeAnswers(h.desk("ines"), { ...at(order), lines: waits(order) }));
    expect(rows(anodes)).toEqual([[40, "2026-12-04", "2026-12-04", 40]]);
  });

  it("replaces what they said before of the same line, and keeps it", () => {
    const { order, anodes, link } = placed();
    must(answerByLink(h.db, link, said(anodes, SPLIT), NOW));
    const [first] = waits(order);
    must(answerByLink(h.db, link, said(anodes, [["", "2026-12-07"]]), NOW));
    expect(refusal(takeAnswers(h.desk("ines"), { ...at(order), lines: [first] }))[0]).toMatch(/decided meanwhile/);
    must(takeAnswers(h.desk("ines"), { ...at(order), lines: waits(order) }));
    expect(rows(anodes)).toEqual([[50, "2026-12-04", "2026-12-07", 0]]);
    expect(sql(h.db, "SELECT state FROM answer_line WHERE id = ?").get(first)).toEqual({ state: "replaced" });
  });

  it("keeps what has come under its own promise", () => {
    const { order, anodes, link } = placed();
    must(answerByLink(h.db, link, { revision: 1, all: true }, NOW));
    must(receiveGoods(h.desk("tobias"), { ...at(order), deliveryNote: "", lines: [{ line: anodes, counted: "10" }] }));
    must(answerByLink(h.db, link, said(anodes, [["", "2026-12-20"]]), NOW));
    must(takeAnswers(h.desk("ines"), { ...at(order), lines: waits(order) }));
    expect(rows(anodes)).toEqual([
      [10, "2026-12-04", "2026-12-04", 0],
      [40, "2026-12-04", "2026-12-20", 0],
    ]);
  });

  it("that waits while goods come is taken for what is left of it, and orders nothing more", () => {
    const { order, anodes, link } = placed();
    must(answerByLink(h.db, link, said(anodes, SPLIT), NOW));
    must(receiveGoods(h.desk("tobias"), { ...at(order), deliveryNote: "", lines: [{ line: anodes, counted: "35" }] }));
    must(takeAnswers(h.desk("ines"), { ...at(order), lines: waits(order) }));
    expect(rows(anodes)).toEqual([
      [35, "2026-12-04", null, 0],
      [15, "2026-12-04", "2026-12-31", 0],
    ]);
  });

  it("waits for nobody once all has come", () => {
    const { order, anodes, link } = placed();
    must(answerByLink(h.db, link, said(anodes, SPLIT), NOW));
    expect([countOpenAnswers(h.db), ordersAnswered(h.db).length]).toEqual([1, 1]);
    must(receiveGoods(h.desk("tobias"), { ...at(order), deliveryNote: "", lines: [{ line: anodes, counted: "50" }] }));
    expect([countOpenAnswers(h.db), ordersAnswered(h.db), readOpenAnswers(h.db, TODAY)]).toEqual([0, [], []]);
  });

  it.each<[string, (line: number) => object, RegExp]>([
    ["of another version", (l) => ({ ...said(l, SPLIT), revision: 2 }), /speaks of version 2; version 1 holds/],
    ["with a day that has passed", (l) => said(l, [["", "2026-11-01"]]), /has passed/],
    ["with a day that does not exist", (l) => said(l, [["", "2026-02-31"]]), /a date that exists/],
    ["below zero", (l) => said(l, [["-5", "2026-12-04"]]), /below zero/],
    ["of far more than was ordered", (l) => said(l, [["101", "2026-12-04"]]), /more than twice/],
    ["at a price below zero", (l) => said(l, [], { price: "-1" }), /below zero/],
    ["of a line that is not theirs", () => said(987, SPLIT), /to come any more/],
    ["of nothing", () => ({ revision: 1, lines: [] }), /says nothing/],
    ["of one line twice", (l) => ({ revision: 1, lines: [{ line: l }, { line: l }] }), /twice/],
  ])("%s is refused, and nothing of it is kept", (_, raw, says) => {
    const { anodes, link } = placed();
    expect(refusal(answerByLink(h.db, link, raw(anodes), NOW)).join()).toMatch(says);
    expect(sql(h.db, "SELECT count(*) AS n FROM answer").get()).toEqual({ n: 0 });
  });

  it("comes too late once the link was ended or the order closed, and by no guessed link", () => {
    const { order, link } = placed();
    expect(refusal(answerByLink(h.db, "guessed", { revision: 1, all: true }, NOW))[0]).toMatch(/does not lead/);
    must(closeShort(h.desk("ines"), { ...at(order), reason: "not wanted" }));
    expect(refusal(answerByLink(h.db, link, { revision: 1, all: true }, NOW))[0]).toMatch(/any more/);
    const { id } = sql<{ id: number }>(h.db, "SELECT id FROM order_link").get()!;
    must(endLink(h.desk("ines"), { order, link: id }));
    expect(refusal(answerByLink(h.db, link, { revision: 1, all: true }, NOW))[0]).toMatch(/has been ended/);
  });
});

describe("a supplier who answers while we cancel", () => {
  it("is told that the order waits for no answer, or what they said goes with the order; nothing is half of both", () => {
    const { order, anodes, link } = placed();
    // Two connections to one file, as two processes have: whoever comes second sees what the first one did.
    const theirs = openBeside(join(h.folder, "wharf-tally.db"));
    const ours = { ...at(order), reason: "the refit is off" };
    must(answerByLink(theirs, link, said(anodes, SPLIT), NOW));
    expect(waits(order)).toHaveLength(1);
    must(closeShort(h.desk("ines"), ours));
    expect(rows(anodes)).toEqual([[50, "2026-12-04", null, 50]]);
    expect([readOpenAnswers(h.db, TODAY, order), countOpenAnswers(h.db)]).toEqual([[], 0]);
    expect(refusal(takeAnswers(h.desk("ines"), { ...at(order), lines: waits(order) }))[0]).toMatch(/nothing of it/);
    expect(refusal(answerByLink(theirs, link, said(anodes, SPLIT), NOW))).toEqual([
      "This order does not wait for an answer any more.",
    ]);
    theirs.close();
    expect(rows(anodes)).toEqual([[50, "2026-12-04", null, 50]]);
  });

  it("is held up by the act that writes, and does not slip between its steps", () => {
    const { order, anodes, link } = placed();
    const theirs = openBeside(join(h.folder, "wharf-tally.db"));
    theirs.pragma("busy_timeout = 0");
    h.db
      .transaction(() => {
        sql(h.db, "UPDATE purchase_order SET version = version + 1 WHERE id = ?").run(order);
        expect(() => answerByLink(theirs, link, said(anodes, SPLIT), NOW)).toThrow(/locked|busy/i);
      })
      .immediate();
    expect(waits(order)).toEqual([]);
    must(answerByLink(theirs, link, said(anodes, SPLIT), NOW));
    theirs.close();
    expect(waits(order)).toHaveLength(1);
  });
});

describe("answers of several orders", () => {
  /** Two orders, each with a line that comes a week later than it was asked for. */
  function two(): { order: OrderId; version: number; lines: number[] }[] {
    const file =
      "order,supplier,store,item,quantity,required,price\nY-1,BAW,TQ,ANO,5,2026-12-04,18.40\nY-2,TTL,TQ,OIL,2,2026-12-04,624\n";
    must(loadFile(h.desk("osk"), "orders", Buffer.from(file), "."));
    return ["Y-1", "Y-2"].map((brought) => {
      const { id } = sql<{ id: OrderId }>(h.db, "SELECT id FROM purchase_order WHERE brought = ?").get(brought)!;
      const line = readOrder(h.db, id)!.lines[0]!.id;
      const heard = { ...said(line, [["", "2026-12-11"]]), order: id, way: "phone", saidBy: "Elspeth", saidOn: TODAY };
      must(writeDownAnswer(h.desk("ines"), heard));
      return { ...at(id), lines: waits(id) };
    });
  }
  const taken = () => sql<{ n: number }>(h.db, "SELECT count(*) AS n FROM answer_line WHERE state = 'taken'").get()!.n;

  it("are taken in one act, each with its own new version and one row of the trail", () => {
    const orders = two();
    must(takeSeveral(h.desk("ines"), { orders }));
    expect([taken(), ...orders.map((o) => state(o.order))]).toEqual([2, "Confirmed", "Confirmed"]);
    expect(orders.map((o) => readOrder(h.db, o.order)!.revisions.length)).toEqual([2, 2]);
    expect(sql(h.db, "SELECT count(*) AS n FROM audit WHERE act = 'answers.taken'").get()).toEqual({ n: 1 });
  });

  it("are taken all or not at all: where one was decided or its order changed meanwhile, it says which", () => {
    const [first, second] = two();
    must(refuseAnswers(h.desk("ines"), { ...second!, why: "cannot wait" }));
    expect(refusal(takeSeveral(h.desk("ines"), { orders: [first, second] }))).toEqual([
      `${readOrder(h.db, second!.order)!.head.name} was changed by somebody else meanwhile.`,
    ]);
    expect(taken()).toBe(0);
    expect(refusal(takeSeveral(h.desk("ines"), { orders: [] }))).toEqual(["orders: Choose what is taken."]);
    expect(refusal(takeSeveral(h.desk("joss"), { orders: [first] }))).toEqual(["Your role does not allow this."]);
  });
});

describe("an answer that the buyer writes down", () => {
  it("says who said it, how and when, and is decided as any other", () => {
    const { order, anodes } = placed();
    const heard = { ...said(anodes, SPLIT), order, way: "phone", saidBy: "Elspeth", saidOn: TODAY };
    expect(refusal(writeDownAnswer(h.desk("ines"), { ...heard, saidBy: "" }))[0]).toMatch(/saidBy: Say who/);
    expect(refusal(writeDownAnswer(h.desk("ines"), { ...heard, saidOn: "2026-12-24" }))[0]).toMatch(/still to come/);
    const exe = { name: "call.exe", bytes: Buffer.from("MZ") };
    expect(refusal(writeDownAnswer(h.desk("ines"), heard, { file: exe }))[0]).toMatch(/file: A PDF/);
    const note = { name: "call.txt", bytes: Buffer.from("Elspeth called at nine.") };
    must(writeDownAnswer(h.desk("ines"), heard, { file: note }));
    expect(readSaid(h.db, order)[0]).toMatchObject({ fileName: "call.txt" });
    expect(readOrder(h.db, order)!.files.map((f) => f.name)).toEqual(["call.txt"]);
    const told = () =>
      sql(h.db, "SELECT count(*) AS n FROM notice WHERE href = ? AND read IS NULL").get(`/answers?order=${order}`);
    expect([readSaid(h.db, order)[0], told()]).toMatchObject([
      { way: "phone", saidBy: "Elspeth", saidOn: TODAY, writtenBy: "Ines", state: "waits" },
      { n: 1 },
    ]);
    must(refuseAnswers(h.desk("ines"), { ...at(order), lines: waits(order), why: "The job cannot wait." }));
    expect(rows(anodes)).toEqual([[50, "2026-12-04", null, 0]]);
    expect([waits(order), state(order), told()]).toEqual([[], "With supplier", { n: 0 }]);
  });

  it("is for those who write orders, and decided once, in the version that was looked at", () => {
    const { order, anodes } = placed();
    const heard = { ...said(anodes, SPLIT), order, way: "phone", saidBy: "Elspeth", saidOn: TODAY };
    expect(refusal(writeDownAnswer(h.desk("joss"), heard))[0]).toMatch(/not/);
    must(writeDownAnswer(h.desk("ines"), heard));
    const lines = waits(order);
    const old = at(order);
    expect(refusal(takeAnswers(h.desk("joss"), { ...old, lines }))[0]).toMatch(/not/);
    must(takeAnswers(h.desk("ines"), { ...old, lines }));
    expect(refusal(takeAnswers(h.desk("ines"), { ...old, lines }))[0]).toMatch(/changed by somebody else/);
    expect(refusal(refuseAnswers(h.desk("ines"), { ...at(order), lines, why: "No more." }))[0]).toMatch(/decided/);
  });
});

describe("what was signed and what was asked for", () => {
  const link = (order: OrderId) => must(makeLink(h.desk("ines"), { order })).link;
  const firstLine = (order: OrderId) => readOrder(h.db, order)!.lines[0]!.id;

  /** 100 anodes at 31.20, signed and placed. */
  async function signed() {
    const { order } = must(
      startOrder(h.desk("ines"), { supplier: h.id("supplier", "BAW"), store: h.id("store", "TQ"), kind: "one-off" }),
    );
    must(addLines(h.desk("ines"), { ...at(order), add: [{ code: "ANO", quantity: "100", price: "31.20" }] }));
    must(submitOrder(h.desk("ines"), at(order)));
    must(sign(h.desk("maud"), { paper: "order", id: order, version: at(order).version }));
    must(await placeOrder(h.desk("ines"), at(order)));
    return { order, line: firstLine(order), link: link(order) };
  }

  it("holds: inside what may be added a dearer price is taken, beyond it nothing is", async () => {
    const { order, line, link } = await signed();
    must(answerByLink(h.db, link, said(line, [], { price: "40" }), NOW));
    const before = readOrder(h.db, order)!;
    expect(refusal(takeAnswers(h.desk("ines"), { ...at(order), lines: waits(order) }))[0]).toMatch(
      /more than was signed/,
    );
    expect(readOrder(h.db, order)).toEqual(before);
    must(answerByLink(h.db, link, said(line, [], { price: "31.50" }), NOW));
    must(takeAnswers(h.desk("ines"), { ...at(order), lines: waits(order) }));
    expect(readOrder(h.db, order)!.head.homeNet).toBe(315_000);
  });

  /** Joss asked for 20 anodes; an order that was written for them is with its supplier. */
  async function forJoss(): Promise<{ order: OrderId; requisition: number; key: string }> {
    const requisition = must(startRequisition(h.desk("joss"))).requisition;
    const asked = { item: h.id("item", "ANO"), words: "", quantity: "20", estimate: "" };
    const paper = { requisition, version: 1, store: h.id("store", "TQ"), neededBy: "2026-12-20", reason: "Refit" };
    must(saveRequisition(h.desk("joss"), { ...paper, lines: [asked] }));
    must(submitRequisition(h.desk("joss"), { requisition, version: 2 }));
    const { key } = needOf(requisition)!;
    const [order] = must(writeOrders(h.desk("ines"), { picks: [{ need: key, quantity: "20" }] })).orders;
    must(submitOrder(h.desk("ines"), at(order!)));
    must(await placeOrder(h.desk("ines"), at(order!)));
    return { order: order!, requisition, key };
  }
  const needOf = (requisition: number) =>
    readNeeds(h.db, usualPlan(TODAY)).find((n) => n.requisition?.id === requisition);
  const told = () =>
    sql<{ text: string }>(h.db, "SELECT text FROM notice WHERE person = ? ORDER BY id DESC LIMIT 1").get(
      h.id("person", "joss"),
    )!.text;

  it("is asked for again where they cannot supply it, and its asker is told", async () => {
    const { order, requisition, key } = await forJoss();
    expect(needOf(requisition)).toBeUndefined();
    const cannot = { revision: 1, lines: [{ line: firstLine(order), cannot: true }] };
    must(answerByLink(h.db, link(order), cannot, NOW));
    must(takeAnswers(h.desk("ines"), { ...at(order), lines: waits(order) }));
    expect(needOf(requisition)).toMatchObject({ key, wanted: 200_000 });
    expect(told()).toMatch(/^Not coming: Hull anode/);
  });

  it("is told to its asker where we change it ourselves: another day, another store, or nothing of it any more", async () => {
    const { order, requisition, key } = await forJoss();
    const change = (more: object) =>
      must(
        changePlaced(h.desk("ines"), {
          ...at(order),
          reason: "the yard is full",
          lines: [{ line: firstLine(order), ...more }],
        }),
      );
    change({ parts: [{ quantity: "20", day: "2026-12-28" }] });
    expect(told()).toMatch(/^Expected anew: Hull anode/);
    change({ store: h.id("store", "HS") });
    expect([told(), needOf(requisition)]).toMatchObject([
      expect.stringMatching(/^Not coming: Hull anode/),
      { key, wanted: 200_000 },
    ]);
    const second = await forJoss();
    must(
      changePlaced(h.desk("ines"), {
        ...at(second.order),
        reason: "not wanted",
        lines: [{ line: firstLine(second.order), cannot: true }],
      }),
    );
    expect(told()).toMatch(/^Not coming: Hull anode/);
    expect(needOf(second.requisition)).toMatchObject({ wanted: 200_000 });
  });
});
