import type { Day } from "../../../core/calendar/day";
import type { SupplierId } from "../../../core/ids";
import { type Db, sql } from "../../db/open";

/** How we stand with a supplier on a day; home currency as booked, minor units. */
export interface SupplierBalance {
  /** What is owed them, credits set off. */
  owed: number;
  /** Of that, what should have been paid by now. */
  overdue: number;
  /** What they billed and is held. */
  held: number;
  /** What they were asked back and have not credited. */
  claimed: number;
}

export const readBalance = (db: Db, supplier: SupplierId, day: Day): SupplierBalance =>
  sql<SupplierBalance>(
    db,
    `SELECT coalesce(sum(y.left), 0) AS owed, coalesce(sum(iif(y.due < @day, y.left, 0)), 0) AS overdue,
       (SELECT coalesce(sum(v.home_total), 0) FROM invoice v WHERE v.supplier = @supplier AND v.state = 'Held') AS held,
       (SELECT coalesce(sum(c.home), 0) FROM claim c WHERE c.supplier = @supplier AND c.state = 'Open') AS claimed
     FROM (SELECT p.due, n.home_total - n.home_settled AS "left" FROM payable p JOIN payable_now n ON n.id = p.id WHERE p.supplier = @supplier AND p.ended IS NULL) y`,
  ).get({ supplier, day })!;
