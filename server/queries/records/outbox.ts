import type { OrderId } from "../../../core/ids";
import { type Db, sql } from "../../db/open";

/** A message as it stands in the outbox; `file` is null until it was written there. */
export interface OutboxRow {
  id: number;
  at: string;
  recipients: string;
  subject: string;
  order: OrderId | null;
  person: string;
  file: string | null;
}

/** Messages, the newest first. */
export const readOutbox = (db: Db): OutboxRow[] =>
  sql<OutboxRow>(
    db,
    `SELECT m.id, m.at, m.recipients, m.subject, m.purchase_order AS "order", p.name AS person, m.file FROM mail m JOIN person p ON p.id = m.person ORDER BY m.id DESC LIMIT 5000`,
  ).all();

/** A message as it was sent (RFC 5322). */
export const readMessage = (db: Db, id: number) =>
  sql<{ eml: Buffer; subject: string }>(db, "SELECT eml, subject FROM mail WHERE id = ?").get(id);
