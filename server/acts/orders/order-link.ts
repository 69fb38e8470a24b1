import { randomBytes } from "node:crypto";
import { z } from "zod";
import type { OrderId, PersonId } from "../../../core/ids";
import { type Db, sql } from "../../db/open";
import { linkHash } from "../../queries/quotes/quotes";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { Id, OrderIdField } from "../fields";

/** A link that nobody guesses. Only its hash is kept, so it can be shown this once. */
export const newLink = () => randomBytes(24).toString("base64url");

/** Keeps a link to an order. Call inside the act's transaction. */
export function keepLink(db: Db, desk: { now: string; person: { id: PersonId } }, order: OrderId, link: string): void {
  sql(db, "INSERT INTO order_link (purchase_order, link, at, person) VALUES (?, ?, ?, ?)").run(
    order,
    linkHash(link),
    desk.now,
    desk.person.id,
  );
}

/** Makes a new private link to a placed order; the ones before go on until they are ended. */
export function makeLink(desk: Desk, raw: unknown): Done<{ link: string }> {
  const input = checked(z.object({ order: OrderIdField }), raw);
  if (!input.ok) return input;
  const { order } = input.value;
  const link = newLink();
  const made = once(desk, "place", (tx) => {
    const placed = sql<{ placed: string | null }>(tx.db, "SELECT placed FROM purchase_order WHERE id = ?").get(order);
    if (!placed?.placed) return refuse("", "Only an order that was placed has a link for its supplier.");
    keepLink(tx.db, desk, order, link);
    tx.record("order.link-made", `order ${order}`, {});
    return done({ order });
  });
  if (!made.ok) return made;
  // What an act answers is kept with its key, and this must not be: a second click finds another link than the one made.
  const kept = sql(desk.db, "SELECT 1 FROM order_link WHERE link = ?").get(linkHash(link));
  return kept ? done({ link }) : refuse("", "This link was made already, and is shown only once. Make another one.");
}

/** Ends a link: whoever opens it is told that it does not hold any more. */
export function endLink(desk: Desk, raw: unknown): Done<{ order: OrderId }> {
  const input = checked(z.object({ order: OrderIdField, link: Id }), raw);
  if (!input.ok) return input;
  const { order, link } = input.value;
  return once(desk, "place", (tx) => {
    const ended = sql(
      tx.db,
      "UPDATE order_link SET ended = ? WHERE id = ? AND purchase_order = ? AND ended IS NULL",
    ).run(desk.now, link, order);
    if (ended.changes === 0) return refuse("", "This link was ended already.");
    tx.record("order.link-ended", `order ${order}`, { link });
    return done({ order });
  });
}
