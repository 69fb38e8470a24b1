import fc from "fast-check";
import { expect, it } from "vitest";
import type { OrderId, OrderLineId, ReceiptId } from "../../../core/ids";
import { sql } from "../../db/open";
import { brokenTruths } from "../../queries/always-true";
import { readUndoable } from "../../queries/receiving/undo";
import { readStockCount } from "../../queries/stock/stock-counts";
import { must, type TestHouse, TODAY, testHouse } from "../../testing";
import { addBins, keepStowing } from "../stock/bins";
import { bookCount, handInCount, judgeCount, startCount } from "../stock/count-stock";
import { issueGoods, takeBackFromJob } from "../stock/issue-goods";
import { stowGoods } from "../stock/move-goods";
import { moveAcross, takeOut } from "../stock/stock";
import { writeOff } from "../stock/write-off";
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
  {
    weight: 3,
    arbitrary: fc.record({
      do: fc.constant("goods" as const),
      what: fc.nat(5),
      at: fc.nat(9),
      part: fc.nat(9),
      to: fc.nat(3),
    }),
  },
  {
    weight: 1,
    arbitrary: fc.record({ do: fc.constant("count stock" as const), off: fc.integer({ min: -3, max: 3 }) }),
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
    case "goods":
      doGoods(h, s);
      return;
    case "count stock":
      countStock(h, s.off);
      return;
    case "move": {
      const quantity = Math.floor((stockAt(h, "ANO").quantity * s.part) / 20) * 10_000;
      if (quantity > 0)
        h.db.transaction(() =>
          moveAcross(h.db, desk, { ...ano, to: h.id("store", "HS"), quantity, kind: "transfer" }),
        )();
    }
  }
}

const BINS = ["", "A1", "A2", "A3"];

/** Something is done to goods where they lie: what the place holds is enough, so it is never refused but for what jobs hold. */
function doGoods(h: TestHouse, s: { what: number; at: number; part: number; to: number }): void {
  const place = pick(
    sql<{ item: number; store: number; bin: string; lot: number | null; quantity: number }>(
      h.db,
      "SELECT item, store, bin, nullif(lot, 0) AS lot, quantity FROM stock_balance WHERE quantity > 0 AND owner = 0 ORDER BY item, store, bin, lot",
    ).all(),
    s.at,
  );
  if (!place) return;
  const { item, store, bin, lot } = place;
  const quantity = Math.max(1, Math.floor((place.quantity * s.part) / 90_000)) * 10_000;
  if (quantity > place.quantity) return;
  const some = { item, lot, quantity: String(quantity / 10_000) };
  const to = BINS[s.to]!;
  const job = sql<{ id: number }>(h.db, "SELECT id FROM job").get()!.id;
  const desk = h.desk("tobias");
  switch (s.what) {
    case 0:
      stowGoods(desk, { store, rows: [{ ...some, from: bin, to }] });
      return;
    case 1:
      issueGoods(desk, { store, job, named: true, rows: [{ ...some, bin }] });
      return;
    case 2:
      issueGoods(desk, { store, reason: "to the workshop", rows: [{ ...some, lot: null }] });
      return;
    case 3:
      takeBackFromJob(desk, { ...some, store, job, bin: to, reason: "not used" });
      return;
    case 4:
      writeOff(h.desk("ines"), { ...some, store, bin, why: "broken" });
      return;
    default:
      must(keepStowing(desk, { store, stows: s.part > 4 }));
  }
}

/** All of the quay is counted, each place off by so much, and booked. */
function countStock(h: TestHouse, off: number): void {
  const begun = startCount(h.desk("tobias"), { store: h.id("store", "TQ"), blind: true });
  if (!begun.ok) return;
  const { count } = begun.value;
  const by = { person: h.id("person", "ines"), judges: true, values: true };
  const rows = readStockCount(h.db, count, { ...by, judges: false })!.lines.map((l) => ({
    line: l.id,
    counted: String(
      Math.max(
        0,
        sql<{ n: number }>(h.db, "SELECT expected / 10000.0 AS n FROM stock_count_line WHERE id = ?").get(l.id)!.n +
          off,
      ),
    ),
  }));
  must(handInCount(h.desk("tobias"), { count, rows }));
  const differ = readStockCount(h.db, count, by)!.lines.filter((l) => l.counted !== l.books!.lay);
  if (differ.length)
    must(
      judgeCount(h.desk("ines"), { count, rows: differ.map((l) => ({ line: l.id, what: "book", seen: l.counted })) }),
    );
  must(bookCount(h.desk("ines"), { count, version: readStockCount(h.db, count, by)!.head.version }));
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
          must(addBins(h.desk("tobias"), { store: h.id("store", "TQ"), from: "A1", to: "A3" }));
          sql(h.db, "UPDATE item_store SET bin = 'A2' WHERE item = ?").run(h.id("item", "ANO"));
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
