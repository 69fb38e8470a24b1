import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { sql } from "../../db/open";
import { brokenTruths } from "../../queries/always-true";
import { must, refusal, type TestHouse, TODAY, testHouse } from "../../testing";
import { dropTolerance, keepTolerance } from "./keep-tolerance";
import { countIn, lineAt, placedOrder, stockAt } from "./testing";
import { decideAsides, waitingAsides } from "./testing-asides";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => {
  expect(brokenTruths(h.db)).toEqual([]);
  h.close();
});

const tolerance = (scope: string, values: Record<string, string>, who = "osk") =>
  keepTolerance(h.desk(who), { scope, ...values });
const anodes = (quantity: string) => placedOrder(h, "BAW", [{ code: "ANO", quantity, price: "31.20" }]);
const state = (order: number) =>
  sql<{ state: string }>(h.db, "SELECT state FROM purchase_order WHERE id = ?").get(order)!.state;

describe("tolerances", () => {
  it("keep what is over within them, to the very piece, and let the rest wait", async () => {
    must(tolerance("item", { item: "ANO", overPercent: "5" }));
    must(tolerance("house", { overQuantity: "3" }));
    const { order, lines } = await anodes("48");
    const [line] = lines;
    const before = stockAt(h, "ANO");
    must(countIn(h, order, [{ line, counted: "51" }]));
    expect(lineAt(h, line!)).toEqual({ received: 50, letOff: 0, open: 0, aside: 1 });
    expect(stockAt(h, "ANO").quantity - before.quantity).toBe(50);
    expect(stockAt(h, "ANO").value - before.value).toBe(50 * 3_120);
    expect(state(order)).toBe("All in");
    expect(waitingAsides(h)).toEqual([{ why: "over", ordered: 0, undecided: 1 }]);
    expect(
      sql(h.db, "SELECT text FROM notice WHERE person = ? ORDER BY id DESC").pluck().get(h.id("person", "ines")),
    ).toMatch(/^Set aside of 26-1001: 1 each of Hull anode, over$/);
  });

  it("let what is missing off, and take it after all when it comes", async () => {
    must(tolerance("supplier", { supplier: "BAW", underPercent: "3" }));
    const { order, lines } = await placedOrder(h, "BAW", [
      { code: "ANO", quantity: "36", price: "31.20" },
      { words: "Backing sheet", kind: "not stocked", quantity: "2", price: "4" },
    ]);
    const [line] = lines;
    must(countIn(h, order, [{ line, counted: "34" }]));
    expect(lineAt(h, line!)).toMatchObject({ received: 34, letOff: 0, open: 1 });
    must(countIn(h, order, [{ line, counted: "1" }]));
    expect(lineAt(h, line!)).toMatchObject({ received: 35, letOff: 1, open: 0 });
    must(countIn(h, order, [{ line, counted: "1" }]));
    expect(lineAt(h, line!)).toMatchObject({ received: 36, letOff: 0, open: 0 });
    must(countIn(h, order, [{ line: lines[1], counted: "2" }]));
    expect(state(order)).toBe("All in");
  });

  it("refuse what is beyond where they say so, or keep all of it", async () => {
    must(tolerance("item at supplier", { item: "ANO", supplier: "BAW", beyond: "refuse" }));
    const { order, lines } = await anodes("12");
    must(countIn(h, order, [{ line: lines[0], counted: "20" }]));
    expect(lineAt(h, lines[0]!)).toMatchObject({ received: 12, aside: 0 });
    expect(sql(h.db, "SELECT what, quantity / 10000 AS n FROM set_aside_decision").all()).toEqual([
      { what: "turned away", n: 8 },
    ]);
    const second = await anodes("12");
    must(tolerance("order line", { order: String(second.order), position: "1", beyond: "keep" }, "ines"));
    must(countIn(h, second.order, [{ line: second.lines[0], counted: "20" }]));
    expect(lineAt(h, second.lines[0]!)).toMatchObject({ received: 20, aside: 0 });
  });

  it("ask about goods that come too early", async () => {
    must(tolerance("house", { earlyDays: "5" }));
    const { order, lines } = await anodes("12"); // due in twelve days
    must(countIn(h, order, [{ line: lines[0], counted: "12" }]));
    expect(lineAt(h, lines[0]!)).toMatchObject({ received: 0, open: 1, aside: 12 });
    expect(waitingAsides(h)).toEqual([{ why: "early", ordered: 0, undecided: 12 }]);
    must(decideAsides(h, "keep"));
    expect(lineAt(h, lines[0]!)).toMatchObject({ received: 12, open: 0, aside: 0 });
    expect(sql(h.db, "SELECT over FROM receipt_line").pluck().all()).toEqual([0]);
  });

  it("are refused where they name nothing, say nothing, stand twice, or are not one’s to keep", async () => {
    expect(refusal(tolerance("item", { item: "NONE", overPercent: "5" }))).toEqual(["item: There is no such item."]);
    expect(refusal(tolerance("category", { category: "rigging", overPercent: "5" }))).toEqual([
      "category: No item is of this category.",
    ]);
    expect(refusal(tolerance("house", {}))).toEqual([
      "overPercent: Set at least one value; what is empty is looked up further.",
    ]);
    expect(refusal(tolerance("house", { overPercent: "-1" }))).toEqual(["overPercent: Between 0 and 1,000 percent."]);
    const { tolerance: id } = must(tolerance("house", { overPercent: "2" }));
    expect(refusal(tolerance("house", { overPercent: "3" }))).toEqual([
      "scope: There is one for this already: change that one.",
    ]);
    must(tolerance("house", { tolerance: String(id), overPercent: "3" }));
    expect(refusal(tolerance("house", { overPercent: "2" }, "ines"))).toEqual(["Your role does not allow this."]);
    expect(refusal(dropTolerance(h.desk("tobias"), { tolerance: id }))).toEqual(["Your role does not allow this."]);
    must(dropTolerance(h.desk("osk"), { tolerance: id }));
    expect(refusal(dropTolerance(h.desk("osk"), { tolerance: id }))).toEqual(["There is no such tolerance any more."]);
  });
});

