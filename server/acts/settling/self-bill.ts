import type { OrderId, SupplierId } from "../../../core/ids";
import { quantityText } from "../../../core/numbers/quantity";
import { type Db, sql } from "../../db/open";
import { comingNumber, nextNumber } from "../../db/series";
import { billableOfOrder } from "../../queries/settling/ordered";
import type { Desk } from "../desk";
import { EnterInvoice, typedInvoice } from "./enter-invoice";
import { keepInvoice } from "./keep-invoice";
import { judgeInvoice } from "./match-invoice";

/**
 * Writes the invoice of what came of an order and is not invoiced, where its supplier agreed that we do: at what was ordered,
 * with the charges of the order that are not billed. It matches by itself. Null where nothing is to be billed so, or it
 * cannot be entered: then it stays *received, not invoiced*. Inside the act's transaction.
 */
export function selfBill(db: Db, desk: Desk, order: OrderId): number | null {
  const of = sql<{ supplier: SupplierId }>(
    db,
    "SELECT o.supplier FROM purchase_order o JOIN supplier s ON s.id = o.supplier WHERE o.id = ? AND s.self_bills = 1 AND o.agreement IS NULL",
  ).get(order);
  const lines = of ? billableOfOrder(db, order).filter((l) => l.received > l.invoiced) : [];
  if (!of || !lines.some((l) => l.kind !== "charge")) return null;
  const input = EnterInvoice.parse({
    supplier: of.supplier,
    number: comingNumber(db, "self-billed", desk.day),
    day: desk.day,
    lines: lines.map((l) => ({ line: l.line, quantity: quantityText(l.received - l.invoiced) })),
    another: "yes",
  });
  const typed = typedInvoice(db, input);
  if (!typed.ok) return null;
  const kept = keepInvoice(db, desk, typed.value);
  if (!kept.ok) return null;
  nextNumber(db, "self-billed", desk.day); // taken once there is an invoice: a series has no gap
  sql(db, "UPDATE invoice SET ours = 1 WHERE id = ?").run(kept.value);
  judgeInvoice(db, desk, kept.value);
  return kept.value;
}
