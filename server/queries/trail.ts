import type { Followed } from "../db/audit";
import { type Db, sql } from "../db/open";

export interface TrailRow {
  id: number;
  at: string;
  person: string | null;
  act: string;
  subject: string;
  detail: string;
  hash: string;
}

/** The newest rows of the audit trail; of a very long detail its beginning. */
export const readTrail = (db: Db): TrailRow[] =>
  sql<TrailRow>(
    db,
    "SELECT a.id, a.at, p.name AS person, a.act, a.subject, substr(a.detail, 1, 4000) AS detail, a.hash FROM audit a LEFT JOIN person p ON p.id = a.person ORDER BY a.id DESC LIMIT 2000",
  ).all();

/** How far the chain was followed, when, and when all of it was; null before the first time. */
export interface TrailCheck extends Followed {
  at: string;
  whole: string;
}

export const readTrailCheck = (db: Db): TrailCheck | null =>
  sql<TrailCheck>(db, "SELECT upto, hash, at, whole, broken FROM trail_check").get() ?? null;
