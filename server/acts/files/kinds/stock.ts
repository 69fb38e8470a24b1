import type { Day } from "../../../../core/calendar/day";
import type { ItemId, StoreId } from "../../../../core/ids";
import { faultOf, type Settings } from "../../../../core/needs/run";
import { stock as inStock, quantityText } from "../../../../core/numbers/quantity";
import { DOCK } from "../../../../core/stock/bins";
import { pickFrom } from "../../../../core/stock/pick";
import { stockPostings } from "../../../../core/stock/posting";
import type { RowOf, RowsOf } from "../../../../exchange/csv/kinds";
import type { CheckedRow } from "../../../../exchange/csv/table";
import { type Db, sql } from "../../../db/open";
import { binOf, ownBin } from "../../../queries/stock/bins";
import { lyingAt } from "../../stock/pick";
import { openEntry, post } from "../../stock/post";
import { adjust, move } from "../../stock/stock";
import { lyingIn } from "../../stock/stock-paper";
import { alike, type Loader, NO_ITEM, NO_STORE } from "../loader";

/** The columns of the stock file that say when and how much is reordered; the table has them under the same names. */
const REORDERING = ["policy", "reorder_point", "lot", "level", "cover_days", "maximum", "review_days"] as const;

type Reordering = Pick<RowOf<"stock">, (typeof REORDERING)[number]>;

const settingsOf = (v: Reordering): Omit<Settings, "used30"> => ({
  policy: v.policy,
  reorderPoint: inStock(v.reorder_point),
  lot: inStock(v.lot),
  level: inStock(v.level),
  coverDays: v.cover_days,
  maximum: v.maximum === null ? null : inStock(v.maximum),
  reviewDays: v.review_days,
});

const NOTE = "from a file";

export function stockOnHand(l: Loader, rows: RowsOf<"stock">): void {
  // All that a file counts is one entry of the journal, and all that it opens another.
  const entries: Record<"count" | "opening", { entry?: number; value: number }> = {
    count: { value: 0 },
    opening: { value: 0 },
  };
  for (const row of l.each(rows)) {
    const item = l.find(row, "item", "item", NO_ITEM);
    const store = l.find(row, "store", "store", NO_STORE);
    if (l.twice(row, "item", "store") || item === null || store === null) continue;
    const { kind } = sql<{ kind: string }>(l.db, "SELECT kind FROM item WHERE id = ?").get(item)!;
    if (kind !== "stocked") {
      l.fault(row, "item", `This item is of the kind “${kind}” and is not kept in stock.`);
      continue;
    }
    const v = row.values;
    const known = sql<RowOf<"stock"> & { onHand: number; inLots: number }>(
      l.db,
      `SELECT ${REORDERING.join(", ")}, on_hand AS onHand, (SELECT coalesce(sum(s.on_hand), 0) FROM stock_lot s WHERE s.item = p.item AND s.store = p.store) AS inLots
       FROM item_store p WHERE item = ? AND store = ?`,
    ).get(item, store);
    const held = <C extends keyof Reordering>(c: C) => l.holds(c, v[c], known?.[c]);
    const wrong = faultOf(
      settingsOf({
        policy: held("policy"),
        reorder_point: held("reorder_point"),
        lot: held("lot"),
        level: held("level"),
        cover_days: held("cover_days"),
        maximum: held("maximum"),
        review_days: held("review_days"),
      }),
    );
    if (wrong) {
      l.fault(row, ...wrong);
      continue;
    }
    const inLots = known?.inLots ?? 0;
    if (v.on_hand < inLots) {
      l.fault(row, "on_hand", `${quantityText(inLots)} of it lie in lots. Load the lots first, or count them.`);
      continue;
    }
    const onHand = known?.onHand ?? 0;
    const before = l.keep(row, "item_store", { item, store }, alike(v, ...REORDERING, "bin"));
    if (v.on_hand === onHand) continue;
    const why = before ? "count" : "opening";
    entries[why].entry ??= openEntry(l.db, l.desk, why);
    const { entry } = entries[why];
    entries[why].value += adjust(l.db, l.desk, { item, store, kind: why, note: NOTE, entry }, v.on_hand - onHand);
    l.differs(row, "on_hand", onHand, v.on_hand);
  }
  for (const [kind, { entry, value }] of Object.entries(entries))
    if (entry !== undefined)
      post(l.db, entry, stockPostings(value, kind === "opening" ? "opening" : "stock difference"));
}

/**
 * Says which lots what is on hand lies in: goods move between lots and what has none, and the whole stays. What is known
 * of a lot itself, its last day and why it is held, holds in every store: one row that says it is enough, and a lot is
 * released only by rows of every store where it lies.
 */
