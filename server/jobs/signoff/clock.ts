import type { Day } from "../../../core/calendar/day";
import type { PersonId } from "../../../core/ids";
import { paperHref, paperName } from "../../../core/signoff/papers";
import { barredFrom, decide, type SigningAct } from "../../../core/signoff/process";
import { spoken } from "../../../core/signoff/rulebook";
import { tell } from "../../acts/notices";
import { keepProcess } from "../../acts/signoff/keep-process";
import { recordAudit } from "../../db/audit";
import { Ids, readColumn } from "../../db/json-columns";
import { type Db, sql } from "../../db/open";
import { JOIN_PAPER, type PaperRow, WHICH_PAPER } from "../../queries/signoff/papers";
import { readSigning } from "../../queries/signoff/process";
import { readRoster } from "../../queries/signoff/staff";

interface Waiting extends PaperRow {
  seat: number;
  signing: number;
  half: string;
  due: string;
  reminded: string | null;
  climbed: string | null;
  climbs: number;
  unattended: string | null;
  /** Who is asked there now, as JSON. */
  asked: string;
  hands: string;
  own: number;
}

/**
 * What only time does to papers that wait for signatures: a reminder when half of the hours are gone, climbing at their
 * end, and a word to the administrators where nobody is there. Each is an act of its own with its audit row, and is marked
 * on the seat in the same transaction, so that it happens once, whatever restarts or clocks that are set back.
 */
export function tickSignOff(db: Db, now: string, day: Day): { reminded: number; climbed: number; unattended: number } {
  const count = { reminded: 0, climbed: 0, unattended: 0 };
  const rows = sql<Waiting>(
    db,
    `SELECT t.id AS seat, g.id AS signing, ${WHICH_PAPER},
            t.half, t.due, t.reminded, t.climbed, t.climbs_to IS NOT NULL AS climbs, t.unattended, g.hands, g.own,
            (SELECT json_group_array(a.person) FROM seat_person a WHERE a.seat = t.id AND a.handed_on IS NULL) AS asked
     FROM seat t JOIN signing g ON g.id = t.signing
     ${JOIN_PAPER}
     WHERE t.state = 'waiting' AND g.state = 'In sign-off'`,
  ).all();
  // Whatever need not be written takes no lock: most of what waits has its time.
  const there = (row: Waiting) =>
    readColumn(Ids, row.asked).some((p) =>
      readRoster(db, day).isThere(p, barredFrom({ hands: readColumn(Ids, row.hands), own: row.own === 1 })),
    );
  for (const row of rows) {
    if (row.climbed === null && row.climbs && row.due <= now) {
      const what = climb(db, now, day, row);
      if (what) count[what]++;
    } else if (row.reminded === null && row.climbed === null && row.half <= now && remind(db, now, day, row))
      count.reminded++;
    if (row.unattended === null && !there(row) && nobodyThere(db, now, day, row)) count.unattended++;
  }
  return count;
}

const nameOf = (row: Waiting) => paperName(row.paper, row.number);
const hrefOf = (row: Waiting) => paperHref(row.paper, row.paperId);
const subjectOf = (row: Waiting) => `${row.paper} ${row.paperId}`;

/** Decides an act of the clock and keeps it; undefined where it may not be done now. */
function act(db: Db, now: string, day: Day, row: Waiting, of: SigningAct) {
  const kept = readSigning(db, row.signing);
  const decided = decide(kept.process, of, now, readRoster(db, day));
  if (!decided.ok) return undefined;
  keepProcess(db, now, kept, decided.process);
  // The paper itself is as it was: whoever is looking at it may sign what they see.
  return { before: kept.process, after: decided.process };
}

