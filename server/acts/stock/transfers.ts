import { z } from "zod";
import { addDays } from "../../../core/calendar/day";
import type { ItemId, RequisitionId, TransferId } from "../../../core/ids";
import { quantityText } from "../../../core/numbers/quantity";
import { type Db, madeId, sql } from "../../db/open";
import { nextNumber } from "../../db/series";
import { usualPlan } from "../../queries/needs/need";
import { needNow } from "../../queries/needs/one";
import { groundOf } from "../../queries/needs/plan";
import { freeAt } from "../../queries/needs/slip";
import { daysToMove } from "../../queries/suppliers/ways-out";
import { checked, type Desk, type Done, done, once, refuse, stale } from "../desk";
import { Id, QuantityField, Version } from "../fields";
import { settleRequisition } from "../requisitions/settle-requisitions";
import { moveAcross } from "./stock";

export const MeetByTransfer = z.object({
  need: z.string().max(60),
  /** An alternative, where it is not the needed item itself. */
  item: Id,
  from: Id,
  quantity: QuantityField,
});

/**
 * Meets a need from another store instead of buying: plans a transfer, which counts as on its way from now on. A need
 * that stands on a paper must be met whole, because its line then knows one paper to look at.
 */
export function meetByTransfer(desk: Desk, raw: unknown): Done<{ transfer: TransferId; number: string }> {
  const input = checked(MeetByTransfer, raw);
  if (!input.ok) return input;
  const { need: key, item, from, quantity } = input.value;
  return once(desk, "plan", (tx) => {
    const plan = usualPlan(desk.day, desk.hour);
    const need = needNow(tx.db, plan, key);
    if (!need || need.item === null)
      return stale("This need is no longer in the list: somebody met it, or it is not needed any more.");
    if (from === need.store) return refuse("from", "It lies in this very store.");
    if (need.parts.length > 0) return refuse("", "These needs stand merged. Part them, and meet each on its own.");
    const free = freeAt(groundOf(tx.db, plan, false), item, from);
    const { unit } = unitOf(tx.db, item);
    if (quantity > free) return refuse("quantity", `Only ${quantityText(free)} ${unit} is free there.`);
    const [kind, id] = key.split(":");
    if (item === need.item) {
      const paper = kind === "r" || kind === "n";
      if (paper && quantity < need.wanted)
        return refuse(
          "quantity",
          `This need wants ${quantityText(need.wanted)} ${unit}, and is met whole or not at all. Change its quantity first, or buy it.`,
        );
      if (kind === "j") sql(tx.db, "UPDATE job_demand SET tied = max(0, tied - ?) WHERE id = ?").run(quantity, id);
    }
    const itself = item === need.item;
    const { transfer, number } = planTransfer(tx.db, desk, {
      item,
      from,
      to: need.store,
      quantity,
      requisitionLine: itself && kind === "r" ? Number(id) : null,
      notedNeed: itself && kind === "n" ? Number(id) : null,
    });
    sql(tx.db, "DELETE FROM need_choice WHERE need = ?").run(key);
    settleBehind(tx.db, transfer);
    tx.record("transfer.planned", `transfer ${transfer}`, { number, need: key, item, from, to: need.store, quantity });
    return done({ transfer, number });
  });
}

/** Plans that an item goes from one store to another. Call inside the act's transaction. */
export function planTransfer(
  db: Db,
  desk: Desk,
  v: {
    item: ItemId;
    from: number;
    to: number;
    quantity: number;
    requisitionLine?: number | null;
    notedNeed?: number | null;
  },
): { transfer: TransferId; number: string } {
  const number = nextNumber(db, "transfer", desk.day);
  const transfer = madeId<"transfer">(
    sql(
      db,
      "INSERT INTO transfer (number, from_store, to_store, day, state, person, at) VALUES (?, ?, ?, ?, 'Planned', ?, ?)",
    ).run(number, v.from, v.to, addDays(desk.day, daysToMove), desk.person.id, desk.now),
  );
  sql(
    db,
    "INSERT INTO transfer_line (transfer, item, quantity, requisition_line, noted_need) VALUES (?, ?, ?, ?, ?)",
  ).run(transfer, v.item, v.quantity, v.requisitionLine ?? null, v.notedNeed ?? null);
  return { transfer, number };
}

