import { createHash } from "node:crypto";
import type { PersonId } from "../../core/ids";
import { type Db, sql } from "./open";

const START = "wharf tally";

interface AuditRow {
  id: number;
  at: string;
  person: PersonId | null;
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
  person: PersonId | null,
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

/** How far the chain was followed: the last row that follows from the one before, and the first that does not. */
export interface Followed {
  upto: number;
  hash: string;
  broken: number | null;
}
export const FROM_THE_START: Followed = { upto: 0, hash: START, broken: null };

/** Follows the chain from a row that it was followed to before. */
export function followChain(db: Db, from: Followed = FROM_THE_START): Followed {
  const rows = db.prepare<[number], AuditRow>("SELECT * FROM audit WHERE id > ? ORDER BY id");
  let { upto, hash } = from;
  for (const row of rows.iterate(upto)) {
    if (row.before !== hash || hashOf(row) !== row.hash) return { upto, hash, broken: row.id };
    upto = row.id;
    hash = row.hash;
  }
  return { upto, hash, broken: null };
}

/** The id of the first row that does not follow from the one before, or null where the chain is whole. */
export const brokenLink = (db: Db): number | null => followChain(db).broken;
