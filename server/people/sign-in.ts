import { z } from "zod";
import { recordAudit } from "../db/audit";
import { type Db, sql } from "../db/open";
import { checked, type Done, done, refuse } from "../desk/desk";
import { forgetTries, passwordFits, triesLeft } from "./passwords";
import { startSession } from "./sessions";

const SignIn = z.object({
  login: z.string("Your name is missing.").trim().min(1, "Your name is missing.").max(80, "This name is too long."),
  password: z
    .string("Your password is missing.")
    .min(1, "Your password is missing.")
    .max(200, "This password is too long."),
});

/** Checks name and password, at most five tries in five minutes, and starts a session. */
export async function signIn(
  db: Db,
  raw: unknown,
  address: string,
  now: Date,
): Promise<Done<{ token: string; person: number }>> {
  const input = checked(SignIn, raw);
  if (!input.ok) return input;
  const { login, password } = input.value;
  const wait = await triesLeft(login, address);
  if (wait > 0) return refuse("password", `Too many tries. Wait ${Math.ceil(wait / 60)} minutes, then try again.`);
  const row = sql<{ id: number; password: string | null }>(
    db,
    "SELECT id, password FROM person WHERE login = ? AND active = 1",
  ).get(login);
  if (!(await passwordFits(row?.password ?? null, password)) || !row)
    return refuse("password", "Name and password do not fit together.");
  await forgetTries(login);
  return done({ token: begin(db, row.id, now), person: row.id });
}

/** The demo signs anybody in without a password: call it only there. */
export function signInAs(db: Db, person: number, now: Date): Done<{ token: string; person: number }> {
  const row = sql<{ id: number }>(db, "SELECT id FROM person WHERE id = ? AND active = 1").get(person);
  return row ? done({ token: begin(db, row.id, now), person: row.id }) : refuse("", "There is nobody of that name.");
}

const begin = (db: Db, person: number, now: Date) =>
  db.transaction(() => {
    recordAudit(db, now.toISOString(), person, "person.signed-in", `person ${person}`, {});
    return startSession(db, person, now);
  })();