describe("goods that are not good", () => {
  it("meet the order as far as the good leave room, and are neither in stock nor worth anything", async () => {
    const { order, lines } = await anodes("12");
    const before = stockAt(h, "ANO");
    must(countIn(h, order, [{ line: lines[0], counted: "10", faulty: "3", fault: "damaged", note: "bent" }]));
    expect(lineAt(h, lines[0]!)).toEqual({ received: 12, letOff: 0, open: 0, aside: 3 });
    expect(stockAt(h, "ANO").quantity - before.quantity).toBe(10);
    expect(waitingAsides(h)).toEqual([
      { why: "damaged", ordered: 1, undecided: 2 },
      { why: "damaged", ordered: 0, undecided: 1 },
    ]);
  });

  it("are released, in part, at what they are worth", async () => {
    const { order, lines } = await anodes("12");
    const before = stockAt(h, "ANO");
    must(countIn(h, order, [{ line: lines[0], faulty: "12", fault: "papers missing" }]));
    must(decideAsides(h, "keep", { quantity: "5" }));
    expect(stockAt(h, "ANO").value - before.value).toBe(5 * 3_120);
    expect(lineAt(h, lines[0]!)).toMatchObject({ received: 12, aside: 7 });
    must(decideAsides(h, "keep"));
    expect(stockAt(h, "ANO").value - before.value).toBe(12 * 3_120);
    expect(lineAt(h, lines[0]!)).toEqual({ received: 12, letOff: 0, open: 0, aside: 0 });
  });

  it("go back for goods instead, which are due anew, or are closed short for a credit", async () => {
    const { order, lines } = await anodes("12");
    const [line] = lines;
    must(countIn(h, order, [{ line, counted: "7", faulty: "5", fault: "damaged" }]));
    expect(state(order)).toBe("All in");
    expect(refusal(decideAsides(h, "send back", { awaits: "replacement", reason: "bent", quantity: "3" }))).toEqual([
      "due: Say by when the goods instead should be here.",
    ]);
    must(decideAsides(h, "send back", { awaits: "replacement", reason: "bent", quantity: "3", due: "2026-12-15" }));
    expect(lineAt(h, line!)).toEqual({ received: 9, letOff: 0, open: 1, aside: 2 });
    expect(state(order)).toBe("Part in");
    expect(
      sql(
        h.db,
        "SELECT quantity / 10000 AS n, requested FROM order_schedule WHERE order_line = ? ORDER BY position",
      ).all(line),
    ).toMatchObject([{ n: 9 }, { n: 3, requested: "2026-12-15" }]);
    must(decideAsides(h, "send back", { awaits: "credit", reason: "bent" }));
    expect(lineAt(h, line!)).toEqual({ received: 7, letOff: 0, open: 1, aside: 0 });
    must(countIn(h, order, [{ line, counted: "3" }]));
    expect(state(order)).toBe("All in");
    expect(sql(h.db, "SELECT number, awaits, settled FROM goods_return ORDER BY id").all()).toEqual([
      { number: "B26-1001", awaits: "replacement", settled: TODAY },
      { number: "B26-1002", awaits: "credit", settled: null },
    ]);
  });

  it("are scrapped, and the needs behind them are open again", async () => {
    const { order, lines } = await anodes("12");
    must(countIn(h, order, [{ line: lines[0], faulty: "12", fault: "spoilt or expired" }]));
    must(decideAsides(h, "scrap", { reason: "soaked" }));
    expect(lineAt(h, lines[0]!)).toEqual({ received: 0, letOff: 0, open: 0, aside: 0 });
  });

  it("beyond the order wait for no goods instead, are let in by the buyer, and are decided once", async () => {
    const { order, lines } = await anodes("12");
    must(countIn(h, order, [{ line: lines[0], counted: "20" }]));
    expect(
      refusal(decideAsides(h, "send back", { awaits: "replacement", reason: "too many", due: "2026-12-15" })),
    ).toEqual(["awaits: Some of these goods were not ordered, or not yet: nothing comes instead of them."]);
    expect(refusal(decideAsides(h, "keep", { quantity: "9" }))).toEqual([
      "rows.0.quantity: Only 8 of it is undecided.",
    ]);
    expect(refusal(decideAsides(h, "keep", {}, "tobias"))).toEqual(["Your role does not allow this."]);
    const same = decideAsides(h, "keep", { quantity: "3" });
    must(same);
    expect(lineAt(h, lines[0]!)).toMatchObject({ received: 15, aside: 5 });
    expect(refusal(decideAsides(h, "keep", { seen: 80_000 }))).toEqual([
      "Somebody else decided about these goods meanwhile.",
    ]);
    must(decideAsides(h, "send back", { awaits: "nothing", reason: "not ordered" }));
    expect(lineAt(h, lines[0]!)).toMatchObject({ received: 15, aside: 0 });
    expect(sql(h.db, "SELECT settled FROM goods_return").pluck().all()).toEqual([TODAY]);
  });
});

