import type { OrderId, SupplierId } from "../../../core/ids";
import type { MarkEvent } from "../../../core/orders/marks";
import { type Db, sql } from "../../db/open";

export interface Mark {
  id: number;
  name: string;
  event: MarkEvent | null;
  least: number;
  supplier: SupplierId | null;
  supplierName: string | null;
  /** So many orders bear it. */
  on: number;
}

/** Every mark that is in use, by name. */
export const readMarks = (db: Db): Mark[] =>
  sql<Mark>(
    db,
    `SELECT m.id, m.name, m.event, m.least, m.supplier, s.name AS supplierName,
            (SELECT count(*) FROM order_mark x WHERE x.mark = m.id AND x.taken_off IS NULL) AS "on"
     FROM mark m LEFT JOIN supplier s ON s.id = m.supplier WHERE m.ended IS NULL ORDER BY m.name`,
  ).all();

export interface Borne {
  mark: number;
  name: string;
  at: string;
  person: string | null;
  note: string;
}

/** The marks that an order bears. */
export const marksOf = (db: Db, order: OrderId): Borne[] =>
  sql<Borne>(
    db,
    `SELECT x.mark, m.name, x.at, p.name AS person, x.note FROM order_mark x JOIN mark m ON m.id = x.mark LEFT JOIN person p ON p.id = x.person
     WHERE x.purchase_order = ? AND x.taken_off IS NULL ORDER BY m.name`,
  ).all(order);
