import fc from "fast-check";
import { expect, it } from "vitest";
import type { OrderId, OrderLineId, ReceiptId } from "../../../core/ids";
import { sql } from "../../db/open";
import { brokenTruths } from "../../queries/always-true";
import { readUndoable } from "../../queries/receiving/undo";
import { must, type TestHouse, TODAY, testHouse } from "../../testing";
import { moveAcross, takeOut } from "../stock/stock";
import { keepTolerance } from "./keep-tolerance";
import { countIn, placedOrder, stockAt } from "./testing";
import { decideAsides } from "./testing-asides";
import { undoReceipt } from "./undo-receipt";

const COMPANIES = Number(process.env.WHARF_COMPANIES ?? 12);

/** One thing that somebody does on the dock; figures choose among what there is. */
const step = fc.oneof(
  {
    weight: 4,
    arbitrary: fc.record({
      do: fc.constant("count" as const),
      order: fc.nat(9),
      a: fc.nat(14),
      b: fc.nat(6),
      faulty: fc.nat(3),
    }),
  },
  { weight: 2, arbitrary: fc.record({ do: fc.constant("decide" as const), how: fc.nat(4), part: fc.nat(9) }) },
  { weight: 3, arbitrary: fc.record({ do: fc.constant("undo" as const), receipt: fc.nat(9), part: fc.nat(6) }) },
  {
    weight: 2,
    arbitrary: fc.record({ do: fc.constant("use" as const), item: fc.boolean(), part: fc.integer({ min: 1, max: 9 }) }),
  },
  { weight: 1, arbitrary: fc.record({ do: fc.constant("move" as const), part: fc.integer({ min: 1, max: 9 }) }) },
);
type Step = typeof step extends fc.Arbitrary<infer S> ? S : never;

const pick = <T>(all: readonly T[], n: number): T | undefined => all[n % Math.max(1, all.length)];

function take(h: TestHouse, orders: { order: OrderId; lines: OrderLineId[] }[], s: Step): void {
  const ano = { item: h.id("item", "ANO"), store: h.id("store", "TQ") };
  const desk = h.desk("tobias");
  switch (s.do) {
    case "count": {
      const of = pick(orders, s.order)!;
      countIn(h, of.order, [
        { line: of.lines[0], counted: String(s.a), lot: "A", faulty: String(s.faulty), fault: "damaged" },
        { line: of.lines[0], counted: String(s.b), lot: "B" },
        ...(of.lines[1] ? [{ line: of.lines[1], counted: String(s.a / 2) }] : []),
      ]);
      return;
    }
    case "decide": {
      if (!sql(h.db, "SELECT 1 FROM set_aside WHERE undecided > 0").get()) return;
      const quantity = s.part === 0 ? "" : String(s.part);
      const [what, more] = [
        ["keep", {}],
        ["send back", { awaits: "replacement", reason: "not good", due: "2026-12-20" }],
        ["send back", { awaits: "credit", reason: "not good" }],
        ["scrap", { reason: "not good" }],
        ["keep", {}],
      ][s.how] as ["keep" | "send back" | "scrap", object]; // one of the rows above
      decideAsides(h, what, { quantity, ...more });
      return;
    }
    case "undo": {
      const receipt = pick(sql<{ id: ReceiptId }>(h.db, "SELECT id FROM receipt ORDER BY id").all(), s.receipt)?.id;
      if (receipt === undefined) return;
      const lines = readUndoable(h.db, receipt);
      // What it says may be undone, may be.
      if (s.part > 0) {
        const l = lines[0];
        if (!l || l.most === 0) return;
        const quantity = Math.min(l.most, s.part * 10_000);
        must(
          undoReceipt(desk, {
            receipt,
            reason: "counted wrong",
            lines: [{ line: l.id, seen: l.left, quantity: String(quantity / 10_000) }],
          }),
        );
      } else undoReceipt(desk, { receipt, reason: "counted wrong" });
      return;
    }
    case "use": {
      const code = s.item ? "ANO" : "OIL";
      const there = Math.floor(stockAt(h, code).quantity);
      const quantity = Math.floor((there * s.part) / 10) * 10_000;
      if (quantity === 0) return;
      h.db.transaction(() =>
        takeOut(h.db, { day: TODAY, now: desk.now, person: null }, { ...ano, item: h.id("item", code), quantity }),
      )();
      return;
    }
    case "move": {
      const quantity = Math.floor((stockAt(h, "ANO").quantity * s.part) / 20) * 10_000;
      if (quantity > 0)
        h.db.transaction(() =>
          moveAcross(h.db, desk, { ...ano, to: h.id("store", "HS"), quantity, kind: "transfer" }),
        )();
    }
  }
}

it("whatever the dock does, what must always hold holds after every step", {
  timeout: 60_000 + 1_000 * COMPANIES,
}, async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.array(step, { minLength: 4, maxLength: 16 }),
      fc.record({ over: fc.nat(20), under: fc.nat(20), beyond: fc.constantFrom("", "keep", "hold", "refuse") }),
      async (steps, t) => {
        const h = testHouse();
        try {
          sql(h.db, "UPDATE item SET by_lot = 1 WHERE code = 'ANO'").run();
          must(
            keepTolerance(h.desk("osk"), {
              scope: "house",
              overPercent: String(t.over),
              underPercent: String(t.under),
              beyond: t.beyond,
            }),
          );
          const orders = [
            await placedOrder(h, "BAW", [
              { code: "ANO", quantity: "20", price: "31.27" },
              { words: "Backing sheet", kind: "not stocked", quantity: "9", price: "4.35" },
              { words: "Freight", kind: "charge", quantity: "1", price: "17.11" },
            ]),
            await placedOrder(h, "BAW", [{ code: "ANO", quantity: "7", price: "30.01" }]),
            await placedOrder(h, "TTL", [{ code: "OIL", quantity: "6", price: "611.13" }]),
          ];
          for (const s of steps) {
            take(h, orders, s);
            expect(brokenTruths(h.db), JSON.stringify(s)).toEqual([]);
          }
        } finally {
          h.close();
        }
      },
    ),
    { numRuns: COMPANIES },
  );
});
