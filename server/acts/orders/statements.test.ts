import { afterEach, beforeEach, expect, it } from "vitest";
import type { Db } from "../../db/open";
import { readDraftPart } from "../../queries/orders/draft";
import { readOrder } from "../../queries/orders/order";
import { must, type TestHouse, TODAY, testHouse, versionOf } from "../../testing";
import { addLines } from "./add-lines";
import { changeOrder } from "./change-order";
import type { OrderNow } from "./price-order";
import { startOrder } from "./start-order";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => h.close());

const RUNS = ["run", "get", "all", "iterate"] as const;

/** How many statements a piece of work runs. */
function statementsOf(db: Db, work: () => void): number {
  const prototype = Object.getPrototypeOf(db.prepare("SELECT 1")) as Record<string, (...a: unknown[]) => unknown>;
  const before = RUNS.map((m) => [m, prototype[m]!] as const);
  let ran = 0;
  for (const [m, call] of before)
    prototype[m] = function (this: unknown, ...values: unknown[]) {
      ran++;
      return call.apply(this, values);
    };
  try {
    work();
  } finally {
    for (const [m, call] of before) prototype[m] = call;
  }
  return ran;
}

it("typing in a draft costs the same few statements, however long it is", () => {
  const { order } = must(
    startOrder(h.desk("ines"), { supplier: h.id("supplier", "TTL"), store: h.id("store", "TQ"), kind: "one-off" }),
  );
  const at = () => ({ order, version: versionOf(h.db, "purchase_order", order) });
  const add = (lines: object[]) => must(addLines(h.desk("ines"), { ...at(), add: lines }));
  const type = (quantity: string) => {
    const line = readOrder(h.db, order)!.lines[0]!.id;
    const desk = h.desk("ines");
    const edit = { ...at(), lines: [{ line, quantity }] };
    let now: OrderNow | undefined;
    const act = statementsOf(h.db, () => {
      must(
        changeOrder(desk, edit, (standing) => {
          now = standing;
        }),
      );
    });
    const answer = statementsOf(h.db, () => readDraftPart(h.db, order, [line], TODAY, now));
    return { act, answer };
  };
  add([{ code: "ROP", quantity: "3" }]);
  type("5"); // what settings say is known from here on
  const short = type("6");
  add(Array.from({ length: 60 }, (_, i) => ({ words: `Thing ${i}`, kind: "service", quantity: "1", price: "2" })));
  expect(type("7")).toEqual(short);
  expect(short.act).toBeLessThanOrEqual(26);
  expect(short.answer).toBeLessThanOrEqual(12);
});
