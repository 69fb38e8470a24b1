import { z } from "zod";
import { refusesSigner } from "../../../core/signoff/ladder";
import { type Db, sql } from "../../db/open";
import { type Paper, readTeam } from "../../read/signoff";
import { checked, type Desk, type Done, done, once, refuse, stale } from "../desk";
import { Id, text, Version } from "../fields";
import { retire, tell } from "../notices";
import { paperHref, tellTeam } from "./ask-for-signatures";

const Which = z.object({
  paper: z.enum(["requisition", "order"], "There is no such paper."),
  id: Id,
  version: Version,
});
export const SendBack = Which.extend({ reason: text(500, 3, "Say why, so that the writer knows what to change.") });

interface Waiting {
  signature: number;
  round: number;
  position: number;
  team: { id: number; name: string; members: { id: number; name: string }[] };
  number: string;
  writer: number;
}

/** Signs a paper at the rung that waits. The last signature clears an order, and opens a requisition to the buyer. */
export function sign(desk: Desk, raw: unknown): Done<{ left: string | null }> {
  const input = checked(Which, raw);
  if (!input.ok) return input;
  const { paper, id, version } = input.value;
  return once(desk, "sign", (tx) => {
    const found = waitingFor(tx.db, desk, paper, id, version);
    if (!found.ok) return found;
    const { signature, round, position, number, writer } = found.value;
    retire(tx.db, desk.now, paperHref(paper, id));
    sql(tx.db, "UPDATE signature SET state = 'signed', person = ?, at = ? WHERE id = ?").run(
      desk.person.id,
      desk.now,
      signature,
    );
    const next = sql<{ id: number; team: number; name: string }>(
      tx.db,
      `SELECT g.id, g.team, t.name FROM signature g JOIN team t ON t.id = g.team WHERE g.${column(paper)} = ? AND g.round = ? AND g.position = ?`,
    ).get(id, round, position + 1);
    const name = `${paper === "order" ? "Order" : "Requisition"} ${number}`;
    if (next) {
      sql(tx.db, "UPDATE signature SET state = 'waiting', asked = ? WHERE id = ?").run(desk.now, next.id);
      const others = readTeam(tx.db, next.team).filter((m) => m.id !== writer);
      tellTeam(tx, desk, others, { paper, id, name });
    } else {
      if (paper === "order")
        sql(tx.db, "UPDATE purchase_order SET state = 'Cleared', cleared = ? WHERE id = ?").run(desk.now, id);
      else sql(tx.db, "UPDATE requisition SET state = 'Open' WHERE id = ?").run(id);
      tell(
        tx.db,
        desk.now,
        writer,
        paper === "order" ? `${name} is cleared to be placed` : `${name} is signed off`,
        `by ${desk.person.name}`,
        paperHref(paper, id),
      );
    }
    sql(tx.db, `UPDATE ${table(paper)} SET version = version + 1 WHERE id = ?`).run(id);
    tx.record(`${paper}.signed`, `${paper} ${id}`, { number, rung: position, next: next?.name ?? null });
    return done({ left: next?.name ?? null });
  });
}

/** The approver returns a paper to its writer; it becomes a draft again and keeps the reason. */
export function sendBack(desk: Desk, raw: unknown): Done<{ number: string }> {
  const input = checked(SendBack, raw);
  if (!input.ok) return input;
  const { paper, id, version, reason } = input.value;
  return once(desk, "sign", (tx) => {
    const found = waitingFor(tx.db, desk, paper, id, version);
    if (!found.ok) return found;
    const { signature, round, number, writer } = found.value;
    retire(tx.db, desk.now, paperHref(paper, id));
    sql(tx.db, "UPDATE signature SET state = 'sent back', person = ?, at = ?, reason = ? WHERE id = ?").run(
      desk.person.id,
      desk.now,
      reason,
      signature,
    );
    sql(
      tx.db,
      `UPDATE signature SET state = 'not reached' WHERE ${column(paper)} = ? AND round = ? AND state = 'later'`,
    ).run(id, round);
    sql(tx.db, `UPDATE ${table(paper)} SET state = 'Draft', sent_back = ?, version = version + 1 WHERE id = ?`).run(
      `${reason} (${desk.person.name})`,
      id,
    );
    tell(
      tx.db,
      desk.now,
      writer,
      `${paper === "order" ? "Order" : "Requisition"} ${number} was sent back`,
      `${reason} (${desk.person.name})`,
      paperHref(paper, id),
    );
    tx.record(`${paper}.sent-back`, `${paper} ${id}`, { number, reason });
    return done({ number });
  });
}

const column = (paper: Paper) => (paper === "order" ? "purchase_order" : "requisition");
const table = column; // the paper’s table has the name of its column

function waitingFor(db: Db, desk: Desk, paper: Paper, id: number, version: number): Done<Waiting> {
  const writerColumn = paper === "order" ? "writer" : "asker";
  const head = sql<{ state: string; number: string | null; version: number; writer: number }>(
    db,
    `SELECT state, number, version, ${writerColumn} AS writer FROM ${table(paper)} WHERE id = ?`,
  ).get(id);
  const row = sql<{ signature: number; round: number; position: number; team: number; name: string }>(
    db,
    `SELECT g.id AS signature, g.round, g.position, g.team, t.name FROM signature g JOIN team t ON t.id = g.team WHERE g.${column(paper)} = ? AND g.state = 'waiting'`,
  ).get(id);
  if (!head || !row || head.state !== "In sign-off")
    return refuse("", "This paper is not waiting for a signature any more.");
  const team = { id: row.team, name: row.name, members: readTeam(db, row.team) };
  const no = refusesSigner(team, desk.person.id, head.writer);
  if (no) return refuse("", no);
  if (head.version !== version) return stale("Somebody else signed or sent this back meanwhile.");
  return done({
    signature: row.signature,
    round: row.round,
    position: row.position,
    team,
    number: head.number!,
    writer: head.writer,
  });
}
