import type { Day } from "../../../core/calendar/day";
import type { OrderLineId } from "../../../core/ids";
import { fillSchedule, type Instalment } from "../../../core/orders/schedule";
import { type Db, sql } from "../../db/open";
import { readSchedule } from "../../queries/orders/schedule";

/**
 * Keeps what a line comes in: its instalments, or all of it on one day. Rows keep their identity by their position.
 * Quantities in purchase units; it had so many rows `before`. Call after the line's own quantity is kept, inside the act's transaction.
 */
export function keepSchedule(
  db: Db,
  line: OrderLineId,
  whole: Instalment,
  instalments: readonly Instalment[] = [],
  before = 1,
): void {
  const rows = instalments.length ? instalments : [whole];
  const keep = sql(
    db,
    `INSERT INTO order_schedule (order_line, position, quantity, requested) VALUES (?, ?, ?, ?)
     ON CONFLICT (order_line, position) DO UPDATE SET quantity = excluded.quantity, requested = excluded.requested`,
  );
  rows.forEach((r, i) => {
    keep.run(line, i + 1, r.quantity, r.required);
  });
  if (before > rows.length)
    sql(db, "DELETE FROM order_schedule WHERE order_line = ? AND position > ?").run(line, rows.length);
}

/** The supplier's last word on when a line comes, all of it on one day. */
export const promiseAll = (db: Db, line: OrderLineId, day: Day | null): void => {
  sql(db, "UPDATE order_schedule SET promised = ? WHERE order_line = ?").run(day, line);
};

/** What came of a line meets its schedule, the earliest due first. Purchase units. */
export function countIntoSchedule(db: Db, line: OrderLineId, came: number): void {
  const rows = readSchedule(db, line);
  const set = sql(db, "UPDATE order_schedule SET received = received + ? WHERE id = ?");
  fillSchedule(rows, came).forEach((part, i) => {
    if (part !== 0) set.run(part, rows[i]!.id);
  });
}

/** Nothing more of a line will come. */
export const closeSchedule = (db: Db, line: OrderLineId): void => {
  sql(
    db,
    "UPDATE order_schedule SET closed_short = quantity - received WHERE order_line = ? AND received + closed_short < quantity",
  ).run(line);
};
