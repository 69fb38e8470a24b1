import { type Day, daysBetween } from "../../../core/calendar/day";
import { decimalText } from "../../../core/numbers/decimal";
import { exponent, lineNet, type UnitPrice } from "../../../core/numbers/money";
import { quantityText } from "../../../core/numbers/quantity";
import { unitCode } from "../../../core/numbers/units";
import { type Db, sql } from "../../db/open";
import type { FileColumn } from "../file-columns";

/** An instalment whose day has passed. */
export interface OverdueRow {
  supplier: string;
  supplierName: string;
  number: string;
  position: number;
  item: string;
  name: string;
  store: string;
  quantity: number;
  unit: string;
  unitName: string;
  due: Day;
  late: number;
  currency: string;
  /** What the open balance is worth in the order's currency, net of tax, minor units; null where no price is known. */
  open: number | null;
}

/** Everything overdue by supplier, the longest late first within each. */
export const readOverdue = (db: Db, today: Day): OverdueRow[] =>
  sql<Omit<OverdueRow, "late" | "open"> & { price: UnitPrice | null; standing: number; discount: number }>(
    db,
    `SELECT p.code AS supplier, p.name AS supplierName, o.number, l.position, coalesce(i.code, '') AS item, coalesce(i.name, l.words) AS name, t.name AS store,
            s.quantity, l.unit, u.name AS unitName, s.due, o.currency, l.price, l.standing_discount AS standing, l.discount
     FROM open_schedule s JOIN order_line l ON l.id = s.order_line JOIN purchase_order o ON o.id = l.purchase_order JOIN supplier p ON p.id = o.supplier
     JOIN store t ON t.id = l.store JOIN unit u ON u.code = l.unit LEFT JOIN item i ON i.id = l.item
     WHERE o.stage = 'placed' AND o.kind NOT IN ('blanket', 'standing') AND l.kind <> 'charge' AND s.due < ?
     ORDER BY p.name, s.due, o.id, l.position, s.position`,
  )
    .all(today)
    .map(({ price, standing, discount, ...r }) => ({
      ...r,
      late: daysBetween(r.due, today),
      open: price === null ? null : lineNet(r.quantity, price, standing, discount, r.currency).minor,
    }));

export const OVERDUE_COLUMNS: readonly FileColumn<OverdueRow>[] = [
  { name: "supplier", width: 10, cell: (r) => r.supplier },
  { name: "supplier_name", width: 28, cell: (r) => r.supplierName },
  { name: "order", width: 12, cell: (r) => r.number },
  { name: "line", width: 6, cell: (r) => r.position },
  { name: "item", width: 12, cell: (r) => r.item },
  { name: "description", width: 36, cell: (r) => r.name },
  { name: "store", width: 14, cell: (r) => r.store },
  { name: "open_quantity", width: 12, as: "number", cell: (r) => quantityText(r.quantity) },
  { name: "unit", width: 8, cell: (r) => unitCode(r.unit) },
  { name: "expected", width: 12, as: "day", cell: (r) => r.due },
  { name: "days_late", width: 10, as: "number", cell: (r) => r.late },
  {
    name: "open_value",
    width: 13,
    as: "money",
    currency: (r) => r.currency,
    cell: (r) => (r.open === null ? "" : decimalText(r.open, exponent(r.currency), exponent(r.currency))),
  },
  { name: "currency", width: 9, cell: (r) => r.currency },
];
