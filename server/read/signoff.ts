import type { Day } from "../../core/calendar/day";
import { dueAt } from "../../core/signoff/hours";
import type { Ladder } from "../../core/signoff/ladder";
import { type Db, sql } from "../db/open";

export type Paper = "requisition" | "order";

export interface Signature {
  id: number;
  round: number;
  position: number;
  team: number;
  teamName: string;
  amount: number;
  hours: number;
  asked: string | null;
  state: "later" | "waiting" | "signed" | "sent back" | "not reached";
  person: string | null;
  at: string | null;
  reason: string;
}

const COLUMN = { requisition: "requisition", order: "purchase_order" } as const;

/** Every signature a paper was asked for, in all rounds, in order. */
export function readSignatures(db: Db, paper: Paper, id: number): Signature[] {
  return sql<Signature>(
    db,
    `SELECT g.id, g.round, g.position, g.team, t.name AS teamName, g.amount, g.hours, g.asked, g.state, p.name AS person, g.at, g.reason
     FROM signature g JOIN team t ON t.id = g.team LEFT JOIN person p ON p.id = g.person
     WHERE g.${COLUMN[paper]} = ? ORDER BY g.round, g.position`,
  ).all(id);
}

/** The ladder for a kind of paper: the first in the lead's order. */
export function readLadder(db: Db, paper: Paper): (Ladder & { id: number }) | null {
  const ladder = sql<{ id: number; name: string }>(
    db,
    "SELECT id, name FROM ladder WHERE paper = ? ORDER BY position LIMIT 1",
  ).get(paper);
  if (!ladder) return null;
  const rungs = sql<{ upTo: number | null; team: number | null; teamName: string | null; hours: number }>(
    db,
    "SELECT r.up_to AS upTo, r.team, t.name AS teamName, r.hours FROM rung r LEFT JOIN team t ON t.id = r.team WHERE r.ladder = ? ORDER BY r.position",
  ).all(ladder.id);
  return {
    ...ladder,
    rungs: rungs.map((r) => ({
      upTo: r.upTo,
      hours: r.hours,
      team: r.team === null ? null : { id: r.team, name: r.teamName!, members: readTeam(db, r.team) },
    })),
  };
}

/** People of a team who may still sign in. */
export const readTeam = (db: Db, team: number) =>
  sql<{ id: number; name: string }>(
    db,
    "SELECT p.id, p.name FROM team_member m JOIN person p ON p.id = m.person WHERE m.team = ? AND p.active = 1 ORDER BY p.name",
  ).all(team);

export interface WaitingSignature {
  id: number;
  paper: Paper;
  paperId: number;
  number: string;
  version: number;
  team: number;
  teamName: string;
  /** Home currency, net of tax. */
  amount: number;
  asked: string;
  hours: number;
  /** Moment by which it should be signed. */
  due: string;
  writer: number;
  writerName: string;
  /** Supplier of an order, reason of a requisition. */
  about: string;
  storeName: string;
  required: Day | null;
  lines: number;
  /** May the person who looks sign here? */
  mine: boolean;
}

/** What waits for signatures, the soonest due first. `person` marks what that person may sign. */
export function readWaitingSignatures(db: Db, person: number): WaitingSignature[] {
  const rows = sql<Omit<WaitingSignature, "due" | "mine"> & { member: number }>(
    db,
    `SELECT g.id, g.paper, coalesce(o.id, r.id) AS paperId, coalesce(o.number, r.number) AS number, coalesce(o.version, r.version) AS version,
            g.team, t.name AS teamName, g.amount, g.asked, g.hours, w.id AS writer, w.name AS writerName,
            coalesce(s.name, r.reason) AS about, st.name AS storeName, coalesce(o.required, r.needed_by) AS required,
            CASE WHEN o.id IS NOT NULL THEN (SELECT count(*) FROM order_line l WHERE l.purchase_order = o.id)
                 ELSE (SELECT count(*) FROM requisition_line l WHERE l.requisition = r.id) END AS lines,
            EXISTS (SELECT 1 FROM team_member m WHERE m.team = g.team AND m.person = ?) AS member
     FROM signature g JOIN team t ON t.id = g.team
     LEFT JOIN purchase_order o ON o.id = g.purchase_order LEFT JOIN supplier s ON s.id = o.supplier
     LEFT JOIN requisition r ON r.id = g.requisition
     JOIN person w ON w.id = coalesce(o.writer, r.asker) JOIN store st ON st.id = coalesce(o.store, r.store)
     WHERE g.state = 'waiting'`,
  ).all(person);
  return rows
    .map(({ member, ...r }) => ({ ...r, due: dueAt(r.asked, r.hours), mine: member === 1 && r.writer !== person }))
    .sort((a, b) => a.due.localeCompare(b.due));
}
