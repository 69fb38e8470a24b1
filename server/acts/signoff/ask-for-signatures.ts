import type { SignedLine } from "../../../core/signoff/difference";
import { type Paper, paperHref } from "../../../core/signoff/papers";
import { begin } from "../../../core/signoff/process";
import type { Way } from "../../../core/signoff/way";
import { sql } from "../../db/open";
import { PAPER_TABLE } from "../../queries/signoff/papers";
import type { Route } from "../../queries/signoff/route";
import { readRoster } from "../../queries/signoff/staff";
import type { Desk, Tx } from "../desk";
import { retire } from "../notices";
import { tellAsked } from "./keep-process";

/** Opens a new round of signatures; the first seat is asked at once. Says who it waits for, or null where nobody signs. */
export function askForSignatures(
  tx: Tx,
  desk: Desk,
  paper: { paper: Paper; id: number; name: string; writer: number; lines: readonly SignedLine[] },
  route: Route & { way: Extract<Way, { ok: true }> },
): string | null {
  const { db } = tx;
  retire(db, desk.now, paperHref(paper.paper, paper.id));
  const column = PAPER_TABLE[paper.paper];
  const { round } = sql<{ round: number }>(
    db,
    `SELECT coalesce(max(round), 0) + 1 AS round FROM signing WHERE ${column} = ?`,
  ).get(paper.id)!;
  const { way, facts } = route;
  const roster = readRoster(db, desk.day);
  const { hands } = route;
  const process = begin(way.seats, { writer: paper.writer, hands, own: way.own }, desk.now, roster);
  const signing = sql(
    db,
    `INSERT INTO signing (paper, ${column}, round, amount, writer, hands, own, rulebook, ladder, sum, facts, lines, state, started, ended, carried)
     VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
  ).run(
    facts.paper,
    paper.id,
    round,
    facts.amount,
    paper.writer,
    JSON.stringify(hands),
    way.own ? 1 : 0,
    route.book?.version ?? null,
    way.ladder.name,
    JSON.stringify(way.sum),
    JSON.stringify(facts),
    JSON.stringify(paper.lines),
    process.state,
    desk.now,
    process.state === "Cleared" ? desk.now : null,
    route.growth && !route.growth.again ? 1 : 0,
  ).lastInsertRowid;
  const addSeat = sql(
    db,
    `INSERT INTO seat (signing, position, rung, who, name, hours, climbs_to, each, state, asked, half, due) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
  );
  const addPerson = sql(db, "INSERT INTO seat_person (seat, person, since) VALUES (?, ?, ?)");
  process.seats.forEach((s, i) => {
    const climbsTo = s.climbsTo && JSON.stringify(s.climbsTo);
    const seat = addSeat.run(
      signing,
      i + 1,
      s.at,
      JSON.stringify(s.who),
      s.name,
      s.hours,
      climbsTo,
      s.all ? 1 : 0,
      s.state,
      s.askedAt,
      s.half,
      s.due,
    ).lastInsertRowid;
    for (const m of s.asked) addPerson.run(seat, m.id, desk.now);
  });
  return tellAsked(db, desk.now, roster, process, { ...paper, from: desk.person.name });
}
