import { afterEach, beforeEach, describe, expect, it } from "vitest";
import type { OrderId } from "../../../core/ids";
import { comesOut, figureText } from "../../../core/sums/sum";
import type { Effect } from "../../../core/suppliers/effects";
import type { FileKind } from "../../../exchange/csv/kinds";
import { type Db, sql } from "../../db/open";
import { brokenTruths } from "../../queries/always-true";
import { readNeeds, usualPlan } from "../../queries/needs/needs";
import { readOrder } from "../../queries/orders/order";
import { readOpenAnswers } from "../../queries/suppliers/answers";
import { must, type TestHouse, TODAY, testHouse } from "../../testing";
import { loadFile } from "../files/load-file";
import { writeDownAnswer } from "./answer-order";
import { tryAnswers } from "./try-answer";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => {
  expect(brokenTruths(h.db)).toEqual([]);
  h.close();
});

const WHEN = { now: `${TODAY}T16:20:00.000Z`, day: TODAY, hour: 16 };
const load = (kind: FileKind, text: string) => must(loadFile(h.desk("osk"), kind, Buffer.from(text), "."));
const order = (name: string) =>
  sql<{ id: OrderId }>(h.db, "SELECT id FROM purchase_order WHERE brought = ?").get(name)!.id;

/** 50 shaft anodes at 18.40, promised for 4 December; a job takes 40 on the 10th; 4 on hand. */
function anodes(): OrderId {
  load("items", "code,name,unit\nSHA,Shaft anode,each\n");
  load("sourcing", "item,supplier,their_code,unit,factor,lead_days\nSHA,BAW,Z-60,each,1,8\n");
  load("stock", "item,store,on_hand,policy,reorder_point,lot,level\nSHA,TQ,4,larger of,0,10,\n");
  load("jobs", "job,name,vessel,item,store,due,quantity\n2295,Refit,Marram,SHA,TQ,2026-12-10,40\n");
  load("orders", "order,supplier,store,item,quantity,required,price\nX-1,BAW,TQ,SHA,50,2026-12-04,18.40\n");
  return order("X-1");
}
const say = (id: OrderId, parts: [string, string][], more: object = {}, line = 0) =>
  must(
    writeDownAnswer(h.desk("ines"), {
      order: id,
      revision: 1,
      way: "phone",
      saidBy: "Elspeth",
      saidOn: TODAY,
      lines: [
        {
          line: readOrder(h.db, id)!.lines[line]!.id,
          parts: parts.map(([quantity, day]) => ({ quantity, day })),
          ...more,
        },
      ],
    }),
  );
const tryAll = (id: OrderId) =>
  tryAnswers(
    h.db,
    id,
    readOpenAnswers(h.db, TODAY, id).map((a) => a.id),
    WHEN,
  )!;
/** Every table with all that is in it. */
const whole = (db: Db) =>
  sql<{ name: string }>(db, "SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%'")
    .all()
    .map(({ name }) => [name, JSON.stringify(sql(db, `SELECT * FROM "${name}"`).all())]);
const ofKind = <K extends Effect["kind"]>(effects: readonly Effect[], kind: K) =>
  effects.filter((e): e is Effect & { kind: K } => e.kind === kind);

describe("what taking an answer does", () => {
  it("is worked out as in the example: the job waits for 6, from 10 to 31 December, 21 days", () => {
    const id = anodes();
    say(id, [
      ["30", "2026-12-04"],
      ["20", "2026-12-31"],
    ]);
    const before = whole(h.db);
    const { effects } = tryAll(id);
    expect(whole(h.db)).toEqual(before);
    const [wait] = ofKind(effects, "waits");
    expect([wait!.claim.label, wait!.claim.due, wait!.before, wait!.after, wait!.worse]).toEqual([
      "job 2295, Marram",
      "2026-12-10",
      { quantity: 0, until: null, days: 0 },
      { quantity: 60_000, until: "2026-12-31", days: 21 },
      true,
    ]);
    const figures = wait!.sums.map((s) => s.steps.map((x) => `${x.op} ${figureText(x.figure)}`.trim()));
    expect(figures).toEqual([
      ["4 each", "+ 50 each", "− 40 each", "= 14 each", "· 0 each"],
      ["4 each", "+ 30 each", "− 40 each", "= -6 each", "· 6 each"],
    ]);
    const [stock] = ofKind(effects, "stock");
    expect([stock!.before.belowZero, stock!.after.belowZero, stock!.after.lowest]).toEqual([
      null,
      "2026-12-10",
      -60_000,
    ]);
    expect(effects.flatMap((e) => e.sums).filter((s) => !comesOut(s))).toEqual([]);
  });

  it("leaves nothing behind that was read while it was tried", () => {
    const id = anodes();
    const plan = usualPlan(TODAY, 16);
    const needs = JSON.stringify(readNeeds(h.db, plan));
    say(id, [], { cannot: true });
    tryAll(id);
    expect(JSON.stringify(readNeeds(h.db, plan))).toBe(needs);
  });

  it("says what the order costs, that freight is no longer free, and that it lies below their minimum", () => {
    load("suppliers", "code,name,currency,order_minimum,freight,freight_free_from\nBAW,Brannock,EUR,700,45,900\n");
    const id = anodes();
    sql(h.db, "UPDATE purchase_order SET freight = 0, home_freight = 0 WHERE id = ?").run(id);
    say(id, [["30", "2026-12-04"]]);
    const { effects } = tryAll(id);
    const said = effects
      .filter((e) => "what" in e)
      .map((e) => [e.kind, "what" in e ? [figureText(e.before), figureText(e.after)] : [], e.worse]);
    expect(said).toEqual([
      ["cost", ["920.00 EUR", "597.00 EUR"], false],
      ["freight", ["0.00 EUR", "45.00 EUR"], true],
      ["minimum", ["920.00 EUR", "552.00 EUR"], true],
      ["stock value", ["920.00 EUR", "552.00 EUR"], false],
    ]);
    expect(effects.flatMap((e) => e.sums).filter((s) => !comesOut(s))).toEqual([]);
  });

  it("is nothing where nothing of it waits any more", () => {
    const id = anodes();
    expect(tryAnswers(h.db, id, [1, 2], WHEN)).toBeNull();
  });
});
