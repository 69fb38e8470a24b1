import type { OrderLineId } from "../../../core/ids";
import { comesWhole } from "../../../core/numbers/units";
import type { CountedLine } from "../../../core/receiving/count";
import { forDelivery } from "../../../core/receiving/tolerance";
import { type Db, sql } from "../../db/open";
import { readSchedulesOfLines } from "../orders/schedule";
import { tolerancesOfLines } from "./tolerances";

/** These lines as counts are held against them: schedule, unit, tolerances. Quantities in purchase units. */
export function readCountedLines(db: Db, lines: readonly OrderLineId[]): Map<OrderLineId, CountedLine> {
  const tolerances = tolerancesOfLines(db, lines);
  const schedules = new Map<OrderLineId, CountedLine["schedule"][number][]>();
  for (const { line, ...row } of readSchedulesOfLines(db, lines)) {
    const of = schedules.get(line);
    if (of) of.push(row);
    else schedules.set(line, [row]);
  }
  const rows = sql<{ line: OrderLineId; unit: string; letOff: number }>(
    db,
    `SELECT l.id AS line, l.unit, (SELECT sum(s.let_off) FROM order_schedule s WHERE s.order_line = l.id) AS letOff
     FROM json_each(?) j JOIN order_line l ON l.id = j.value`,
  ).all(JSON.stringify(lines));
  return new Map(
    rows.map((r) => [
      r.line,
      {
        schedule: schedules.get(r.line) ?? [],
        letOff: r.letOff,
        whole: comesWhole(r.unit),
        tolerance: forDelivery(tolerances.get(r.line)!),
      },
    ]),
  );
}
