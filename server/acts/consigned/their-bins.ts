import type { ItemId } from "../../../core/ids";
import { DOCK } from "../../../core/stock/bins";
import type { Db } from "../../db/open";
import { storeName } from "../../queries/choices";
import { type AgreementHead, keptForOthers } from "../../queries/consigned/agreement";
import { usualBinOfTheirs } from "../../queries/consigned/their-bins";
import { binOf } from "../../queries/stock/bins";
import { type Done, done, refuse } from "../desk";

/**
 * The bin into which a supplier's goods are put: as typed, else where their goods of the item and lot lie, else the item's
 * own bin, else the dock; or why they are not. Goods of two suppliers may share a bin only where it is kept for neither.
 */
export function binForTheirs(
  db: Db,
  agreement: Pick<AgreementHead, "store" | "supplier">,
  of: { item: ItemId; lot: number | null },
  typed: string,
  field: string,
): Done<string> {
  const { store, supplier } = agreement;
  if (typed !== DOCK) {
    const bin = binOf(db, store, typed);
    if (!bin) return refuse(field, `${storeName(db, store)} has no bin ${typed}.`);
    if (bin.closed) return refuse(field, `Nothing more is put into bin ${bin.code}: ${bin.closed}`);
    const kept = keptForOthers(db, store, bin.code, supplier);
    if (kept) return refuse(field, kept);
    return done(bin.code);
  }
  return done(usualBinOfTheirs(db, { item: of.item, store, lot: of.lot, owner: supplier }));
}
