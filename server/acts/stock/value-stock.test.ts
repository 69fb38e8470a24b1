import { afterEach, beforeEach, expect, it } from "vitest";
import { sql } from "../../db/open";
import { brokenTruths } from "../../queries/always-true";
import { type TestHouse, TODAY, testHouse } from "../../testing";
import { move } from "./stock";
import { valueStock } from "./value-stock";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => h.close());

const by = { day: TODAY, now: `${TODAY}T06:00:00.000Z`, person: null };
const worthOf = (item: string, store: string) =>
  sql<{ value: number }>(h.db, "SELECT value FROM item_store WHERE item = ? AND store = ?").get(
    h.id("item", item),
    h.id("store", store),
  )!.value;
const posted = () =>
  sql<{ kind: string; role: string; minor: number }>(
    h.db,
    "SELECT e.kind, p.role, p.minor FROM posting p JOIN posting_entry e ON e.id = p.entry ORDER BY p.entry, p.position",
  ).all();

/** What lay there before values were kept: it has none. */
function unvalued(item: string, store: string, quantity: number): void {
  sql(h.db, "UPDATE company SET valued = NULL").run();
  move(h.db, by, { item: h.id("item", item), store: h.id("store", store), quantity, kind: "opening" }, quantity, 0);
}

it("stock of before is worth its reference cost once, with one entry for all of it", () => {
  const before = posted();
  unvalued("ROP", "HS", 12_5000);
  unvalued("OIL", "HS", 3_3333);
  expect(valueStock(h.db, by)).toBe(2);
  // 12.5 m at 5.90, and 3.3333 L at 3.12, which is 10.399896.
  expect([worthOf("ROP", "HS"), worthOf("OIL", "HS")]).toEqual([7_375, 1_040]);
  expect(posted().slice(before.length)).toEqual([
    { kind: "opening", role: "stock", minor: 8_415 },
    { kind: "opening", role: "opening", minor: -8_415 },
  ]);
  expect(brokenTruths(h.db)).toEqual([]);
  const after = posted();
  expect(valueStock(h.db, by)).toBe(0);
  expect(posted()).toEqual(after);
});

it("what nobody knows the cost of is worth nothing, and is not asked about again", () => {
  const before = posted();
  sql(h.db, "UPDATE item SET reference_cost = NULL WHERE code = 'ROP'").run();
  unvalued("ROP", "HS", 10_0000);
  expect(valueStock(h.db, by)).toBe(0);
  expect(posted()).toEqual(before);
  expect(sql<{ valued: string }>(h.db, "SELECT valued FROM company").get()!.valued).toBe(by.now);
});
