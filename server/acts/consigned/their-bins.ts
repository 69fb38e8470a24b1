import type { Day } from "../../../core/calendar/day";
import type { ItemId, StoreId, SupplierId } from "../../../core/ids";
import { DOCK, withinBins } from "../../../core/stock/bins";
import { type Db, sql } from "../../db/open";
import { storeName } from "../../queries/choices";
import { type AgreementHead, keptFor } from "../../queries/consigned/agreement";
import { binOf, ownBin } from "../../queries/stock/bins";
import { type Done, done, refuse } from "../desk";

/** Why goods of an owner (null: ours) are not put into a bin by what is agreed with others; null where they may be. */
export function keptForOthers(
  db: Db,
  store: StoreId,
  bin: string,
  owner: SupplierId | null,
  day: Day | string,
): string | null {
  const of = keptFor(db, store, day).filter((k) => k.place === "store" || (bin !== DOCK && withinBins(bin, k.from, k.to)));
  if (of.length === 0 || of.some((k) => k.supplier === owner)) return null;
  const names = [...new Set(of.map((k) => k.name))].join(" and ");
  return of[0]!.place === "store"
    ? `${storeName(db, store)} is for goods of ${names} alone.`
    : `Bin ${bin} is for goods of ${names} alone.`;
}

/** Whose goods besides these lie in a bin. */
const othersThere = (db: Db, store: StoreId, bin: string, owner: SupplierId): string | null =>
  sql<{ name: string }>(
    db,
    `SELECT coalesce(s.name, 'ours') AS name FROM stock_balance b LEFT JOIN supplier s ON s.id = b.owner
     WHERE b.store = ? AND b.bin = ? AND b.owner <> ? AND b.owner <> 0 AND b.quantity > 0 LIMIT 1`,
  ).get(store, bin, owner)?.name ?? null;

/**
 * The bin into which a supplier's goods are put: as typed, else where their goods of the item and lot lie, else the item's
 * own bin, else the dock; or why they are not. Goods of two suppliers may share a bin only where it is kept for neither.
 */
export function binForTheirs(
  db: Db,
  agreement: Pick<AgreementHead, "store" | "supplier">,
  of: { item: ItemId; lot: number | null },
  typed: string,
  day: Day | string,
  field: string,
): Done<string> {
  const { store, supplier } = agreement;
  if (typed !== DOCK) {
    const bin = binOf(db, store, typed);
    if (!bin) return refuse(field, `${storeName(db, store)} has no bin ${typed}.`);
    if (bin.closed) return refuse(field, `Nothing more is put into bin ${bin.code}: ${bin.closed}`);
    const kept = keptForOthers(db, store, bin.code, supplier, day);
    if (kept) return refuse(field, kept);
    return done(bin.code);
  }
  const lies = sql<{ bin: string }>(
    db,
    "SELECT bin FROM stock_balance WHERE item = @item AND store = @store AND owner = @supplier AND quantity > 0 AND bin <> '' ORDER BY lot = coalesce(@lot, 0) DESC, bin LIMIT 1",
  ).get({ item: of.item, store, supplier, lot: of.lot })?.bin;
  const own = keptFor(db, store, day).find((k) => k.supplier === supplier && k.place === "bins")?.from;
  const candidates = [lies, ownBin(db, of.item, store), own].filter((b) => b !== undefined && b !== DOCK);
  const bin = candidates.find(
    (b) =>
      b !== undefined &&
      binOf(db, store, b)?.closed === "" &&
      keptForOthers(db, store, b, supplier, day) === null &&
      othersThere(db, store, b, supplier) === null,
  );
  return done(bin ?? DOCK);
}
