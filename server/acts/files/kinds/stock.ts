import { faultOf, type Settings } from "../../../../core/needs/run";
import { stock as inStock, quantityText } from "../../../../core/numbers/quantity";
import type { CheckedRow } from "../../../../exchange/csv/table";
import { sql } from "../../../db/open";
import { type Loader, NO_ITEM, NO_STORE, type Values } from "../loader";

/** The columns of the stock file that say when and how much is reordered; the table has them under the same names. */
const REORDERING = ["policy", "reorder_point", "lot", "level", "cover_days", "maximum", "review_days"] as const;

const settingsOf = (v: Values): Omit<Settings, "used30"> => ({
  policy: v.policy as Settings["policy"],
  reorderPoint: inStock(v.reorder_point as number),
  lot: inStock(v.lot as number),
  level: inStock(v.level as number),
  coverDays: v.cover_days as number,
  maximum: v.maximum === null ? null : inStock(v.maximum as number),
  reviewDays: v.review_days as number,
});

export function stockOnHand(l: Loader, rows: CheckedRow[]): void {
  for (const row of l.each(rows)) {
    const item = l.find(row, "item", "item", NO_ITEM);
    const store = l.find(row, "store", "store", NO_STORE);
    if (l.twice(row, "item", "store") || item === null || store === null) continue;
    const { kind } = sql<{ kind: string }>(l.db, "SELECT kind FROM item WHERE id = ?").get(item)!;
    if (kind !== "stocked") {
      l.fault(row, "item", `This item is of the kind “${kind}” and is not kept in stock.`);
      continue;
    }
    const v = row.values as Values & { on_hand: number };
    const known = sql<Values>(
      l.db,
      `SELECT ${REORDERING.join(", ")}, (SELECT coalesce(sum(s.on_hand), 0) FROM stock_lot s WHERE s.item = p.item AND s.store = p.store) AS inLots
       FROM item_store p WHERE item = ? AND store = ?`,
    ).get(item, store);
    const settings = Object.fromEntries(REORDERING.map((c) => [c, l.holds(c, v[c]!, known?.[c])]));
    const wrong = faultOf(settingsOf(settings));
    if (wrong) {
      l.fault(row, ...wrong);
      continue;
    }
    const inLots = (known?.inLots as number | undefined) ?? 0;
    if (v.on_hand < inLots) {
      l.fault(row, "on_hand", `${quantityText(inLots)} of it lie in lots. Load the lots first, or count them.`);
      continue;
    }
    const fields = [...REORDERING, "bin", "on_hand"].map((c) => [c, [c, v[c]!]] as const);
    const before = l.keep(row, "item_store", { item, store }, Object.fromEntries(fields) as never);
    const moved = v.on_hand - ((before?.on_hand as number | undefined) ?? 0);
    if (moved !== 0) {
      sql(
        l.db,
        "INSERT INTO movement (item, store, day, kind, quantity, note, person, at) VALUES (?, ?, ?, ?, ?, 'from a file', ?, ?)",
      ).run(item, store, l.desk.day, before ? "count" : "opening", moved, l.desk.person.id, l.desk.now);
    }
  }
}

/**
 * Says which lots what is on hand lies in: goods move between lots and what has none, and the whole stays. What is known
 * of a lot itself, its last day and why it is held, holds in every store: one row that says it is enough, and a lot is
 * released only by rows of every store where it lies.
 */
