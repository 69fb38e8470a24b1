import { createHash, randomBytes } from "node:crypto";
import type { Role } from "../../core/people/roles";
import { type Db, sql } from "../db/open";
import type { Person } from "../desk/desk";

const DAYS = 14;
const idOf = (token: string) => createHash("sha256").update(token).digest("hex");

/** Starts a session and returns the token for the cookie; the file keeps only its hash. */
export function startSession(db: Db, person: number, now: Date): string {
  const token = randomBytes(32).toString("base64url");
  const ends = new Date(now.getTime() + DAYS * 86_400_000).toISOString();
  sql(db, "DELETE FROM session WHERE ends < ?").run(now.toISOString());
  sql(db, "INSERT INTO session (id, person, started, ends) VALUES (?, ?, ?, ?)").run(
    idOf(token),
    person,
    now.toISOString(),
    ends,
  );
  return token;
}

export const endSession = (db: Db, token: string) => sql(db, "DELETE FROM session WHERE id = ?").run(idOf(token));

/** Who holds this token, with the roles they have now; null where it has ended or the person may not sign in any more. */
export function personOf(db: Db, token: string, now: Date): Person | null {
  const row = sql<{ id: number }>(
    db,
    "SELECT p.id FROM session s JOIN person p ON p.id = s.person WHERE s.id = ? AND s.ends > ? AND p.active = 1",
  ).get(idOf(token), now.toISOString());
  return row ? readPerson(db, row.id) : null;
}

export function readPerson(db: Db, id: number): Person | null {
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
  sql(db, "INSERT INTO secret (name, value) VALUES (?, ?) ON CONFLICT DO NOTHING").run(
    name,
    randomBytes(32).toString("base64url"),
  );
  return sql<{ value: string }>(db, "SELECT value FROM secret WHERE name = ?").get(name)!.value;
}
