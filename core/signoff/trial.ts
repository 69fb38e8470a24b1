import type { PersonId } from "../ids";
import type { Facts, Rules } from "./rulebook";
import { ladderFor, rungsFor } from "./rulebook";
import { type People, type Seat, type Seated, seatsFor } from "./way";

/** A paper of the past, as it was handed in. */
export interface PastPaper {
  id: number;
  number: string;
  href: string;
  writer: number;
  facts: Facts;
}

/** One paper under both rules. */
export interface Moved {
  number: string;
  href: string;
  paper: Facts["paper"];
  minor: number;
  before: string;
  after: string;
}

export interface TrialResult {
  papers: number;
  moved: number;
  /** The dearest of those that go another way. */
  shown: Moved[];
  signatures: { before: number; after: number };
  /** Working minutes that papers wait in all. */
  minutes: { before: number; after: number };
  /** Home currency: what nobody signs, and what could not be submitted at all. */
  unsigned: { before: number; after: number };
  stuck: { before: number; after: number };
  people: { person: PersonId; name: string; before: number; after: number }[];
  /** Rungs of the new rules that no paper of the time came up to, though some came to their ladder. */
  unreached: { ladder: string; rung: number; above: number; papers: number }[];
  /** How many papers of each band of amounts go the same way or another; a band is a quarter of a power of ten. */
  bands: { from: number; same: number; moved: number; nobody: number }[];
}

const SHOWN = 200;

/**
 * Tries other rules on papers of the past: which would have gone another way, with how many more signatures and how much
 * longer. `minutesOf` says how long a person took to sign; who has signed nothing takes the hours they are given.
 */
export function startTrial(
  before: Rules,
  after: Rules,
  people: People,
  minutesOf: (person: PersonId) => number | null,
) {
  const result: TrialResult = {
    papers: 0,
    moved: 0,
    shown: [],
    signatures: { before: 0, after: 0 },
    minutes: { before: 0, after: 0 },
    unsigned: { before: 0, after: 0 },
    stuck: { before: 0, after: 0 },
    people: [],
    unreached: [],
    bands: [],
  };
  const byPerson = new Map<number, TrialResult["people"][number]>();
  const bands = new Map<number, TrialResult["bands"][number]>();
  const tops = new Map<number, number[]>();
  const routes = { before: remembering(before, people), after: remembering(after, people) };

  /** A seat of many takes as long as the quickest of them; one where all sign, as the slowest. */
  const waits = (seat: Seat) => {
    const each = seat.members.map((m) => minutesOf(m.id) ?? seat.hours * 60);
    return seat.all ? Math.max(...each) : Math.min(...each);
  };
  const count = (side: "before" | "after", facts: Facts, way: Seated) => {
    if (!way.ok) {
      result.stuck[side] += facts.amount;
      return;
    }
    if (way.seats.length === 0) result.unsigned[side] += facts.amount;
    for (const seat of way.seats) {
      result.signatures[side] += seat.all ? seat.members.length : 1;
      result.minutes[side] += waits(seat);
      for (const m of seat.members) {
        let row = byPerson.get(m.id);
        if (!row) byPerson.set(m.id, (row = { person: m.id, name: m.name, before: 0, after: 0 }));
        row[side]++;
      }
    }
  };

  return {
    add(paper: PastPaper): void {
      const { facts, writer } = paper;
      const was = routes.before(facts, writer);
      const is = routes.after(facts, writer);
      result.papers++;
      if (is.ok) tops.set(is.ladder.id, countTop(tops.get(is.ladder.id) ?? [], is.rungs.at(-1)!.at));
      count("before", facts, was);
      count("after", facts, is);
      const same = was === is || inWords(was) === inWords(is);
      const from = bandOf(facts.amount);
      let band = bands.get(from);
      if (!band) bands.set(from, (band = { from, same: 0, moved: 0, nobody: 0 }));
      if (!same) band.moved++;
      else if (is.ok && is.seats.length === 0) band.nobody++;
      else band.same++;
      if (same) return;
      result.moved++;
      const { number, href } = paper;
      result.shown.push({
        number,
        href,
        paper: facts.paper,
        minor: facts.amount,
        before: inWords(was),
        after: inWords(is),
      });
      if (result.shown.length > SHOWN * 2) keepDearest(result.shown);
    },
    result(): TrialResult {
      keepDearest(result.shown);
      result.people = [...byPerson.values()].sort((a, b) => a.name.localeCompare(b.name));
      result.unreached = unreachedOf(after, tops);
      result.bands = [...bands.values()].sort((a, b) => a.from - b.from);
      return result;
    },
  };
}

/** Papers of one writer that come to the same rung of the same ladder go the same way. */
function remembering(rules: Rules, people: People) {
  const known = new Map<string, Seated>();
  return (facts: Facts, writer: number): Seated => {
    const ladder = ladderFor(rules, facts);
    const top = ladder ? (rungsFor(ladder, facts.amount)?.at(-1)?.at ?? -1) : -1;
    const own = ladder !== null && facts.amount <= ladder.own;
    const key = `${ladder?.id}/${top}/${writer}/${facts.overBudget}/${own}`;
    let way = known.get(key);
    if (!way) known.set(key, (way = seatsFor(rules, facts, writer, people)));
    return way;
  };
}

const said = new WeakMap<Seated, string>();
function inWords(way: Seated): string {
  let words = said.get(way);
  if (words === undefined) {
    words = !way.ok
      ? "cannot be submitted"
      : way.seats.length === 0
        ? "nobody"
        : way.seats.map((s) => (s.all ? `all of ${s.name}` : s.name)).join(", then ");
    said.set(way, words);
  }
  return words;
}

const countTop = (counts: number[], top: number): number[] => {
  counts[top] = (counts[top] ?? 0) + 1;
  return counts;
};

/** The lowest rung of each ladder that nothing came up to: those above it follow. */
function unreachedOf(rules: Rules, tops: ReadonlyMap<number, number[]>): TrialResult["unreached"] {
  return rules.ladders.flatMap((l) => {
    const counts = tops.get(l.id);
    if (!counts) return [];
    const rung = l.rungs.findLastIndex((_, i) => (counts[i] ?? 0) > 0) + 1;
    const below = l.rungs[rung - 1]?.upTo ?? null;
    if (rung >= l.rungs.length || below === null) return [];
    return [{ ladder: l.name, rung, above: below, papers: counts.reduce((a, b) => a + (b ?? 0), 0) }];
  });
}

const keepDearest = (list: Moved[]) => list.sort((a, b) => b.minor - a.minor).splice(SHOWN);

/** Quarters of powers of ten, in minor units: as even on a scale that grows tenfold as bars can be. */
function bandOf(minor: number): number {
  if (minor <= 0) return 0;
  return Math.round(10 ** (Math.floor(Math.log10(minor) * 4) / 4));
}
