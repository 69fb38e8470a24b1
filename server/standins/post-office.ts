import { mkdirSync, renameSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { type Db, sql } from "../db/open";

/**
 * A stand-in for a mail server: writes what waits in the outbox as .eml files that any mail program opens. It runs
 * after the transaction, so a message is never sent for an order that was not placed; what it could not write stays and
 * is tried again next time.
 */
export function postMail(db: Db, folder: string): number {
  const waiting = sql<{ id: number; subject: string; eml: Buffer }>(
    db,
    "SELECT id, subject, eml FROM mail WHERE file IS NULL ORDER BY id",
  ).all();
  for (const m of waiting) {
    mkdirSync(folder, { recursive: true });
    const name = `${String(m.id).padStart(6, "0")} ${m.subject.replace(/[^\w .-]+/g, "")}.eml`;
    writeFileSync(join(folder, `${name}.part`), m.eml);
    renameSync(join(folder, `${name}.part`), join(folder, name));
    sql(db, "UPDATE mail SET file = ? WHERE id = ?").run(name, m.id);
  }
  return waiting.length;
}
