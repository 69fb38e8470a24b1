import type { ItemId } from "../../../core/ids";
import type { LotRule } from "../../../core/receiving/lot";
import { type Db, sql } from "../../db/open";

/** How these items are told apart, by item; those that are kept by neither lot nor serial number are left out. */
export function lotRules(db: Db, items: readonly ItemId[]): Map<ItemId, LotRule> {
  const rows = sql<{
    item: ItemId;
    byLot: number;
    bySerial: number;
    shelfDays: number | null;
    leastDays: number | null;
  }>(
    db,
    `SELECT id AS item, by_lot AS byLot, by_serial AS bySerial, shelf_days AS shelfDays, least_days AS leastDays
     FROM item WHERE id IN (SELECT value FROM json_each(?)) AND (by_lot = 1 OR by_serial = 1)`,
  ).all(JSON.stringify(items));
  return new Map(rows.map(({ item, ...r }) => [item, { ...r, byLot: r.byLot === 1, bySerial: r.bySerial === 1 }]));
}
