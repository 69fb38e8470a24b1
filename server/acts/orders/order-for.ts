import { z } from "zod";
import type { Day } from "../../../core/calendar/day";
import type { OrderId, PersonId, StoreId, SupplierId } from "../../../core/ids";
import { type OrderMove, refuses } from "../../../core/orders/status";
import { type Db, madeId, sql } from "../../db/open";
import { type OrderHead, readOrderHead } from "../../queries/orders/order";
import { type Done, done, refuse, stale } from "../desk";
import { OrderIdField, Version } from "../fields";

export const WhichOrder = z.object({ order: OrderIdField, version: Version });

/** Who does it. */
type Hand = { person: { id: PersonId } };

/**
 * An order in the version that the person saw, and in a state that allows the move; or why not. Whoever edits it or hands
 * it in has a hand in it, and does not sign it.
 */
export function orderFor(db: Db, desk: Hand, id: OrderId, version: number, move: OrderMove): Done<OrderHead> {
  const head = readOrderHead(db, id);
  if (!head) return refuse("", "There is no such order.");
  const no = refuses(head, move);
  if (no) return refuse("", no);
  if (head.version !== version) return stale(`${head.name} was changed by somebody else meanwhile.`);
  if (move === "edit" || move === "submit") noteHand(db, desk, id);
  return done(head);
}

/** Somebody writes on a draft: until it is signed again it is their own paper, too. */
export function noteHand(db: Db, desk: Hand, order: OrderId): void {
  sql(
    db,
    `INSERT INTO order_hand (purchase_order, person, round)
     SELECT @order, @person, (SELECT coalesce(max(round), 0) FROM signing WHERE purchase_order = @order) WHERE true
     ON CONFLICT (purchase_order, person) DO UPDATE SET round = excluded.round`,
  ).run({ order, person: desk.person.id });
}

/** Lines that go to another draft bring with them whoever had a hand in the one they come from. */
export function carryHands(db: Db, from: number, to: number): void {
  sql(
    db,
    `INSERT INTO order_hand (purchase_order, person, round)
     SELECT @to, person, (SELECT coalesce(max(round), 0) FROM signing WHERE purchase_order = @to) FROM (
       SELECT person FROM order_hand WHERE purchase_order = @from
       UNION SELECT writer FROM purchase_order WHERE id = @from UNION SELECT helper FROM purchase_order WHERE id = @from AND helper IS NOT NULL)
     WHERE true ON CONFLICT (purchase_order, person) DO UPDATE SET round = excluded.round`,
  ).run({ from, to });
}

/** The next free position on an order. */
export const lastPosition = (db: Db, order: OrderId): number =>
  sql<{ last: number }>(db, "SELECT coalesce(max(position), 0) AS last FROM order_line WHERE purchase_order = ?").get(
    order,
  )!.last;

/** The order is wanted by the earliest of its lines' days. */
export const keepWanted = (db: Db, order: OrderId, version: number | null = null): void => {
  sql(
    db,
    `UPDATE purchase_order SET version = coalesce(@version, version), required = coalesce((SELECT min(s.requested) FROM order_line l JOIN order_schedule s ON s.order_line = l.id
       WHERE l.purchase_order = @order AND l.kind <> 'charge'), required) WHERE id = @order`,
  ).run({ order, version });
};

/** The lines of an order were changed once more. Returns its new version. */
export function touchOrder(db: Db, order: OrderId, version: number): number {
  keepWanted(db, order, version + 1);
  return version + 1;
}

/** A new empty draft to a supplier for a store. */
export const newDraft = (
  db: Db,
  desk: { person: { id: PersonId }; now: string },
  supplier: { id: SupplierId; currency: string },
  store: StoreId,
  required: Day,
): OrderId => {
  const order = madeId<"order">(
    sql(
      db,
      "INSERT INTO purchase_order (supplier, store, currency, writer, required, written) VALUES (?, ?, ?, ?, ?, ?)",
    ).run(supplier.id, store, supplier.currency, desk.person.id, required, desk.now),
  );
  noteHand(db, desk, order);
  return order;
};
