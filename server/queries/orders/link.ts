import type { Day } from "../../../core/calendar/day";
import type { OrderId, OrderLineId } from "../../../core/ids";
import type { OrderDocument } from "../../../exchange/pdf/order-document";
import { type Db, sql } from "../../db/open";
import { linkHash } from "../quotes/quotes";
import { readSaid, type SaidBefore } from "../suppliers/answers";
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

/** A line of which something is still to come: how much, in purchase units. */
export interface AwaitedLine {
  line: OrderLineId;
  words: string;
  open: number;
}

export interface Linked {
  order: OrderId;
  /** The version that the document is of. */
  revision: number;
  /** What its supplier can answer to. */
  open: AwaitedLine[];
  /** What they said before, the newest first. */
  said: SaidBefore[];
  /** Files that were sent with it. */
  files: { id: number; name: string }[];
  document: OrderDocument;
  state: string;
  closed: string;
}

/** What a private link leads to; a sentence where it does not hold any more, null where it never did. */
export function readLinked(db: Db, link: string, day: Day): Linked | { says: string } | null {
  const row = sql<{
    order: OrderId;
    ended: string | null;
    state: string;
    stage: string;
    closed: string;
    revision: number;
  }>(
    db,
    `SELECT l.purchase_order AS "order", l.ended, o.state, o.stage, o.closed_why AS closed, coalesce(o.binding, 0) AS revision FROM order_link l JOIN purchase_order o ON o.id = l.purchase_order WHERE l.link = ?`,
  ).get(linkHash(link));
  if (!row) return null;
  if (row.ended) return { says: "This link has been ended. Ask whoever sent you the order for a new one." };
  const found = documentNow(db, row.order, day);
  if (!found) return null;
  const files = sql<{ id: number; name: string }>(
    db,
    "SELECT id, name FROM order_file WHERE purchase_order = ? AND sent = 1 ORDER BY id",
  ).all(row.order);
  const open = sql<AwaitedLine>(
    db,
    "SELECT id AS line, words, quantity - received - closed_short AS open FROM order_line WHERE purchase_order = ? AND open = 1 ORDER BY position",
  ).all(row.stage === "placed" ? row.order : null);
  const { order, revision, state, closed } = row;
  return { order, revision, document: found.document, state, closed, files, open, said: readSaid(db, order) };
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