describe("a count", () => {
  it("is held against what the delivery note says came in all", async () => {
    const { order, lines } = await anodes("12");
    const count = (said: Record<string, string>, difference = "") =>
      countIn(h, order, [{ line: lines[0], counted: "11" }], {
        said: { lines: "", pieces: "", weight: "", ...said },
        difference,
      });
    expect(refusal(count({ pieces: "12" }))).toEqual(["difference: The note says 12 pieces, and 11 came. Say why."]);
    must(count({ pieces: "12" }, "one less in the box"));
    expect(sql(h.db, "SELECT said_pieces / 10000 AS said, difference FROM receipt").get()).toEqual({
      said: 12,
      difference: "one less in the box",
    });
  });

  it("of more than anybody can mean, of nothing, or of a strange line is refused", async () => {
    const { order, lines } = await anodes("12");
    const of = (part: Record<string, unknown>) => refusal(countIn(h, order, [{ line: lines[0], ...part }]));
    expect(of({ counted: "1200" })).toEqual(["lines.0.counted: 1200 of 12 ordered is surely a slip."]);
    expect(of({ counted: "" })).toEqual(["Nothing has been counted yet."]);
    expect(of({ counted: "12", faulty: "1" })).toEqual(["lines.0.fault: Say what is wrong with it."]);
    expect(of({ counted: "1", line: 4_711 })).toEqual(["lines.0.counted: This line is not on this order."]);
    expect(
      refusal(
        countIn(h, order, [
          { line: lines[0], counted: "1" },
          { line: lines[0], counted: "1" },
        ]),
      ),
    ).toEqual(["lines.1.counted: A line was counted twice on one sheet."]);
    expect(sql(h.db, "SELECT count(*) FROM receipt").pluck().get()).toBe(0);
  });
});

describe("lots", () => {
  it("are taken in with their last day, and go out by it", async () => {
    sql(h.db, "UPDATE item SET by_lot = 1, shelf_days = 365, least_days = 90 WHERE code = 'OIL'").run();
    const { order, lines } = await placedOrder(h, "TTL", [{ code: "OIL", quantity: "4", price: "624" }]);
    const [line] = lines;
    expect(refusal(countIn(h, order, [{ line, counted: "1", lot: "A7", expires: "2026-11-01" }]))).toEqual([
      "lines.0.expires: It expired 23 days ago: count it as spoilt or expired.",
    ]);
    must(
      countIn(h, order, [
        { line, counted: "2", lot: "A7", expires: "2027-02-01" },
        { line, counted: "1", lot: "A8" },
      ]),
    );
    must(countIn(h, order, [{ line, counted: "1" }]));
    expect(
      sql(
        h.db,
        "SELECT l.code, l.expires, b.quantity / 10000 AS n FROM stock_balance b JOIN lot l ON l.id = b.lot ORDER BY l.id",
      ).all(),
    ).toEqual([
      { code: "A7", expires: "2027-02-01", n: 400 },
      { code: "A8", expires: "2027-11-24", n: 200 },
      { code: "D26-1002", expires: "2027-11-24", n: 200 },
    ]);
  });

  it("of one piece have serial numbers, each once", async () => {
    sql(h.db, "UPDATE item SET by_serial = 1 WHERE code = 'ANO'").run();
    const { order, lines } = await anodes("3");
    const [line] = lines;
    const of = (parts: Record<string, unknown>[]) =>
      countIn(
        h,
        order,
        parts.map((p) => ({ line, counted: "1", ...p })),
      );
    expect(refusal(of([{}]))).toEqual(["lines.0.lot: Each piece has its serial number: scan or type it."]);
    expect(refusal(of([{ lot: "S1", counted: "2" }]))).toEqual(["lines.0.counted: Serial number S1 is one piece."]);
    expect(refusal(of([{ lot: "S1" }, { lot: "s1" }]))).toEqual(["lines.1.counted: Lot s1 stands here twice."]);
    must(of([{ lot: "S1" }, { lot: "S2" }]));
    expect(refusal(of([{ lot: "S2" }]))).toEqual(["lines.0.lot: Serial number S2 is in the books already."]);
    must(of([{ lot: "S3" }]));
  });
});
