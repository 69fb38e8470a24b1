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
  suppliers: readonly { id: number }[];
  stores: readonly { id: number }[];
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

/** Gaps, rungs and ladders that are never reached, rungs with nobody on them, and names that nothing here has. */
export function faultsOf(book: Rules, people: People, known: Known, currency: string, locale = "en-GB"): RuleFault[] {
  const faults: RuleFault[] = [];
  for (const [i, l] of book.ladders.entries()) {
    const put = (rung: number | null, says: string, bars = false) => faults.push({ ladder: l.id, rung, says, bars });
    if (l.papers.length === 0) put(null, "It is for no kind of paper.", true);
    const first = book.ladders.slice(0, i).find((b) => takesAllOf(b, l));
    if (first && l.papers.length)
      put(null, `It is never used: “${first.name}” stands before it and takes the same papers.`);
    for (const c of l.categories) if (!known.categories.has(c)) put(null, `No item is filed under “${c}”.`, true);
    if (l.departments.some((d) => !known.departments.has(d)))
      put(null, "It names a department that is not here.", true);
    if (l.suppliers.some((s) => !known.suppliers.has(s))) put(null, "It names a supplier that is not here.", true);
    if (l.stores.some((s) => !known.stores.has(s))) put(null, "It names a store that is not here.", true);
    let below = -1;
    for (const [at, r] of l.rungs.entries()) {
      const after = l.rungs[at - 1];
      if (after && after.upTo === null) put(at, "It is never reached: the rung below takes every amount.", true);
      else if (r.upTo !== null && r.upTo <= below) put(at, "It is never reached: a rung below goes as high.", true);
      if (r.upTo !== null) below = Math.max(below, r.upTo);
      if (r.who) checkSigner(r.who, at);
      if (r.climbsTo) checkSigner(r.climbsTo, at);
    }
    if (typeof l.overBudget === "object")
      for (const s of [l.overBudget.who, l.overBudget.climbsTo]) if (s) checkSigner(s, null);
    const last = l.rungs.at(-1);
    if (!last) put(null, "It has no rung, so nothing can be submitted under it.", true);
    else if (last.upTo !== null)
      put(
        l.rungs.length - 1,
        `Nobody signs above ${showAmount(below, currency, locale)}: such a paper cannot be submitted.`,
      );
    function checkSigner(who: Signer, at: number | null) {
      if (who.kind !== "manager" && people.membersOf(who, NOBODY).length === 0)
        put(at, `There is nobody who could sign as ${spoken({ who, name: people.nameOf(who, NOBODY) })}.`, true);
    }
  }
  return faults;
}
