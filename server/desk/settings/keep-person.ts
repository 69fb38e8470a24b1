import { z } from "zod";
import { ROLES } from "../../../core/people/roles";
import { sql } from "../../db/open";
import { isTaken } from "../../db/series";
import { Login, Mail, Password } from "../../people/first-run";
import { hashPassword } from "../../people/passwords";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { Id, orNone, text } from "../fields";

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
  active: z.enum(["yes", "no"], "Say yes or no.").transform((v) => v === "yes"),
});

/** Adds a person or changes one. The last administrator cannot be shut out. */
export async function keepPerson(desk: Desk, raw: unknown): Promise<Done<{ person: number }>> {
  const input = checked(KeepPerson, raw);
  if (!input.ok) return input;
  const v = input.value;
  if (v.person === null && v.password === null) return refuse("password", "A new person needs a password.");
  const password = v.password === null ? null : await hashPassword(v.password);
  return once(desk, "keep people", (tx) => {
    const holder = sql<{ id: number }>(tx.db, "SELECT id FROM person WHERE login = ?").get(v.login);
    if (holder && holder.id !== v.person) return refuse("login", "Somebody else signs in with this name.");
    if (v.store !== null && !sql(tx.db, "SELECT 1 FROM store WHERE id = ?").get(v.store))
      return refuse("store", "There is no such store.");
    let id = v.person;
    if (id === null) {
      id = Number(
        sql(
          tx.db,
          "INSERT INTO person (login, name, title, mail, store, password, active, series) VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
        ).run(v.login, v.name, v.title, v.mail, v.store, password, v.active ? 1 : 0, v.series).lastInsertRowid,
      );
    } else {
      const { changes } = sql(
        tx.db,
        "UPDATE person SET login = ?, name = ?, title = ?, mail = ?, store = ?, password = coalesce(?, password), active = ?, series = ? WHERE id = ?",
      ).run(v.login, v.name, v.title, v.mail, v.store, password, v.active ? 1 : 0, v.series, id);
      if (changes === 0) return refuse("", "There is no such person.");
      if (!v.active || password) sql(tx.db, "DELETE FROM session WHERE person = ?").run(id);
    }
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
