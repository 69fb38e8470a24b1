import { afterEach, beforeEach, describe, expect, it } from "vitest";
import type { OrderId, ReceiptId } from "../../../core/ids";
import { sql } from "../../db/open";
import { brokenTruths } from "../../queries/always-true";
import { readUndoable } from "../../queries/receiving/undo";
import { must, refusal, type TestHouse, TODAY, testHouse } from "../../testing";
import { takeOut } from "../stock/stock";
import { countIn, lineAt, placedOrder, stockAt } from "./testing";
import { decideAsides } from "./testing-asides";
import { freeHeld, undoReceipt } from "./undo-receipt";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => {
  expect(brokenTruths(h.db)).toEqual([]);
  h.close();
});

const lastReceipt = () => sql<{ id: ReceiptId }>(h.db, "SELECT max(id) AS id FROM receipt").get()!.id;
const undo = (receipt: ReceiptId, parts: Record<number, string> | null = null, who = "tobias") =>
  undoReceipt(h.desk(who), {
    receipt,
    reason: "counted wrong",
    lines:
      parts === null
        ? []
        : readUndoable(h.db, receipt).flatMap((l, i) =>
            parts[i] === undefined ? [] : [{ line: l.id, seen: l.left, quantity: parts[i] }],
          ),
  });
const state = (order: OrderId) =>
  sql<{ state: string }>(h.db, "SELECT state FROM purchase_order WHERE id = ?").get(order)!.state;
/** All that a receipt changes, but for the papers themselves. */
const everything = () => ({
  stock: sql(h.db, "SELECT item, store, on_hand, value FROM item_store ORDER BY item, store").all(),
  balances: sql(h.db, "SELECT * FROM stock_balance WHERE quantity <> 0 ORDER BY item, store, bin, lot, owner").all(),
  schedule: sql(h.db, "SELECT id, quantity, received, closed_short, let_off FROM order_schedule ORDER BY id").all(),
  orders: sql(h.db, "SELECT id, stage, state FROM purchase_order ORDER BY id").all(),
  requisitions: sql(h.db, "SELECT id, state FROM requisition ORDER BY id").all(),
  ties: sql(h.db, "SELECT order_line, quantity, wanted FROM need_tie ORDER BY rowid").all(),
  commitments: sql(h.db, "SELECT * FROM commitment ORDER BY 1, 2, 3, 4").all(),
  journal: sql(
    h.db,
    "SELECT role, account, sum(minor) AS minor FROM posting GROUP BY role, account HAVING sum(minor) <> 0 ORDER BY 1, 2",
  ).all(),
});
const oil = () => placedOrder(h, "TTL", [{ code: "OIL", quantity: "4", price: "624" }]);
const item = () => ({ item: h.id("item", "OIL"), store: h.id("store", "TQ") });
const use = (litres: number) =>
  takeOut(h.db, { day: TODAY, now: h.desk("tobias").now, person: null }, { ...item(), quantity: litres * 10_000 });

