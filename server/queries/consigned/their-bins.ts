import type { ItemId, StoreId, SupplierId } from "../../../core/ids";
import { DOCK } from "../../../core/stock/bins";
import { type Db, sql } from "../../db/open";
import { binOf, ownBin } from "../stock/bins";
import { keptFor, keptForOthers } from "./agreement";

/** Do goods of another supplier lie in a bin? */
const othersThere = (db: Db, store: StoreId, bin: string, owner: SupplierId): boolean =>
  sql(
    db,
    "SELECT 1 FROM stock_balance WHERE store = ? AND bin = ? AND owner <> ? AND owner <> 0 AND quantity > 0 LIMIT 1",
  ).get(store, bin, owner) !== undefined;

/**
 * Where a supplier's goods of an item go where nobody says: where those of the lot, then of the item, lie already; else the
 * item's own bin; else the first that is kept for them; else the dock.
 */
export function usualBinOfTheirs(
  db: Db,
  of: { item: ItemId; store: StoreId; lot: number | null; owner: SupplierId },
): string {
  const { store, owner } = of;
  const lies = sql<{ bin: string }>(
    db,
    "SELECT bin FROM stock_balance WHERE item = @item AND store = @store AND owner = @owner AND quantity > 0 AND bin <> '' ORDER BY lot = coalesce(@lot, 0) DESC, bin LIMIT 1",
  ).get(of)?.bin;
  const kept = keptFor(db, store).find((k) => k.supplier === owner && k.place === "bins")?.from;
  const may = (b: string) =>
    binOf(db, store, b)?.closed === "" &&
    keptForOthers(db, store, b, owner) === null &&
    !othersThere(db, store, b, owner);
  const code = [lies, ownBin(db, of.item, store), kept].find((b) => b !== undefined && b !== DOCK && may(b));
  return code === undefined ? DOCK : binOf(db, store, code)!.code;
}
