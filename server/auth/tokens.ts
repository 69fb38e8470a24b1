import { createHash, randomBytes } from "node:crypto";
import { z } from "zod";
import { addDays } from "../../core/calendar/day";
import type { PersonId } from "../../core/ids";
import { checked, type Desk, type Done, done, once, type Person, refuse } from "../acts/desk";
import { Id, text, Whole } from "../acts/fields";
import { isBusy } from "../db/busy";
import { type Db, sql } from "../db/open";
import { readPerson } from "./sessions";

export interface TokenRow {
  id: number;
  name: string;
  made: string;
  ends: string;
  ended: string | null;
  used: string | null;
}

/** A token that nobody used for so long opens nothing any more. */
const IDLE_DAYS = 90;

const hashOf = (token: string) => createHash("sha256").update(token).digest("hex");

/** A person's tokens, the newest first. */
export const readTokens = (db: Db, person: PersonId): TokenRow[] =>
  sql<TokenRow>(db, "SELECT id, name, made, ends, ended, used FROM access_token WHERE person = ? ORDER BY id DESC").all(
    person,
  );

/**
 * Makes a token with which another program acts in this person's name and with this person's rights. It is shown once;
 * only its hash is kept. The answer that is kept under the submission key holds no token either.
 */
export function makeToken(desk: Desk, raw: unknown): Done<{ token: string }> {
  const input = checked(z.object({ name: text(60, 2, "What is it for?"), days: Whole(1, 730) }), raw);
  if (!input.ok) return input;
  const { name, days } = input.value;
  const token = `wt_${randomBytes(30).toString("base64url")}`;
  const made = once(desk, "keep own inbox", (tx) => {
    const { n } = sql<{ n: number }>(
      tx.db,
      "SELECT count(*) AS n FROM access_token WHERE person = ? AND ended IS NULL AND ends >= ?",
    ).get(desk.person.id, desk.day)!;
    if (n >= 20) return refuse("name", "You have twenty tokens that work. End one first.");
    sql(tx.db, "INSERT INTO access_token (person, name, hash, made, ends) VALUES (?, ?, ?, ?, ?)").run(
      desk.person.id,
      name,
      hashOf(token),
      desk.now,
      addDays(desk.day, days),
    );
    tx.record("token.made", `person ${desk.person.id}`, { name, days });
    return done({ hash: hashOf(token) });
  });
  if (!made.ok) return made;
  // A second click finds the first one's answer, which cannot show the token again.
  return made.value.hash === hashOf(token)
    ? done({ token })
    : refuse("", "This token was made already, and is shown only once. End it and make another.");
}

/** Ends a token at once. */
export function endToken(desk: Desk, raw: unknown): Done<{ name: string }> {
  const input = checked(z.object({ token: Id }), raw);
  if (!input.ok) return input;
  return once(desk, "keep own inbox", (tx) => {
    const row = sql<{ name: string }>(
      tx.db,
      "UPDATE access_token SET ended = ? WHERE id = ? AND person = ? AND ended IS NULL RETURNING name",
    ).get(desk.now, input.value.token, desk.person.id);
    if (!row) return refuse("", "This token has ended already.");
    tx.record("token.ended", `person ${desk.person.id}`, row);
    return done(row);
  });
}

/** Whose token this is, or a sentence that says why it opens nothing. */
export function personOfToken(db: Db, token: string, now: Date, day: string): { person: Person } | { says: string } {
  const row = sql<{
    id: number;
    person: PersonId;
    ends: string;
    ended: string | null;
    active: number;
    made: string;
    used: string | null;
  }>(
    db,
    `SELECT t.id, t.person, t.ends, t.ended, p.active, t.made, t.used FROM access_token t JOIN person p ON p.id = t.person WHERE t.hash = ?`,
  ).get(hashOf(token));
  if (!row) return { says: "There is no such token." };
  const last = row.used ?? row.made;
  if (row.ended === null && Date.parse(last) < now.getTime() - IDLE_DAYS * 86_400_000)
    return {
      says: `Nobody used this token for ${IDLE_DAYS} days, so it opens nothing any more. Make another on your own page.`,
    };
  if (row.ended !== null || row.ends < day) return { says: "This token has ended. Make another on your own page." };
  const person = row.active ? readPerson(db, row.person) : null;
  if (!person) return { says: "Whoever made this token no longer works here." };
  // To the hour is enough to see which are in use, and spares a write at every call.
  const hour = now.toISOString().slice(0, 13);
  if (!row.used?.startsWith(hour)) noteUsed(db, row.id, now);
  return { person };
}

function noteUsed(db: Db, token: number, now: Date): void {
  try {
    sql(db, "UPDATE access_token SET used = ? WHERE id = ?").run(now.toISOString(), token);
  } catch (e) {
    if (!isBusy(e)) throw e; // it is noted with the next call
  }
}