export function lots(l: Loader, rows: CheckedRow[]): void {
  const move = sql(
    l.db,
    "INSERT INTO movement (item, store, bin, lot, day, kind, quantity, note, person, at) VALUES (?, ?, ?, ?, ?, 'count', ?, 'from a file', ?, ?)",
  );
  const expires = l.across(rows, ["item", "lot"], "expires");
  const held = l.across(rows, ["item", "lot"], "held");
  const named = new Set(rows.map((r) => [r.values.item, r.values.lot, r.values.store].join("\u0000").toLowerCase()));
  const kept = new Map<string, number>();
  for (const row of l.each(rows)) {
    const item = l.find(row, "item", "item", NO_ITEM);
    const store = l.find(row, "store", "store", NO_STORE);
    if (l.twice(row, "item", "store", "lot", "bin") || item === null || store === null) continue;
    const v = row.values as { lot: string; bin: string; on_hand: number };
    const pair = sql<{ onHand: number; inLots: number }>(
      l.db,
      `SELECT p.on_hand AS onHand, coalesce((SELECT sum(s.on_hand) FROM stock_lot s WHERE s.item = p.item AND s.store = p.store), 0) AS inLots
       FROM item_store p WHERE p.item = ? AND p.store = ?`,
    ).get(item, store);
    if (!pair) {
      l.fault(row, "item", "The store does not keep this item. Load the stock first.");
      continue;
    }
    let lot = kept.get(`${item}/${v.lot}`);
    if (lot === undefined) {
      const why = held(row) as string;
      const stays = why === "" && l.given.has("held") ? heldElsewhere(l, row, item, named) : null;
      if (stays) l.note(row, "held", stays.says);
      l.keep(
        row,
        "lot",
        { item, code: v.lot },
        { expires: ["expires", expires(row)], held: ["held", stays ? stays.held : why] },
      );
      lot = sql<{ id: number }>(l.db, "SELECT id FROM lot WHERE item = ? AND code = ?").get(item, v.lot)!.id;
      kept.set(`${item}/${v.lot}`, lot);
    }
    const before =
      sql<{ n: number }>(
        l.db,
        "SELECT on_hand AS n FROM stock_lot WHERE item = ? AND store = ? AND bin = ? AND lot = ?",
      ).get(item, store, v.bin, lot)?.n ?? null;
    const moved = v.on_hand - (before ?? 0);
    if (pair.inLots + moved > pair.onHand) {
      const left = quantityText(pair.onHand - pair.inLots + (before ?? 0));
      l.fault(row, "on_hand", `Only ${left} is on hand for this lot. Load the stock first, or count again.`);
      continue;
    }
    if (moved !== 0) {
      move.run(item, store, v.bin, lot, l.desk.day, moved, l.desk.person.id, l.desk.now);
      move.run(item, store, "", null, l.desk.day, -moved, l.desk.person.id, l.desk.now);
    }
    if (before === null) l.mark(row, "added");
    else if (moved === 0) l.mark(row, "same");
    else l.differs(row, "on_hand", before, v.on_hand);
  }
}

/** A lot that is held, and lies in a store that the file does not name: it stays so. Null where the file may release it. */
function heldElsewhere(l: Loader, row: CheckedRow, item: number, named: ReadonlySet<string>) {
  const known = sql<{ id: number; held: string }>(
    l.db,
    "SELECT id, held FROM lot WHERE item = ? AND code = ? AND held <> ''",
  ).get(item, row.values.lot);
  if (!known) return null;
  const elsewhere = sql<{ code: string }>(
    l.db,
    "SELECT DISTINCT t.code FROM stock_lot s JOIN store t ON t.id = s.store WHERE s.lot = ? AND s.on_hand > 0 ORDER BY t.code",
  )
    .all(known.id)
    .filter((s) => !named.has([row.values.item, row.values.lot, s.code].join("\u0000").toLowerCase()));
  if (elsewhere.length === 0) return null;
  const where = elsewhere.map((s) => s.code).join(", ");
  return {
    held: known.held,
    says: `Stays held (${known.held}): it lies in ${where}, too, which the file does not name.`,
  };
}

/** What was used before, day by day, for usage and its spread. What is on hand stays: an opening makes up for it. */
export function usage(l: Loader, rows: CheckedRow[]): void {
  const issue = sql(
    l.db,
    "INSERT INTO movement (item, store, day, kind, quantity, note, person, at) VALUES (?, ?, ?, ?, ?, 'from a file', ?, ?)",
  );
  const made = new Map<string, { item: number; store: number; first: string; sum: number }>();
  for (const row of l.each(rows)) {
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
    if (before === null) l.mark(row, "added");
    else if (more === 0) l.mark(row, "same");
    else l.differs(row, "quantity", before, v.quantity);
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
