import { afterEach, beforeEach, expect, it } from "vitest";
import { sql } from "../../db/open";
import { must, refusal, type TestHouse, testHouse } from "../../testing";
import { readNotices } from "../today/read-notices";
import { chooseSupplier } from "./choose-supplier";

let h: TestHouse;
let line: number;
beforeEach(() => {
  h = testHouse();
  const requisition = sql(
    h.db,
    "INSERT INTO requisition (asker, store, state, started, version) VALUES (?, ?, 'Open', '2026-11-20T08:00:00.000Z', 1)",
  ).run(h.id("person", "joss"), h.id("store", "TQ")).lastInsertRowid;
  line = Number(
    sql(
      h.db,
      "INSERT INTO requisition_line (requisition, position, words, quantity) VALUES (?, 1, 'Crane inspection', 10000)",
    ).run(requisition).lastInsertRowid,
  );
});
afterEach(() => h.close());

const choose = (supplier: number, who = "ines", key?: string) =>
  chooseSupplier(h.desk(who, key), { line, supplier: String(supplier) });
const chosen = () =>
  sql<{ supplier: number | null }>(h.db, "SELECT supplier FROM requisition_line WHERE id = ?").get(line)!.supplier;

it("the buyer says who does a service, and may say another", () => {
  const [ttl, baw] = [h.id("supplier", "TTL"), h.id("supplier", "BAW")];
  must(choose(ttl));
  expect(chosen()).toBe(ttl);
  must(choose(baw));
  expect(chosen()).toBe(baw);
  const [row] = sql<{ act: string; detail: string }>(
    h.db,
    "SELECT act, detail FROM audit ORDER BY id DESC LIMIT 1",
  ).all();
  expect([row!.act, JSON.parse(row!.detail)]).toEqual(["requisition.supplier-chosen", { line, supplier: baw }]);
});

it("nobody else says it, and it is said of what is open alone", () => {
  const ttl = h.id("supplier", "TTL");
  expect(refusal(choose(ttl, "joss"))).toEqual(["Your role does not allow this."]);
  expect(refusal(choose(999))).toEqual(["supplier: There is no such supplier."]);
  sql(h.db, "UPDATE requisition_line SET item = ? WHERE id = ?").run(h.id("item", "OIL"), line);
  expect(refusal(choose(ttl))).toEqual(["This need is not open any more."]); // an item has its suppliers already
  sql(h.db, "UPDATE requisition_line SET item = NULL WHERE id = ?").run(line);
  sql(h.db, "UPDATE requisition SET state = 'Withdrawn'").run();
  expect(refusal(choose(ttl))).toEqual(["This need is not open any more."]);
  expect(chosen()).toBeNull();
});

it("the same answer comes again under the same key, and nothing more is done", () => {
  const ttl = h.id("supplier", "TTL");
  const first = choose(ttl, "ines", "choose-once");
  sql(h.db, "UPDATE requisition_line SET supplier = NULL").run();
  expect(choose(ttl, "ines", "choose-once")).toEqual(first);
  expect(chosen()).toBeNull();
});

it("notices are put away one by one or all at once, by whom they are for", () => {
  const joss = h.id("person", "joss");
  const tell = sql(h.db, "INSERT INTO notice (person, at, text, href) VALUES (?, '2026-11-24', ?, '/today')");
  const [one, two, others] = ["one", "two", "three"].map((text, i) =>
    Number(tell.run(i < 2 ? joss : h.id("person", "ines"), text).lastInsertRowid),
  );
  const unread = () =>
    sql<{ id: number }>(h.db, "SELECT id FROM notice WHERE read IS NULL ORDER BY id")
      .all()
      .map((n) => n.id);
  expect(must(readNotices(h.desk("joss"), { notice: String(others) })).read).toBe(0);
  expect(must(readNotices(h.desk("joss"), { notice: String(one) })).read).toBe(1);
  expect(unread()).toEqual([two, others]);
  expect(must(readNotices(h.desk("joss"), {})).read).toBe(1);
  expect(unread()).toEqual([others]);
});
