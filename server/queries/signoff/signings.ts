import { toDay } from "../../../core/calendar/day";
import type { PersonId } from "../../../core/ids";
import { minutesBetween } from "../../../core/signoff/hours";
import type { Paper } from "../../../core/signoff/papers";
import { spoken } from "../../../core/signoff/rulebook";
import type { Sum } from "../../../core/sums/sum";
import { readColumn, SignerColumn, SumColumn } from "../../db/json-columns";
import { type Db, sql } from "../../db/open";
import { PAPER_TABLE } from "./papers";
import { readRoster } from "./staff";

export interface SignatureView {
  person: string;
  /** Who was away. */
  forWhom: string | null;
  at: string;
  what: "signed" | "sent back";
  /** Working minutes from when it was asked, by the calendar of whoever signed. */
  took: number;
}

export interface SeatView {
  id: number;
  name: string;
  /** "the yard manager", "Halden Prior". */
  called: string;
  each: boolean;
  hours: number;
  state: "later" | "waiting" | "signed" | "sent back" | "not reached";
  asked: string | null;
  due: string | null;
  reminded: string | null;
  climbed: string | null;
  people: { id: PersonId; name: string; how: "asked" | "handed over" | "climbed"; handedOn: string | null }[];
  signatures: SignatureView[];
}

/** A paper each time that it was handed in. */
export interface SigningView {
  id: number;
  round: number;
  paper: "requisition" | "order" | "blanket" | "change";
  amount: number;
  ladder: string;
  rulebook: number | null;
  sum: Sum | null;
  state: "In sign-off" | "Cleared" | "Draft";
  started: string;
  ended: string | null;
  reason: string;
  carried: boolean;
  seats: SeatView[];
  questions: { id: number; person: string; text: string; at: string; answer: string | null; answered: string | null }[];
}

/** Every time that a paper was handed in, the oldest first, with who was asked and what they did. */
export function readSignings(db: Db, paper: Paper, id: number): SigningView[] {
  const rows = sql<
    Omit<SigningView, "seats" | "questions" | "sum" | "carried"> & { sum: string | null; carried: number }
  >(
    db,
    `SELECT id, round, paper, amount, ladder, rulebook, sum, state, started, ended, reason, carried FROM signing WHERE ${PAPER_TABLE[paper]} = ? ORDER BY round`,
  ).all(id);
  return rows.map(({ sum, carried, ...s }) => ({
    ...s,
    carried: carried === 1,
    sum: sum === null ? null : readColumn(SumColumn, sum),
    seats: readSeats(db, s.id),
    questions: sql<SigningView["questions"][number]>(
      db,
      "SELECT q.id, p.name AS person, q.text, q.at, q.answer, q.answered FROM question q JOIN person p ON p.id = q.person WHERE q.signing = ? ORDER BY q.id",
    ).all(s.id),
  }));
}

function readSeats(db: Db, signing: number): SeatView[] {
  const seats = sql<Omit<SeatView, "called" | "each" | "people" | "signatures"> & { who: string; each: number }>(
    db,
    "SELECT id, name, who, each, hours, state, asked, due, reminded, climbed FROM seat WHERE signing = ? ORDER BY position",
  ).all(signing);
  return seats.map(({ who, each, ...s }) => ({
    ...s,
    called: spoken({ who: readColumn(SignerColumn, who), name: s.name }),
    each: each === 1,
    people: sql<SeatView["people"][number]>(
      db,
      "SELECT p.id, p.name, a.how, a.handed_on AS handedOn FROM seat_person a JOIN person p ON p.id = a.person WHERE a.seat = ? ORDER BY a.id",
    ).all(s.id),
    signatures: sql<Omit<SignatureView, "took"> & { by: number }>(
      db,
      `SELECT p.id AS "by", p.name AS person, f.name AS forWhom, g.at, g.what FROM signature g JOIN person p ON p.id = g.person
       LEFT JOIN person f ON f.id = g.for_whom WHERE g.seat = ? ORDER BY g.id`,
    )
      .all(s.id)
      .map(({ by, ...g }) => ({
        ...g,
        took: minutesBetween(s.asked ?? g.at, g.at, readRoster(db, toDay(g.at.slice(0, 10))).worksAt(by)),
      })),
  }));
}

/** The last time that a paper was handed in. */
export const lastOf = (signings: readonly SigningView[]): SigningView | null => signings.at(-1) ?? null;

/** The seat that waits, where one does. */
export const waitingSeat = (signings: readonly SigningView[]): SeatView | null =>
  lastOf(signings)?.seats.find((s) => s.state === "waiting") ?? null;
