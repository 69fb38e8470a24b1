import { createHash } from "node:crypto";
import { type Db, sql } from "./open";

const START = "wharf tally";

interface AuditRow {
  id: number;
  at: string;
  person: number | null;
  act: string;
  subject: string;
  detail: string;
  before: string;
  hash: string;
}

const hashOf = (r: Omit<AuditRow, "id" | "hash">) =>
  createHash("sha256")
    .update(JSON.stringify([r.before, r.at, r.person, r.act, r.subject, r.detail]))
    .digest("hex");

/** Adds a row to the audit trail; each holds the hash of the one before. Call inside the act's transaction. */
export function recordAudit(
  db: Db,
  at: string,
  person: number | null,
  act: string,
  subject: string,
  detail: unknown,
): void {
  const before = sql<{ hash: string }>(db, "SELECT hash FROM audit ORDER BY id DESC LIMIT 1").get()?.hash ?? START;
  const row = { before, at, person, act, subject, detail: JSON.stringify(detail) };
  sql(
    db,
    "INSERT INTO audit (at, person, act, subject, detail, before, hash) VALUES (@at, @person, @act, @subject, @detail, @before, @hash)",
  ).run({
    ...row,
    hash: hashOf(row),
  });
}

/** The id of the first row that does not follow from the one before, or null where the chain is whole. */
export function brokenLink(db: Db): number | null {
  let before = START;
  for (const row of db.prepare<[], AuditRow>("SELECT * FROM audit ORDER BY id").iterate()) {
    if (row.before !== before || hashOf(row) !== row.hash) return row.id;
    before = row.hash;
  }
  return null;
}
