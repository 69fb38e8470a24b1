import type { ItemId, StoreId } from "../../../core/ids";
import { factorOf, ONE, purchase, toStock } from "../../../core/numbers/quantity";
import { type Db, sql } from "../../db/open";

/** An item as a handheld knows it, so that a round can be walked without a connection. */
export interface KnownItem {
  id: ItemId;
  code: string;
  name: string;
  unit: string;
  /** Every other code that means it: suppliers' own and the GTIN. */
  codes: string[];
  /** Other units it can be counted in, with the stock units in one. */
  units: { name: string; factor: number }[];
  /** Null where the store does not keep it. */
  stock: { onHand: number; onOrder: number; reorderPoint: number; bin: string } | null;
}

/** Everything that could be scanned at a store. */
export function readKnownAt(db: Db, store: StoreId): KnownItem[] {
  const onOrder = new Map<number, number>();
  const open = sql<{ item: ItemId; quantity: number; factor: number }>(
    db,
    `SELECT item, quantity, factor FROM open_schedule WHERE item IS NOT NULL AND store = ?`,
  );
  for (const l of open.iterate(store))
    onOrder.set(l.item, (onOrder.get(l.item) ?? 0) + toStock(purchase(l.quantity), factorOf(l.factor)));
  const sold = new Map<number, { codes: string[]; units: KnownItem["units"] }>();
  const sources = sql<{ item: ItemId; theirCode: string; unit: string; factor: number }>(
    db,
    "SELECT c.item, c.their_code AS theirCode, u.name AS unit, c.factor FROM sourcing c JOIN unit u ON u.code = c.unit WHERE c.active = 1 ORDER BY c.rank",
  );
  for (const s of sources.iterate()) {
    const known = sold.get(s.item) ?? { codes: [], units: [] };
    if (s.theirCode) known.codes.push(s.theirCode);
    if (!known.units.some((u) => u.name === s.unit && u.factor === s.factor))
      known.units.push({ name: s.unit, factor: s.factor });
    sold.set(s.item, known);
  }
  return sql<{
    id: number;
    code: string;
    name: string;
    unit: string;
    gtin: string | null;
    onHand: number | null;
    reorderPoint: number;
    bin: string;
  }>(
    db,
    `SELECT i.id, i.code, i.name, u.name AS unit, i.gtin, p.on_hand AS onHand, coalesce(p.reorder_point, 0) AS reorderPoint, coalesce(p.bin, '') AS bin
     FROM item i JOIN unit u ON u.code = i.unit LEFT JOIN item_store p ON p.item = i.id AND p.store = ?
     WHERE i.active = 1 AND i.kind <> 'charge' ORDER BY i.code`,
  )
    .all(store)
    .map((i) => ({
      id: i.id,
      code: i.code,
      name: i.name,
      unit: i.unit,
      codes: [...(i.gtin ? [i.gtin] : []), ...(sold.get(i.id)?.codes ?? [])],
      units: (sold.get(i.id)?.units ?? []).filter((u) => !(u.name === i.unit && u.factor === ONE)),
      stock:
        i.onHand === null
          ? null
          : { onHand: i.onHand, onOrder: onOrder.get(i.id) ?? 0, reorderPoint: i.reorderPoint, bin: i.bin },
    }));
}
