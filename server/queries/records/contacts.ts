import type { SupplierId } from "../../../core/ids";
import { type Db, sql } from "../../db/open";

/** Contacts who get papers of a purpose; requests for prices and questions about invoices go to whoever takes orders where nobody else is named. */
export function contactsFor(
  db: Db,
  supplier: SupplierId,
  purpose: "orders" | "quotes" | "invoices",
): { name: string; mail: string }[] {
  const of = (column: string) =>
    sql<{ name: string; mail: string }>(
      db,
      `SELECT name, mail FROM supplier_contact WHERE supplier = ? AND ${column} = 1 ORDER BY id`,
    ).all(supplier);
  if (purpose === "orders") return of("for_orders");
  const asked = of(purpose === "quotes" ? "for_quotes" : "for_invoices");
  return asked.length ? asked : of("for_orders");
}
