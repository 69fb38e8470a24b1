import type { Day } from "../../../core/calendar/day";
import type { SupplierId } from "../../../core/ids";
import { invoiceNumberKey } from "../../../core/settling/invoice";
import { type Db, sql } from "../../db/open";

/** The paper of a supplier that bears the same number, however it is spelt, and still counts. */
export const entered = (
  db: Db,
  supplier: SupplierId,
  number: string,
): { id: number; number: string; day: Day } | null =>
  sql<{ id: number; number: string; day: Day }>(
    db,
    "SELECT id, number, day FROM invoice WHERE supplier = ? AND plain = ? AND state NOT IN ('Sent back', 'Taken off')",
  ).get(supplier, invoiceNumberKey(number)) ?? null;
