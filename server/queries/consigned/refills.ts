import type { Day } from "../../../core/calendar/day";
import type { ItemId, StoreId, SupplierId } from "../../../core/ids";
import { type Db, sql } from "../../db/open";

/** What a supplier was asked to bring. */
export interface RefillHead {
  id: number;
  number: string;
  agreement: number;
  agreementName: string;
  supplier: SupplierId;
  supplierName: string;
  store: StoreId;
  storeName: string;
  wanted: Day;
  promised: Day | null;
  said: string;
  day: Day;
  ended: Day | null;
  endedWhy: string;
  version: number;
  person: string;
  lines: number;
  open: number;
}

export interface RefillLine {
  id: number;
  agreementItem: number;
  item: ItemId;
  code: string;
  name: string;
  unit: string;
  unitCode: string;
  quantity: number;
  came: number;
}

const HEAD = `
  SELECT f.id, f.number, f.agreement, 'Agreement ' || a.number AS agreementName, a.supplier, s.name AS supplierName, a.store, t.name AS storeName, f.wanted, f.promised, f.said,
         f.day, f.ended, f.ended_why AS endedWhy, f.version, p.name AS person,
         (SELECT count(*) FROM refill_line l WHERE l.refill = f.id) AS lines, (SELECT count(*) FROM refill_line l WHERE l.refill = f.id AND l.open = 1) AS open
  FROM refill f JOIN agreement a ON a.id = f.agreement JOIN supplier s ON s.id = a.supplier JOIN store t ON t.id = a.store JOIN person p ON p.id = f.person`;

/** Refills, those that are open first, by the day on which they should come. */
export const readRefills = (
  db: Db,
  {
    agreement = null,
    store = null,
    open = false,
  }: { agreement?: number | null; store?: StoreId | null; open?: boolean } = {},
): RefillHead[] =>
  sql<RefillHead>(
    db,
    `SELECT * FROM (${HEAD}) x WHERE (@agreement IS NULL OR x.agreement = @agreement) AND (@store IS NULL OR x.store = @store) AND (@open = 0 OR x.open > 0)
     ORDER BY x.open = 0, iif(x.open > 0, coalesce(x.promised, x.wanted), ''), x.id DESC LIMIT 300`,
  ).all({ agreement, store, open: open ? 1 : 0 });

/** A refill with its lines; null where there is none. */
export function readRefill(db: Db, id: number): (Omit<RefillHead, "lines"> & { lines: RefillLine[] }) | null {
  const head = sql<RefillHead>(db, `${HEAD} WHERE f.id = ?`).get(id);
  if (!head) return null;
  const lines = sql<RefillLine>(
    db,
    `SELECT l.id, l.agreement_item AS agreementItem, x.item, i.code, i.name, u.name AS unit, i.unit AS unitCode, l.quantity, l.came
     FROM refill_line l JOIN agreement_item x ON x.id = l.agreement_item JOIN item i ON i.id = x.item JOIN unit u ON u.code = i.unit WHERE l.refill = ? ORDER BY i.code`,
  ).all(id);
  return { ...head, lines };
}

/** What is on its way of an item of an agreement. Stock units. */
export const onItsWay = (db: Db, agreementItem: number): number =>
  sql<{ n: number }>(
    db,
    "SELECT coalesce(sum(quantity - came), 0) AS n FROM refill_line WHERE agreement_item = ? AND open = 1",
  ).get(agreementItem)!.n;
