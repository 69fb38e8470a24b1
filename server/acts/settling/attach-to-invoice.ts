import { sql } from "../../db/open";
import { type Desk, type Done, done, once, refuse } from "../desk";
import { acceptFile } from "../files/accept-file";

/** Keeps a file with an invoice, such as the paper as it was scanned. It is never taken off again. */
export function attachToInvoice(desk: Desk, invoice: number, name: string, bytes: Uint8Array): Done<{ file: number }> {
  const accepted = acceptFile(name, bytes);
  if (!accepted.ok) return accepted;
  const file = accepted.value;
  return once(desk, "enter invoices", (tx) => {
    const row = sql<{ files: number }>(
      tx.db,
      "SELECT (SELECT count(*) FROM invoice_file f WHERE f.invoice = v.id) AS files FROM invoice v WHERE v.id = ?",
    ).get(invoice);
    if (!row) return refuse("", "There is no such invoice.");
    if (row.files >= 20) return refuse("file", "At most 20 files with one invoice.");
    const id = Number(
      sql(tx.db, "INSERT INTO invoice_file (invoice, name, type, bytes, person, at) VALUES (?, ?, ?, ?, ?, ?)").run(
        invoice,
        file.name,
        file.type,
        file.bytes,
        desk.person.id,
        desk.now,
      ).lastInsertRowid,
    );
    tx.record("invoice.file-attached", `invoice ${invoice}`, { name: file.name, size: bytes.length });
    return done({ file: id });
  });
}
