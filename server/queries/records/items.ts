import type { Day } from "../../../core/calendar/day";
import type { PriceBreak } from "../../../core/pricing/price";
import { type Db, sql } from "../../db/open";
import { escaped } from "../find";
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

/** Items of an address, by category; the rows from one on, or those around one that is looked at. */
export interface FoundItems {
  count: number;
  /** All that there are, found or not. */
  all: number;
  from: number;
  rows: ItemRow[];
  groups: { start: number; category: string }[];
  /** Where the item stands that was asked for; null where it is not among them. */
  place: number | null;
  at: 0;
}

const SUPPLIER =
  "(SELECT s.name FROM sourcing c JOIN supplier s ON s.id = c.supplier WHERE c.item = i.id AND c.active = 1 ORDER BY c.rank, c.id LIMIT 1)";
const FOUND = `i.active = 1 AND (i.code LIKE @like ESCAPE '\\' OR i.name LIKE @like ESCAPE '\\' OR ${SUPPLIER} LIKE @like ESCAPE '\\')`;

/** Items with what is on hand in all stores and the preferred supplier: those whose code, name or supplier has the text. */
export function itemSheet(
  db: Db,
  text: string,
  window: { from: number; most: number; around?: number | null },
): FoundItems {
  const wanted = text.trim().slice(0, 60);
  const like = wanted ? `%${escaped(wanted)}%` : null;
  const groups: FoundItems["groups"] = [];
  let count = 0;
  // With a text each item is looked at once; without one the index knows the order and the sizes.
  const among = like
    ? sql<{ id: number; category: string }>(
        db,
        `SELECT i.id, i.category FROM item i WHERE ${FOUND} ORDER BY i.category, i.name, i.id`,
      ).all({ like })
    : null;
  const sizes = among
    ? among.map(({ category }) => ({ category, n: 1 }))
    : sql<{ category: string; n: number }>(
        db,
        "SELECT i.category, count(*) AS n FROM item i WHERE i.active = 1 GROUP BY i.category ORDER BY i.category",
      ).all();
  for (const { category, n } of sizes) {
    if (groups.at(-1)?.category !== category) groups.push({ start: count, category });
    count += n;
  }
  const place = window.around ? placeOf(db, window.around, among) : null;
  const from = place === null ? window.from : Math.max(0, Math.min(place - (window.most >> 1), count - window.most));
  const shown = () =>
    among
      ? among.slice(from, from + window.most).map((i) => i.id)
      : sql<{ id: number }>(
          db,
          "SELECT i.id FROM item i WHERE i.active = 1 ORDER BY i.category, i.name, i.id LIMIT ? OFFSET ?",
        )
          .all(window.most, from)
          .map((i) => i.id);
  return {
    count,
    all: sql<{ n: number }>(db, "SELECT count(*) AS n FROM item WHERE active = 1").get()!.n,
    from,
    rows: sql<ItemRow>(
      db,
      `SELECT i.id, i.code, i.name, i.kind, i.category, u.name AS unit,
              (SELECT sum(p.on_hand) FROM item_store p WHERE p.item = i.id) AS onHand,
              (SELECT count(*) FROM item_store p WHERE p.item = i.id) AS stores, ${SUPPLIER} AS supplier
       FROM item i JOIN unit u ON u.code = i.unit WHERE i.id IN (SELECT value FROM json_each(?)) ORDER BY i.category, i.name, i.id`,
    ).all(JSON.stringify(shown())),
    groups,
    place,
    at: 0,
  };
}

/** Where an item stands among those that were found, or among all; null where it does not. */
function placeOf(db: Db, id: number, among: readonly { id: number }[] | null): number | null {
  if (among) {
    const at = among.findIndex((i) => i.id === id);
    return at < 0 ? null : at;
  }
  const item = sql<object>(db, "SELECT id, category, name FROM item WHERE id = ? AND active = 1").get(id);
  if (!item) return null;
  return sql<{ n: number }>(
    db,
    "SELECT count(*) AS n FROM item WHERE active = 1 AND (category, name, id) < (@category, @name, @id)",
  ).get(item)!.n;
}

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

/** What an item is called, and its stock unit. */
export const readItemName = (db: Db, id: number) =>
  sql<{ code: string; name: string; unit: string }>(
    db,
    "SELECT i.code, i.name, u.name AS unit FROM item i JOIN unit u ON u.code = i.unit WHERE i.id = ?",
  ).get(id);
