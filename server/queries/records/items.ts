import type { Day } from "../../../core/calendar/day";
import type { ItemId, ReceiptId } from "../../../core/ids";
import { quantityText } from "../../../core/numbers/quantity";
import type { PriceBreak } from "../../../core/pricing/price";
import { type Db, sql } from "../../db/open";
import type { FileColumn } from "../file-columns";
import { defineList } from "../list";
import { readUsage, type Usage } from "../needs/usage";
import { priceRecords } from "../prices";

export interface ItemRow {
  id: ItemId;
  code: string;
  name: string;
  kind: string;
  category: string;
  unit: string;
  onHand: number | null;
  stores: number;
  supplier: string | null;
}

const SUPPLIER =
  "(SELECT s.name FROM sourcing c JOIN supplier s ON s.id = c.supplier WHERE c.item = i.id AND c.active = 1 ORDER BY c.rank, c.id LIMIT 1)";

/** Items by their ids, with what is on hand in all stores and the preferred supplier. */
function itemRows(db: Db, ids: readonly number[]): ItemRow[] {
  const by = new Map(
    sql<ItemRow>(
      db,
      `SELECT i.id, i.code, i.name, i.kind, i.category, u.name AS unit,
              (SELECT sum(p.on_hand) FROM item_store p WHERE p.item = i.id) AS onHand,
              (SELECT count(*) FROM item_store p WHERE p.item = i.id) AS stores, ${SUPPLIER} AS supplier
       FROM item i JOIN unit u ON u.code = i.unit WHERE i.id IN (SELECT value FROM json_each(?))`,
    )
      .all(JSON.stringify(ids))
      .map((r) => [r.id, r]),
  );
  return ids.map((id) => by.get(id)!);
}

/** The columns of items.csv and items.xlsx: what the list shows. The file that can be loaded again is under Files. */
const ITEM_COLUMNS: readonly FileColumn<ItemRow>[] = [
  { name: "item", width: 14, cell: (r) => r.code },
  { name: "name", width: 40, cell: (r) => r.name },
  { name: "kind", width: 12, cell: (r) => r.kind },
  { name: "category", width: 20, cell: (r) => r.category },
  { name: "on_hand", width: 12, as: "number", cell: (r) => (r.onHand === null ? "" : quantityText(r.onHand)) },
  { name: "unit", width: 12, cell: (r) => r.unit },
  { name: "stores", width: 8, cell: (r) => r.stores },
  { name: "preferred_supplier", width: 28, cell: (r) => r.supplier ?? "" },
];

/** Everything that is bought, by category. */
export const ITEMS = defineList({
  name: "items",
  act: "see items",
  from: "item i",
  join: "",
  id: "i.id",
  always: "i.active = 1",
  by: {},
  flags: {},
  words: ["i.code", "i.name", SUPPLIER].map((of) => `${of} LIKE @word`),
  sorts: {},
  order: "i.category, i.name, i.id",
  heading: "i.category",
  sums: {},
  all: "(SELECT count(*) FROM item WHERE active = 1)",
  rows: itemRows,
  file: () => ITEM_COLUMNS,
});

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
  movements: { day: Day; kind: string; store: string; quantity: number; note: string; receipt: ReceiptId | null }[];
}

/** What stands beside an item; prices only where the role shows them. */
export function readItemSlip(db: Db, item: ItemId, today: Day, prices: boolean): ItemSlip {
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
    sources: sources.map((s) => ({
      ...s,
      breaks: prices
        ? priceRecords(db, s.id, today).breaks.filter((b) => b.validTo === null || b.validTo >= today)
        : null,
    })),
    movements: sql<ItemSlip["movements"][number]>(
      db,
      `SELECT m.day, m.kind, s.name AS store, m.quantity, m.note, rl.receipt FROM movement m JOIN store s ON s.id = m.store
       LEFT JOIN receipt_line rl ON rl.id = m.receipt_line WHERE m.item = ? ORDER BY m.day DESC, m.id DESC LIMIT 12`,
    ).all(item),
  };
}

/** What an item is called, and its stock unit. */
export const readItemName = (db: Db, id: ItemId) =>
  sql<{ code: string; name: string; unit: string }>(
    db,
    "SELECT i.code, i.name, u.name AS unit FROM item i JOIN unit u ON u.code = i.unit WHERE i.id = ?",
  ).get(id);
