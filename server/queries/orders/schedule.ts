import type { OrderId, OrderLineId } from "../../../core/ids";
import type { Scheduled } from "../../../core/orders/schedule";
import { type Db, sql } from "../../db/open";

/** A row of a line's schedule as it is kept. */
export type ScheduleRow = Scheduled & { id: number; line: OrderLineId };

const ROW = `
  SELECT s.order_line AS line, s.quantity, s.requested AS required, s.promised, s.received, s.closed_short AS closedShort
  FROM order_schedule s`;

/** The schedule of one line, in the order of its days. */
export const readSchedule = (db: Db, line: OrderLineId): ScheduleRow[] =>
  sql<ScheduleRow>(db, `${ROW.replace("SELECT", "SELECT s.id,")} WHERE s.order_line = ? ORDER BY s.position`).all(line);

/** The schedules of all lines of an order, with the line of each row. */
export const readSchedules = (db: Db, order: OrderId): IterableIterator<Scheduled & { line: OrderLineId }> =>
  sql<Scheduled & { line: OrderLineId }>(
    db,
    `${ROW} JOIN order_line l ON l.id = s.order_line WHERE l.purchase_order = ? ORDER BY s.order_line, s.position`,
  ).iterate(order);

/** The schedules of these lines, of whichever orders, with the line of each row. */
export const readSchedulesOfLines = (
  db: Db,
  lines: readonly OrderLineId[],
): IterableIterator<Scheduled & { line: OrderLineId }> =>
  sql<Scheduled & { line: OrderLineId }>(
    db,
    `${ROW} WHERE s.order_line IN (SELECT value FROM json_each(?)) ORDER BY s.order_line, s.position`,
  ).iterate(JSON.stringify(lines));
