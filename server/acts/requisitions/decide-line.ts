import { z } from "zod";
import { quantityText } from "../../../core/numbers/quantity";
import { sql } from "../../db/open";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { Id, orNone, QuantityOrNone, text } from "../fields";
import { tellFollowers } from "../notices";
import { lineName, openLine } from "./end-requisition";
import { settleRequisition } from "./settle-requisitions";

/** The buyer buys another quantity than was asked for, or something that stands in for it; the asker sees it and why. */
export function decideLine(desk: Desk, raw: unknown): Done<{ line: number }> {
  const input = checked(
    z.object({
      line: Id,
      quantity: QuantityOrNone,
      offered: orNone(Id),
      why: text(300, 3, "Say why, so that the asker understands."),
    }),
    raw,
  );
  if (!input.ok) return input;
  const { line, quantity, offered, why } = input.value;
  return once(desk, "plan", (tx) => {
    const row = openLine(tx.db, line);
    if (!row.ok) return row;
    const other = offered
      ? sql<{ name: string; unit: string }>(
          tx.db,
          "SELECT i.name, u.name AS unit FROM item i JOIN unit u ON u.code = i.unit WHERE i.id = ? AND i.active = 1 AND i.kind <> 'charge'",
        ).get(offered)
      : null;
    if (offered && !other) return refuse("offered", "Choose an item.");
    if (offered && offered === row.value.item) return refuse("offered", "This is what was asked for.");
    if (!offered && (quantity === null || quantity === row.value.quantity))
      return refuse("quantity", "Change the quantity, or offer something else.");
    sql(
      tx.db,
      "UPDATE requisition_line SET decided = ?, offered = ?, decided_why = ?, decided_by = ? WHERE id = ?",
    ).run(quantity, offered, why, desk.person.id, line);
    const what = other
      ? `${other.name} instead of ${lineName(tx.db, line)}`
      : `${quantityText(quantity!)} of ${lineName(tx.db, line)}`;
    tellFollowers(tx.db, desk.now, row.value.requisition, `The buyer offers ${what}`, `${why} (${desk.person.name})`);
    tx.record("requisition.line-decided", `requisition ${row.value.requisition}`, {
      line,
      quantity,
      offered,
      says: `Offered: ${what}`,
      why,
    });
    return done({ line });
  });
}

/** The buyer declines a line with a reason. */
export function declineLine(desk: Desk, raw: unknown): Done<{ line: number }> {
  const input = checked(z.object({ line: Id, reason: text(300, 3, "Say why, so that the asker understands.") }), raw);
  if (!input.ok) return input;
  const { line, reason } = input.value;
  return once(desk, "plan", (tx) => {
    const row = openLine(tx.db, line);
    if (!row.ok) return row;
    const what = lineName(tx.db, line);
    sql(tx.db, "UPDATE requisition_line SET declined = ?, decided_by = ? WHERE id = ?").run(
      reason,
      desk.person.id,
      line,
    );
    sql(tx.db, "DELETE FROM need_choice WHERE need = ?").run(`r:${line}`);
    settleRequisition(tx.db, row.value.requisition);
    tellFollowers(tx.db, desk.now, row.value.requisition, `Declined: ${what}`, `${reason} (${desk.person.name})`);
    tx.record("requisition.line-declined", `requisition ${row.value.requisition}`, {
      line,
      says: `Declined: ${what}`,
      why: reason,
    });
    return done({ line });
  });
}
