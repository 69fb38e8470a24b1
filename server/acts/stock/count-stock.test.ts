import { afterEach, beforeEach, expect, it } from "vitest";
import { sql } from "../../db/open";
import { brokenTruths } from "../../queries/always-true";
import { readStockCount } from "../../queries/stock/stock-counts";
import { must, type TestHouse, testHouse } from "../../testing";
import { stockAt } from "../receiving/testing";
import { addBins } from "./bins";
import { bookCount, dropCount, handInCount, judgeCount, startCount } from "./count-stock";
import { issueGoods } from "./issue-goods";
import { moveGoods } from "./move-goods";
import { lying, says } from "./testing";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
  must(addBins(h.desk("tobias"), { store: quay(), from: "A1", to: "A12" }));
  const rows = [
    { item: h.id("item", "ANO"), from: "", to: "A2", quantity: "40" },
    { item: h.id("item", "ANO"), from: "", to: "A10", quantity: "20" },
    { item: h.id("item", "OIL"), from: "", to: "A11", quantity: "340" },
  ];
  must(moveGoods(h.desk("tobias"), { store: quay(), rows }));
});
afterEach(() => {
  expect(brokenTruths(h.db)).toEqual([]);
  h.close();
});
const quay = () => h.id("store", "TQ");
const start = (more: object = {}) => startCount(h.desk("tobias"), { store: quay(), blind: true, ...more });
const seen = (count: number, who: string, judges = false) =>
  readStockCount(h.db, count, { person: h.id("person", who), judges, values: judges })!;
const counts = (count: number, figures: string[], who = "tobias") =>
  handInCount(h.desk(who), {
    count,
    rows: seen(count, who).lines.map((l, i) => ({ line: l.id, counted: figures[i] ?? "" })),
  });
const judge = (count: number, what: string, who = "ines", reason = "") =>
  judgeCount(h.desk(who), {
    count,
    reason,
    rows: seen(count, who, true)
      .lines.filter((l) => l.books && l.counted !== l.books.lay && l.counted !== null)
      .map((l) => ({ line: l.id, what, seen: l.counted })),
  });
const version = (count: number) =>
  sql<{ version: number }>(h.db, "SELECT version FROM stock_count WHERE id = ?").get(count)!.version;

it("a count lists what lies in a range of bins or of a group, as one walks, and no place stands on two lists", () => {
  const all = must(start());
  expect(seen(all.count, "tobias").lines.map((l) => [l.code, l.bin])).toEqual([
    ["ROP", ""],
    ["ANO", "A2"],
    ["ANO", "A10"],
    ["OIL", "A11"],
  ]);
  expect(says(start({ from: "A10" }))).toBe(
    "Some of it stands on count C26-1001 already. Book or drop that one first.",
  );
  must(dropCount(h.desk("ines"), { count: all.count, version: version(all.count), reason: "wrong list" }));
  const some = must(start({ from: "a3", to: "A10" }));
  expect(some.lines).toBe(1);
  expect(seen(some.count, "tobias").head.what).toBe("bins a3 to A10");
  expect(says(start({ from: "A1", to: "A1" }))).toBe("Nothing lies there to be counted.");
  expect(says(start({ category: "Rope" }))).toBe("Nothing lies there to be counted.");
});

