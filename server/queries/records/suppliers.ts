import type { SupplierId } from "../../../core/ids";
import { type Db, sql } from "../../db/open";

export interface SupplierRow {
  id: SupplierId;
  code: string;
  name: string;
  address: string;
  currency: string;
  termsDays: number;
  leadKind: string;
  delivers: number;
  region: string;
  cutOff: number | null;
  buyer: number | null;
  buyerName: string | null;
  minimum: number;
  freight: number;
  freeFrom: number | null;
  blocked: string;
  items: number;
  open: number;
  contacts: string;
}

/** All suppliers with how many items they sell us and how many orders are open with them. */
export const readSuppliers = (db: Db) =>
  sql<SupplierRow>(
    db,
    `SELECT s.id, s.code, s.name, s.address, s.currency, s.terms_days AS termsDays, s.lead_kind AS leadKind, s.delivers, s.region, s.cut_off AS cutOff,
            s.order_minimum AS minimum, s.freight, s.freight_free_from AS freeFrom, s.blocked,
            s.buyer, (SELECT p.name FROM person p WHERE p.id = s.buyer) AS buyerName,
            (SELECT count(*) FROM sourcing c WHERE c.supplier = s.id AND c.active = 1) AS items,
            (SELECT count(*) FROM purchase_order o WHERE o.supplier = s.id AND o.kind <> 'blanket' AND o.stage IN ('cleared', 'placed')) AS open,
            coalesce((SELECT group_concat(c.mail, ', ') FROM supplier_contact c WHERE c.supplier = s.id AND c.for_orders = 1), '') AS contacts
     FROM supplier s WHERE s.active = 1 ORDER BY s.name`,
  ).all();
