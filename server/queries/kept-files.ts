import { type Db, sql } from "../db/open";

/** A file that was kept with a paper or a record. */
export interface KeptFile {
  name: string;
  type: string;
  bytes: Buffer;
}

const of = (table: string, owner: string) => (db: Db, id: number, file: number) =>
  sql<KeptFile>(db, `SELECT name, type, bytes FROM ${table} WHERE id = ? AND ${owner} = ?`).get(file, id);

/** The file of an order, a supplier or a requisition; undefined where it has none of this id. */
export const orderFileOf = of("order_file", "purchase_order");
export const invoiceFileOf = of("invoice_file", "invoice");
export const supplierFileOf = of("supplier_file", "supplier");
export const requisitionFileOf = of("attachment", "requisition");

export const asidePictureOf = of("set_aside_picture", "set_aside");
