import type { StoreId, SupplierId } from "../ids";
import { showAmount } from "../numbers/format";
import { type Ladder, type Rules, type Signer, spoken } from "./rulebook";
import type { People } from "./way";

/** What is wrong with a rulebook, at which ladder and rung; shown while it is written. */
export interface RuleFault {
  ladder: number;
  rung: number | null;
  says: string;
  /** Such rules cannot start; anything else is only unwise. */
  bars: boolean;
}

/** What rules may point at. What is not among them decides nothing, so rules that name it cannot start. */
export interface Known {
  departments: ReadonlySet<number>;
  categories: ReadonlySet<string>;
  suppliers: ReadonlySet<number>;
  stores: ReadonlySet<number>;
}

/** The same from what may be chosen. */
export const knownOf = (choices: {
  departments: readonly { id: number }[];
  categories: readonly string[];
  suppliers: readonly { id: SupplierId }[];
  stores: readonly { id: StoreId }[];
}): Known => {
  const ids = (list: readonly { id: number }[]) => new Set(list.map((r) => r.id));
  return {
    departments: ids(choices.departments),
    categories: new Set(choices.categories),
    suppliers: ids(choices.suppliers),
    stores: ids(choices.stores),
  };
};

const NOBODY = 0; // a writer that nobody is, so that no one is left out

const covers = <T>(wide: readonly T[], narrow: readonly T[]) =>
  wide.length === 0 || (narrow.length > 0 && narrow.every((v) => wide.includes(v)));

/** Does a ladder take every paper that another would? Categories are any of a paper's, so they cover each other the same way. */
const takesAllOf = (first: Ladder, later: Ladder) =>
  later.papers.every((p) => first.papers.includes(p)) &&
  covers(first.departments, later.departments) &&
  covers(first.categories, later.categories) &&
  covers(first.suppliers, later.suppliers) &&
  covers(first.stores, later.stores) &&
  covers(first.kinds, later.kinds);

/** Says what is wrong at a rung of a ladder, or with the ladder itself; some bar the rules from starting. */
type Put = (rung: number | null, says: string, bars?: boolean) => void;

/** Names in a ladder that nothing here has. */
function unknownIn(l: Ladder, known: Known, put: Put): void {
  for (const c of l.categories) if (!known.categories.has(c)) put(null, `No item is filed under “${c}”.`, true);
  for (const [what, ids, here] of [
    ["department", l.departments, known.departments],
    ["supplier", l.suppliers, known.suppliers],
    ["store", l.stores, known.stores],
  ] as const)
    if (ids.some((id) => !here.has(id))) put(null, `It names a ${what} that is not here.`, true);
}

/** Rungs that no amount reaches; the highest limit there is. */
function unreachedIn(l: Ladder, put: Put): number {
  let below = -1;
  for (const [at, r] of l.rungs.entries()) {
    if (at > 0 && l.rungs[at - 1]!.upTo === null)
      put(at, "It is never reached: the rung below takes every amount.", true);
    else if (r.upTo !== null && r.upTo <= below) put(at, "It is never reached: a rung below goes as high.", true);
    if (r.upTo !== null) below = Math.max(below, r.upTo);
  }
  return below;
}

/** Everybody whom a ladder names, with the rung that names them. */
function signersOf(l: Ladder): { at: number | null; who: Signer }[] {
  const named: { at: number | null; who: Signer | null }[] = l.rungs.flatMap((r, at) => [
    { at, who: r.who },
    { at, who: r.climbsTo },
  ]);
  if (typeof l.overBudget === "object")
    named.push({ at: null, who: l.overBudget.who }, { at: null, who: l.overBudget.climbsTo });
  return named.flatMap(({ at, who }) => (who ? [{ at, who }] : []));
}

/** Gaps, rungs and ladders that are never reached, rungs with nobody on them, and names that nothing here has. */
export function faultsOf(book: Rules, people: People, known: Known, currency: string, locale = "en-GB"): RuleFault[] {
  const faults: RuleFault[] = [];
  for (const [i, l] of book.ladders.entries()) {
    const put: Put = (rung, says, bars = false) => faults.push({ ladder: l.id, rung, says, bars });
    if (l.papers.length === 0) put(null, "It is for no kind of paper.", true);
    const first = book.ladders.slice(0, i).find((b) => takesAllOf(b, l));
    if (first && l.papers.length)
      put(null, `It is never used: “${first.name}” stands before it and takes the same papers.`);
    unknownIn(l, known, put);
    const highest = unreachedIn(l, put);
    for (const { at, who } of signersOf(l))
      if (who.kind !== "manager" && people.membersOf(who, NOBODY).length === 0)
        put(at, `There is nobody who could sign as ${spoken({ who, name: people.nameOf(who, NOBODY) })}.`, true);
    const last = l.rungs.at(-1);
    if (!last) put(null, "It has no rung, so nothing can be submitted under it.", true);
    else if (last.upTo !== null)
      put(
        l.rungs.length - 1,
        `Nobody signs above ${showAmount(highest, currency, locale)}: such a paper cannot be submitted.`,
      );
  }
  return faults;
}
