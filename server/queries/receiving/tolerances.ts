import type { OrderLineId } from "../../../core/ids";
import {
  type Beyond,
  type ToleranceInForce,
  type ToleranceScope,
  type ToleranceSet,
  type TooEarly,
  toleranceInForce,
} from "../../../core/receiving/tolerance";
import { type Db, sql } from "../../db/open";

interface Row {
  scope: ToleranceScope;
  overPercent: number | null;
  overQuantity: number | null;
  underPercent: number | null;
  underQuantity: number | null;
  earlyDays: number | null;
  lateDays: number | null;
  pricePercent: number | null;
  priceAmount: number | null;
  beyond: Beyond | null;
  early: TooEarly | null;
}

const VALUES = `t.scope, t.over_percent AS overPercent, t.over_quantity AS overQuantity, t.under_percent AS underPercent, t.under_quantity AS underQuantity,
  t.early_days AS earlyDays, t.late_days AS lateDays, t.price_percent AS pricePercent, t.price_amount AS priceAmount, t.beyond, t.early`;

/** What concerns each of some order lines, scope by scope; each part goes by its index. */
const OF_LINES = `
  WITH asked AS (SELECT l.id AS line, l.item, o.supplier, i.category FROM json_each(@lines) j JOIN order_line l ON l.id = j.value
    JOIN purchase_order o ON o.id = l.purchase_order LEFT JOIN item i ON i.id = l.item)
  SELECT a.line, ${VALUES} FROM asked a JOIN tolerance t ON t.order_line = a.line AND t.scope = 'order line'
  UNION ALL SELECT a.line, ${VALUES} FROM asked a JOIN tolerance t ON t.item = a.item AND t.scope = 'item at supplier' AND t.supplier = a.supplier
  UNION ALL SELECT a.line, ${VALUES} FROM asked a JOIN tolerance t ON t.item = a.item AND t.scope = 'item'
  UNION ALL SELECT a.line, ${VALUES} FROM asked a JOIN tolerance t ON t.scope = 'category' AND t.category = a.category AND a.category <> ''
  UNION ALL SELECT a.line, ${VALUES} FROM asked a JOIN tolerance t ON t.supplier = a.supplier AND t.scope = 'supplier'
  UNION ALL SELECT a.line, ${VALUES} FROM asked a JOIN tolerance t ON t.scope = 'house'`;

/** The tolerances that hold for each of these order lines. */
export function tolerancesOfLines(db: Db, lines: readonly OrderLineId[]): Map<OrderLineId, ToleranceInForce> {
  const sets = new Map<OrderLineId, ToleranceSet[]>(lines.map((l) => [l, []]));
  for (const { line, ...set } of sql<Row & { line: OrderLineId }>(db, OF_LINES).all({ lines: JSON.stringify(lines) }))
    sets.get(line)?.push(set);
  return new Map([...sets].map(([line, of]) => [line, toleranceInForce(of)]));
}

export interface ToleranceRow extends Row {
  id: number;
  supplier: number | null;
  supplierCode: string | null;
  supplierName: string | null;
  category: string | null;
  item: number | null;
  itemCode: string | null;
  itemName: string | null;
  order: number | null;
  orderNumber: string | null;
  position: number | null;
  lineWords: string | null;
}

/** Every tolerance that is set, the widest scope first. */
export const readTolerances = (db: Db): ToleranceRow[] =>
  sql<ToleranceRow>(
    db,
    `SELECT t.id, t.supplier, s.code AS supplierCode, s.name AS supplierName, t.category, t.item, i.code AS itemCode, i.name AS itemName,
            o.id AS "order", o.number AS orderNumber, l.position, l.words AS lineWords, ${VALUES}
     FROM tolerance t LEFT JOIN supplier s ON s.id = t.supplier LEFT JOIN item i ON i.id = t.item
     LEFT JOIN order_line l ON l.id = t.order_line LEFT JOIN purchase_order o ON o.id = l.purchase_order
     ORDER BY CASE t.scope WHEN 'house' THEN 0 WHEN 'supplier' THEN 1 WHEN 'category' THEN 2 WHEN 'item' THEN 3 WHEN 'item at supplier' THEN 4 ELSE 5 END,
              s.name, t.category, i.code, o.number, l.position, t.id`,
  ).all();
