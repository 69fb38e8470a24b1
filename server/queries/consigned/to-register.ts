import type { Day } from "../../../core/calendar/day";
import type { StoreId } from "../../../core/ids";
import { type Db, sql } from "../../db/open";
import { notOnDay, readAgreementHead } from "./agreement";

/** An item of an agreement as it is registered. Stock units; it holds no price. */
export interface ToRegister {
  item: number;
  code: string;
  theirCode: string;
  gtin: string | null;
  name: string;
  unit: string;
  byLot: boolean;
  here: number;
  coming: number;
  most: number;
}

/** Agreements under which goods may be registered on a day, in a store or in all. */
export const registrable = (db: Db, day: Day, store: StoreId | null) =>
  sql<{ id: number; number: string; supplier: string; store: string }>(
    db,
    `SELECT a.id, a.number, s.name AS supplier, t.name AS store FROM agreement a JOIN supplier s ON s.id = a.supplier JOIN store t ON t.id = a.store
     WHERE a.state = 'Running' AND a.starts <= @day AND a.ends >= @day AND (@store IS NULL OR a.store = @store) ORDER BY s.name, t.name`,
  ).all({ day, store });

/** What may come under an agreement; null where there is none, or it holds no more. */
export function readToRegister(
  db: Db,
  id: number,
  day: Day,
): { id: number; name: string; supplierName: string; store: StoreId; storeName: string; items: ToRegister[] } | null {
  const a = readAgreementHead(db, id);
  if (!a || a.revision === 0 || notOnDay(a, day) !== null) return null;
  const items = sql<Omit<ToRegister, "byLot"> & { byLot: number }>(
    db,
    `SELECT x.item, i.code, coalesce(c.their_code, '') AS theirCode, i.gtin, i.name, u.name AS unit, i.by_lot OR i.by_serial AS byLot, x.most,
            coalesce((SELECT sum(y.rest) FROM consigned_layer y WHERE y.agreement_item = x.id), 0) AS here,
            coalesce((SELECT sum(l.quantity - l.came) FROM refill_line l WHERE l.agreement_item = x.id AND l.open = 1), 0) AS coming
     FROM agreement_item x JOIN item i ON i.id = x.item JOIN unit u ON u.code = i.unit LEFT JOIN sourcing c ON c.item = x.item AND c.supplier = ?
     WHERE x.agreement = ? AND x.gone = 0 ORDER BY i.code`,
  ).all(a.supplier, id);
  return {
    id,
    name: a.name,
    supplierName: a.supplierName,
    store: a.store,
    storeName: a.storeName,
    items: items.map((i) => ({ ...i, byLot: i.byLot === 1 })),
  };
}

/** The items of a refill of an agreement, in the order of its lines; null where it has none of that number. */
export const refillItems = (db: Db, agreement: number, number: string): number[] | null => {
  const rows = sql<{ item: number }>(
    db,
    `SELECT x.item FROM refill f JOIN refill_line l ON l.refill = f.id JOIN agreement_item x ON x.id = l.agreement_item JOIN item i ON i.id = x.item
     WHERE f.agreement = ? AND f.number = ? COLLATE NOCASE ORDER BY i.code`,
  ).all(agreement, number);
  return rows.length ? rows.map((r) => r.item) : null;
};
