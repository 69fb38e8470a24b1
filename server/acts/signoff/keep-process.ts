import { type Paper, paperHref } from "../../../core/signoff/papers";
import { barredFrom, type Process } from "../../../core/signoff/process";
import { type Db, sql } from "../../db/open";
import type { KeptProcess } from "../../queries/signoff/process";
import type { Roster } from "../../queries/signoff/staff";
import { tell } from "../notices";

/** Writes what an act made of a process: only what differs. Call inside the act's transaction. */
export function keepProcess(db: Db, now: string, was: KeptProcess, next: Process): void {
  const { process } = was;
  next.seats.forEach((s, i) => {
    const before = process.seats[i]!;
    if (s === before) return;
    const id = was.seats[i]!;
    sql(
      db,
      `UPDATE seat SET state = ?, asked = ?, half = ?, due = ?, each = ?,
         reminded = coalesce(reminded, iif(?, ?, NULL)), climbed = coalesce(climbed, iif(?, ?, NULL)) WHERE id = ?`,
    ).run(s.state, s.askedAt, s.half, s.due, s.all ? 1 : 0, s.reminded ? 1 : 0, now, s.climbed ? 1 : 0, now, id);
    const how = s.climbed && !before.climbed ? "climbed" : "handed over";
    for (const m of s.asked)
      if (!before.asked.some((b) => b.id === m.id))
        sql(db, "INSERT INTO seat_person (seat, person, how, since) VALUES (?, ?, ?, ?)").run(id, m.id, how, now);
    for (const m of before.asked)
      if (!s.asked.some((a) => a.id === m.id))
        sql(db, "UPDATE seat_person SET handed_on = ? WHERE seat = ? AND person = ? AND handed_on IS NULL").run(
          now,
          id,
          m.id,
        );
    for (const g of s.signatures.slice(before.signatures.length))
      sql(db, "INSERT INTO signature (seat, what, person, for_whom, at) VALUES (?, 'signed', ?, ?, ?)").run(
        id,
        g.person,
        g.forWhom,
        g.at,
      );
    if (s.state === "sent back" && next.sentBack)
      sql(db, "INSERT INTO signature (seat, what, person, for_whom, at) VALUES (?, 'sent back', ?, ?, ?)").run(
        id,
        next.sentBack.person,
        next.sentBack.forWhom,
        next.sentBack.at,
      );
  });
  next.questions.forEach((q, i) => {
    const id = was.questions[i];
    if (id === undefined)
      sql(db, "INSERT INTO question (signing, person, text, at) VALUES (?, ?, ?, ?)").run(
        was.signing,
        q.by,
        q.text,
        q.at,
      );
    else if (q.answer !== process.questions[i]!.answer)
      sql(db, "UPDATE question SET answer = ?, answered = ? WHERE id = ?").run(q.answer, now, id);
  });
  if (next.state !== process.state)
    sql(db, "UPDATE signing SET state = ?, ended = ?, reason = ? WHERE id = ?").run(
      next.state,
      now,
      next.reason,
      was.signing,
    );
}

/** Tells whoever is asked now, but never the writer. Says who that is, or null where nobody is. */
export function tellAsked(
  db: Db,
  now: string,
  roster: Roster,
  process: Process,
  paper: { paper: Paper; id: number; name: string; from: string },
): string | null {
  const seat = process.seats.find((s) => s.state === "waiting");
  if (!seat) return null;
  for (const m of new Set(seat.asked.flatMap((a) => roster.toldFor(a.id, barredFrom(process))))) {
    if (m.id !== process.writer)
      tell(
        db,
        now,
        m.id,
        `${paper.name} waits for your signature`,
        `from ${paper.from}`,
        paperHref(paper.paper, paper.id),
      );
  }
  return seat.name;
}
