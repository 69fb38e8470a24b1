import type { Day } from "../../../core/calendar/day";
import type { PersonId, SourcingId, StoreId, SupplierId } from "../../../core/ids";
import { Big, roundToInteger } from "../../../core/numbers/decimal";
import { parseQuantity, purchase } from "../../../core/numbers/quantity";
import { type Db, sql } from "../../db/open";
import { lineChances } from "../suppliers/chances";
import type { Need, PlanFor } from "./need";
import { type Ground, groundOf, priced, withSource } from "./plan";
import { type Pool, readPool } from "./pool";
import { readSource } from "./positions";
import {
  byKey,
  type Facet,
  type FacetName,
  facetsOf,
  type Group,
  type Lateness,
  layOut,
  type NeedQuery,
  planOf,
} from "./query";

export type { Need, NeedSource, PlanFor } from "./need";
export { usualPlan } from "./need";
export { readNeeds } from "./pool";

/** What a person ticked, typed and chose for a need; kept until it is placed. */
export interface NeedChoice {
  ticked: boolean;
  /** Purchase units as typed; null takes what is suggested. */
  quantity: string | null;
  /** The supplier chosen instead of the preferred one. */
  sourcing: SourcingId | null;
}

/** A need as a row of a person's sheet. */
export interface NeedRow extends Need {
  choice: NeedChoice | null;
  /** How likely it is here by its day if it is ordered now, hundredths of a percent; null where nobody can say. */
  chance: number | null;
}

export interface NeedSheet {
  /** How many stand in the sheet, and how many in the pool. */
  count: number;
  all: number;
  groups: readonly Group[];
  facets: Record<FacetName, Facet[]> & { late: Record<Lateness, number> };
  /** Where the row of a key stands; null where it is not in the sheet. */
  place: number | null;
  from: number;
  rows: NeedRow[];
  ticked: Ticked[];
  at: number;
  working: Pool["working"];
  stopped: boolean;
}

/** A ticked need with what the tally line adds up. */
export interface Ticked {
  key: string;
  name: string;
  supplier: SupplierId | null;
  store: StoreId;
  missesBy: number;
  /** Whether the quantity can be read. */
  ok: boolean;
  /** Net, home currency, at the price for the chosen quantity; null where no price or rate is known. */
  home: number | null;
  /** The bench on which it lies already, and stays. */
  bench: string | null;
}

const patched = new WeakMap<readonly Need[], Map<string, readonly Need[]>>();

/** The pool with the suppliers that a person chose instead of the preferred ones. */
function needsFor(db: Db, plan: PlanFor, pool: Pool, choices: ReadonlyMap<string, NeedChoice>): readonly Need[] {
  const others = [...choices].filter(([, c]) => c.sourcing !== null);
  if (others.length === 0) return pool.needs;
  const name = others.map(([k, c]) => `${k}=${c.sourcing}`).join("|");
  let by = patched.get(pool.needs);
  if (!by) patched.set(pool.needs, (by = new Map()));
  let needs = by.get(name);
  if (!needs) {
    const g = groundOf(db, plan, false);
    needs = pool.needs.map((need) => {
      const chosen = choices.get(need.key)?.sourcing;
      return chosen ? chosenBy(g, need, chosen) : need;
    });
    for (const old of by.keys()) if (by.size > 6) by.delete(old);
    by.set(name, needs);
  }
  return needs;
}

function chosenBy(g: Ground, need: Need, sourcing: SourcingId): Need {
  const source = readSource(g.db, sourcing);
  return source && source.item === need.item ? withSource(g, need, source) : need;
}

/** What a person's sheet shows: so many rows from one on, or around the row of a key. */
export function readNeedSheet(
  db: Db,
  q: NeedQuery,
  { person, today, hour }: { person: PersonId; today: Day; hour: number },
  window: { from: number; most: number; around?: string | null },
): NeedSheet {
  const plan = planOf(q, today, hour);
  const pool = readPool(db, plan);
  const choices = readChoices(db, person);
  const needs = needsFor(db, plan, pool, choices);
  const { rows, groups } = layOut(needs, q, new Set([...choices].filter(([, c]) => c.ticked).map(([k]) => k)));
  const found = window.around ? rows.findIndex((n) => n.key === window.around) : -1;
  const chanceFor = lineChances(db, today);
  const from = found < 0 ? window.from : Math.max(0, Math.min(found - (window.most >> 1), rows.length - window.most));
  return {
    count: rows.length,
    all: needs.length,
    groups,
    facets: facetsOf(needs),
    place: found < 0 ? null : found,
    from,
    rows: rows.slice(from, from + window.most).map((n) => ({
      ...n,
      choice: choices.get(n.key) ?? null,
      chance: chanceOfNeed(n, today, chanceFor),
    })),
    ticked: tickedOf(db, plan, needs, choices),
    at: pool.at,
    working: pool.working,
    stopped: pool.stopped,
  };
}

/** How likely a need is met by its day, if it is ordered now from whoever it goes to. */
const chanceOfNeed = (n: Need, today: Day, chanceFor: ReturnType<typeof lineChances>): number | null =>
  n.supplier && n.arrives && n.item !== null && n.neededOn >= today
    ? (chanceFor(n.supplier.id, n.item, {
        promised: n.arrives,
        asked: n.neededOn,
        by: n.neededOn,
      }).chance?.basisPoints ?? null)
    : null;

/** What a person has ticked, priced at the quantities that were typed. */
function tickedOf(db: Db, plan: PlanFor, needs: readonly Need[], choices: ReadonlyMap<string, NeedChoice>): Ticked[] {
  const index = byKey(needs);
  const g = groundOf(db, plan, false);
  const ticked: Ticked[] = [];
  const keys = [...choices].filter(([, c]) => c.ticked).map(([key]) => key);
  const benches = new Map(
    sql<{ need: string; name: string }>(
      db,
      "SELECT r.need, b.name FROM bench_row r JOIN bench b ON b.id = r.bench WHERE r.need IN (SELECT value FROM json_each(?))",
    )
      .all(JSON.stringify(keys))
      .map((r) => [r.need, r.name]),
  );
  for (const [key, choice] of choices) {
    const need = index.get(key);
    if (!choice.ticked || !need) continue;
    const typed = choice.quantity === null ? { ok: true as const, value: need.buy } : parseQuantity(choice.quantity);
    const same = typed.ok && typed.value === need.buy;
    ticked.push({
      key,
      name: need.name,
      supplier: need.supplier?.id ?? null,
      store: need.store,
      missesBy: need.missesBy,
      ok: typed.ok,
      home: !typed.ok ? null : same ? need.homeAmount : homeAt(g, need, typed.value),
      bench: benches.get(key) ?? null,
    });
  }
  return ticked;
}

function homeAt(g: Ground, need: Need, quantity: number): number | null {
  const source = need.sourcing === null ? null : readSource(g.db, need.sourcing);
  if (source) return priced(g, source, { ...need, buy: purchase(quantity) }).homeAmount;
  return need.homeAmount === null || need.buy === 0
    ? need.homeAmount
    : roundToInteger(new Big(need.homeAmount).times(quantity).div(need.buy));
}

export function readChoices(db: Db, person: PersonId): Map<string, NeedChoice> {
  const rows = sql<{ need: string; ticked: number; quantity: string | null; sourcing: SourcingId | null }>(
    db,
    "SELECT need, ticked, quantity, sourcing FROM need_choice WHERE person = ?",
  ).all(person);
  return new Map(rows.map((c) => [c.need, { ticked: c.ticked === 1, quantity: c.quantity, sourcing: c.sourcing }]));
}