it("blind, the books stay closed until it is counted; differences are judged by somebody else, and booked with their value", () => {
  const { count } = must(start({ from: "A1", to: "A12" }));
  expect(seen(count, "tobias").lines.every((l) => l.books === null && l.value === null)).toBe(true);
  expect(seen(count, "ines", true).lines.every((l) => l.books === null)).toBe(true);
  // Four anodes are issued after the list was made and before it is counted: no difference.
  must(
    issueGoods(h.desk("tobias"), {
      store: quay(),
      reason: "to the workshop",
      rows: [{ item: h.id("item", "ANO"), bin: "A2", quantity: "4" }],
    }),
  );
  expect(must(counts(count, ["36", "17", ""]))).toEqual({ counted: 2, left: 1 });
  expect(seen(count, "tobias").lines.every((l) => l.books === null)).toBe(true);
  expect(says(counts(count, ["36"], "ines"))).toBe("Tobias counted it already.");
  expect(must(counts(count, ["", "", "341.5"], "ines"))).toEqual({ counted: 1, left: 0 });
  const judged = seen(count, "ines", true);
  expect(judged.lines.map((l) => [l.books!.expected / 1e4, l.books!.lay! / 1e4, l.counted! / 1e4])).toEqual([
    [40, 36, 36],
    [20, 20, 17],
    [340, 340, 341.5],
  ]);
  expect(judged.lines.map((l) => l.value)).toEqual([null, -93_60, 4_68]);
  expect(says(bookCount(h.desk("ines"), { count, version: version(count) }))).toBe(
    "2 differences are not decided yet.",
  );
  expect(says(judge(count, "book"))).toBe("You counted this yourself: somebody else decides about it.");
  sql(h.db, "INSERT INTO person_role VALUES (?, 'purchasing lead')").run(h.id("person", "maud"));
  expect(says(judge(count, "leave", "maud"))).toBe("Say why the books stay as they are.");
  must(judge(count, "book", "maud"));
  expect(says(bookCount(h.desk("maud"), { count, version: 1 }))).toBe(
    "Somebody counted or decided meanwhile: look again.",
  );
  expect(must(bookCount(h.desk("maud"), { count, version: version(count) }))).toEqual({
    number: "M26-1003",
    booked: 2,
  });
  expect(lying(h, "ANO")).toEqual({ A2: 36, A10: 17 });
  expect(stockAt(h, "OIL")).toEqual({ quantity: 341.5, value: 340 * 312 + 4_68 });
  expect(says(counts(count, ["1"]))).toBe("Count C26-1001 is booked already.");
});

it("what is found beside the list is counted too; what is to be counted again is open for anybody", () => {
  const { count } = must(start({ from: "A1", to: "A12", blind: false }));
  const found = (more: object) =>
    handInCount(h.desk("tobias"), { count, found: [{ item: h.id("item", "ROP"), bin: "A4", counted: "10", ...more }] });
  expect(says(found({ bin: "Q1" }))).toBe("There is no bin Q1 here.");
  expect(says(found({ item: h.id("item", "ANO"), bin: "a2" }))).toBe("Hull anode in A2 stands on the list.");
  expect(says(found({ counted: "many" }))).toMatch(/number/);
  expect(says(handInCount(h.desk("tobias"), { count }))).toBe("Nothing has been counted yet.");
  must(found({}));
  must(counts(count, ["39", "", "20", "340"]));
  expect(seen(count, "tobias").lines.map((l) => [l.code, l.bin, l.found])).toContainEqual(["ROP", "A4", true]);
  must(judge(count, "again"));
  expect(says(bookCount(h.desk("ines"), { count, version: version(count) }))).toBe(
    "Some of it is to be counted again first.",
  );
  must(counts(count, ["40", "9"], "ines"));
  sql(h.db, "INSERT INTO person_role VALUES (?, 'purchasing lead')").run(h.id("person", "maud"));
  must(judge(count, "book", "maud"));
  // What was issued after it was counted cannot be missing once more.
  must(bookCount(h.desk("maud"), { count, version: version(count) }));
  expect(lying(h, "ROP")).toEqual({ "": 440, A4: 9 });
});

it("a difference that goods moved away meanwhile is counted again", () => {
  const { count } = must(start({ from: "A2", to: "A2" }));
  must(counts(count, ["0"]));
  must(
    moveGoods(h.desk("tobias"), {
      store: quay(),
      rows: [{ item: h.id("item", "ANO"), from: "A2", to: "A3", quantity: "30" }],
    }),
  );
  must(judge(count, "book"));
  expect(says(bookCount(h.desk("ines"), { count, version: version(count) }))).toBe(
    "Of Hull anode in A2 only 10 are left by now: count it again.",
  );
  expect(lying(h, "ANO")).toEqual({ A2: 10, A3: 30, A10: 20 });
});
