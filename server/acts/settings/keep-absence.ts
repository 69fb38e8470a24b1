import { z } from "zod";
import type { PersonId } from "../../../core/ids";
import { may, type Role } from "../../../core/people/roles";
import { circleOf } from "../../../core/signoff/process";
import { sql } from "../../db/open";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { DayField, Id, orNone } from "../fields";

const KeepAbsence = z.object({
  /** Empty: one's own. */
  person: orNone(Id).optional(),
  standIn: orNone(Id),
  starts: DayField,
  ends: DayField,
});

/** Says when somebody is away and who signs for them then: one's own days, or, for the administrator, anybody's. */
export function keepAbsence(desk: Desk, raw: unknown): Done<{ person: PersonId }> {
  const input = checked(KeepAbsence, raw);
  if (!input.ok) return input;
  const { standIn, starts, ends } = input.value;
  const person = input.value.person ?? desk.person.id;
  return once(desk, person === desk.person.id ? "keep own inbox" : "keep people", (tx) => {
    if (ends < starts) return refuse("ends", "The last day is before the first.");
    if (ends < desk.day) return refuse("ends", "These days have passed.");
    if (!sql(tx.db, "SELECT 1 FROM person WHERE id = ?").get(person))
      return refuse("person", "There is no such person.");
    if (standIn === person) return refuse("standIn", "Nobody stands in for themselves.");
    const roles = sql<{ role: Role }>(
      tx.db,
      "SELECT r.role FROM person_role r JOIN person p ON p.id = r.person WHERE p.id = ? AND p.active = 1",
    ).all(standIn);
    if (
      standIn !== null &&
      !may(
        roles.map((r) => r.role),
        "sign",
      )
    )
      return refuse("standIn", "They may not sign: choose somebody whose role does.");
    const overlapping = sql<{ away: number; by: number }>(
      tx.db,
      'SELECT person AS away, stand_in AS "by" FROM absence WHERE dropped IS NULL AND stand_in IS NOT NULL AND starts <= ? AND ends >= ?',
    ).all(ends, starts);
    if (
      sql(tx.db, "SELECT 1 FROM absence WHERE person = ? AND dropped IS NULL AND starts <= ? AND ends >= ?").get(
        person,
        ends,
        starts,
      )
    )
      return refuse("starts", "Some of these days are entered already. Take those away first.");
    if (standIn !== null && circleOf([...overlapping, { away: person, by: standIn }]) !== null)
      return refuse(
        "standIn",
        "They are away in these days, and in the end you would stand in for yourself. Choose somebody else.",
      );
    sql(tx.db, "INSERT INTO absence (person, stand_in, starts, ends, at) VALUES (?, ?, ?, ?, ?)").run(
      person,
      standIn,
      starts,
      ends,
      desk.now,
    );
    tx.record("absence.kept", `person ${person}`, { standIn, starts, ends });
    return done({ person });
  });
}

/** Takes days away that were entered: the person is there. */
export function dropAbsence(desk: Desk, raw: unknown): Done<{ person: PersonId }> {
  const input = checked(z.object({ absence: Id }), raw);
  if (!input.ok) return input;
  const row = sql<{ person: PersonId }>(desk.db, "SELECT person FROM absence WHERE id = ? AND dropped IS NULL").get(
    input.value.absence,
  );
  if (!row) return refuse("", "These days were taken away already.");
  return once(desk, row.person === desk.person.id ? "keep own inbox" : "keep people", (tx) => {
    sql(tx.db, "UPDATE absence SET dropped = ? WHERE id = ?").run(desk.now, input.value.absence);
    tx.record("absence.dropped", `person ${row.person}`, { absence: input.value.absence });
    return done(row);
  });
}
