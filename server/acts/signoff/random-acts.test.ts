import fc from "fast-check";
import { afterAll, beforeAll, expect, it } from "vitest";
import { addDays } from "../../../core/calendar/day";
import type { OrderId } from "../../../core/ids";
import { sql } from "../../db/open";
import { tickSignOff } from "../../jobs/signoff/clock";
import { brokenTruths } from "../../queries/always-true";
import { must, type TestHouse, TODAY, testHouse, versionOf } from "../../testing";
import { addLines } from "../orders/add-lines";
import { changeOrder } from "../orders/change-order";
import { reviseOrder } from "../orders/revise-order";
import { startOrder } from "../orders/start-order";
import { submitOrder } from "../orders/submit-order";
import { keepAbsence } from "../settings/keep-absence";
import { handOver, takeBack } from "./hand-over";
import { answerQuestion, askQuestion } from "./questions";
import { sendBack, sign } from "./sign";

let h: TestHouse;
beforeAll(() => {
  h = testHouse();
});
afterAll(() => h.close());

const PEOPLE = ["ines", "maud", "halden", "joss", "osk"];
const who = fc.constantFrom(...PEOPLE);
const act = fc.oneof(
  { weight: 4, arbitrary: fc.record({ kind: fc.constant("sign" as const), who }) },
  { weight: 3, arbitrary: fc.record({ kind: fc.constant("submit" as const), who }) },
  fc.record({ kind: fc.constantFrom("send back", "ask", "answer", "take back", "revise"), who }),
  fc.record({ kind: fc.constant("hand over" as const), who, to: who }),
  fc.record({ kind: fc.constant("price" as const), price: fc.constantFrom("700", "900", "910", "13000") }),
  fc.record({ kind: fc.constant("hours" as const), hours: fc.integer({ min: -20, max: 60 }) }),
  fc.record({ kind: fc.constant("away" as const), who, to: who }),
);
type RandomAct = typeof act extends fc.Arbitrary<infer A> ? A : never;

it("nothing that people and the clock do to a paper leaves it cleared unsigned, or signed by its writer", () => {
  const cleared: number[] = [];
  fc.assert(
    fc.property(fc.array(act, { minLength: 5, maxLength: 25 }), (acts) => {
      sql(h.db, "UPDATE absence SET dropped = at WHERE dropped IS NULL").run();
      const { order } = must(
        startOrder(h.desk("ines"), { supplier: h.id("supplier", "TTL"), store: h.id("store", "TQ") }),
      );
      const at = () => ({ order, version: versionOf(h.db, "purchase_order", order) });
      must(addLines(h.desk("ines"), { ...at(), add: [{ code: "OIL", quantity: "1", price: "900" }] }));
      const line = sql<{ id: number }>(h.db, "SELECT id FROM order_line WHERE purchase_order = ?").get(order)!.id;
      let hours = 0;
      for (const a of acts)
        if ("hours" in a) hours += a.hours;
        else perform(a, order, at, line);
      tick(hours);
      if (sql(h.db, "SELECT 1 FROM purchase_order WHERE id = ? AND state = 'Cleared'").get(order)) cleared.push(order);
      expect(brokenTruths(h.db)).toEqual([]);
    }),
    { numRuns: 60 },
  );
  expect(cleared.length).toBeGreaterThan(3); // the random people do get things done
});

/** Most of it is refused, and that is right: what must hold does so either way. */
function perform(
  a: Exclude<RandomAct, { hours: number }>,
  order: OrderId,
  at: () => { order: OrderId; version: number },
  line: number,
): void {
  const paper = () => ({ paper: "order", id: order, version: at().version });
  switch (a.kind) {
    case "sign":
      sign(h.desk(a.who), paper());
      break;
    case "submit":
      submitOrder(h.desk(a.who), at());
      break;
    case "send back":
      sendBack(h.desk(a.who), { ...paper(), reason: "too much" });
      break;
    case "ask":
      askQuestion(h.desk(a.who), { ...paper(), text: "For which job?" });
      break;
    case "answer":
      answerQuestion(h.desk(a.who), { ...paper(), question: 0, text: "The refit." });
      break;
    case "take back":
      takeBack(h.desk(a.who), paper());
      break;
    case "revise":
      reviseOrder(h.desk(a.who), at());
      break;
    case "hand over":
      if ("to" in a) handOver(h.desk(a.who), { ...paper(), to: h.id("person", a.to) });
      break;
    case "price":
      if ("price" in a) changeOrder(h.desk("ines"), { ...at(), lines: [{ line, price: a.price }] });
      break;
    case "away":
      if ("to" in a)
        keepAbsence(h.desk("osk"), {
          person: h.id("person", a.who),
          standIn: h.id("person", a.to),
          starts: TODAY,
          ends: addDays(TODAY, 5),
        });
      break;
  }
}

function tick(hours: number): void {
  const now = new Date(new Date(`${TODAY}T09:00:00.000Z`).getTime() + hours * 3_600_000).toISOString();
  tickSignOff(h.db, now, TODAY);
}
