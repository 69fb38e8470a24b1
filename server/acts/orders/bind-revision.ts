import type { OrderId, PersonId } from "../../../core/ids";
import { asVersion } from "../../../exchange/pdf/order-changes";
import { ORDER_FORMAT, type OrderDocument } from "../../../exchange/pdf/order-document";
import { DocumentColumn, readColumn } from "../../db/json-columns";
import { type Db, sql } from "../../db/open";

/**
 * Keeps a document of an order as its next revision, which binds both sides from now on. From the second on its lines say
 * how they stood before. Returns its number.
 */
export function bindRevision(
  db: Db,
  desk: { now: string; person: { id: PersonId } },
  order: OrderId,
  document: OrderDocument,
): number {
  const { revision } = sql<{ revision: number }>(
    db,
    "SELECT coalesce(max(revision), 0) + 1 AS revision FROM order_revision WHERE purchase_order = ?",
  ).get(order)!;
  const before = sql<{ document: string }>(
    db,
    "SELECT document FROM order_revision WHERE purchase_order = ? AND revision = ?",
  ).get(order, revision - 1);
  const kept = before ? asVersion(document, readColumn(DocumentColumn, before.document), revision) : document;
  sql(
    db,
    "INSERT INTO order_revision (purchase_order, revision, at, person, document, format) VALUES (?, ?, ?, ?, ?, ?)",
  ).run(order, revision, desk.now, desk.person.id, JSON.stringify(kept), ORDER_FORMAT);
  sql(db, "UPDATE purchase_order SET binding = ?, proposed = NULL WHERE id = ?").run(revision, order);
  return revision;
}
