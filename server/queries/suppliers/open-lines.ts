import { type Day, daysBetween, laterOf } from "../../../core/calendar/day";
import type { ItemId, OrderId, OrderLineId, StoreId, SupplierId } from "../../../core/ids";
import { decimalText } from "../../../core/numbers/decimal";
import { quantityText } from "../../../core/numbers/quantity";
import { unitCode } from "../../../core/numbers/units";
import { type Db, sql } from "../../db/open";
import { recordsFile } from "../records-file";
import { type LineChance, lineChances } from "./chances";

/** An instalment of which something is still to come. */
export interface OpenInstalment {
  order: OrderId;
  number: string;
  line: OrderLineId;
  position: number;
  /** Its place among the instalments of its line, from 1. */
  instalment: number;
  supplier: SupplierId;
  supplierCode: string;
  supplierName: string;
  store: StoreId;
  storeCode: string;
  item: ItemId | null;
  code: string;
  name: string;
  unit: string;
  /** What is still to come of it, purchase units. */
  quantity: number;
  requested: Day;
  promised: Day | null;
  /** Days by which it comes, or would come if it came today, after it was asked for. */
  late: number;
  chance: LineChance;
}

const OPEN = `
  SELECT o.id AS "order", o.number, l.id AS line, l.position, s.position AS instalment, o.supplier, p.code AS supplierCode, p.name AS supplierName,
         l.store, t.code AS storeCode, l.item, coalesce(i.code, '') AS code, coalesce(i.name, l.words) AS name, l.unit,
         s.quantity, s.requested, s.promised
  FROM open_schedule s JOIN order_line l ON l.id = s.order_line JOIN purchase_order o ON o.id = l.purchase_order
  JOIN supplier p ON p.id = o.supplier JOIN store t ON t.id = l.store LEFT JOIN item i ON i.id = l.item
  WHERE o.stage = 'placed' AND o.kind NOT IN ('blanket', 'standing') AND l.kind <> 'charge'
  ORDER BY coalesce(s.promised, s.requested), o.id, l.position, s.position`;

/** Everything that suppliers have still to bring, the earliest expected first, each with its chance to be here when it was asked for. */
export function readOpenInstalments(db: Db, today: Day): OpenInstalment[] {
  const chanceOf = lineChances(db, today);
  return sql<Omit<OpenInstalment, "late" | "chance">>(db, OPEN)
    .all()
    .map((r) => {
      const expected = r.promised ?? r.requested;
      return {
        ...r,
        late: Math.max(0, daysBetween(r.requested, laterOf(expected, today))),
        chance: chanceOf(r.supplier, r.item, { promised: expected, asked: r.requested }),
      };
    });
}

/**
 * By order: how likely the part of it that is least likely is here when it was asked for, hundredths of a percent. Nothing of
 * an order of which a part was asked for by a day that has passed: that is late already.
 */
export function leastChances(db: Db, today: Day): Map<OrderId, number> {
  const chanceFor = lineChances(db, today);
  const rows = sql<{ order: OrderId; supplier: SupplierId; item: ItemId | null; due: Day; requested: Day }>(
    db,
    `SELECT s.purchase_order AS "order", o.supplier, l.item, s.due, s.requested FROM open_schedule s JOIN order_line l ON l.id = s.order_line
     JOIN purchase_order o ON o.id = s.purchase_order WHERE o.stage = 'placed' AND o.kind NOT IN ('blanket', 'standing') AND l.kind <> 'charge'`,
  ).all();
  const least = new Map<OrderId, number>();
  const late = new Set(rows.filter((r) => r.requested < today).map((r) => r.order));
  for (const r of rows) {
    if (late.has(r.order)) continue;
    const { chance } = chanceFor(r.supplier, r.item, { promised: r.due, asked: r.requested, by: r.requested });
    if (chance) least.set(r.order, Math.min(chance.basisPoints, least.get(r.order) ?? chance.basisPoints));
  }
  return least;
}

/** The columns of /open-lines.csv, in their order. */
export const OPEN_LINE_COLUMNS = [
  "order",
  "line",
  "instalment",
  "supplier",
  "store",
  "item",
  "description",
  "quantity",
  "unit",
  "requested",
  "promised",
  "late_days",
  "chance_by",
  "chance_percent",
] as const;

export const openLinesFile = (rows: readonly OpenInstalment[], kind: "csv" | "json"): AsyncGenerator<string> =>
  recordsFile(
    rows,
    OPEN_LINE_COLUMNS,
    (r) => ({
      order: r.number,
      line: String(r.position),
      instalment: String(r.instalment),
      supplier: r.supplierCode,
      store: r.storeCode,
      item: r.code,
      description: r.name,
      quantity: quantityText(r.quantity),
      unit: unitCode(r.unit),
      requested: r.requested,
      promised: r.promised ?? "",
      late_days: String(r.late),
      chance_by: r.chance.by,
      chance_percent: r.chance.chance ? decimalText(r.chance.chance.basisPoints, 2) : "",
    }),
    kind,
  );
