import type { Day } from "../../../core/calendar/day";
import type { OrderId, StoreId, SupplierId } from "../../../core/ids";
import { type OrderDocument, orderDocument } from "../../../exchange/pdf/order-document";
import { DocumentColumn, readColumn } from "../../db/json-columns";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../company";
import { lookFor } from "../papers/templates";
import { contactsFor } from "../records/contacts";
import { type OrderSheet, readOrder } from "./order";

/** The contacts of a supplier who get orders. */
export const orderContacts = (db: Db, supplier: SupplierId) => contactsFor(db, supplier, "orders");

/** What goes onto the paper, from the order as it stands. */
export function documentOf(
  db: Db,
  sheet: OrderSheet,
  day: Day,
  contacts = orderContacts(db, sheet.head.supplier),
): OrderDocument {
  const company = theCompany(db);
  const writer = sql<{ name: string; mail: string; title: string }>(
    db,
    "SELECT name, mail, title FROM person WHERE id = ?",
  ).get(sheet.head.writer)!;
  const stores = new Map(
    sql<{ id: StoreId; name: string; address: string; region: string }>(
      db,
      "SELECT id, name, address, region FROM store WHERE id IN (SELECT value FROM json_each(?))",
    )
      .all(JSON.stringify([sheet.head.store, ...sheet.lines.map((l) => l.store)]))
      .map((t) => [t.id, t]),
  );
  const look = lookFor(db, sheet.head.kind, sheet.head.supplier);
  return orderDocument(company, sheet.head, sheet.lines, sheet.totals, contacts, writer, day, look, stores);
}

/**
 * The revision that binds, or the one that is asked for, as it left the house; before that, how it would look. Null where
 * there is no such order or revision.
 */
export function documentNow(
  db: Db,
  id: OrderId,
  day: Day,
  revision: number | null = null,
): { document: OrderDocument; name: string } | null {
  const sheet = readOrder(db, id);
  if (!sheet) return null;
  const placed = sql<{ document: string }>(
    db,
    "SELECT v.document FROM purchase_order o JOIN order_revision v ON v.purchase_order = o.id AND v.revision = coalesce(@revision, o.binding) WHERE o.id = @id",
  ).get({ id, revision });
  if (revision !== null && !placed) return null;
  const document = placed
    ? readColumn(DocumentColumn, placed.document)
    : { ...documentOf(db, sheet, day), number: null };
  return { document, name: sheet.head.name };
}

/** When and why a placed order was closed before anything of it came; null where it was not. */
export function cancelledWith(db: Db, id: OrderId): { day: string; why: string } | null {
  const row = sql<{ closed: string | null; why: string; came: number }>(
    db,
    `SELECT o.closed, o.closed_why AS why, (SELECT coalesce(sum(l.received), 0) FROM order_line l WHERE l.purchase_order = o.id) AS came
     FROM purchase_order o WHERE o.id = ? AND o.placed IS NOT NULL AND o.kind <> 'blanket'`,
  ).get(id);
  return row?.closed && row.came === 0 ? { day: row.closed.slice(0, 10), why: row.why } : null;
}
