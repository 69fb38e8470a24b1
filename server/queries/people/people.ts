import type { Day } from "../../../core/calendar/day";
import type { PersonId, StoreId } from "../../../core/ids";
import { may, rolesIn } from "../../../core/people/roles";
import { Ids, readColumn } from "../../db/json-columns";
import { type Db, sql } from "../../db/open";

export interface PersonRow {
  id: PersonId;
  login: string;
  name: string;
  title: string;
  series: string;
  mail: string;
  store: StoreId | null;
  storeName: string | null;
  active: number;
  department: number | null;
  manager: number | null;
  works: number;
  dayStarts: number;
  dayEnds: number;
  region: string;
  roles: string;
}

/** Everybody, those who work here first. */
export const readPeople = (db: Db): PersonRow[] =>
  sql<PersonRow>(
    db,
    `SELECT p.id, p.login, p.name, p.title, p.series, p.mail, p.store, s.name AS storeName, p.active, p.department, p.manager, p.works, p.day_starts AS dayStarts, p.day_ends AS dayEnds, p.region,
            coalesce((SELECT group_concat(r.role, ', ') FROM person_role r WHERE r.person = p.id), '') AS roles
     FROM person p LEFT JOIN store s ON s.id = p.store ORDER BY p.active DESC, p.name`,
  ).all();

/** Everybody's days away that are not over. */
export const readAllAbsences = (db: Db, today: Day) =>
  sql<{ person: PersonId; id: number; starts: Day; ends: Day; standIn: string | null }>(
    db,
    `SELECT a.person, a.id, a.starts, a.ends, p.name AS standIn FROM absence a LEFT JOIN person p ON p.id = a.stand_in
     WHERE a.dropped IS NULL AND a.ends >= ? ORDER BY a.starts`,
  ).all(today);

export interface GroupRow {
  kind: "team" | "department";
  id: number;
  name: string;
  active: boolean;
  /** Ids of a team's people; of a department, everybody who belongs there. */
  members: number[];
}

const GROUPS = {
  team: `SELECT t.id, t.name, t.active, (SELECT json_group_array(m.person) FROM team_member m WHERE m.team = t.id) AS members
         FROM team t ORDER BY t.active DESC, t.name`,
  department: `SELECT d.id, d.name, d.active, (SELECT json_group_array(p.id) FROM person p WHERE p.department = d.id AND p.active = 1) AS members
         FROM department d ORDER BY d.active DESC, d.name`,
};

/** Teams, then departments. */
export const readGroups = (db: Db): GroupRow[] =>
  (["team", "department"] as const).flatMap((kind) =>
    sql<{ id: number; name: string; active: number; members: string }>(db, GROUPS[kind])
      .all()
      .map((r) => ({ ...r, kind, active: r.active === 1, members: readColumn(Ids, r.members) })),
  );

/** Everybody with a role, and whether they may sign. */
export const readSigners = (db: Db) =>
  sql<{ id: number; name: string; title: string; roles: string }>(
    db,
    `SELECT p.id, p.name, p.title, group_concat(r.role) AS roles FROM person p JOIN person_role r ON r.person = p.id
     WHERE p.active = 1 GROUP BY p.id ORDER BY p.name`,
  )
    .all()
    .map(({ roles, ...p }) => ({ ...p, signs: may(rolesIn(roles), "sign") }));
