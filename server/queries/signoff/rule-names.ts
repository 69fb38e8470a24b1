import type { Names } from "../../../exchange/rules/rules-file";
import { type Db, sql } from "../../db/open";
import { readCategories } from "./choices";

/** What rules point at, under the names that a file has. */
export function readRuleNames(db: Db): Names {
  const map = (text: string) =>
    new Map(
      sql<{ id: number; name: string }>(db, text)
        .all()
        .map((r) => [r.id, r.name]),
    );
  return {
    people: map("SELECT id, login AS name FROM person"),
    teams: map("SELECT id, name FROM team"),
    departments: map("SELECT id, name FROM department"),
    suppliers: map("SELECT id, code AS name FROM supplier"),
    categories: new Set(readCategories(db)),
    stores: map("SELECT id, code AS name FROM store"),
  };
}
