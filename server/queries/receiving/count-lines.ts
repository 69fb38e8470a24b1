import type { Day } from "../../../core/calendar/day";
import type { ItemId, OrderId, OrderLineId, StoreId } from "../../../core/ids";
import { Big, roundToInteger } from "../../../core/numbers/decimal";
import { ONE } from "../../../core/numbers/quantity";
import type { CountedLine } from "../../../core/receiving/count";
import type { LotRule } from "../../../core/receiving/lot";
import { type Db, sql } from "../../db/open";
import { readCountedLines } from "./counted-lines";
import { lotRules } from "./lot-rules";

/** A line as it is counted. It holds no price. */
export interface CountLine {
  line: OrderLineId;
  position: number;
  item: ItemId | null;
  code: string | null;
  name: string;
  theirCode: string;
  gtin: string | null;
  unit: string;
  unitCode: string;
  stockUnit: string | null;
  factor: number;
  ordered: number;
  received: number;
  due: Day;
  bin: string;
  /** The jobs and requisitions it is for; null where it is for stock. */
  forWhom: string | null;
  /** What counts are held against. */
  counted: CountedLine;
  /** How it is told apart on the shelf; null where it is not. */
  lots: LotRule | null;
  /** It is weighed when it comes. */
  weighed: boolean;
  /** Kilograms of one purchase unit, ten-thousandths; null where it is not known. */
  weight: number | null;
}

/** Jobs and requisitions that an order line serves, so that whoever counts it in knows who waits. */
export const FOR_WHOM = `
  (SELECT group_concat(DISTINCT coalesce(j.kind || ' ' || j.code || iif(j.vessel = '', '', ' ' || j.vessel), r.number)) FROM need_tie t
   LEFT JOIN job_demand d ON d.id = t.job_demand LEFT JOIN job j ON j.id = d.job
   LEFT JOIN requisition_line q ON q.id = t.requisition_line LEFT JOIN requisition r ON r.id = q.requisition
   WHERE t.order_line = l.id AND (j.id IS NOT NULL OR r.id IS NOT NULL)) AS forWhom`;

const LINE = `
  SELECT l.id AS line, l.position, l.item, i.code, coalesce(i.name, l.words) AS name, l.their_code AS theirCode, i.gtin, u.name AS unit, l.unit AS unitCode,
            su.name AS stockUnit, l.factor, l.quantity - l.closed_short AS ordered, l.received, l.due, iif(l.bin = '', coalesce(p.bin, ''), l.bin) AS bin, i.weight AS one, coalesce(i.by_weight, 0) AS byWeight,
            ${FOR_WHOM}
     FROM order_line l JOIN unit u ON u.code = l.unit LEFT JOIN item i ON i.id = l.item LEFT JOIN unit su ON su.code = i.unit
     LEFT JOIN item_store p ON p.item = l.item AND p.store = l.store`;

type LineRow = Omit<CountLine, "counted" | "lots" | "weight" | "weighed"> & { one: number | null; byWeight: number };

/** The lines of an order that come to a store. */
export const readLinesOfLoad = (db: Db, order: OrderId, store: StoreId): CountLine[] =>
  withRules(
    db,
    sql<LineRow>(
      db,
      `${LINE} WHERE l.purchase_order = ? AND l.store = ? AND l.kind <> 'charge' ORDER BY l.position`,
    ).all(order, store),
  );

/** These lines, in the order in which they are due. */
export const readLinesById = (db: Db, lines: readonly OrderLineId[]): CountLine[] =>
  withRules(
    db,
    sql<LineRow>(db, `${LINE} WHERE l.id IN (SELECT value FROM json_each(?)) ORDER BY l.due, l.id`).all(
      JSON.stringify(lines),
    ),
  );

/** With what counts of them are held against. */
function withRules(db: Db, rows: readonly LineRow[]): CountLine[] {
  const counted = readCountedLines(
    db,
    rows.map((r) => r.line),
  );
  const rules = lotRules(
    db,
    rows.flatMap((r) => (r.item === null ? [] : [r.item])),
  );
  return rows.map(({ one, byWeight, ...r }) => ({
    ...r,
    weighed: byWeight === 1,
    counted: counted.get(r.line)!,
    lots: (r.item !== null && rules.get(r.item)) || null,
    weight: one === null ? null : roundToInteger(new Big(one).times(r.factor).div(ONE)),
  }));
}
