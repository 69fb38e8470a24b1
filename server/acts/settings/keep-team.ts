import { z } from "zod";
import { sql } from "../../db/open";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { Id, orNone, TickBox, text } from "../fields";

const KeepDepartment = z.object({
  department: orNone(Id),
  name: text(60, 2, "Name the department."),
  active: TickBox,
});

/** Adds a department or changes one; papers keep theirs when it is closed. */
export function keepDepartment(desk: Desk, raw: unknown): Done<{ department: number }> {
  const input = checked(KeepDepartment, raw);
  if (!input.ok) return input;
  const { department, name, active } = input.value;
  return once(desk, "keep ladders", (tx) => {
    const same = sql<{ id: number }>(tx.db, "SELECT id FROM department WHERE name = ?").get(name);
    if (same && same.id !== department) return refuse("name", "There is a department of this name.");
    let id = department;
    if (id === null) id = Number(sql(tx.db, "INSERT INTO department (name) VALUES (?)").run(name).lastInsertRowid);
    else if (
      sql(tx.db, "UPDATE department SET name = ?, active = ? WHERE id = ?").run(name, active ? 1 : 0, id).changes === 0
    )
      return refuse("", "There is no such department.");
    tx.record("department.kept", `department ${id}`, { name, active });
    return done({ department: id });
  });
}

const KeepTeam = z.object({
  team: orNone(Id),
  name: text(60, 2, "Name the team, such as Yard manager."),
  members: z.array(Id).max(50, "At most 50 people.").default([]),
  active: TickBox,
});

/** Adds a team or changes it. Papers that are being signed keep those who were asked. */
export function keepTeam(desk: Desk, raw: unknown): Done<{ team: number }> {
  const input = checked(KeepTeam, raw);
  if (!input.ok) return input;
  const { team, name, members, active } = input.value;
  return once(desk, "keep ladders", (tx) => {
    const same = sql<{ id: number }>(tx.db, "SELECT id FROM team WHERE name = ?").get(name);
    if (same && same.id !== team) return refuse("name", "There is a team of this name.");
    let id = team;
    if (id === null) id = Number(sql(tx.db, "INSERT INTO team (name) VALUES (?)").run(name).lastInsertRowid);
    else if (
      sql(tx.db, "UPDATE team SET name = ?, active = ? WHERE id = ?").run(name, active ? 1 : 0, id).changes === 0
    )
      return refuse("", "There is no such team.");
    sql(tx.db, "DELETE FROM team_member WHERE team = ?").run(id);
    for (const m of new Set(members)) {
      if (!sql(tx.db, "SELECT 1 FROM person WHERE id = ? AND active = 1").get(m))
        return refuse("members", "One of them is not here any more.");
      sql(tx.db, "INSERT INTO team_member (team, person) VALUES (?, ?)").run(id, m);
    }
    tx.record("team.kept", `team ${id}`, { name, members, active });
    return done({ team: id });
  });
}
