import type { OrderId, PersonId } from "../../../core/ids";
import { ORDER_FORMAT, type OrderDocument } from "../../../exchange/pdf/order-document";
import { type Db, sql } from "../../db/open";

/** Keeps a document of an order as its next revision, which binds both sides from now on. Returns its number. */
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
  sql(
    db,
    "INSERT INTO order_revision (purchase_order, revision, at, person, document, format) VALUES (?, ?, ?, ?, ?, ?)",
  ).run(order, revision, desk.now, desk.person.id, JSON.stringify(document), ORDER_FORMAT);
  sql(db, "UPDATE purchase_order SET binding = ?, proposed = NULL WHERE id = ?").run(revision, order);
  return revision;
}
