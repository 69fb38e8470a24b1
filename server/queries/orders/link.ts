import type { Day } from "../../../core/calendar/day";
import type { OrderId } from "../../../core/ids";
import type { OrderDocument } from "../../../exchange/pdf/order-document";
import { type Db, sql } from "../../db/open";
import { linkHash } from "../quotes/quotes";
import { documentNow } from "./document";

export interface OrderLink {
  id: number;
  at: string;
  by: string;
  opened: string | null;
  ended: string | null;
}

/** The private links of an order, the newest first. */
export const readLinks = (db: Db, order: OrderId): OrderLink[] =>
  sql<OrderLink>(
    db,
    `SELECT l.id, l.at, p.name AS by, l.opened, l.ended FROM order_link l JOIN person p ON p.id = l.person
     WHERE l.purchase_order = ? ORDER BY l.id DESC`,
  ).all(order);

export interface Linked {
  order: OrderId;
  /** Files that were sent with it. */
  files: { id: number; name: string }[];
  document: OrderDocument;
  state: string;
  closed: string;
}

/** What a private link leads to; a sentence where it does not hold any more, null where it never did. */
export function readLinked(db: Db, link: string, day: Day): Linked | { says: string } | null {
  const row = sql<{ order: OrderId; ended: string | null; state: string; closed: string }>(
    db,
    `SELECT l.purchase_order AS "order", l.ended, o.state, o.closed_why AS closed FROM order_link l JOIN purchase_order o ON o.id = l.purchase_order WHERE l.link = ?`,
  ).get(linkHash(link));
  if (!row) return null;
  if (row.ended) return { says: "This link has been ended. Ask whoever sent you the order for a new one." };
  const found = documentNow(db, row.order, day);
  if (!found) return null;
  const files = sql<{ id: number; name: string }>(
    db,
    "SELECT id, name FROM order_file WHERE purchase_order = ? AND sent = 1 ORDER BY id",
  ).all(row.order);
  return { order: row.order, document: found.document, state: row.state, closed: row.closed, files };
}

/** A file that went out with an order; what was kept to ourselves is not among them. */
export const readSentFile = (db: Db, order: OrderId, file: number) =>
  sql<{ name: string; type: string; bytes: Buffer }>(
    db,
    "SELECT name, type, bytes FROM order_file WHERE id = ? AND purchase_order = ? AND sent = 1",
  ).get(file, order);

/** The first look is kept, so that the buyer knows that the order was read. */
export function noteLooked(db: Db, link: string, now: string): void {
  sql(db, "UPDATE order_link SET opened = ? WHERE link = ? AND opened IS NULL").run(now, linkHash(link));
}