export function lots(l: Loader, rows: RowsOf<"lots">): void {
  const expires = l.across(rows, ["item", "lot"], "expires");
  const held = l.across(rows, ["item", "lot"], "held");
  const named = new Set(rows.map((r) => [r.values.item, r.values.lot, r.values.store].join("\u0000").toLowerCase()));
  const kept = new Map<string, number>();
  for (const row of l.each(rows)) {
    const item = l.find(row, "item", "item", NO_ITEM);
    const store = l.find(row, "store", "store", NO_STORE);
    if (l.twice(row, "item", "store", "lot", "bin") || item === null || store === null) continue;
    const v = row.values;
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
      const why = held(row);
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
    const bin = binNamed(l.db, { item, store, lot }, v.bin);
    const before =
      sql<{ n: number }>(
        l.db,
        "SELECT on_hand AS n FROM stock_lot WHERE item = ? AND store = ? AND bin = ? AND lot = ?",
      ).get(item, store, bin, lot)?.n ?? null;
    const moved = v.on_hand - (before ?? 0);
    if (pair.inLots + moved > pair.onHand) {
      const left = quantityText(pair.onHand - pair.inLots + (before ?? 0));
      l.fault(row, "on_hand", `Only ${left} is on hand for this lot. Load the stock first, or count again.`);
      continue;
    }
    if (moved !== 0) {
      // It only lies elsewhere: what it is worth stays.
      const goes = { item, store, kind: "count" as const, quantity: Math.abs(moved), note: NOTE };
      move(l.db, l.desk, { ...goes, bin, lot }, moved, 0);
      if (moved < 0) move(l.db, l.desk, { ...goes, bin }, -moved, 0);
      else
        for (const p of pickFrom(ofNoLot(l, item, store), moved, "any")!)
          move(l.db, l.desk, { ...goes, bin: p.bin }, -p.quantity, 0);
    }
    if (before === null) l.mark(row, "added");
    else if (moved === 0) l.mark(row, "same");
    else l.differs(row, "on_hand", before, v.on_hand);
  }
}

/** What of an item lies in a store without a lot. */
const ofNoLot = (l: Loader, item: ItemId, store: StoreId) =>
  lyingAt(l.db, item, store, l.desk.day).filter((x) => x.lot === null);

/**
 * The bin that a row names, made where the store does not have it. Where it names none, the lot lies where it is: on the
 * dock, if it is there, else in the item's own bin.
 */
function binNamed(db: Db, of: { item: ItemId; store: StoreId; lot: number }, named: string): string {
  if (named === DOCK) return lyingIn(db, { ...of, bin: DOCK }) !== 0 ? DOCK : ownBin(db, of.item, of.store);
  sql(db, "INSERT OR IGNORE INTO store_bin (store, code) VALUES (?, ?)").run(of.store, named);
  return binOf(db, of.store, named)!.code;
}

/** A lot that is held, and lies in a store that the file does not name: it stays so. Null where the file may release it. */
function heldElsewhere(l: Loader, row: CheckedRow<RowOf<"lots">>, item: ItemId, named: ReadonlySet<string>) {
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
export function usage(l: Loader, rows: RowsOf<"usage">): void {
  const made = new Map<string, { item: ItemId; store: StoreId; used: { day: Day; quantity: number }[] }>();
  for (const row of l.each(rows)) {
    const item = l.find(row, "item", "item", NO_ITEM);
    const store = l.find(row, "store", "store", NO_STORE);
    if (l.twice(row, "item", "store", "day") || item === null || store === null) continue;
    const v = row.values;
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
    const key = `${item}/${store}`;
    const pair = made.get(key);
    if (pair) pair.used.push({ day: v.day, quantity: more });
    else made.set(key, { item, store, used: [{ day: v.day, quantity: more }] });
  }
  for (const { item, store, used } of made.values()) keepUsed(l, item, store, used);
}

/** What was used before it was counted is worth nothing in our books, and so is the opening that makes up for it. */
function keepUsed(l: Loader, item: ItemId, store: StoreId, used: readonly { day: Day; quantity: number }[]): void {
  const sum = used.reduce((a, u) => a + u.quantity, 0);
  const first = used.map((u) => u.day).sort()[0]!;
  const issues = used.map((u) => ({ day: u.day, kind: "issue" as const, by: -u.quantity }));
  const opening = { day: first, kind: "opening" as const, by: sum };
  // What raises the stock stands first: it never falls below nothing.
  for (const m of [...issues, opening].filter((m) => m.by !== 0).sort((a, b) => b.by - a.by))
    move(l.db, { ...l.desk, day: m.day }, { item, store, kind: m.kind, quantity: Math.abs(m.by), note: NOTE }, m.by, 0);
}
