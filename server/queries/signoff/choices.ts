import type { PersonId, StoreId, SupplierId } from "../../../core/ids";
import { may, rolesIn } from "../../../core/people/roles";
import { type Db, sql } from "../../db/open";

/** What rules may name, with the names. */
export interface RuleChoices {
  departments: { id: number; name: string }[];
  teams: { id: number; name: string; members: number[] }[];
  suppliers: { id: SupplierId; name: string }[];
  stores: { id: StoreId; name: string }[];
  categories: string[];
  /** Everybody who may sign in; `signs` where their roles allow it. */
  people: {
    id: number;
    name: string;
    roles: string[];
    signs: boolean;
    manager: number | null;
    department: number | null;
  }[];
}

/** What items are filed under. */
export const readCategories = (db: Db): string[] =>
  sql<{ category: string }>(db, "SELECT DISTINCT category FROM item WHERE category <> '' ORDER BY category")
    .all()
    .map((r) => r.category);

export function readRuleChoices(db: Db): RuleChoices {
  const named = (text: string) => sql<{ id: number; name: string }>(db, text).all();
  const members = sql<{ team: number; person: PersonId }>(db, "SELECT team, person FROM team_member").all();
  return {
    departments: named("SELECT id, name FROM department WHERE active = 1 ORDER BY name"),
    teams: named("SELECT id, name FROM team WHERE active = 1 ORDER BY name").map((t) => ({
      ...t,
      members: members.filter((m) => m.team === t.id).map((m) => m.person),
    })),
    suppliers: named("SELECT id, name FROM supplier ORDER BY name"),
    stores: named("SELECT id, name FROM store ORDER BY id"),
    categories: readCategories(db),
    people: sql<{ id: number; name: string; roles: string; manager: number | null; department: number | null }>(
      db,
      `SELECT p.id, p.name, p.manager, p.department, coalesce((SELECT group_concat(r.role) FROM person_role r WHERE r.person = p.id), '') AS roles
       FROM person p WHERE p.active = 1 ORDER BY p.name`,
    )
      .all()
      .map((p) => {
        const roles = rolesIn(p.roles);
        return { ...p, roles, signs: may(roles, "sign") };
      }),
  };
}
