import { z } from "zod";
import { sql } from "../../db/open";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { Id } from "../fields";

const MOST = 10_000_000;
/** What may be attached, told by the first bytes and not by the name; a browser never runs any of it, only saves it. */
const KINDS: { type: string; ends: RegExp; begins: number[] | null }[] = [
  { type: "application/pdf", ends: /\.pdf$/i, begins: [0x25, 0x50, 0x44, 0x46] },
  { type: "image/png", ends: /\.png$/i, begins: [0x89, 0x50, 0x4e, 0x47] },
  { type: "image/jpeg", ends: /\.jpe?g$/i, begins: [0xff, 0xd8, 0xff] },
  { type: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", ends: /\.xlsx$/i, begins: [0x50, 0x4b] },
  {
    type: "application/vnd.openxmlformats-officedocument.wordprocessingml.document",
    ends: /\.docx$/i,
    begins: [0x50, 0x4b],
  },
  { type: "text/csv", ends: /\.csv$/i, begins: null },
  { type: "text/plain", ends: /\.txt$/i, begins: null },
];

/** Attaches a file to one's own requisition, as long as it is not over. */
export function attachFile(
  desk: Desk,
  requisition: unknown,
  name: string,
  bytes: Uint8Array,
): Done<{ attachment: number }> {
  const id = checked(Id, requisition);
  if (!id.ok) return id;
  const kind = KINDS.find((k) => k.ends.test(name) && (k.begins === null || k.begins.every((b, i) => bytes[i] === b)));
  if (bytes.length === 0) return refuse("file", "This file is empty.");
  if (bytes.length > MOST) return refuse("file", "At most 10 MB. Make it smaller, or say where it lies.");
  if (!kind) return refuse("file", "A PDF, a picture (PNG, JPEG), a spreadsheet, a text document or a CSV file.");
  return once(desk, "ask", (tx) => {
    const head = sql<{ asker: number; state: string; files: number }>(
      tx.db,
      "SELECT asker, state, (SELECT count(*) FROM attachment a WHERE a.requisition = r.id) AS files FROM requisition r WHERE id = ?",
    ).get(id.value);
    if (!head || head.asker !== desk.person.id) return refuse("", "This requisition is not yours, or is gone.");
    if (["Met", "Declined", "Withdrawn"].includes(head.state)) return refuse("file", "This requisition is over.");
    if (head.files >= 20) return refuse("file", "At most 20 files on one requisition.");
    const safe = name
      .replace(/^.*[\\/]/, "")
      .replace(/[^\p{L}\p{N} ._()-]/gu, "_")
      .slice(-120);
    const attachment = Number(
      sql(tx.db, "INSERT INTO attachment (requisition, name, type, bytes, person, at) VALUES (?, ?, ?, ?, ?, ?)").run(
        id.value,
        safe,
        kind.type,
        Buffer.from(bytes),
        desk.person.id,
        desk.now,
      ).lastInsertRowid,
    );
    tx.record("requisition.file-attached", `requisition ${id.value}`, { name: safe, size: bytes.length });
    return done({ attachment });
  });
}

/** Takes a file off a draft again; what was handed in stays as it was. */
export function detachFile(desk: Desk, raw: unknown): Done<{ requisition: number }> {
  const input = checked(z.object({ attachment: Id }), raw);
  if (!input.ok) return input;
  return once(desk, "ask", (tx) => {
    const row = sql<{ requisition: number; name: string; asker: number; state: string }>(
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
