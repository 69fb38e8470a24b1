import type { ItemId, StoreId } from "../../../core/ids";
import { type Bin, DOCK, type StowWhy, stowInto } from "../../../core/stock/bins";
import { type Db, sql } from "../../db/open";
import { keptForOthers } from "../consigned/agreement";

/** A bin as the store knows it, however it was typed; null where it has none of that name. */
export const binOf = (db: Db, store: StoreId, code: string): Bin | null =>
  sql<Bin>(db, "SELECT code, walk, closed FROM store_bin WHERE store = ? AND code = ?").get(store, code) ?? null;

/** An item's own bin in a store; the dock where it has none. */
export const ownBin = (db: Db, item: ItemId, store: StoreId): string =>
  sql<{ code: string }>(
    db,
    "SELECT s.code FROM item_store p JOIN store_bin s ON s.store = p.store AND s.code = p.bin WHERE p.item = ? AND p.store = ?",
  ).get(item, store)?.code ?? DOCK;

/** Whose goods lie in a bin, where they are not ours. */
export const othersIn = (db: Db, store: StoreId, bin: string): string | null =>
  sql<{ name: string }>(
    db,
    "SELECT s.name FROM stock_balance b JOIN supplier s ON s.id = b.owner WHERE b.store = ? AND b.bin = ? AND b.owner <> 0 AND b.quantity <> 0 LIMIT 1",
  ).get(store, bin)?.name ?? null;

/** Bins where goods may go, each as it is known; by store, item and lot. `ordered` is what the order last counted in says. */
const CANDIDATES = `
  SELECT coalesce((SELECT s.code FROM movement m JOIN receipt_line x ON x.id = m.receipt_line JOIN order_line l ON l.id = x.order_line
                   JOIN store_bin s ON s.store = m.store AND s.code = l.bin
                   WHERE m.item = @item AND m.store = @store AND m.kind = 'receipt' AND m.bin = '' AND m.lot IS nullif(@lot, 0) ORDER BY m.id DESC LIMIT 1), '') AS ordered,
         coalesce((SELECT s.code FROM item_store p JOIN store_bin s ON s.store = p.store AND s.code = p.bin WHERE p.item = @item AND p.store = @store), '') AS own,
         coalesce((SELECT b.bin FROM stock_balance b WHERE b.item = @item AND b.store = @store AND b.lot = @lot AND b.owner = 0 AND b.bin <> '' AND b.quantity > 0 ORDER BY b.bin LIMIT 1), '') AS sameLot,
         coalesce((SELECT b.bin FROM stock_balance b WHERE b.item = @item AND b.store = @store AND b.owner = 0 AND b.bin <> '' AND b.quantity > 0 ORDER BY b.bin LIMIT 1), '') AS same`;

/** Where goods that lie on the dock go, and why. */
export function binFor(
  db: Db,
  of: { item: ItemId; store: StoreId; lot: number | null },
): { bin: string; why: StowWhy } {
  const candidates = sql<{ ordered: string; own: string; sameLot: string; same: string }>(db, CANDIDATES).get({
    item: of.item,
    store: of.store,
    lot: of.lot ?? 0,
  })!;
  return stowInto(
    candidates,
    (bin) =>
      binOf(db, of.store, bin)?.closed === "" &&
      othersIn(db, of.store, bin) === null &&
      keptForOthers(db, of.store, bin, null) === null,
  );
}

/** A bin as it is kept, with what lies there. */
export interface BinRow extends Bin {
  note: string;
  /** Items that lie in it, and items that have it as their own. */
  items: number;
  own: number;
}

/** All bins of a store. */
export const readBins = (db: Db, store: StoreId): BinRow[] =>
  sql<BinRow>(
    db,
    `SELECT b.code, b.walk, b.closed, b.note, coalesce(l.n, 0) AS items, coalesce(o.n, 0) AS own FROM store_bin b
     LEFT JOIN (SELECT bin, count(DISTINCT item) AS n FROM stock_balance WHERE store = @store AND quantity <> 0 GROUP BY bin) l ON l.bin = b.code
     LEFT JOIN (SELECT bin COLLATE NOCASE AS bin, count(*) AS n FROM item_store WHERE store = @store AND bin <> '' GROUP BY bin COLLATE NOCASE) o ON o.bin = b.code
     WHERE b.store = @store`,
  ).all({ store });
