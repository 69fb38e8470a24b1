import { addDays, type Day } from "../../../core/calendar/day";
import type { PersonId } from "../../../core/ids";
import { minutesBetween } from "../../../core/signoff/hours";
import { paperHref } from "../../../core/signoff/papers";
import type { Rules } from "../../../core/signoff/rulebook";
import { startTrial, type TrialResult } from "../../../core/signoff/trial";
import { FactsColumn, readColumn } from "../../db/json-columns";
import { type Db, sql } from "../../db/open";
import { JOIN_PAPER, type PaperRow, WHICH_PAPER } from "../../queries/signoff/papers";
import { rulebookOn } from "../../queries/signoff/rulebooks";
import { readRoster } from "../../queries/signoff/staff";

/** How many papers are tried between two words of progress. */
const STEP = 2_000;

interface PastRow extends PaperRow {
  id: number;
  writer: number;
  facts: string;
}

/** Every paper handed in during the twelve months before a day; what carried on without being signed is none. */
export const PAST_PAPERS = `
  SELECT g.id, ${WHICH_PAPER}, g.writer, g.facts
  FROM signing g ${JOIN_PAPER}
  WHERE g.started >= ? AND g.carried = 0 AND g.facts IS NOT NULL`;

/** Tries rules on the last twelve months, against those that hold today. `onDone` hears of how many of all. */
export function tryRules(
  db: Db,
  rules: Rules,
  today: Day,
  onDone: (done: number, all: number) => void = () => {},
): TrialResult {
  const from = addDays(today, -365);
  const before: Rules = rulebookOn(db, today) ?? { allowance: rules.allowance, ladders: [] };
  const pace = paceOf(db, from, today);
  const trial = startTrial(before, rules, readRoster(db, today), (person) => pace.get(person) ?? null);
  const { all } = sql<{ all: number }>(
    db,
    `SELECT count(*) AS "all" FROM signing WHERE started >= ? AND carried = 0 AND facts IS NOT NULL`,
  ).get(from)!;
  let done = 0;
  for (const row of sql<PastRow>(db, PAST_PAPERS).iterate(from)) {
    trial.add({
      id: row.id,
      number: row.number ?? "",
      href: paperHref(row.paper, row.paperId),
      writer: row.writer,
      facts: readColumn(FactsColumn, row.facts),
    });
    if (++done % STEP === 0) onDone(done, all);
  }
  return trial.result();
}

/** How long each person took to sign, in working minutes, on average. */
function paceOf(db: Db, from: Day, today: Day): Map<number, number> {
  const roster = readRoster(db, today);
  const sums = new Map<number, { minutes: number; times: number }>();
  const rows = sql<{ person: PersonId; asked: string; at: string }>(
    db,
    "SELECT g.person, t.asked, g.at FROM signature g JOIN seat t ON t.id = g.seat WHERE g.at >= ? AND t.asked IS NOT NULL ORDER BY g.id DESC LIMIT 20000",
  ).all(from);
  for (const { person, asked, at } of rows) {
    const sum = sums.get(person) ?? { minutes: 0, times: 0 };
    // A year of signatures is a fair sample; a thousand of one person are enough.
    if (sum.times >= 1_000) continue;
    sum.minutes += minutesBetween(asked, at, roster.worksAt(person));
    sum.times++;
    sums.set(person, sum);
  }
  return new Map([...sums].map(([person, { minutes, times }]) => [person, Math.round(minutes / times)]));
}