function remind(db: Db, now: string, day: Day, row: Waiting): boolean {
  return db
    .transaction(() => {
      const done = act(db, now, day, row, { kind: "remind" });
      if (!done) return false;
      const seat = done.after.seats.find((s) => s.state === "waiting")!;
      const signed = new Set(seat.signatures.map((g) => g.forWhom ?? g.person));
      const roster = readRoster(db, day);
      const late = seat.asked
        .filter((m) => !signed.has(m.id))
        .flatMap((m) => roster.toldFor(m.id, barredFrom(done.after)));
      for (const m of new Set(late))
        if (m.id !== done.after.writer)
          tell(db, now, m.id, `${nameOf(row)} still waits for your signature`, "half of the time is gone", hrefOf(row));
      // They are told by e-mail once more.
      sql(db, "UPDATE seat_person SET mailed = NULL WHERE seat = ? AND handed_on IS NULL").run(row.seat);
      recordAudit(db, now, null, "sign-off.reminded", subjectOf(row), { number: row.number, seat: seat.name });
      return true;
    })
    .immediate();
}

/** It climbs to whom the rule says, and both are told; where there is nobody, the administrators are. */
function climb(db: Db, now: string, day: Day, row: Waiting): "climbed" | "unattended" | null {
  return db
    .transaction(() => {
      const roster = readRoster(db, day);
      const kept = readSigning(db, row.signing);
      const late = kept.process.seats.find((s) => s.state === "waiting")!;
      const to = late.climbsTo ? roster.membersOf(late.climbsTo, kept.process.writer) : [];
      const done = act(db, now, day, row, { kind: "climb", to: to.map(({ id, name }) => ({ id, name })) });
      if (!done) {
        if (row.unattended !== null) return null;
        tellAdministrators(db, now, row, "nobody answered, and there is nobody it could climb to");
        return "unattended";
      }
      const seat = done.after.seats.find((s) => s.state === "waiting")!;
      const more = seat.asked.filter((m) => !late.asked.some((a) => a.id === m.id));
      const names = more.map((m) => m.name).join(", ");
      for (const m of late.asked)
        tell(db, now, m.id, `${nameOf(row)} climbed to ${names}`, "it was not answered in time", hrefOf(row));
      for (const m of new Set(more.flatMap((a) => roster.toldFor(a.id, barredFrom(done.after)))))
        tell(
          db,
          now,
          m.id,
          `${nameOf(row)} waits for your signature`,
          `${spoken(seat)} did not answer in time`,
          hrefOf(row),
        );
      recordAudit(db, now, null, "sign-off.climbed", subjectOf(row), {
        number: row.number,
        seat: seat.name,
        to: names,
      });
      return "climbed";
    })
    .immediate();
}

function nobodyThere(db: Db, now: string, day: Day, row: Waiting): boolean {
  return db
    .transaction(() => {
      const roster = readRoster(db, day);
      const { process } = readSigning(db, row.signing);
      const seat = process.seats.find((s) => s.state === "waiting");
      if (!seat || seat.asked.some((m) => roster.isThere(m.id, barredFrom(process)))) return false;
      const marked = sql(db, "UPDATE seat SET unattended = ? WHERE id = ? AND unattended IS NULL").run(now, row.seat);
      if (marked.changes === 0) return false;
      tellAdministrators(db, now, row, `nobody is there who could sign as ${spoken(seat)}`);
      return true;
    })
    .immediate();
}

function tellAdministrators(db: Db, now: string, row: Waiting, why: string): void {
  sql(db, "UPDATE seat SET unattended = ? WHERE id = ?").run(now, row.seat);
  const all = sql<{ id: PersonId }>(
    db,
    "SELECT p.id FROM person p JOIN person_role r ON r.person = p.id WHERE r.role = 'administrator' AND p.active = 1",
  ).all();
  for (const { id } of all)
    tell(
      db,
      now,
      id,
      `${nameOf(row)} waits, and ${why}`,
      "name a stand-in under People, or have it taken back and handed in again",
      "/people",
    );
  recordAudit(db, now, null, "sign-off.unattended", subjectOf(row), { number: row.number, why });
}
