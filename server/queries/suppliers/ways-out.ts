import { addDays, type Day } from "../../../core/calendar/day";
import { arrival } from "../../../core/calendar/delivery";
import type { ItemId, StoreId, SupplierId } from "../../../core/ids";
import { toBuy } from "../../../core/needs/reorder";
import { type PurchaseQty, type StockQty, stock } from "../../../core/numbers/quantity";
import type { LeftShort } from "../../../core/suppliers/ways-out";
import { type Db, sql } from "../../db/open";
import type { PlanFor } from "../needs/need";
import { groundOf } from "../needs/plan";
import { type Pair, readSources, type Source, wayOf } from "../needs/positions";
import { freeAt, readAlternatives } from "../needs/slip";

/** Goods that lie in another store can leave tomorrow. */
export const daysToMove = 1;

/** Something in the place of the item itself; null where it is the item. */
export interface InPlace {
  item: ItemId;
  name: string;
  note: string;
}

/** How a shortage could be met; what it would cost is found by trying it. */
export type Candidate = { key: string; instead: InPlace | null; day: Day } & (
  | { kind: "buy"; source: Source; buy: PurchaseQty }
  | { kind: "move"; store: StoreId; storeName: string; quantity: StockQty }
  | { kind: "use"; quantity: StockQty }
);

/**
 * Everything that meets a shortage of an item at a store in time: what others sell, what lies free in other stores, and
 * what may stand in for it. Stand-ins and shelves are for the stock that everybody draws on, not for what is tied.
 */
export function waysToMeet(db: Db, pair: Pair, shortage: LeftShort, but: SupplierId, plan: PlanFor): Candidate[] {
  const others: InPlace[] = shortage.tied
    ? []
    : readAlternatives(db, pair.item).map((a) => ({ item: a.item, name: a.name, note: a.note }));
  const all = [null, ...others];
  return [
    ...all.flatMap((a) => offersIn(db, pair, shortage, but, plan, a)),
    ...(shortage.tied ? [] : all.flatMap((a) => shelvesIn(db, pair, shortage, plan, a))),
  ];
}

const keyed = (key: string, a: InPlace | null) => (a ? `${key}:${a.item}` : key);

function offersIn(
  db: Db,
  pair: Pair,
  shortage: LeftShort,
  but: SupplierId,
  plan: PlanFor,
  instead: InPlace | null,
): Candidate[] {
  const item = instead?.item ?? pair.item;
  const to = sql<{ receives: number; region: string; unit: string }>(
    db,
    "SELECT s.receives, s.region, u.name AS unit FROM store s, item i JOIN unit u ON u.code = i.unit WHERE s.id = ? AND i.id = ?",
  ).get(pair.store, item)!;
  return readSources(db, item).flatMap((source): Candidate[] => {
    if (!instead && source.supplier === but) return [];
    const day = arrival(plan.today, wayOf(source, to, plan.today, plan.hour));
    if (day === null || day > shortage.due) return [];
    const { buy } = toBuy(shortage.quantity, source.packing, to.unit);
    return [{ key: `buy:${source.id}`, kind: "buy", source, buy, day, instead }];
  });
}

function shelvesIn(db: Db, pair: Pair, shortage: LeftShort, plan: PlanFor, instead: InPlace | null): Candidate[] {
  const g = groundOf(db, plan, false);
  const item = instead?.item ?? pair.item;
  const stores = sql<{ id: StoreId; name: string }>(
    db,
    "SELECT s.id, s.name FROM store s JOIN item_store p ON p.store = s.id WHERE p.item = ? AND p.on_hand > 0 ORDER BY s.id",
  ).all(item);
  const leaves = addDays(plan.today, daysToMove);
  return stores.flatMap((s): Candidate[] => {
    const here = s.id === pair.store;
    if ((here && !instead) || (!here && leaves > shortage.due)) return [];
    const quantity = stock(Math.min(shortage.quantity, freeAt(g, item, s.id)));
    if (quantity <= 0) return [];
    return here
      ? [{ key: keyed("use", instead), kind: "use", quantity, day: plan.today, instead }]
      : [
          {
            key: keyed(`move:${s.id}`, instead),
            kind: "move",
            store: s.id,
            storeName: s.name,
            quantity,
            day: leaves,
            instead,
          },
        ];
  });
}
