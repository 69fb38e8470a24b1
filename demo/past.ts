import { addDays, type Day, daysBetween, toDay, weekday } from "../core/calendar/day";
import { type Db, sql } from "../server/db/open";
import { chance } from "./chance";
import { RATES } from "./company";

/** How a supplier usually keeps what it says: in days, counted from the day we ask for; and how soon it answers. */
interface Habit {
  /** The least and the most by which it comes after that day. */
  from: number;
  to: number;
  /** It says from the first that it comes so much later. */
  says: number;
  /** How many of its promises it moves, of a hundred; each by so many days. */
  moves: number;
  by: number;
  /** Hours to its first word. */
  hours: [least: number, most: number];
  /** Its prices rose by so many hundredths of a percent, so many days ago. */
  rose: { bp: number; daysAgo: number } | null;
}
const USUAL: Habit = { from: -2, to: 1, says: 0, moves: 4, by: 3, hours: [2, 20], rose: null };

/** What there is to say of each: one is late since August, one always, one early, one moves what it promised twice. */
const HABITS: Record<string, Partial<Habit>> = {
  NRR: { from: -1, to: 2, hours: [4, 18], rose: { bp: 450, daysAgo: 250 } },
  FES: { from: 0, to: 5, says: 1, moves: 30, by: 4, hours: [16, 60], rose: { bp: 600, daysAgo: 140 } },
  VSS: { from: 1, to: 6, says: 0, moves: 45, by: 3, hours: [8, 40] },
  QUO: { rose: { bp: 300, daysAgo: 320 } },
  CGG: { from: -1, to: 0, hours: [1, 5], rose: { bp: 250, daysAgo: 230 } },
  HAF: { from: -4, to: -1, hours: [1, 9] },
  LRE: { from: -1, to: 3, moves: 15 },
};
/** When a supplier's list rose last, and by how much. */
export const roseOf = (code: string): Habit["rose"] => habitOf(code).rose;
const habitOf = (code: string): Habit => ({ ...USUAL, ...HABITS[code] });

/** Since so many days ago Norrvik comes later than it says. */
const SLOWER_SINCE = 112;

export interface Kept {
  asked: Day;
  came: Day;
  /** What they said, one after the other, each at its moment. */
  said: { day: Day; at: string }[];
}

/** When an order of the past was asked for, promised and came: no later than `latest`, when its goods were needed in the store. */
export function keptPromises(code: string, sent: Day, latest: Day, today: Day, roll: ReturnType<typeof chance>): Kept {
  const habit = habitOf(code);
  const slower = code === "NRR" && daysBetween(sent, today) < SLOWER_SINCE;
  const after = roll.whole(habit.from, habit.to) + (slower ? roll.whole(2, 5) : 0);
  // What is slower comes as late as the store can wait; all else some days before that.
  let came = addDays(latest, slower ? 0 : -roll.whole(0, Math.min(3, Math.max(0, daysBetween(sent, latest) - 2))));
  while (weekday(came) > 5 && daysBetween(sent, came) > 1) came = addDays(came, -1);
  const asked = laterThan(sent, addDays(came, -after));
  const hours = roll.whole(...habit.hours);
  const first = addDays(asked, habit.says);
  const said = [{ day: first, at: moment(sent, hours) }];
  if (roll.whole(1, 100) <= habit.moves && daysBetween(sent, came) > 4) {
    const half = Math.floor(daysBetween(sent, came) / 2);
    said.push({ day: addDays(first, habit.by), at: moment(addDays(sent, half), 5) });
    if (code === "VSS" && half > 3)
      said.push({ day: addDays(first, habit.by * 2), at: moment(addDays(sent, half + 2), 5) });
  }
  return { asked, came, said: said.filter((s) => s.at.slice(0, 10) <= came) };
}

const laterThan = (least: Day, day: Day): Day => (day > least ? day : addDays(least, 1));

/** A moment some hours after an order was sent in the morning; what falls on a weekend is said on Monday. */
function moment(day: Day, hours: number): string {
  let at = addDays(day, Math.floor(hours / 24));
  while (weekday(at) > 5) at = addDays(at, 1);
  return `${at}T${String(10 + (hours % 8)).padStart(2, "0")}:35:00.000Z`;
}

/** Exchange rates of the months before, up and down by some percent; those of today hold since the first of this month. */
export function rateHistory(db: Db, today: Day): void {
  const roll = chance(88);
  const add = sql(db, "INSERT OR IGNORE INTO rate (currency, day, rate) VALUES (?, ?, ?)");
  for (const [currency, text] of RATES) {
    const now = Math.round(Number(text) * 1_000_000);
    const first = toDay(`${today.slice(0, 8)}01`);
    add.run(currency, first, now);
    let bp = 0;
    for (let month = 1; month <= 18; month++) {
      bp = Math.max(-600, Math.min(600, bp + roll.whole(-140, 140)));
      const day = toDay(`${addDays(first, -Math.round(30.44 * month)).slice(0, 8)}01`);
      add.run(currency, day, Math.round((now * (10_000 + bp)) / 10_000));
    }
  }
}
