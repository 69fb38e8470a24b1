import { createHash, randomBytes } from "node:crypto";
import type { PersonId } from "../../core/ids";
import type { Role } from "../../core/people/roles";
import type { Person } from "../acts/desk";
import { recordAudit } from "../db/audit";
import { isBusy } from "../db/busy";
import { type Db, sql } from "../db/open";

const DAYS = 14;
/** A session that nobody used for so long ends. */
export const IDLE_HOURS = 12;
/** So often it is noted that a session is used. */
const NOTED_EVERY = 300_000;
const idOf = (token: string) => createHash("sha256").update(token).digest("hex");

/** Starts a session and returns the token for the cookie; the file keeps only its hash. */
export function startSession(db: Db, person: PersonId, now: Date): string {
  const token = randomBytes(32).toString("base64url");
  const ends = new Date(now.getTime() + DAYS * 86_400_000).toISOString();
  sql(db, "DELETE FROM session WHERE ends < ? OR seen < ?").run(now.toISOString(), idleSince(now));
  sql(db, "INSERT INTO session (id, person, started, ends, seen) VALUES (?, ?, ?, ?, ?)").run(
    idOf(token),
    person,
    now.toISOString(),
    ends,
    now.toISOString(),
  );
  return token;
}

const idleSince = (now: Date) => new Date(now.getTime() - IDLE_HOURS * 3_600_000).toISOString();

/** Ends a session where somebody signs out. */
export function endSession(db: Db, token: string, now: Date): void {
  db.transaction(() => {
    const ended = sql<{ person: PersonId }>(db, "DELETE FROM session WHERE id = ? RETURNING person").get(idOf(token));
    if (ended) recordAudit(db, now.toISOString(), ended.person, "person.signed-out", `person ${ended.person}`, {});
  }).immediate();
}

/** Who holds this token, with the roles they have now; null where it has ended or the person may not sign in any more. */
export function personOf(db: Db, token: string, now: Date): Person | null {
  const row = sql<{ id: number; seen: string }>(
    db,
    "SELECT p.id, s.seen FROM session s JOIN person p ON p.id = s.person WHERE s.id = ? AND s.ends > ? AND s.seen >= ? AND p.active = 1",
  ).get(idOf(token), now.toISOString(), idleSince(now));
  if (!row) return null;
  if (now.getTime() - Date.parse(row.seen) > NOTED_EVERY) noteSeen(db, token, now);
  return readPerson(db, row.id);
}

function noteSeen(db: Db, token: string, now: Date): void {
  try {
    sql(db, "UPDATE session SET seen = ? WHERE id = ?").run(now.toISOString(), idOf(token));
  } catch (e) {
    if (!isBusy(e)) throw e; // it is noted with the next page
  }
}

export function readPerson(db: Db, id: PersonId): Person | null {
  const row = sql<Omit<Person, "roles">>(
    db,
    "SELECT id, login, name, title, store FROM person WHERE id = ? AND active = 1",
  ).get(id);
  if (!row) return null;
  const roles = sql<{ role: Role }>(db, "SELECT role FROM person_role WHERE person = ?")
    .all(id)
    .map((r) => r.role);
  return { ...row, roles };
}

/** A secret of this installation, made on first use and kept in its file. */
export function secret(db: Db, name: string): string {
  const known = sql<{ value: string }>(db, "SELECT value FROM secret WHERE name = ?");
  if (!known.get(name))
    sql(db, "INSERT INTO secret (name, value) VALUES (?, ?) ON CONFLICT DO NOTHING").run(
      name,
      randomBytes(32).toString("base64url"),
    );
  return known.get(name)!.value;
}
