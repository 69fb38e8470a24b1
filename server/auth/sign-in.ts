import { z } from "zod";
import type { PersonId } from "../../core/ids";
import { checked, type Done, done, refuse } from "../acts/desk";
import { recordAudit } from "../db/audit";
import { type Db, sql } from "../db/open";
import { Crowded, countWrong, forgetWrong, passwordFits, secondsToWait, type Try } from "./passwords";
import { startSession } from "./sessions";

const SignIn = z.object({
  login: z.string("Your name is missing.").trim().min(1, "Your name is missing.").max(80, "This name is too long."),
  password: z
    .string("Your password is missing.")
    .min(1, "Your password is missing.")
    .max(200, "This password is too long."),
});

/** From where somebody tries to sign in. */
export interface From {
  address: string;
  /** What tells this device from others, and the names that signed in from it before. */
  device: { id: string; names: readonly string[] } | null;
}

/** Checks name and password, at most five wrong tries in five minutes, and starts a session. */
export async function signIn(
  db: Db,
  raw: unknown,
  { address, device }: From,
  now: Date,
): Promise<Done<{ token: string; person: PersonId; login: string }>> {
  const input = checked(SignIn, raw);
  if (!input.ok) return input;
  const { login, password } = input.value;
  const known = device?.names.includes(login.toLowerCase()) ? device.id : null;
  const who: Try = { login, address, known };
  const wait = await secondsToWait(who);
  if (wait > 0) return refuse("password", `Too many tries. Wait ${Math.ceil(wait / 60)} minutes, then try again.`);
  const row = sql<{ id: PersonId; password: string | null }>(
    db,
    "SELECT id, password FROM person WHERE login = ? AND active = 1",
  ).get(login);
  let fits: boolean;
  try {
    fits = await passwordFits(row?.password ?? null, password, address);
  } catch (e) {
    if (e instanceof Crowded) return refuse("password", "Very many sign in at this moment. Try again in a minute.");
    throw e;
  }
  if (!row || !fits) {
    const last = await countWrong(who);
    // The trail keeps what concerns somebody of ours; names that nobody has could fill it.
    if (row)
      db.transaction(() =>
        recordAudit(db, now.toISOString(), row.id, "person.sign-in-failed", `person ${row.id}`, {
          address,
          ...(last ? { stopped: "five minutes" } : {}),
        }),
      ).immediate();
    return refuse("password", "Name and password do not fit together.");
  }
  await forgetWrong(who);
  return done({ token: begin(db, row.id, now), person: row.id, login: login.toLowerCase() });
}

/** The demo signs anybody in without a password: call it only there. */
export function signInAs(
  db: Db,
  person: PersonId,
  now: Date,
): Done<{ token: string; person: PersonId; login: string }> {
  const row = sql<{ id: PersonId; login: string }>(db, "SELECT id, login FROM person WHERE id = ? AND active = 1").get(
    person,
  );
  return row
    ? done({ token: begin(db, row.id, now), person: row.id, login: row.login.toLowerCase() })
    : refuse("", "There is nobody of that name.");
}

const begin = (db: Db, person: PersonId, now: Date) =>
  db
    .transaction(() => {
      recordAudit(db, now.toISOString(), person, "person.signed-in", `person ${person}`, {});
      return startSession(db, person, now);
    })
    .immediate();
