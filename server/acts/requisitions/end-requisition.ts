import { z } from "zod";
import type { ItemId, RequisitionId } from "../../../core/ids";
import { type Db, sql } from "../../db/open";
import { type RequisitionHead, readRequisitionHead } from "../../queries/requisitions/requisition";
import { checked, type Desk, type Done, done, once, refuse, stale } from "../desk";
import { Id, text, Version } from "../fields";
import { retire, tell } from "../notices";

const Which = z.object({ requisition: Id, version: Version });

/** Nothing of it may stand on an order or a transfer yet. */
const begun = (db: Db, requisition: RequisitionId) =>
  sql(
    db,
    `SELECT 1 FROM requisition_line q LEFT JOIN need_tie t ON t.requisition_line = q.id LEFT JOIN transfer_line m ON m.requisition_line = q.id
     WHERE q.requisition = ? AND (t.order_line IS NOT NULL OR m.id IS NOT NULL)`,
  ).get(requisition) !== undefined;

function dropTraces(db: Db, at: string, requisition: RequisitionId): void {
  sql(
    db,
    `UPDATE seat SET state = 'not reached' WHERE state IN ('waiting', 'later')
     AND signing IN (SELECT id FROM signing WHERE requisition = ? AND state = 'In sign-off')`,
  ).run(requisition);
  sql(db, "UPDATE signing SET state = 'Draft', ended = ? WHERE requisition = ? AND state = 'In sign-off'").run(
    at,
    requisition,
  );
  sql(db, "DELETE FROM need_choice WHERE need IN (SELECT 'r:' || id FROM requisition_line WHERE requisition = ?)").run(
    requisition,
  );
  retire(db, at, `/requisitions/${requisition}`);
}

function found(db: Db, id: RequisitionId, version: number): Done<RequisitionHead> {
  const head = readRequisitionHead(db, id);
  if (!head) return refuse("", "There is no such requisition.");
  if (head.version !== version) return stale(`${head.name} was changed by somebody else meanwhile.`);
  return done(head);
}

/** The asker takes it back, as long as nothing of it is ordered. */
export function withdrawRequisition(desk: Desk, raw: unknown): Done<{ number: string }> {
  const input = checked(Which.extend({ reason: text(300) }), raw);
  if (!input.ok) return input;
  const { requisition, version, reason } = input.value;
  return once(desk, "ask", (tx) => {
    const head = found(tx.db, requisition, version);
    if (!head.ok) return head;
    if (head.value.asker !== desk.person.id) return refuse("", "Only whoever asked can withdraw it.");
    if (head.value.state !== "In sign-off" && head.value.state !== "Open")
      return refuse(
        "",
        `${head.value.name} is ${head.value.state.toLowerCase()} and can no longer be withdrawn. Ask the buyer to decline what is left.`,
      );
    if (begun(tx.db, requisition)) return refuse("", "Something of it is on an order already. Ask the buyer.");
    dropTraces(tx.db, desk.now, requisition);
    sql(tx.db, "UPDATE requisition SET state = 'Withdrawn', ended_why = ?, version = version + 1 WHERE id = ?").run(
      reason,
      requisition,
    );
    tx.record("requisition.withdrawn", `requisition ${requisition}`, { number: head.value.number, why: reason });
    return done({ number: head.value.name });
  });
}

/** The buyer returns it to its asker with a reason; it becomes a draft again. */
export function returnRequisition(desk: Desk, raw: unknown): Done<{ number: string }> {
  const input = checked(
    Which.extend({ reason: text(500, 3, "Say why, so that the asker knows what to change.") }),
    raw,
  );
  if (!input.ok) return input;
  const { requisition, version, reason } = input.value;
  return once(desk, "plan", (tx) => {
    const head = found(tx.db, requisition, version);
    if (!head.ok) return head;
    if (head.value.state !== "Open")
      return refuse("", `${head.value.name} is ${head.value.state.toLowerCase()} and cannot be sent back.`);
    if (begun(tx.db, requisition))
      return refuse("", "Something of it is on an order already. Decline the other lines instead.");
    dropTraces(tx.db, desk.now, requisition);
    sql(tx.db, "UPDATE requisition SET state = 'Draft', sent_back = ?, version = version + 1 WHERE id = ?").run(
      `${reason} (${desk.person.name})`,
      requisition,
    );
    tell(
      tx.db,
      desk.now,
      head.value.asker,
      `Requisition ${head.value.name} was sent back`,
      `${reason} (${desk.person.name})`,
      `/requisitions/${requisition}`,
    );
    tx.record("requisition.returned", `requisition ${requisition}`, { says: "Sent back", why: reason });
    return done({ number: head.value.name });
  });
}

/** Names in a notice what a line is about. */
export const lineName = (db: Db, line: number) =>
  sql<{ name: string }>(
    db,
    "SELECT coalesce(i.name, l.words) AS name FROM requisition_line l LEFT JOIN item i ON i.id = l.item WHERE l.id = ?",
  ).get(line)!.name;

/** A line of an open requisition that stands on no order and no transfer yet, or why it cannot be decided. */
export function openLine(
  db: Db,
  line: number,
): Done<{ requisition: RequisitionId; item: ItemId | null; quantity: number; number: string }> {
  const row = sql<{ requisition: RequisitionId; item: ItemId | null; quantity: number; number: string; taken: number }>(
    db,
    `SELECT l.requisition, l.item, coalesce(l.quantity, 10000) AS quantity, r.number, t.order_line IS NOT NULL OR m.id IS NOT NULL AS taken
     FROM requisition_line l JOIN requisition r ON r.id = l.requisition LEFT JOIN need_tie t ON t.requisition_line = l.id
     LEFT JOIN transfer_line m ON m.requisition_line = l.id
     WHERE l.id = ? AND r.state IN ('Open', 'Part ordered', 'Ordered') AND l.declined IS NULL`,
  ).get(line);
  if (!row) return refuse("", "This line is not open any more.");
  if (row.taken) return refuse("", "This line is on an order or a transfer already. Take it off there first.");
  return done(row);
}
