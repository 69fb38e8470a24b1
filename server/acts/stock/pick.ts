import type { Day } from "../../../core/calendar/day";
import type { ItemId, StoreId } from "../../../core/ids";
import { type Lying, type Picked, type PickFrom, pickFrom } from "../../../core/stock/pick";
import { type Db, sql } from "../../db/open";

/** What of ours lies where at a store, with whether it may be used. */
export const lyingAt = (db: Db, item: ItemId, store: StoreId, day: Day | string): Lying[] =>
  sql<Omit<Lying, "usable"> & { usable: number }>(
    db,
    `SELECT b.bin, nullif(b.lot, 0) AS lot, b.quantity, l.expires, b.lot = 0 OR (l.held = '' AND coalesce(l.expires, '9') >= @day) AS usable
     FROM stock_balance b LEFT JOIN lot l ON l.id = b.lot
     WHERE b.item = @item AND b.store = @store AND b.owner = 0 AND b.quantity <> 0`,
  )
    .all({ item, store, day })
    .map((r) => ({ ...r, usable: r.usable === 1 }));

/** From which bins and lots so much is taken; null where there is not enough. */
export const pickAt = (
  db: Db,
  of: { item: ItemId; store: StoreId; quantity: number },
  day: Day | string,
  from: PickFrom = "usable",
): Picked[] | null => pickFrom(lyingAt(db, of.item, of.store, day), of.quantity, from);
