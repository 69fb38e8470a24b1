import { z } from "zod";
import type { RequisitionId } from "../../../core/ids";
import { may } from "../../../core/people/roles";
import { sql } from "../../db/open";
import { readRequisitionHead } from "../../queries/requisitions/requisition";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { Id } from "../fields";

/**
 * A new draft with the lines of an earlier requisition: one's own, or one that was handed in and that one is told of. Dates
 * are left to be said, and so are estimates which one may not see.
 */
export function copyRequisition(desk: Desk, raw: unknown): Done<{ requisition: RequisitionId }> {
  const input = checked(z.object({ requisition: Id }), raw);
  if (!input.ok) return input;
  const from = input.value.requisition;
  return once(desk, "ask", (tx) => {
    const head = readRequisitionHead(tx.db, from);
    const own = head?.asker === desk.person.id;
    const follows =
      head?.state !== "Draft" &&
      sql(tx.db, "SELECT 1 FROM requisition_watcher WHERE requisition = ? AND person = ?").get(from, desk.person.id);
    if (!head || !(own || follows)) return refuse("", "This requisition is not yours, or is gone.");
    const id = Number(
      sql(
        tx.db,
        "INSERT INTO requisition (asker, store, reason, state, started, copied_from) VALUES (?, ?, ?, 'Draft', ?, ?)",
      ).run(desk.person.id, head.store, head.reason, desk.now, from).lastInsertRowid,
    );
    sql(
      tx.db,
      `INSERT INTO requisition_line (requisition, position, item, words, kind, quantity, estimate, account, budget)
       SELECT @id, row_number() OVER (ORDER BY l.position), i.id, iif(l.item IS NULL, l.words, iif(i.id IS NULL, (SELECT name FROM item WHERE id = l.item), '')), l.kind, l.quantity, iif(i.reference_cost > 0 OR NOT @money, NULL, l.estimate), l.account, l.budget
       FROM requisition_line l LEFT JOIN item i ON i.id = l.item AND i.active = 1 WHERE l.requisition = @from`,
    ).run({ id, from, money: own || may(desk.person.roles, "see prices") ? 1 : 0 });
    sql(
      tx.db,
      "INSERT INTO requisition_watcher (requisition, person) SELECT ?, person FROM requisition_watcher WHERE requisition = ? AND person <> ?",
    ).run(id, from, desk.person.id);
    tx.record("requisition.copied", `requisition ${id}`, { from: head.name });
    return done({ requisition: id });
  });
}
