import type { PersonId } from "../ids";
import { amount, type Step, type Sum, words } from "../sums/sum";
import { type Facts, type Ladder, ladderFor, type Rules, type Rung, rungsFor, type Signer, spoken } from "./rulebook";

export interface Member {
  id: PersonId;
  name: string;
}

/** Who people are, as far as signing needs it: only those who may sign in. */
export interface People {
  membersOf: (signer: Signer, writer: number) => readonly Member[];
  /** "Yard manager", "Halden Prior", "Manager of Joss Tarrow". */
  nameOf: (signer: Signer, writer: number) => string;
}

/** One place where a signature is needed. */
export interface Seat {
  /** The rung it comes from, counted from the bottom; null for one that a budget asks for. */
  at: number | null;
  who: Signer;
  name: string;
  hours: number;
  climbsTo: Signer | null;
  /** Who may sign here: never whoever had a hand in the paper, unless the ladder lets them sign this much of their own. */
  members: readonly Member[];
  /** Every one of them, not any one. */
  all: boolean;
}

export type Way =
  /** `own`: whoever had a hand in it may sign this much themselves. */
  { ok: true; ladder: Ladder; seats: Seat[]; own: boolean; sum: Sum } | { ok: false; says: string };

const no = (says: string) => ({ ok: false as const, says });

/**
 * Who has to sign a paper, in order, and why; or why it cannot be submitted. No seat: nobody has to. `hands` are all who
 * had a hand in it: whoever wrote it, in their own name or another's, changed it since it was last signed, or asked for
 * what it buys.
 */
export function wayFor(
  book: Rules,
  facts: Facts,
  writer: number,
  people: People,
  currency: string,
  hands: readonly number[] = [writer],
): Way {
  const found = seatsFor(book, facts, writer, people, hands);
  return found.ok ? { ...found, sum: sumOf(found, facts, currency) } : found;
}

export type Seated =
  | { ok: true; ladder: Ladder; rungs: { rung: Rung; at: number }[]; seats: Seat[]; own: boolean }
  | { ok: false; says: string };

/** The same without its sum, for whoever asks about very many papers. */
export function seatsFor(
  book: Rules,
  facts: Facts,
  writer: number,
  people: People,
  hands: readonly number[] = [writer],
): Seated {
  const ladder = ladderFor(book, facts);
  if (!ladder)
    return no("No spend ladder is for this paper, so it cannot be submitted. The purchasing lead can add one.");
  const rungs = rungsFor(ladder, facts.amount);
  if (!rungs) return no(`Nobody on the ladder “${ladder.name}” may sign this amount, so it cannot be submitted.`);
  if (facts.overBudget && ladder.overBudget === "block")
    return no(`It is over its budget, and the ladder “${ladder.name}” lets nothing through that is.`);
  const own = facts.amount <= ladder.own;
  const seats: Seat[] = [];
  const take = (at: number | null, rung: Pick<Rung, "hours" | "climbsTo"> & { who: Signer }) => {
    const members = people.membersOf(rung.who, writer).filter((m) => own || !hands.includes(m.id));
    const all = rung.who.kind === "team" && rung.who.all;
    const { who, hours, climbsTo } = rung;
    seats.push({ at, who, hours, climbsTo, name: people.nameOf(who, writer), members, all });
  };
  for (const { rung, at } of rungs) if (rung.who) take(at, { ...rung, who: rung.who });
  if (facts.overBudget && typeof ladder.overBudget === "object") take(null, ladder.overBudget);
  const empty = seats.find((s) => s.members.length === 0);
  if (empty)
    return no(
      people.membersOf(empty.who, writer).length
        ? `${hands.length > 1 ? "Only who wrote, changed or asked for it" : "Nobody but its writer"} could sign as ${spoken(empty)}, so it cannot be submitted.`
        : `There is nobody who could sign as ${spoken(empty)}, so it cannot be submitted.`,
    );
  return { ok: true, ladder, rungs, seats, own };
}

function sumOf({ ladder, rungs, seats }: Extract<Seated, { ok: true }>, facts: Facts, currency: string): Sum {
  const limit = (r: Rung) => (r.upTo === null ? words("above") : amount(r.upTo, currency));
  const steps: Step[] = [
    ...(facts.freight
      ? ([
          { op: "", label: "lines, before tax", figure: amount(facts.amount - facts.freight, currency) },
          { op: "+", label: "freight of the supplier", figure: amount(facts.freight, currency) },
        ] satisfies Step[])
      : []),
    { op: facts.freight ? "=" : "", label: "net, before tax", figure: amount(facts.amount, currency) },
    ...rungs.map(({ rung, at }): Step => {
      const seat = seats.find((s) => s.at === at);
      const who = seat ? `${seat.name}${seat.all ? ", all of them" : ""}, within ${seat.hours} hours` : "nobody";
      return { op: "·", label: rung.upTo === null ? who : `${who}, up to`, figure: limit(rung) };
    }),
    ...seats
      .filter((s) => s.at === null)
      .map((s): Step => ({ op: "·", label: `${s.name}, within ${s.hours} hours`, figure: words("over budget") })),
  ];
  return { title: `Who has to sign, by “${ladder.name}”`, steps };
}
