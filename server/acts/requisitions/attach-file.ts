import { z } from "zod";
import type { RequisitionId } from "../../../core/ids";
import { sql } from "../../db/open";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { Id } from "../fields";
import { acceptFile } from "../files/accept-file";

/** Attaches a file to one's own requisition, as long as it is not over. */
export function attachFile(
  desk: Desk,
  requisition: unknown,
  name: string,
  bytes: Uint8Array,
): Done<{ attachment: number }> {
  const id = checked(Id, requisition);
  if (!id.ok) return id;
  const accepted = acceptFile(name, bytes);
  if (!accepted.ok) return accepted;
  const file = accepted.value;
  return once(desk, "ask", (tx) => {
    const head = sql<{ asker: number; state: string; files: number }>(
      tx.db,
      "SELECT asker, state, (SELECT count(*) FROM attachment a WHERE a.requisition = r.id) AS files FROM requisition r WHERE id = ?",
    ).get(id.value);
    if (!head || head.asker !== desk.person.id) return refuse("", "This requisition is not yours, or is gone.");
    if (["Met", "Declined", "Withdrawn"].includes(head.state)) return refuse("file", "This requisition is over.");
    if (head.files >= 20) return refuse("file", "At most 20 files on one requisition.");
    const attachment = Number(
      sql(tx.db, "INSERT INTO attachment (requisition, name, type, bytes, person, at) VALUES (?, ?, ?, ?, ?, ?)").run(
        id.value,
        file.name,
        file.type,
        file.bytes,
        desk.person.id,
        desk.now,
      ).lastInsertRowid,
    );
    tx.record("requisition.file-attached", `requisition ${id.value}`, { name: file.name, size: bytes.length });
    return done({ attachment });
  });
}

/** Takes a file off a draft again; what was handed in stays as it was. */
export function detachFile(desk: Desk, raw: unknown): Done<{ requisition: RequisitionId }> {
  const input = checked(z.object({ attachment: Id }), raw);
  if (!input.ok) return input;
  return once(desk, "ask", (tx) => {
    const row = sql<{ requisition: RequisitionId; name: string; asker: number; state: string }>(
      tx.db,
      "SELECT a.requisition, a.name, r.asker, r.state FROM attachment a JOIN requisition r ON r.id = a.requisition WHERE a.id = ?",
    ).get(input.value.attachment);
    if (!row || row.asker !== desk.person.id) return refuse("", "This file is not yours, or is gone.");
    if (row.state !== "Draft") return refuse("", "The requisition was handed in with this file, so it stays.");
    sql(tx.db, "DELETE FROM attachment WHERE id = ?").run(input.value.attachment);
    tx.record("requisition.file-taken-off", `requisition ${row.requisition}`, { name: row.name });
    return done({ requisition: row.requisition });
  });
}
