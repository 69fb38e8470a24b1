import { z } from "zod";
import type { PersonId } from "../../../core/ids";
import { ROLES } from "../../../core/people/roles";
import { Login, Mail, Password } from "../../auth/first-run";
import { hashPassword } from "../../auth/passwords";
import { type Db, sql } from "../../db/open";
import { isTaken } from "../../db/series";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { Id, orNone, Region, text, WeekdayList } from "../fields";

/** "08:30" as minutes of the day. */
const Clock = z
  .string()
  .regex(/^([01]\d|2[0-3]):[0-5]\d$/, "A time has hours and minutes, such as 08:30.")
  .transform((t) => Number(t.slice(0, 2)) * 60 + Number(t.slice(3)));

export const KeepPerson = z.object({
  person: orNone(Id),
  login: Login,
  name: text(80, 2, "What is their name?"),
  title: text(80),
  mail: Mail,
  store: orNone(Id),
  roles: z.array(z.enum(ROLES, "There is no such role.")).min(1, "Give at least one role."),
  password: orNone(Password),
  /** What their order numbers begin with; empty for the company's own. */
  series: text(4)
    .transform((s) => s.toUpperCase())
    .refine((s) => /^[A-Z]{0,4}$/.test(s), "Up to four letters.")
    .refine((s) => !isTaken(s), "Other papers of ours begin with this letter."),
  department: orNone(Id).optional(),
  /** Whom they answer to. */
  manager: orNone(Id).optional(),
  /** When they work: the hours in which an answer is due. */
  works: WeekdayList.optional(),
  dayStarts: Clock.optional(),
  dayEnds: Clock.optional(),
  region: Region.optional(),
  active: z.enum(["yes", "no"], "Say yes or no.").transform((v) => v === "yes"),
});

/** Works from eight to four, Monday to Friday. */
const SOMEBODY_NEW = { department: null, manager: null, works: 31, from: 480, to: 960, region: "" };

type Kept = z.output<typeof KeepPerson>;

/** Why what a person is tied to cannot stand; null where it can. */
function wrongPointersOf(db: Db, v: Kept): Done<never> | null {
  const holder = sql<{ id: PersonId }>(db, "SELECT id FROM person WHERE login = ?").get(v.login);
  if (holder && holder.id !== v.person) return refuse("login", "Somebody else signs in with this name.");
  if (v.store !== null && !sql(db, "SELECT 1 FROM store WHERE id = ?").get(v.store))
    return refuse("store", "There is no such store.");
  if (v.department && !sql(db, "SELECT 1 FROM department WHERE id = ?").get(v.department))
    return refuse("department", "There is no such department.");
  if (v.manager && v.manager === v.person) return refuse("manager", "Nobody answers to themselves.");
  if (v.manager && !sql(db, "SELECT 1 FROM person WHERE id = ? AND active = 1").get(v.manager))
    return refuse("manager", "There is no such person.");
  return null;
}

/** Adds somebody. */
const added = (db: Db, v: Kept, password: string | null): number =>
  Number(
    sql(
      db,
      "INSERT INTO person (login, name, title, mail, store, password, active, series) VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
    ).run(v.login, v.name, v.title, v.mail, v.store, password, v.active ? 1 : 0, v.series).lastInsertRowid,
  );

/** Changes somebody; false where there is no such person. */
function changed({ db, now }: Desk, id: PersonId, v: Kept, password: string | null): boolean {
  const { changes } = sql(
    db,
    "UPDATE person SET login = ?, name = ?, title = ?, mail = ?, store = ?, password = coalesce(?, password), active = ?, series = ? WHERE id = ?",
  ).run(v.login, v.name, v.title, v.mail, v.store, password, v.active ? 1 : 0, v.series, id);
  // Whoever got hold of the old password, or of a token made with it, is out.
  if (changes > 0 && (!v.active || password)) {
    sql(db, "DELETE FROM session WHERE person = ?").run(id);
    sql(db, "UPDATE access_token SET ended = ? WHERE person = ? AND ended IS NULL").run(now, id);
  }
  return changes > 0;
}

/** Adds a person or changes one. The last administrator cannot be shut out. */
export async function keepPerson(desk: Desk, raw: unknown): Promise<Done<{ person: PersonId }>> {
  const input = checked(KeepPerson, raw);
  if (!input.ok) return input;
  const v = input.value;
  if (v.person === null && v.password === null) return refuse("password", "A new person needs a password.");
  const password = v.password === null ? null : await hashPassword(v.password);
  return once(desk, "keep people", (tx) => {
    const wrong = wrongPointersOf(tx.db, v);
    if (wrong) return wrong;
    const was = sql<{
      department: number | null;
      manager: number | null;
      works: number;
      from: number;
      to: number;
      region: string;
    }>(
      tx.db,
      `SELECT department, manager, works, day_starts AS "from", day_ends AS "to", region FROM person WHERE id = ?`,
    ).get(v.person);
    const { department, manager, works, region, from, to } = was ?? SOMEBODY_NEW;
    const starts = v.dayStarts ?? from;
    const ends = v.dayEnds ?? to;
    if (ends - starts < 60) return refuse("dayEnds", "A day of work is at least an hour, and ends before midnight.");
    const id = v.person === null ? added(tx.db, v, password) : v.person;
    if (v.person !== null && !changed(desk, v.person, v, password)) return refuse("", "There is no such person.");
    sql(
      tx.db,
      "UPDATE person SET department = ?, manager = ?, works = ?, day_starts = ?, day_ends = ?, region = ? WHERE id = ?",
    ).run(
      v.department === undefined ? department : v.department,
      v.manager === undefined ? manager : v.manager,
      v.works ?? works,
      starts,
      ends,
      v.region ?? region,
      id,
    );
    sql(tx.db, "DELETE FROM person_role WHERE person = ?").run(id);
    for (const role of new Set(v.roles))
      sql(tx.db, "INSERT INTO person_role (person, role) VALUES (?, ?)").run(id, role);
    const left = sql<{ n: number }>(
      tx.db,
      "SELECT count(*) AS n FROM person_role r JOIN person p ON p.id = r.person WHERE r.role = 'administrator' AND p.active = 1",
    ).get()!.n;
    if (left === 0) return refuse("roles", "Somebody has to stay administrator.");
    tx.record(v.person === null ? "person.added" : "person.changed", `person ${id}`, {
      ...v,
      password: password ? "changed" : "kept",
    });
    return done({ person: id });
  });
}
