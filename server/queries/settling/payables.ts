import type { Day } from "../../../core/calendar/day";
import type { SupplierId } from "../../../core/ids";
import { type Db, sql } from "../../db/open";

/** What is owed for one paper: an invoice or an agreed use statement. */
export interface PayableRow {
  id: number;
  supplier: SupplierId;
  supplierName: string;
  /** Their number, or the statement's. */
  number: string;
  invoice: number | null;
  statement: number | null;
  currency: string;
  total: number;
  /** Home currency, as it was booked. */
  homeTotal: number;
  due: Day;
  day: Day;
}

/** What was owed on a day, the earliest due first: booked by then, and not ended by then. */
export const readPayables = (db: Db, on: Day): PayableRow[] =>
  sql<PayableRow>(
    db,
    `SELECT y.id, y.supplier, s.name AS supplierName, coalesce(v.number, u.number) AS number, y.invoice, y.statement, y.currency, y.total, y.home_total AS homeTotal, y.due, y.day
     FROM payable y JOIN supplier s ON s.id = y.supplier LEFT JOIN invoice v ON v.id = y.invoice LEFT JOIN use_statement u ON u.id = y.statement
     WHERE y.day <= @on AND (y.ended IS NULL OR y.ended > @on) ORDER BY y.due, y.id LIMIT 2000`,
  ).all({ on });
