import { z } from "zod";
import type { RequisitionId, SupplierId } from "../../../core/ids";
import { sql } from "../../db/open";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { Id } from "../fields";

export const ChooseSupplier = z.object({ line: Id, supplier: Id });

/** The buyer says who does a service that somebody asked for in free words. */
export function chooseSupplier(desk: Desk, raw: unknown): Done<{ supplier: SupplierId }> {
  const input = checked(ChooseSupplier, raw);
  if (!input.ok) return input;
  const { line, supplier } = input.value;
  return once(desk, "plan", (tx) => {
    const open = sql<{ requisition: RequisitionId }>(
      tx.db,
      `SELECT l.requisition FROM requisition_line l JOIN requisition r ON r.id = l.requisition
       WHERE l.id = ? AND l.item IS NULL AND r.state IN ('Open', 'Part ordered') AND NOT EXISTS (SELECT 1 FROM need_tie t WHERE t.requisition_line = l.id)`,
    ).get(line);
    if (!open) return refuse("", "This need is not open any more.");
    if (!sql(tx.db, "SELECT 1 FROM supplier WHERE id = ? AND active = 1").get(supplier))
      return refuse("supplier", "There is no such supplier.");
    sql(tx.db, "UPDATE requisition_line SET supplier = ? WHERE id = ?").run(supplier, line);
    tx.record("requisition.supplier-chosen", `requisition ${open.requisition}`, { line, supplier });
    return done({ supplier });
  });
}
