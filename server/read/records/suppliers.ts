import { type Db, sql } from "../../db/open";

export interface SupplierRow {
  id: number;
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
  items: number;
  open: number;
  contacts: string;
}

/** All suppliers with how many items they sell us and how many orders are open with them. */
export const readSuppliers = (db: Db) =>
  sql<SupplierRow>(
    db,
    `SELECT s.id, s.code, s.name, s.address, s.currency, s.terms_days AS termsDays, s.lead_kind AS leadKind, s.delivers, s.region, s.cut_off AS cutOff,
            s.buyer, (SELECT p.name FROM person p WHERE p.id = s.buyer) AS buyerName,
            (SELECT count(*) FROM sourcing c WHERE c.supplier = s.id AND c.active = 1) AS items,
            (SELECT count(*) FROM purchase_order o WHERE o.supplier = s.id AND o.state IN ('Cleared', 'With supplier', 'Part in')) AS open,
            coalesce((SELECT group_concat(c.mail, ', ') FROM supplier_contact c WHERE c.supplier = s.id AND c.for_orders = 1), '') AS contacts
     FROM supplier s WHERE s.active = 1 ORDER BY s.name`,
  ).all();

/** The last orders placed with a supplier. */
export const readOrdersWith = (db: Db, supplier: number) =>
  sql<{ id: number; number: string; state: string; placed: string | null; total: number; currency: string }>(
    db,
    "SELECT id, number, state, placed, total, currency FROM purchase_order WHERE supplier = ? AND number IS NOT NULL ORDER BY id DESC LIMIT 12",
  ).all(supplier);
