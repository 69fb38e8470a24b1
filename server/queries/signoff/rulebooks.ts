import type { Day } from "../../../core/calendar/day";
import { bookOn, type Rulebook, type Rules } from "../../../core/signoff/rulebook";
import { RulesColumn, readColumn } from "../../db/json-columns";
import { type Db, sql } from "../../db/open";
import { rememberSettings } from "../remember";

export interface KeptRulebook extends Rulebook {
  kept: string;
  person: string | null;
  takenBack: string | null;
}

/** Every version there ever was, the oldest first. */
export const readRulebooks = (db: Db): KeptRulebook[] =>
  rememberSettings(db, "rulebooks", () =>
    sql<Omit<KeptRulebook, keyof Rules> & { rules: string }>(
      db,
      `SELECT b.version, b.starts, b.rules, b.kept, p.name AS person, b.taken_back AS takenBack
       FROM rulebook b LEFT JOIN person p ON p.id = b.person ORDER BY b.version`,
    )
      .all()
      .map(({ rules, ...b }) => ({ ...b, ...readColumn(RulesColumn, rules) })),
  );

/** The version that holds on a day; null where none has started. */
export const rulebookOn = (db: Db, day: Day): KeptRulebook | null =>
  bookOn(
    readRulebooks(db).filter((b) => b.takenBack === null),
    day,
  );

export interface RulebookDraft {
  version: number;
  rules: Rules;
  at: string;
  person: string;
}

/** The rules that are being written; null where nobody has changed anything. */
export function readRulebookDraft(db: Db): RulebookDraft | null {
  const row = sql<{ version: number; rules: string; at: string; person: string }>(
    db,
    "SELECT d.version, d.rules, d.at, p.name AS person FROM rulebook_draft d JOIN person p ON p.id = d.person",
  ).get();
  return row ? { ...row, rules: readColumn(RulesColumn, row.rules) } : null;
}
