import { afterEach, beforeEach, describe, expect, it } from "vitest";
import type { OrderId } from "../../../core/ids";
import { sql } from "../../db/open";
import { brokenTruths } from "../../queries/always-true";
import { readOrder } from "../../queries/orders/order";
import { readSchedule } from "../../queries/orders/schedule";
import { compareVersions } from "../../queries/orders/versions";
import { toSignOf } from "../../queries/signoff/route";
import { readOpenAnswers } from "../../queries/suppliers/answers";
import { must, refusal, stateOf, type TestHouse, TODAY, testHouse, versionOf } from "../../testing";
import { receiveGoods } from "../receiving/receive-goods";
import { decisionAsAsked } from "../signoff/decision-as-asked";
import { takeBack } from "../signoff/hand-over";
import { sendBack, sign } from "../signoff/sign";
import { answerByLink, writeDownAnswer } from "../suppliers/answer-order";
import { takeAnswers } from "../suppliers/decide-answer";
import { addLines } from "./add-lines";
import { changePlaced, readWaitingChange, tryChange, withItsChange } from "./change-placed";
import { closeShort, reopenOrder } from "./hold-order";
import { makeLink } from "./order-link";
import { placeOrder } from "./place-order";
import { startOrder } from "./start-order";
import { submitOrder } from "./submit-order";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => {
  expect(brokenTruths(h.db)).toEqual([]);
  h.close();
});

const at = (order: OrderId) => ({ order, version: versionOf(h.db, "purchase_order", order) });
const paper = (order: OrderId) => ({
  paper: "order" as const,
  id: order,
  version: versionOf(h.db, "purchase_order", order),
});

/** 50 anodes at 31.20, signed by Maud and placed: 1,560.00. */
async function placed(): Promise<{ id: OrderId; line: number }> {
  const { order } = must(
    startOrder(h.desk("ines"), { supplier: h.id("supplier", "BAW"), store: h.id("store", "TQ"), kind: "one-off" }),
  );
  must(
    addLines(h.desk("ines"), {
      ...at(order),
      add: [{ code: "ANO", quantity: "50", price: "31.20", required: "2026-12-10" }],
    }),
  );
  must(submitOrder(h.desk("ines"), at(order)));
  must(sign(h.desk("maud"), paper(order)));
  must(await placeOrder(h.desk("ines"), at(order)));
  return { id: order, line: readOrder(h.db, order)!.lines[0]!.id };
}
const ask = (id: OrderId, line: number, parts: [string, string][], more: object = {}, who = "ines") =>
  changePlaced(h.desk(who), {
    ...at(id),
    reason: "the refit moved",
    lines: [{ line, parts: parts.map(([quantity, day]) => ({ quantity, day })), ...more }],
  });
const rows = (line: number) =>
  readSchedule(h.db, line).map((s) => [s.quantity / 10_000, s.required, s.promised, s.closedShort / 10_000]);
const revisions = (id: OrderId) => readOrder(h.db, id)!.revisions.length;

