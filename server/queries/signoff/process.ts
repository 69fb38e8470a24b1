import type { Paper } from "../../../core/signoff/papers";
import type { Process, SeatNow, Signed } from "../../../core/signoff/process";
import type { Member } from "../../../core/signoff/way";
import { Ids, readColumn, SignerColumn } from "../../db/json-columns";
import { type Db, sql } from "../../db/open";
import { PAPER_TABLE } from "./papers";

/** A process as it is kept, with the ids of its rows: seats and questions stand in the same order. */
export interface KeptProcess {
  signing: number;
  seats: readonly number[];
  questions: readonly number[];
  process: Process;
}

/** What waits of a paper; null where nothing does. */
export function readProcess(db: Db, paper: Paper, id: number): KeptProcess | null {
  const row = sql<{ id: number }>(
    db,
    `SELECT id FROM signing WHERE ${PAPER_TABLE[paper]} = ? AND state = 'In sign-off'`,
  ).get(id);
  return row ? readSigning(db, row.id) : null;
}

/** One signing as the core decides on it. */
export function readSigning(db: Db, signing: number): KeptProcess {
  const head = sql<{ writer: number; hands: string; own: number; state: Process["state"]; reason: string }>(
    db,
    "SELECT writer, hands, own, state, reason FROM signing WHERE id = ?",
  ).get(signing)!;
  const seats = sql<{
    id: number;
    rung: number | null;
    who: string;
    name: string;
    hours: number;
    climbsTo: string | null;
    each: number;
    state: SeatNow["state"];
    asked: string | null;
    half: string | null;
    due: string | null;
    reminded: string | null;
    climbed: string | null;
  }>(
    db,
    `SELECT id, rung, who, name, hours, climbs_to AS climbsTo, each, state, asked, half, due, reminded, climbed
     FROM seat WHERE signing = ? ORDER BY position`,
  ).all(signing);
  const questions = sql<{ id: number; by: number; text: string; at: string; answer: string | null }>(
    db,
    `SELECT id, person AS "by", text, at, answer FROM question WHERE signing = ? ORDER BY id`,
  ).all(signing);
  return {
    signing,
    seats: seats.map((s) => s.id),
    questions: questions.map((q) => q.id),
    process: {
      state: head.state,
      writer: head.writer,
      hands: readColumn(Ids, head.hands),
      own: head.own === 1,
      reason: head.reason,
      sentBack: null,
      questions: questions.map(({ id: _, ...q }) => q),
      seats: seats.map((s) => ({
        at: s.rung,
        who: readColumn(SignerColumn, s.who),
        name: s.name,
        hours: s.hours,
        climbsTo: s.climbsTo === null ? null : readColumn(SignerColumn, s.climbsTo),
        all: s.each === 1,
        state: s.state,
        askedAt: s.asked,
        half: s.half,
        due: s.due,
        reminded: s.reminded !== null,
        climbed: s.climbed !== null,
        asked: sql<Member>(
          db,
          "SELECT p.id, p.name FROM seat_person a JOIN person p ON p.id = a.person WHERE a.seat = ? AND a.handed_on IS NULL AND p.active = 1 ORDER BY a.id",
        ).all(s.id),
        signatures: sql<Signed>(
          db,
          "SELECT person, for_whom AS forWhom, at FROM signature WHERE seat = ? AND what = 'signed' ORDER BY id",
        ).all(s.id),
      })),
    },
  };
}
