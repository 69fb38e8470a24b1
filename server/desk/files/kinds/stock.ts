import { faultOf, type Settings } from "../../../../core/needs/run";
import { stock as inStock, quantityText } from "../../../../core/numbers/quantity";
import type { CheckedRow } from "../../../../exchange/csv/table";
import { sql } from "../../../db/open";
import { type Loader, NO_ITEM, NO_STORE } from "../loader";

/** The reorder settings that a row of the stock file names. */
const settingsIn = (v: Record<string, unknown>): Omit<Settings, "used30"> => ({
  policy: v.policy as Settings["policy"],
  reorderPoint: inStock(v.reorder_point as number),
  lot: inStock(v.lot as number),
  level: inStock(v.level as number),
  coverDays: v.cover_days as number,
  maximum: v.maximum === null ? null : inStock(v.maximum as number),
  reviewDays: v.review_days as number,
});

export function stock(l: Loader, rows: CheckedRow[]): void {
  for (const row of rows) {
    const item = l.find(row, "item", "item", NO_ITEM);
    const store = l.find(row, "store", "store", NO_STORE);
    if (l.twice(row, "item", "store") || item === null || store === null) continue;
    const { kind } = sql<{ kind: string }>(l.db, "SELECT kind FROM item WHERE id = ?").get(item)!;
    if (kind !== "stocked") {
      l.fault(row, "item", `This item is of the kind “${kind}” and is not kept in stock.`);
      continue;
    }
    const v = row.values as { on_hand: number };
    const wrong = faultOf(settingsIn(row.values));
    if (wrong) {
      l.fault(row, ...wrong);
      continue;
    }
    const before = sql<{ on_hand: number }>(l.db, "SELECT on_hand FROM item_store WHERE item = ? AND store = ?").get(
      item,
      store,
    );
    l.put(
      before !== undefined,
      `INSERT INTO item_store (item, store, policy, reorder_point, lot, level, cover_days, maximum, review_days, bin, on_hand)
       VALUES (@itemId, @storeId, @policy, @reorder_point, @lot, @level, @cover_days, @maximum, @review_days, @bin, @on_hand)`,
      `UPDATE item_store SET policy = @policy, reorder_point = @reorder_point, lot = @lot, level = @level, cover_days = @cover_days, maximum = @maximum, review_days = @review_days, bin = @bin,
       on_hand = @on_hand WHERE item = @itemId AND store = @storeId`,
      { ...row.values, itemId: item, storeId: store },
    );
    const moved = v.on_hand - (before?.on_hand ?? 0);
    if (moved !== 0) {
      sql(
        l.db,
        "INSERT INTO movement (item, store, day, kind, quantity, note, person, at) VALUES (?, ?, ?, ?, ?, 'from a file', ?, ?)",
      ).run(item, store, l.desk.day, before ? "count" : "opening", moved, l.desk.person.id, l.desk.now);
    }
  }
}

/** Says which lots what is on hand lies in: goods move between lots and what has none, and the whole stays. */
export function lots(l: Loader, rows: CheckedRow[]): void {
  const move = sql(
    l.db,
    "INSERT INTO movement (item, store, bin, lot, day, kind, quantity, note, person, at) VALUES (?, ?, ?, ?, ?, 'count', ?, 'from a file', ?, ?)",
  );
  for (const row of rows) {
    const item = l.find(row, "item", "item", NO_ITEM);
    const store = l.find(row, "store", "store", NO_STORE);
    if (l.twice(row, "item", "store", "lot", "bin") || item === null || store === null) continue;
    const v = row.values as { lot: string; bin: string; on_hand: number; expires: string | null; held: string };
    const pair = sql<{ onHand: number; inLots: number }>(
      l.db,
      `SELECT p.on_hand AS onHand, coalesce((SELECT sum(s.on_hand) FROM stock_lot s WHERE s.item = p.item AND s.store = p.store), 0) AS inLots
       FROM item_store p WHERE p.item = ? AND p.store = ?`,
    ).get(item, store);
    if (!pair) {
      l.fault(row, "item", "The store does not keep this item. Load the stock first.");
      continue;
    }
    const known = sql<{ id: number }>(l.db, "SELECT id FROM lot WHERE item = ? AND code = ?").get(item, v.lot);
    const lot = sql<{ id: number }>(
      l.db,
      `INSERT INTO lot (item, code, expires, held) VALUES (?, ?, ?, ?)
       ON CONFLICT (item, code) DO UPDATE SET expires = excluded.expires, held = excluded.held RETURNING id`,
    ).get(item, v.lot, v.expires, v.held)!.id;
    const before =
      sql<{ n: number }>(
        l.db,
        "SELECT on_hand AS n FROM stock_lot WHERE item = ? AND store = ? AND bin = ? AND lot = ?",
      ).get(item, store, v.bin, lot)?.n ?? 0;
    const moved = v.on_hand - before;
    if (pair.inLots + moved > pair.onHand) {
      const left = quantityText(pair.onHand - pair.inLots + before);
      l.fault(row, "on_hand", `Only ${left} is on hand for this lot. Load the stock first, or count again.`);
      continue;
    }
    if (moved !== 0) {
      move.run(item, store, v.bin, lot, l.desk.day, moved, l.desk.person.id, l.desk.now);
      move.run(item, store, "", null, l.desk.day, -moved, l.desk.person.id, l.desk.now);
    }
    if (known) l.changed++;
    else l.added++;
  }
}

/** What was used before, day by day, for usage and its spread. What is on hand stays: an opening makes up for it. */
export function usage(l: Loader, rows: CheckedRow[]): void {
  const issue = sql(
    l.db,
    "INSERT INTO movement (item, store, day, kind, quantity, note, person, at) VALUES (?, ?, ?, ?, ?, 'from a file', ?, ?)",
  );
  const made = new Map<string, { item: number; store: number; first: string; sum: number }>();
  for (const row of rows) {
    const item = l.find(row, "item", "item", NO_ITEM);
    const store = l.find(row, "store", "store", NO_STORE);
    if (l.twice(row, "item", "store", "day") || item === null || store === null) continue;
    const v = row.values as { day: string; quantity: number };
    if (v.day > l.desk.day) {
      l.fault(row, "day", "This day is still to come.");
      continue;
    }
    if (!sql(l.db, "SELECT 1 FROM item_store WHERE item = ? AND store = ?").get(item, store)) {
      l.fault(row, "item", "The store does not keep this item. Load the stock first.");
      continue;
    }
    const before = sql<{ n: number | null }>(
      l.db,
      "SELECT -sum(quantity) AS n FROM movement WHERE item = ? AND store = ? AND day = ? AND kind = 'issue'",
    ).get(item, store, v.day)!.n;
    const more = v.quantity - (before ?? 0);
    if (before !== null) l.changed++;
    else l.added++;
    if (more === 0) continue;
    issue.run(item, store, v.day, "issue", -more, l.desk.person.id, l.desk.now);
    const key = `${item}/${store}`;
    const pair = made.get(key) ?? { item, store, first: v.day, sum: 0 };
    made.set(key, { ...pair, first: [v.day, pair.first].sort()[0]!, sum: pair.sum + more });
  }
  for (const { item, store, first, sum } of made.values()) {
    if (sum !== 0) issue.run(item, store, first, "opening", sum, l.desk.person.id, l.desk.now);
  }
}