describe("a change of a placed order", () => {
  it("that makes it no dearer makes the next version at once, and has to be confirmed again", async () => {
    const { id, line } = await placed();
    const { link } = must(makeLink(h.desk("ines"), { order: id }));
    must(answerByLink(h.db, link, { revision: 1, all: true }, { now: `${TODAY}T10:00:00.000Z`, day: TODAY }));
    expect(stateOf(h.db, "purchase_order", id)).toBe("Confirmed");
    const changed = must(
      ask(id, line, [
        ["30", "2026-12-10"],
        ["20", "2026-12-20"],
      ]),
    );
    expect([changed.revision, changed.waitsFor]).toEqual([2, null]);
    expect(rows(line)).toEqual([
      [30, "2026-12-10", "2026-12-10", 0],
      [20, "2026-12-20", null, 0],
    ]);
    expect(stateOf(h.db, "purchase_order", id)).toBe("With supplier");
    expect(
      refusal(answerByLink(h.db, link, { revision: 1, all: true }, { now: `${TODAY}T11:00:00.000Z`, day: TODAY }))[0],
    ).toMatch(/version/i);
    must(answerByLink(h.db, link, { revision: 2, all: true }, { now: `${TODAY}T11:00:00.000Z`, day: TODAY }));
    expect(stateOf(h.db, "purchase_order", id)).toBe("Confirmed");
  });

  it("that grows beyond what was signed waits for signatures, and changes nothing until then", async () => {
    const { id, line } = await placed();
    const trial = must(
      tryChange(
        h.db,
        { order: id, lines: [{ line, parts: [{ quantity: "80", day: "2026-12-10" }] }] },
        { day: TODAY, hour: 9 },
      ),
    );
    expect([trial.signs, trial.effects.find((e) => e.kind === "sign-off")?.worse]).toEqual([true, true]);
    const changed = must(ask(id, line, [["80", "2026-12-10"]]));
    expect([changed.revision, changed.waitsFor]).toEqual([null, "Yard manager"]);
    expect([rows(line), revisions(id)]).toEqual([[[50, "2026-12-10", null, 0]], 1]);
    expect(refusal(ask(id, line, [["60", "2026-12-10"]]))[0]).toMatch(/waits to be signed/);
    must(sign(h.desk("maud"), paper(id)));
    expect([rows(line), revisions(id)]).toEqual([[[80, "2026-12-10", null, 0]], 2]);
    expect(stateOf(h.db, "purchase_order", id)).toBe("With supplier");
  });

  it("that was sent back leaves the order as it stands; a small one need not be signed", async () => {
    const { id, line } = await placed();
    must(ask(id, line, [["80", "2026-12-10"]]));
    must(sendBack(h.desk("maud"), { ...paper(id), reason: "too many" }));
    expect([rows(line), revisions(id)]).toEqual([[[50, "2026-12-10", null, 0]], 1]);
    expect(sql(h.db, "SELECT state FROM order_change").all()).toEqual([{ state: "sent back" }]);
    must(ask(id, line, [["90", "2026-12-10"]]));
    must(takeBack(h.desk("ines"), paper(id)));
    expect(sql(h.db, "SELECT state FROM order_change ORDER BY id").all()).toEqual([
      { state: "sent back" },
      { state: "given up" },
    ]);
    const small = must(ask(id, line, [["51", "2026-12-10"]]));
    expect([small.waitsFor, revisions(id)]).toEqual([null, 2]);
  });

  it("to zero closes the line; at another price it costs otherwise", async () => {
    const { id, line } = await placed();
    must(ask(id, line, [], { price: "30.00" }));
    expect(readOrder(h.db, id)!.totals.net.minor).toBe(150_000);
    must(ask(id, line, [], { cannot: true }));
    expect(rows(line)).toEqual([[50, "2026-12-10", null, 50]]);
  });

  it("adds lines, with the agreed price and the tax of the day; what is to be signed shows them", async () => {
    const { id } = await placed();
    const add = (more: object, who = "ines") =>
      changePlaced(h.desk(who), { ...at(id), reason: "a second yard", add: [{ quantity: "1", ...more }] });
    must(add({ code: "ANO", required: "2026-12-18" }));
    const [, second] = readOrder(h.db, id)!.lines;
    expect(second).toMatchObject({
      position: 2,
      quantity: 10_000,
      price: 31_200_000,
      priceSource: { kind: "price list" },
      required: "2026-12-18",
      promised: null,
      taxRate: readOrder(h.db, id)!.lines[0]!.taxRate,
    });
    expect(readOrder(h.db, id)!.totals.net.minor).toBe(159_120);
    expect(revisions(id)).toBe(2);
    // Two lines together have grown it by more than may be added without asking.
    expect(must(add({ kind: "charge", words: "Pallets", quantity: "", price: "12.50" })).waitsFor).toBe("Yard manager");
    must(sign(h.desk("maud"), paper(id)));
    expect(readOrder(h.db, id)!.lines[2]).toMatchObject({
      kind: "charge",
      words: "Pallets",
      net: 1_250,
      spread: "value",
    });
    const large = must(add({ kind: "service", words: "Fitting", price: "900", required: "2026-12-18" }));
    expect([large.waitsFor, readOrder(h.db, id)!.lines.length]).toEqual(["Yard manager", 3]);
    expect(readWaitingChange(h.db, id, TODAY)).toMatchObject({
      reason: "a second yard",
      person: "Ines",
      differences: [{ kind: "new", line: { words: "Fitting", position: 4 } }],
      net: [160_370, 250_370],
    });
    expect(decisionAsAsked(h.db, "order", id, TODAY, 9)!.lines.map((l) => l.words)).toEqual([
      "Hull anode",
      "Fitting",
      "Hull anode",
      "Pallets",
    ]);
    expect(withItsChange(h.db, id, TODAY, () => toSignOf(h.db, id))).toBe(250_370);
    expect(toSignOf(h.db, id)).toBe(160_370);
    must(sign(h.desk("maud"), paper(id)));
    expect([readOrder(h.db, id)!.lines.length, readWaitingChange(h.db, id, TODAY)]).toEqual([4, null]);
    expect(refusal(add({ code: "NOPE" }))).toEqual([
      "add.0.code: We know no such item. For goods or a service in words, choose which it is.",
    ]);
    expect(refusal(add({ code: "ANO", required: "2026-11-01" }))).toEqual(["add.0.required: This day has passed."]);
    expect(refusal(add({ code: "ROP", required: "2026-12-18" }))).toEqual([
      "add.0.price: Nobody agreed a price for it: say one.",
    ]);
    expect(refusal(changePlaced(h.desk("ines"), { ...at(id), reason: "nothing" }))).toEqual([
      "Change at least one line, or add one.",
    ]);
    expect(readOrder(h.db, id)!.lines.length).toBe(4);
  });

  it("sends what has not come to another store; the stock of both is planned anew, and the paper says where it went", async () => {
    const { id, line } = await placed();
    const store = h.id("store", "HS");
    const trial = must(tryChange(h.db, { order: id, lines: [{ line, store }] }, { day: TODAY, hour: 9 }));
    expect(trial.signs).toBe(false);
    must(ask(id, line, [], { store }));
    const now = readOrder(h.db, id)!;
    expect(now.lines[0]).toMatchObject({ store, quantity: 500_000 });
    const compared = compareVersions(h.db, id, 1, 2)!;
    expect(compared.differences).toMatchObject([
      { kind: "changed", before: { to: null }, line: { deliverTo: { name: "Holm Slip store" } } },
    ]);
    expect(refusal(ask(id, line, [], { store }))).toEqual([`line.${line}.parts: Nothing of it is different.`]);
    expect(refusal(ask(id, line, [], { store: 99 }))).toEqual([`line.${line}.store: There is no such store.`]);
    must(
      receiveGoods(h.desk("tobias"), {
        order: id,
        version: versionOf(h.db, "purchase_order", id),
        deliveryNote: "LS-1",
        lines: [{ line, counted: "10" }],
      }),
    );
    expect(refusal(ask(id, line, [], { store: h.id("store", "TQ") }))[0]).toMatch(/Part of it came already/);
  });

  it("overwrites nobody: not another buyer, not what the supplier said, and is refused where nobody can mean it", async () => {
    const { id, line } = await placed();
    const stale = { ...at(id) };
    must(ask(id, line, [["40", "2026-12-12"]]));
    expect(
      refusal(changePlaced(h.desk("ines"), { ...stale, reason: "again", lines: [{ line, cannot: true }] }))[0],
    ).toMatch(/changed by somebody else/);
    expect(refusal(ask(id, line, [["40", "2026-11-01"]]))[0]).toMatch(/passed/);
    expect(refusal(ask(id, line, []))[0]).toMatch(/Nothing of it is different/);
    expect(refusal(ask(id, line + 50, [["4", "2026-12-12"]]))[0]).toMatch(/come/);
    expect(refusal(ask(id, line, [["40", "2026-12-13"]], {}, "joss"))).toEqual(["Your role does not allow this."]);
    must(
      writeDownAnswer(h.desk("ines"), {
        order: id,
        revision: 2,
        way: "phone",
        saidBy: "Elspeth",
        saidOn: TODAY,
        lines: [{ line, parts: [{ quantity: "40", day: "2026-12-30" }] }],
      }),
    );
    expect(refusal(ask(id, line, [["40", "2026-12-13"]]))[0]).toMatch(/Decide on it first/);
    must(takeAnswers(h.desk("ines"), { ...at(id), lines: [readOpenAnswers(h.db, TODAY, id)[0]!.id] }));
    expect(rows(line)).toEqual([[40, "2026-12-12", "2026-12-30", 0]]);
  });
});

describe("an order that was closed by hand", () => {
  it("is opened again by a lead as it was; what was closed before stays closed", async () => {
    const { id, line } = await placed();
    must(
      ask(id, line, [
        ["30", "2026-12-10"],
        ["10", "2026-12-20"],
      ]),
    );
    must(closeShort(h.desk("ines"), { ...at(id), reason: "the refit is off" }));
    expect(rows(line).map((r) => r[3])).toEqual([30, 10]);
    expect(refusal(reopenOrder(h.desk("ines"), { ...at(id), reason: "it is on again" }))).toEqual([
      "Your role does not allow this.",
    ]);
    sql(h.db, "INSERT INTO person_role (person, role) VALUES (?, 'purchasing lead')").run(h.id("person", "halden"));
    must(reopenOrder(h.desk("halden"), { ...at(id), reason: "it is on again" }));
    expect(rows(line)).toEqual([
      [30, "2026-12-10", null, 0],
      [10, "2026-12-20", null, 0],
    ]);
    expect(stateOf(h.db, "purchase_order", id)).toBe("With supplier");
    expect(refusal(reopenOrder(h.desk("halden"), { ...at(id), reason: "once more" }))[0]).toMatch(
      /only what was closed/,
    );
  });
});
