import { afterEach, beforeEach, expect, it } from "vitest";
import type { OrderId } from "../../../core/ids";
import { loadFile } from "../../acts/files/load-file";
import { makeLink } from "../../acts/orders/order-link";
import { answerByLink } from "../../acts/suppliers/answer-order";
import { refuseAnswers } from "../../acts/suppliers/decide-answer";
import { sql } from "../../db/open";
import { must, type TestHouse, TODAY, testHouse, versionOf } from "../../testing";
import { readToday } from "../today/today";
import { countOpenAnswers, ordersAnswered, readOpenAnswers, readSaid } from "./answers";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => h.close());

/** A placed order of 50 anodes at 18.40 for 4 December, and what its supplier says of it. */
function answered(name: string, said: object): OrderId {
  const file = `order,supplier,store,item,quantity,required,price\n${name},BAW,TQ,ANO,50,2026-12-04,18.40\n`;
  must(loadFile(h.desk("osk"), "orders", Buffer.from(file), "."));
  const { id } = sql<{ id: OrderId }>(h.db, "SELECT id FROM purchase_order WHERE brought = ?").get(name)!;
  const { line } = sql<{ line: number }>(h.db, "SELECT id AS line FROM order_line WHERE purchase_order = ?").get(id)!;
  const { link } = must(makeLink(h.desk("ines"), { order: id }));
  const now = { now: `${TODAY}T16:20:00.000Z`, day: TODAY };
  must(answerByLink(h.db, link, { revision: 1, by: "Elspeth", lines: [{ line, ...said }] }, now));
  return id;
}
const later = (day: string) => ({ parts: [{ quantity: "", day }] });

it("what costs most stands first: nothing at all, then dearer, then later by more days", () => {
  const soon = answered("A", later("2026-12-07"));
  const dearer = answered("B", { price: "18.90" });
  const late = answered("C", later("2026-12-24"));
  const none = answered("D", { cannot: true });
  const open = readOpenAnswers(h.db, TODAY);
  expect(open.map((a) => a.order)).toEqual([none, dearer, late, soon]);
  expect(open[1]).toMatchObject({
    netBefore: 92_000,
    netAfter: 94_500,
    costs: 2_500,
    laterBy: 0,
    wanted: "2026-12-04",
  });
  expect(open[2]).toMatchObject({ laterBy: 20, lastSaid: "2026-12-24", costs: 0 });
  expect(open[0]).toMatchObject({ lastSaid: null, netAfter: 0, chance: null });
  expect(readOpenAnswers(h.db, TODAY, late).map((a) => a.order)).toEqual([late]);
});

it("stands on Today until it is decided, and with the order for ever", () => {
  const order = answered("A", later("2026-12-24"));
  const today = () =>
    readToday(h.db, h.desk("ines").person, TODAY, 9).forYou.filter((w) => w.key === `answer/${order}`);
  expect([countOpenAnswers(h.db), ordersAnswered(h.db).length, today().length]).toEqual([1, 1, 1]);
  const version = versionOf(h.db, "purchase_order", order);
  const lines = readOpenAnswers(h.db, TODAY).map((a) => a.id);
  must(refuseAnswers(h.desk("ines"), { order, version, lines, why: "The yard waits." }));
  expect([countOpenAnswers(h.db), ordersAnswered(h.db).length, today().length]).toEqual([0, 0, 0]);
  expect(readSaid(h.db, order)).toMatchObject([
    { state: "refused", decidedBy: "Ines", why: "The yard waits.", saidBy: "Elspeth", way: "private link" },
  ]);
});
