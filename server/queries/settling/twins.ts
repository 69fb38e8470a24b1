import type { Day } from "../../../core/calendar/day";
import type { OrderLineId, SupplierId } from "../../../core/ids";
import { type Db, sql } from "../../db/open";

/** An invoice that looks like another. */
export interface Twin {
  id: number;
  number: string;
  day: Day;
  total: number;
  currency: string;
  /** In what they are alike. */
  why: string;
}

/** Invoices of a supplier over the same amount on the same day, or over exactly the same lines (domain-goods §14). */
export function twinsOf(
  db: Db,
  supplier: SupplierId,
  day: Day,
  total: number,
  lines: readonly { orderLine: OrderLineId | null; quantity: number; net: number }[],
): Twin[] {
  const fingerprint = JSON.stringify(
    lines
      .map((l) => [l.orderLine ?? 0, l.quantity, l.net])
      .sort((a, b) => a[0]! - b[0]! || a[1]! - b[1]! || a[2]! - b[2]!),
  );
  return sql<Twin>(
    db,
    `SELECT id, number, day, total, currency, iif(day = @day AND total = @total, 'is of the same day and amount', 'has the same lines') AS why
     FROM invoice v WHERE supplier = @supplier AND kind = 'invoice' AND state NOT IN ('Sent back', 'Taken off')
       AND ((day = @day AND total = @total)
         OR (SELECT json_group_array(json_array(coalesce(order_line, 0), quantity, net)) FROM (SELECT * FROM invoice_line WHERE invoice = v.id ORDER BY coalesce(order_line, 0), quantity, net)) = @fingerprint)
     ORDER BY v.id DESC LIMIT 3`,
  ).all({ supplier, day, total, fingerprint });
}
