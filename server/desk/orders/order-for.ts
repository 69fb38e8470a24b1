import { z } from "zod";
import type { Day } from "../../../core/calendar/day";
import { type OrderMove, refuses } from "../../../core/orders/state";
import { type Db, sql } from "../../db/open";
import { type OrderHead, readOrderHead } from "../../read/orders/order";
import { type Done, done, refuse, stale } from "../desk";
import { Id, Version } from "../fields";

export const Which = z.object({ order: Id, version: Version });

/** An order in the version that the person saw, and in a state that allows the move; or why not. */
export function orderFor(db: Db, id: number, version: number, move: OrderMove): Done<OrderHead> {
  const head = readOrderHead(db, id);
  if (!head) return refuse("", "There is no such order.");
  const no = refuses(head.state, move, head.name);
  if (no) return refuse("", no);
  if (head.version !== version) return stale(`${head.name} was changed by somebody else meanwhile.`);
  return done(head);
}

/** The next free position on an order. */
export const lastPosition = (db: Db, order: number): number =>
  sql<{ last: number }>(db, "SELECT coalesce(max(position), 0) AS last FROM order_line WHERE purchase_order = ?").get(
    order,
  )!.last;

/** The order is wanted by the earliest of its lines' days, and was changed once more. */
export function touchOrder(db: Db, order: number, version: number): number {
  sql(
    db,
    `UPDATE purchase_order SET version = @next, required = coalesce((SELECT min(required) FROM order_line WHERE purchase_order = @order AND kind <> 'charge'), required)
     WHERE id = @order`,
  ).run({ order, next: version + 1 });
  return version + 1;
}

/** A new empty draft to a supplier for a store. */
export const newDraft = (
  db: Db,
  desk: { person: { id: number }; now: string },
  supplier: { id: number; currency: string },
  store: number,
  required: Day,
): number =>
  Number(
    sql(
      db,
      "INSERT INTO purchase_order (supplier, store, currency, writer, state, required, written) VALUES (?, ?, ?, ?, 'Draft', ?, ?)",
    ).run(supplier.id, store, supplier.currency, desk.person.id, required, desk.now).lastInsertRowid,
  );
