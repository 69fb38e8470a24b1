import type { Day } from "../calendar/day";
import type { PersonId, StoreId, SupplierId } from "../ids";
import type { BasisPoints } from "../numbers/money";
import type { OrderKind } from "../orders/kinds";
import type { Role } from "../people/roles";

/** Who signs what (domain §8), as data: it is kept, exported and read again by this shape alone. */

export const SIGNED_PAPERS = ["requisition", "order", "blanket", "change"] as const;
export type SignedPaper = (typeof SIGNED_PAPERS)[number];

/** Kinds of orders that a ladder may be narrowed to; a blanket order is a paper of its own. */
export const SIGNED_KINDS = ["one-off", "call-off", "direct"] as const satisfies OrderKind[];
export type SignedKind = (typeof SIGNED_KINDS)[number];

export type Signer =
  | { kind: "person"; person: PersonId }
  | { kind: "role"; role: Role }
  /** Any one of a team, or each of them. */
  | { kind: "team"; team: number; all: boolean }
  /** Whoever the writer answers to. */
  | { kind: "manager" };

/** How much a paper may grow after it was signed, before it has to be signed again: whichever is smaller. */
export interface Allowance {
  percent: BasisPoints;
  /** Home currency, minor units; null: the percentage alone. */
  amount: number | null;
}

/** Up to an amount in home currency net of tax, inclusive; null is whatever is above. */
export interface Rung {
  upTo: number | null;
  /** Null where nobody has to sign. */
  who: Signer | null;
  /** Working hours to answer, before it climbs. */
  hours: number;
  /** Who is asked then, beside the first; null: it waits on. */
  climbsTo: Signer | null;
}

export interface Ladder {
  id: number;
  name: string;
  /** What it is for; an empty list narrows nothing. */
  papers: readonly SignedPaper[];
  departments: readonly number[];
  categories: readonly string[];
  suppliers: readonly number[];
  stores: readonly number[];
  /** Of orders: whether call-offs, direct deliveries or all others. */
  kinds: readonly SignedKind[];
  /** Every rung up to the first whose limit covers the amount, or that one alone. */
  needs: "every rung" | "one rung";
  /** How much somebody may sign of their own; 0: nothing. */
  own: number;
  /** What a paper over its budget meets: nothing, a rung more, or no way at all. */
  overBudget: "nothing" | "block" | (Omit<Rung, "upTo" | "who"> & { who: Signer });
  rungs: readonly Rung[];
}

/** Where a ladder begins: narrowed to nothing, every rung signs, and nobody signs their own. */
export const WIDE = {
  departments: [],
  categories: [],
  suppliers: [],
  stores: [],
  kinds: [],
  needs: "every rung",
  own: 0,
  overBudget: "nothing",
} as const satisfies Partial<Ladder>;

/** All ladders in the lead's order, and how much a paper may grow after it was signed. */
export interface Rules {
  allowance: Allowance;
  ladders: readonly Ladder[];
}

/** The rules from a day on. A paper keeps the version that it was submitted under. */
export interface Rulebook extends Rules {
  version: number;
  starts: Day;
}

/** What of a paper decides who signs it. */
export interface Facts {
  paper: SignedPaper;
  /** Home currency, net of tax, minor units; with the supplier's freight, which is spent, too. */
  amount: number;
  /** How much of it is the supplier's freight; left out on papers of a time when it was not signed for. */
  freight?: number;
  department: number | null;
  /** Of its lines; a ladder for a category takes a paper that has any line of it. */
  categories: readonly string[];
  supplier: SupplierId | null;
  store: StoreId | null;
  /** Of an order or a change to one; null where nobody says. */
  kind: SignedKind | null;
  overBudget: boolean;
}

const within = <T>(list: readonly T[], value: T | null) =>
  list.length === 0 || (value !== null && list.includes(value));

export const applies = (l: Ladder, f: Facts): boolean =>
  l.papers.includes(f.paper) &&
  within(l.departments, f.department) &&
  within(l.suppliers, f.supplier) &&
  within(l.stores, f.store) &&
  within(l.kinds, f.kind) &&
  (l.categories.length === 0 || f.categories.some((c) => l.categories.includes(c)));

/** The first ladder, in the lead's order, that a paper comes under; null where none is for it. */
export const ladderFor = (book: Rules, facts: Facts): Ladder | null =>
  book.ladders.find((l) => applies(l, facts)) ?? null;

/** The version that holds on a day: the last that has started. */
export const bookOn = <B extends Pick<Rulebook, "starts" | "version">>(books: readonly B[], day: Day): B | null =>
  books
    .filter((b) => b.starts <= day)
    .toSorted((a, b) => (a.starts === b.starts ? a.version - b.version : a.starts < b.starts ? -1 : 1))
    .at(-1) ?? null;

/**
 * The rungs that an amount needs, in order, with where they stand on the ladder; those at which nobody signs are among
 * them. Null where no limit reaches that high.
 */
export function rungsFor(ladder: Ladder, amount: number): { rung: Rung; at: number }[] | null {
  const top = ladder.rungs.findIndex((r) => r.upTo === null || amount <= r.upTo);
  if (top < 0) return null;
  const from = ladder.needs === "one rung" ? top : 0;
  return ladder.rungs.slice(from, top + 1).map((rung, i) => ({ rung, at: from + i }));
}

/** As a sentence says it: "the yard manager", "Halden Prior". */
export function spoken({ who, name }: { who: Signer; name: string }): string {
  if (who.kind === "person") return name;
  // Capitals that belong to the name stay: "IT board".
  return `the ${/^\p{Lu}\p{Ll}/u.test(name) ? name[0]!.toLowerCase() + name.slice(1) : name}`;
}
