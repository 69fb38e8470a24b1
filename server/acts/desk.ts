import type { z } from "zod";
import type { Day } from "../../core/calendar/day";
import type { PersonId, StoreId } from "../../core/ids";
import { type Act, may, type Role } from "../../core/people/roles";
import { recordAudit } from "../db/audit";
import { type Db, sql } from "../db/open";
import { keepCommitments } from "./budgets/keep-commitments";

export interface Person {
  id: PersonId;
  login: string;
  name: string;
  title: string;
  roles: Role[];
  store: StoreId | null;
}

/** Who acts, when, on which file, and under which submission key. */
export interface Desk {
  db: Db;
  person: Person;
  day: Day;
  /** The hour of the day where the company is: orders after a cut-off go a day later. */
  hour: number;
  /** The moment, ISO in UTC. */
  now: string;
  /** Sent with the form; the same key again gives the same answer and does nothing more. */
  key: string;
  /** A hash of what was sent, so that one key is not taken for two things; left out where nothing was sent. */
  sent?: string;
}

/** What can be expected to go wrong: a field (or "" for the whole) and a sentence that helps. */
export interface Problem {
  field: string;
  says: string;
}
export type Done<T> =
  | { ok: true; value: T }
  | {
      ok: false;
      problems: Problem[] /** Somebody saved meanwhile. */;
      stale?: true /** The role forbids it. */;
      forbidden?: true;
    };

export const done = <T>(value: T): Done<T> => ({ ok: true, value });
export const refuse = (field: string, says: string): Done<never> => ({ ok: false, problems: [{ field, says }] });
export const refuseAll = (problems: Problem[]): Done<never> => ({ ok: false, problems });
export const forbid = (says = "Your role does not allow this.", field = ""): Done<never> => ({
  ok: false,
  problems: [{ field, says }],
  forbidden: true,
});
/** Somebody else saved meanwhile: a question to the person, never an overwrite. */
export const stale = (says: string): Done<never> => ({ ok: false, problems: [{ field: "", says }], stale: true });

export interface Tx {
  db: Db;
  /** Writes the act's one audit row. */
  record(act: string, subject: string, detail: unknown): void;
}

class Refused extends Error {
  constructor(readonly answer: { ok: false; problems: Problem[] }) {
    super("refused");
  }
}

/**
 * Runs an act in one immediate transaction, at most once for each submission key, with exactly one audit row; or leaves
 * nothing behind. `act` is what the person's roles must allow.
 */
export function once<T>(desk: Desk, act: Act, body: (tx: Tx) => Done<T>): Done<T> {
  if (!may(desk.person.roles, act)) return forbid();
  const { db, sent = "" } = desk;
  let recorded = 0;
  const tx: Tx = {
    db,
    record(what, subject, detail) {
      recorded++;
      recordAudit(db, desk.now, desk.person.id, what, subject, detail);
    },
  };
  const run = db.transaction((): Done<T> => {
    const before = sql<{ act: string; answer: string; sent: string }>(
      db,
      "SELECT act, answer, sent FROM submission WHERE person = ? AND key = ?",
    ).get(desk.person.id, desk.key);
    if (before) {
      return before.act === act && (before.sent === "" || before.sent === sent)
        ? (JSON.parse(before.answer) as Done<T>) // the answer of this act, kept as it was given
        : refuse("", "This was sent before under the same key, for something else. Load the page again.");
    }
    const answer = body(tx);
    if (!answer.ok) throw new Refused(answer);
    keepCommitments(db);
    if (recorded !== 1) throw new Error(`An act writes one audit row, not ${recorded}.`);
    sql(db, "INSERT INTO submission (key, person, act, answer, at, sent) VALUES (?, ?, ?, ?, ?, ?)").run(
      desk.key,
      desk.person.id,
      act,
      JSON.stringify(answer),
      desk.now,
      sent,
    );
    return answer;
  });
  try {
    return run.immediate();
  } catch (e) {
    if (e instanceof Refused) return e.answer;
    throw e;
  }
}

/** Checks raw input by its schema; every fault becomes a problem at its field, such as "lines.2.quantity". */
export function checked<S extends z.ZodType>(schema: S, raw: unknown): Done<z.output<S>> {
  const parsed = schema.safeParse(raw);
  if (parsed.success) return done(parsed.data);
  return refuseAll(
    parsed.error.issues.flatMap((i) =>
      i.code === "unrecognized_keys"
        ? i.keys.map((k) => ({ field: [...i.path, k].join("."), says: "There is no such field." }))
        : [{ field: i.path.join("."), says: sentence(i.message) }],
    ),
  );
}

/** A field that no form of ours leaves out has no sentence of its own: then the page is at fault, not the person. */
const sentence = (message: string) =>
  /^Invalid (input|option)/.test(message)
    ? "Something is missing here, or is not one of ours. Load the page again."
    : message;
