import type { OrderLineId } from "../../../core/ids";
import { type SaidPart, standingParts, type TakenRow, takenSchedule } from "../../../core/suppliers/answer";
import { type Db, sql } from "../../db/open";
import type { ScheduleRow } from "../../queries/orders/schedule";

/**
 * Keeps what a supplier promised of a line, and that the line is answered: its schedule as they said it, or as it stands
 * where they said nothing else. Returns what the line comes to, in purchase units. Call inside the act's transaction.
 */
export function keepPromises(
  db: Db,
  line: OrderLineId,
  schedule: readonly ScheduleRow[],
  said: readonly SaidPart[] | null,
  answer: number,
  now: string,
): number {
  const parts = said ?? standingParts(schedule);
  const whole = writeSchedule(db, line, schedule, takenSchedule(schedule, parts));
  sql(db, "UPDATE order_line SET answered = ? WHERE id = ?").run(now, line);
  const note = sql(db, "INSERT INTO promise (order_line, quantity, day, at, answer) VALUES (?, ?, ?, ?, ?)");
  for (const p of parts) note.run(line, p.quantity, p.day, now, answer);
  return whole;
}

/** Puts other rows in the place of a line's schedule; those that stay keep their identity. Returns what the line comes to. */
export function writeSchedule(
  db: Db,
  line: OrderLineId,
  schedule: readonly ScheduleRow[],
  rows: readonly TakenRow[],
): number {
  const keep = sql(
    db,
    `UPDATE order_schedule SET position = @position, quantity = @quantity, requested = @required, promised = @promised,
       closed_short = @closedShort, let_off = min(let_off, @closedShort) WHERE id = @id`,
  );
  const add = sql(
    db,
    "INSERT INTO order_schedule (order_line, position, quantity, requested, promised) VALUES (?, ?, ?, ?, ?)",
  );
  const whole = rows.reduce((a, r) => a + r.quantity, 0);
  sql(db, "UPDATE order_line SET quantity = ? WHERE id = ?").run(whole, line);
  const stays = new Set(rows.map((r) => r.was));
  for (const [i, row] of schedule.entries())
    if (!stays.has(i)) sql(db, "DELETE FROM order_schedule WHERE id = ?").run(row.id);
  // Rows change their places: first out of the way of each other.
  sql(db, "UPDATE order_schedule SET position = -position WHERE order_line = ?").run(line);
  for (const [i, r] of rows.entries()) {
    if (r.was === null) add.run(line, i + 1, r.quantity, r.required, r.promised);
    else {
      const { quantity, required, promised, closedShort } = r;
      keep.run({ position: i + 1, quantity, required, promised, closedShort, id: schedule[r.was]!.id });
    }
  }
  return whole;
}