describe("a receipt that is undone", () => {
  it("follows the worked example of domain-goods §12", async () => {
    // 340 L worth 1,054.00, as in the example.
    sql(h.db, "INSERT INTO posting_entry (day, kind, at) VALUES ('2026-11-24', 'count', '')").run();
    const { order, lines } = await oil();
    const before = stockAt(h, "OIL");
    const off = 105_400 - before.value;
    h.db.transaction(() => {
      const entry = Number(sql(h.db, "SELECT max(id) FROM posting_entry").pluck().get());
      sql(
        h.db,
        "INSERT INTO movement (item, store, day, kind, quantity, value, at, entry) VALUES (?, ?, '2026-11-24', 'count', 0, ?, '', ?)",
      ).run(item().item, item().store, off, entry);
      sql(
        h.db,
        "INSERT INTO posting (entry, position, role, minor) VALUES (?, 1, 'stock', ?), (?, 2, 'stock difference', ?)",
      ).run(entry, off, entry, -off);
    })();
    must(countIn(h, order, [{ line: lines[0], counted: "4" }]));
    expect(stockAt(h, "OIL")).toEqual({ quantity: 1_140, value: 355_000 });
    use(500);
    expect(stockAt(h, "OIL")).toEqual({ quantity: 640, value: 199_298 });
    expect(refusal(undo(lastReceipt()))).toEqual(["lines.0.quantity: 640 L are there, 800 needed: 3 drums can be."]);
    must(undo(lastReceipt(), { 0: "3" }));
    expect(stockAt(h, "OIL")).toEqual({ quantity: 40, value: 12_098 });
    expect(lineAt(h, lines[0]!)).toMatchObject({ received: 1, open: 1 });
    expect(state(order)).toBe("Part in");
  });

  it("leaves everything as if it had not been, whole or in parts, but for the papers", async () => {
    sql(h.db, "UPDATE item SET by_lot = 1 WHERE code = 'ANO'").run();
    const { order, lines } = await placedOrder(h, "BAW", [
      { code: "ANO", quantity: "36", price: "31.20" },
      { words: "Backing sheet", kind: "not stocked", quantity: "3", price: "4.35" },
      { words: "Freight", kind: "charge", quantity: "1", price: "95" },
    ]);
    const before = everything();
    must(
      countIn(h, order, [
        { line: lines[0], counted: "20", lot: "A" },
        { line: lines[0], counted: "16", lot: "B", faulty: "2", fault: "damaged" },
        { line: lines[1], counted: "3" },
      ]),
    );
    const receipt = lastReceipt();
    must(undo(receipt, { 0: "7", 2: "1" }));
    must(undo(receipt, { 0: "13" }));
    must(undo(receipt));
    const after = everything();
    // The movements stay; a lot of which nothing lies there is a balance of nothing.
    expect(after).toEqual(before);
    expect(state(order)).toBe("With supplier");
    expect(sql(h.db, "SELECT number FROM receipt_undo ORDER BY id").pluck().all()).toEqual([
      "U26-1001",
      "U26-1002",
      "U26-1003",
    ]);
    expect(refusal(undo(receipt))).toEqual(["All of it is undone already."]);
    must(countIn(h, order, [{ line: lines[0], counted: "36", lot: "A" }]));
    expect(stockAt(h, "ANO").quantity).toBe(96);
  });

  it("takes the same lot from wherever in the store it lies, and no other", async () => {
    sql(h.db, "UPDATE item SET by_lot = 1 WHERE code = 'ANO'").run();
    const { order, lines } = await placedOrder(h, "BAW", [{ code: "ANO", quantity: "20", price: "31.20" }]);
    must(countIn(h, order, [{ line: lines[0], counted: "20", lot: "A" }]));
    const lot = sql(h.db, "SELECT id FROM lot WHERE code = 'A'").pluck().get();
    const move = (bin: string, quantity: number) =>
      sql(
        h.db,
        "INSERT INTO movement (item, store, bin, lot, day, kind, quantity, at) VALUES (?, ?, ?, ?, ?, 'transfer', ?, '')",
      ).run(h.id("item", "ANO"), h.id("store", "TQ"), bin, lot, TODAY, quantity * 10_000);
    h.db.transaction(() => {
      move("", -12);
      sql(h.db, "INSERT INTO store_bin (store, code) VALUES (?, 'B7')").run(h.id("store", "TQ"));
      move("B7", 12);
    })();
    must(undo(lastReceipt(), { 0: "15" }));
    expect(
      sql(h.db, "SELECT bin, quantity / 10000 AS n FROM stock_balance WHERE lot = ? AND quantity <> 0").all(lot),
    ).toEqual([{ bin: "B7", n: 5 }]);
    takeOut(
      h.db,
      { day: TODAY, now: h.desk("tobias").now, person: null },
      { item: h.id("item", "ANO"), store: h.id("store", "TQ"), quantity: 30_000 },
    );
    expect(refusal(undo(lastReceipt()))).toEqual(["lines.0.quantity: 2 each are there, 5 needed: 2 each can be."]);
  });

  it("says which job holds the goods, and frees them in the same place", async () => {
    const job = sql<{ id: number }>(h.db, "SELECT id FROM job_demand LIMIT 1").get()!.id; // 260 L for 2291
    sql(h.db, "UPDATE job_demand SET tied = quantity WHERE id = ?").run(job);
    const own = await oil();
    sql(
      h.db,
      "INSERT INTO need_tie (order_line, source, job_demand, quantity, wanted) VALUES (?, 'job', ?, 2600000, 2600000)",
    ).run(own.lines[0], job);
    must(countIn(h, own.order, [{ line: own.lines[0], counted: "4" }]));
    const other = await placedOrder(h, "TTL", [{ code: "OIL", quantity: "2", price: "660" }]);
    must(countIn(h, other.order, [{ line: other.lines[0], counted: "2" }]));
    const receipt = lastReceipt();
    use(1_000); // 540 L are left, of which the job holds 260
    expect(refusal(undo(receipt))).toEqual([
      "lines.0.quantity: job 2291 holds 260 L: 1 drum can be, or free it first.",
    ]);
    const [line] = readUndoable(h.db, receipt);
    expect(line).toMatchObject({ most: 10_000, there: 5_400_000 });
    const free = (quantity: string, who = "tobias") =>
      freeHeld(h.desk(who), { receipt, line: line!.id, demand: job, quantity });
    expect(refusal(free("261"))).toEqual(["quantity: job 2291 holds only 260 L of it."]);
    expect(refusal(free("120", "joss"))).toEqual(["Your role does not allow this."]);
    must(free("120"));
    must(undo(receipt));
    expect(stockAt(h, "OIL").quantity).toBe(140);
    expect(lineAt(h, other.lines[0]!)).toMatchObject({ received: 0, open: 1 });
    // The job waits for what it lost.
    expect(sql(h.db, "SELECT sum(quantity) / 10000 FROM need_tie WHERE job_demand = ?").pluck().get(job)).toBe(140);
  });

  it("of two lines of one item needs both to be there", async () => {
    const { order, lines } = await placedOrder(h, "TTL", [
      { code: "OIL", quantity: "2", price: "660" },
      { code: "OIL", quantity: "2", price: "660" },
    ]);
    must(
      countIn(
        h,
        order,
        lines.map((line) => ({ line, counted: "2" })),
      ),
    );
    use(500); // 640 are left
    expect(refusal(undo(lastReceipt()))).toEqual([
      "lines.1.quantity: Hydraulic oil: 240 L are there, 400 needed: 1 drum can be.",
    ]);
    must(undo(lastReceipt(), { 0: "2", 1: "1" }));
    expect(stockAt(h, "OIL").quantity).toBe(40);
  });

  it("is refused of another dock, of an order that was closed, beyond what is left, and twice at once", async () => {
    const { order, lines } = await oil();
    must(countIn(h, order, [{ line: lines[0], counted: "2" }]));
    const receipt = lastReceipt();
    expect(refusal(undo(receipt, null, "joss"))).toEqual(["Your role does not allow this."]);
    expect(refusal(undo(receipt, { 0: "3" }))).toEqual(["lines.0.quantity: Only 2 of it is not undone yet."]);
    expect(
      refusal(
        undoReceipt(h.desk("tobias"), {
          receipt,
          reason: "counted wrong",
          lines: [{ line: readUndoable(h.db, receipt)[0]!.id, seen: 10_000, quantity: "1" }],
        }),
      ),
    ).toEqual(["Somebody else undid a part of this receipt meanwhile."]);
    sql(h.db, "UPDATE person SET store = ? WHERE login = 'tobias'").run(h.id("store", "HS"));
    expect(refusal(undo(receipt))).toEqual(["This was counted in at Tarn Quay, not at your dock."]);
    sql(h.db, "UPDATE person SET store = NULL WHERE login = 'tobias'").run();
    expect(refusal(undoReceipt(h.desk("tobias"), { receipt, reason: "" }))[0]).toMatch(/Say why/);
  });

  it("of goods that were let in turns back what was let in", async () => {
    const { order, lines } = await placedOrder(h, "BAW", [{ code: "ANO", quantity: "12", price: "31.20" }]);
    must(countIn(h, order, [{ line: lines[0], counted: "15" }]));
    must(decideAsides(h, "keep"));
    expect(lineAt(h, lines[0]!)).toMatchObject({ received: 15 });
    must(undo(lastReceipt()));
    expect(lineAt(h, lines[0]!)).toMatchObject({ received: 12, open: 0 });
    expect(state(order)).toBe("All in");
  });
});
