import type { Day } from "../../../core/calendar/day";
import type { OrderLineId } from "../../../core/ids";
import { emptySchedule, fillSchedule, type Instalment, openOf } from "../../../core/orders/schedule";
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

/** What came of a line meets its schedule, the earliest due first; what was let off before is open for it. Purchase units. */
export function countIntoSchedule(db: Db, line: OrderLineId, came: number): void {
  takeBackLetOff(db, line);
  const rows = readSchedule(db, line);
  const set = sql(db, "UPDATE order_schedule SET received = received + ? WHERE id = ?");
  fillSchedule(rows, came).forEach((part, i) => {
    if (part !== 0) set.run(part, rows[i]!.id);
  });
}

/** What is missing of a line is missed after all. */
export const takeBackLetOff = (db: Db, line: OrderLineId): void => {
  sql(
    db,
    "UPDATE order_schedule SET closed_short = closed_short - let_off, let_off = 0 WHERE order_line = ? AND let_off > 0",
  ).run(line);
};

/** What is missing of a line is not missed: what came is enough. */
export const letOffRest = (db: Db, line: OrderLineId): void => {
  sql(
    db,
    `UPDATE order_schedule SET let_off = let_off + quantity - received - closed_short, closed_short = quantity - received
     WHERE order_line = ? AND received + closed_short < quantity`,
  ).run(line);
};

/**
 * What was counted of a line does not count any more: taken from the instalments of the latest days first, as the earliest
 * were met first. Purchase units.
 */
export function countOutOfSchedule(db: Db, line: OrderLineId, quantity: number): void {
  const rows = readSchedule(db, line);
  const set = sql(db, "UPDATE order_schedule SET received = received - ? WHERE id = ?");
  emptySchedule(rows, quantity).forEach((part, i) => {
    if (part !== 0) set.run(part, rows[i]!.id);
  });
}

/** So much of what was counted of a line is to come once more, on another day. Purchase units. */
export function dueAnew(db: Db, line: OrderLineId, quantity: number, day: Day): void {
  const rows = readSchedule(db, line);
  const parts = emptySchedule(rows, quantity);
  const whole = sql(
    db,
    "UPDATE order_schedule SET received = received - @part, requested = @day, promised = NULL WHERE id = @id",
  );
  const less = sql(
    db,
    "UPDATE order_schedule SET received = received - @part, quantity = quantity - @part WHERE id = @id",
  );
  let anew = 0;
  for (const [i, r] of rows.entries()) {
    const part = parts[i]!;
    if (part === 0) continue;
    if (part === r.quantity) whole.run({ part, day, id: r.id });
    else {
      less.run({ part, id: r.id });
      anew += part;
    }
  }
  if (anew > 0)
    sql(
      db,
      `INSERT INTO order_schedule (order_line, position, quantity, requested)
       SELECT @line, max(position) + 1, @anew, @day FROM order_schedule WHERE order_line = @line`,
    ).run({ line, anew, day });
}

/** So much of a line, which did not come or did not stay, will not come any more. Purchase units, no more than is open. */
export function closePart(db: Db, line: OrderLineId, quantity: number): void {
  const rows = readSchedule(db, line);
  const set = sql(db, "UPDATE order_schedule SET closed_short = closed_short + ? WHERE id = ?");
  let left = quantity;
  for (const r of rows) {
    const part = Math.min(left, openOf(r));
    if (part > 0) set.run(part, r.id);
    left -= part;
  }
}

/** Nothing more of a line will come. */
export const closeSchedule = (db: Db, line: OrderLineId): void => {
  sql(
    db,
    "UPDATE order_schedule SET closed_short = quantity - received WHERE order_line = ? AND received + closed_short < quantity",
  ).run(line);
};