const unitOf = (db: Db, item: ItemId) =>
  sql<{ unit: string }>(db, "SELECT u.name AS unit FROM item i JOIN unit u ON u.code = i.unit WHERE i.id = ?").get(
    item,
  )!;

function settleBehind(db: Db, transfer: TransferId): void {
  const rows = sql<{ requisition: RequisitionId }>(
    db,
    "SELECT DISTINCT q.requisition FROM transfer_line l JOIN requisition_line q ON q.id = l.requisition_line WHERE l.transfer = ?",
  ).all(transfer);
  for (const { requisition } of rows) settleRequisition(db, requisition);
}

const Which = z.object({ transfer: Id, version: Version });
interface Head {
  number: string;
  state: string;
  version: number;
  from: number;
  to: number;
}

function planned(db: Db, id: TransferId, version: number): Done<Head> {
  const head = sql<Head>(
    db,
    `SELECT number, state, version, from_store AS "from", to_store AS "to" FROM transfer WHERE id = ?`,
  ).get(id);
  if (!head) return refuse("", "There is no such transfer.");
  if (head.state !== "Planned") return refuse("", `Transfer ${head.number} is ${head.state.toLowerCase()} already.`);
  if (head.version !== version) return stale(`Transfer ${head.number} was changed by somebody else meanwhile.`);
  return done(head);
}

/** The goods went: one movement out, one in, for each line, in one transaction. */
export function moveTransfer(desk: Desk, raw: unknown): Done<{ number: string }> {
  const input = checked(Which, raw);
  if (!input.ok) return input;
  const { transfer, version } = input.value;
  return once(desk, "move stock", (tx) => {
    const head = planned(tx.db, transfer, version);
    if (!head.ok) return head;
    const { number, from, to } = head.value;
    const lines = sql<{ id: number; item: ItemId; quantity: number; name: string }>(
      tx.db,
      "SELECT l.id, l.item, l.quantity, i.name FROM transfer_line l JOIN item i ON i.id = l.item WHERE l.transfer = ?",
    ).all(transfer);
    for (const l of lines) {
      if (
        !moveAcross(tx.db, desk, {
          item: l.item,
          store: from,
          to,
          quantity: l.quantity,
          kind: "transfer",
          transferLine: l.id,
        })
      )
        return refuse("", `There is no longer enough of ${l.name} to move. Count the shelf, or cancel the transfer.`);
    }
    sql(tx.db, "UPDATE transfer SET state = 'Moved', moved = ?, moved_by = ?, version = version + 1 WHERE id = ?").run(
      desk.now,
      desk.person.id,
      transfer,
    );
    settleBehind(tx.db, transfer);
    tx.record("transfer.moved", `transfer ${transfer}`, { number, lines });
    return done({ number });
  });
}

/** The goods stay where they are; what the transfer was to meet is a need again. */
export function cancelTransfer(desk: Desk, raw: unknown): Done<{ number: string }> {
  const input = checked(Which, raw);
  if (!input.ok) return input;
  const { transfer, version } = input.value;
  return once(desk, "plan", (tx) => {
    const head = planned(tx.db, transfer, version);
    if (!head.ok) return head;
    const ties = sql<{ requisition: RequisitionId | null; line: number | null; noted: number | null }>(
      tx.db,
      `SELECT q.requisition, l.requisition_line AS line, l.noted_need AS noted FROM transfer_line l
       LEFT JOIN requisition_line q ON q.id = l.requisition_line WHERE l.transfer = ?`,
    ).all(transfer);
    sql(tx.db, "UPDATE transfer_line SET requisition_line = NULL, noted_need = NULL WHERE transfer = ?").run(transfer);
    sql(tx.db, "UPDATE transfer SET state = 'Cancelled', version = version + 1 WHERE id = ?").run(transfer);
    for (const t of ties) if (t.requisition) settleRequisition(tx.db, t.requisition);
    tx.record("transfer.cancelled", `transfer ${transfer}`, { number: head.value.number, ties });
    return done({ number: head.value.number });
  });
}
