import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { toDay } from "../../../core/calendar/day";
import type { ItemId, SupplierId } from "../../../core/ids";
import { sql } from "../../db/open";
import { type TestHouse, testHouse } from "../../testing";
import { readAskedPrices, readLists, readMovedPrices } from "./lists";

const SPAN = { from: toDay("2025-11-25"), until: toDay("2026-11-24") };
let h: TestHouse;
let supplier: SupplierId;
let item: ItemId;

/** A list that rose by 5 % in April, of which three drums came, one of them undone. */
beforeAll(() => {
  h = testHouse();
  supplier = h.id("supplier", "TTL") as SupplierId; // an id by its code
  item = h.id("item", "OIL") as ItemId; // the same
  const sourcing = sql<{ id: number }>(h.db, "SELECT id FROM sourcing WHERE supplier = ? AND item = ?").get(
    supplier,
    item,
  )!.id;
  sql(h.db, "UPDATE sourcing SET factor = 2000000, standing_discount = 200 WHERE id = ?").run(sourcing);
  sql(h.db, "DELETE FROM price_break WHERE sourcing = ?").run(sourcing);
  const add = sql(
    h.db,
    "INSERT INTO price_break (sourcing, from_quantity, price, valid_from, valid_to) VALUES (?, ?, ?, ?, ?)",
  );
  add.run(sourcing, 10_000, 600_000_000, null, "2026-03-31");
  add.run(sourcing, 10_000, 630_000_000, "2026-04-01", null);
  add.run(sourcing, 100_000, 500_000_000, null, null);
  const store = sql<{ id: number }>(h.db, "SELECT id FROM store ORDER BY id").get()!.id;
  const at = "2026-05-04T09:00:00.000Z";
  const order = sql(
    h.db,
    `INSERT INTO purchase_order (number, supplier, store, currency, writer, stage, required, written, placed, rate)
     VALUES ('26-77', ?, ?, 'EUR', ?, 'placed', '2026-05-10', ?, ?, 1000000)`,
  ).run(supplier, store, h.id("person", "ines"), at, at).lastInsertRowid;
  const line = sql(
    h.db,
    `INSERT INTO order_line (purchase_order, position, item, words, unit, factor, quantity, price, price_source, store)
     VALUES (?, 1, ?, 'Oil', 'XDR', 2000000, 30000, 630000000, '{"kind":"typed"}', ?)`,
  ).run(order, item, store).lastInsertRowid;
  const receipt = sql(
    h.db,
    "INSERT INTO receipt (number, purchase_order, store, person, day, at) VALUES ('D26-77', ?, ?, ?, '2026-05-10', ?)",
  ).run(order, store, h.id("person", "tobias"), at).lastInsertRowid;
  sql(
    h.db,
    "INSERT INTO receipt_line (receipt, order_line, quantity, stock_quantity, value, home_value) VALUES (?, ?, 30000, 6000000, 185220, 185220)",
  ).run(receipt, line);
});
afterAll(() => h.close());

describe("whose list went up", () => {
  it("weighs prices of both days by what was bought, net of the standing discount", () => {
    const list = readLists(h.db, SPAN).find((l) => l.supplier === supplier)!;
    // 3 drums at 600 and 630, less 2 %.
    expect(list).toMatchObject({ up: 1, down: 0, before: 176_400, now: 185_220, moved: 500, more: 8_820 });
    expect(readMovedPrices(h.db, supplier, SPAN)).toEqual({
      found: 1,
      prices: [
        expect.objectContaining({
          item,
          before: 600_000_000,
          now: 630_000_000,
          bought: 30_000,
          moved: 500,
          more: 8_820,
        }),
      ],
    });
  });

  it("says nothing of days on which a list had no price, and nothing where nothing was bought", () => {
    const after = { from: toDay("2026-06-01"), until: toDay("2026-11-24") };
    const list = readLists(h.db, after).find((l) => l.supplier === supplier)!;
    expect(list).toMatchObject({ up: 0, before: 0, now: 0, moved: null, more: 0 });
    sql(h.db, "UPDATE price_break SET valid_to = '2026-04-30' WHERE valid_from = '2026-04-01'").run();
    const gone = readLists(h.db, SPAN).find((l) => l.supplier === supplier);
    expect(gone?.up ?? 0).toBe(0);
    sql(h.db, "UPDATE price_break SET valid_to = NULL WHERE valid_from = '2026-04-01'").run();
  });

  it("knows what is asked for an item, the list of before, too", () => {
    const asked = readAskedPrices(h.db, item).filter((a) => a.kind === "list" && a.factor === 2_000_000);
    expect(asked.map((a) => [a.price, a.from, a.until])).toEqual([
      [630_000_000, "2026-04-01", null],
      [600_000_000, null, "2026-03-31"],
      [500_000_000, null, null],
    ]);
  });
});
