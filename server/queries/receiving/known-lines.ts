import { addDays, type Day } from "../../../core/calendar/day";
import type { OrderLineId, StoreId } from "../../../core/ids";
import { type Db, sql } from "../../db/open";
import { type OpenLine, readOpenLines } from "./open-count";

/** A device knows what should come within so many days, at most so many lines of it, the earliest due. */
const DAYS = 21;
const MOST = 3_000;

/** What should come to a store soon: the dock's work list, as a device keeps it to count without a connection. */
export function readKnownLines(db: Db, store: StoreId, today: Day): OpenLine[] {
  const lines = sql<{ id: OrderLineId }>(
    db,
    `SELECT l.id FROM order_line l JOIN purchase_order o ON o.id = l.purchase_order
     WHERE l.open = 1 AND l.store = @store AND l.kind <> 'charge' AND o.stage = 'placed' AND o.kind <> 'direct' AND l.due <= @until ORDER BY l.due, l.id LIMIT ${MOST}`,
  ).all({ store, until: addDays(today, DAYS) });
  return readOpenLines(
    db,
    store,
    lines.map((l) => l.id),
  );
}
