import type { Day } from "../../../core/calendar/day";
import type { PriceBreak } from "../../../core/pricing/price";
import { type Db, sql } from "../../db/open";
import { readUsage, type Usage } from "../needs/usage";
import { priceRecords } from "../prices";

export interface ItemRow {
  id: number;
  code: string;
  name: string;
  kind: string;
  category: string;
  unit: string;
  onHand: number | null;
  stores: number;
  supplier: string | null;
}

/** All items with what is on hand in all stores and the preferred supplier. */
export const readItems = (db: Db) =>
  sql<ItemRow>(
    db,
    `SELECT i.id, i.code, i.name, i.kind, i.category, u.name AS unit, p.onHand, coalesce(p.stores, 0) AS stores,
            (SELECT s.name FROM sourcing c JOIN supplier s ON s.id = c.supplier WHERE c.item = i.id AND c.active = 1 ORDER BY c.rank, c.id LIMIT 1) AS supplier
     FROM item i JOIN unit u ON u.code = i.unit
     LEFT JOIN (SELECT item, sum(on_hand) AS onHand, count(*) AS stores FROM item_store GROUP BY item) p ON p.item = i.id
     WHERE i.active = 1 ORDER BY i.category, i.name`,
  ).all();

export interface ItemSlip {
  stores: {
    id: number;
    name: string;
    onHand: number;
    reorderPoint: number;
    policy: string;
    lot: number;
    bin: string;
    usage: Usage;
  }[];
  sources: {
    id: number;
    supplier: string;
    theirCode: string;
    unit: string;
    factor: number;
    leadDays: number;
    currency: string;
    breaks: PriceBreak[] | null;
  }[];
  movements: { day: Day; kind: string; store: string; quantity: number; note: string; receipt: number | null }[];
}

/** What stands beside an item; prices only where the role shows them. */
export function readItemSlip(db: Db, item: number, today: Day, prices: boolean): ItemSlip {
  const stores = sql<Omit<ItemSlip["stores"][number], "usage">>(
    db,
    `SELECT s.id, s.name, p.on_hand AS onHand, p.reorder_point AS reorderPoint, p.policy, p.lot, p.bin
     FROM item_store p JOIN store s ON s.id = p.store WHERE p.item = ? ORDER BY s.id`,
  ).all(item);
  const sources = sql<Omit<ItemSlip["sources"][number], "breaks">>(
    db,
    `SELECT c.id, s.name AS supplier, c.their_code AS theirCode, u.name AS unit, c.factor, c.lead_days AS leadDays, s.currency
     FROM sourcing c JOIN supplier s ON s.id = c.supplier JOIN unit u ON u.code = c.unit WHERE c.item = ? AND c.active = 1 ORDER BY c.rank, c.id`,
  ).all(item);
  return {
    stores: stores.map((s) => ({ ...s, usage: readUsage(db, { item, store: s.id }, today) })),
    sources: sources.map((s) => ({ ...s, breaks: prices ? [...priceRecords(db, s.id, today).breaks] : null })),
    movements: sql<ItemSlip["movements"][number]>(
      db,
      `SELECT m.day, m.kind, s.name AS store, m.quantity, m.note, rl.receipt FROM movement m JOIN store s ON s.id = m.store
       LEFT JOIN receipt_line rl ON rl.id = m.receipt_line WHERE m.item = ? ORDER BY m.day DESC, m.id DESC LIMIT 12`,
    ).all(item),
  };
}
