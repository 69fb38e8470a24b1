import type { Model } from "./model";
import { orderKey, type PlacingProblem, termsOf } from "./problem";
import { freightHome } from "./reckon";

/** Orders that may be written together, and what no placing with these alone can cost less than (as the model counts it). */
export interface OrderSet {
  keys: readonly string[];
  bound: number;
}

interface Need {
  /** The least that it costs at each order it can go to. */
  by: ReadonlyMap<string, number>;
  /** It goes to all of them: locked. */
  every: boolean;
  /** It may be covered by parts, at this least cost whatever the parts are. */
  least: number;
}

/**
 * Problems that have nothing to do with each other: no order, and nothing that is left of a blanket order, is shared. What
 * is best for each of them is best for the whole.
 */
export function componentsOf(p: PlacingProblem): PlacingProblem[] {
  const parent = new Map<string, string>();
  const find = (name: string): string => {
    const up = parent.get(name) ?? name;
    if (up === name) return name;
    const top = find(up);
    parent.set(name, top);
    return top;
  };
  const join = (a: string, b: string) => parent.set(find(a), find(b));
  const tie = (row: PlacingProblem["rows"][number]) => {
    for (const o of row.offers) {
      join(`row ${row.id}`, `order ${orderKey(o.supplier, row.store)}`);
      for (const l of o.levels) if (l.blanket) join(`row ${row.id}`, `blanket ${l.blanket.line}`);
    }
    // Rows of an item at a store share what may be bought ahead.
    join(`row ${row.id}`, `item ${row.item}/${row.store}`);
  };
  for (const row of p.rows) tie(row);
  const groups = new Map<string, PlacingProblem["rows"][number][]>();
  for (const row of p.rows) groups.set(find(`row ${row.id}`), [...(groups.get(find(`row ${row.id}`)) ?? []), row]);
  return [...groups].map(([name, rows]) => ({
    ...p,
    rows,
    joined: p.joined.filter((j) => find(`order ${orderKey(j.supplier, j.store)}`) === name),
  }));
}

/**
 * Every set of so many new orders that could carry all needs, each with its bound; drafts that are joined are written
 * already, and always among them. Null where there are more than `most` to look at.
 */
export function orderSets(p: PlacingProblem, model: Model, size: number, most: number): OrderSet[] | null {
  const needs = needsOf(model);
  const joined = new Set(p.joined.map((j) => orderKey(j.supplier, j.store)));
  const keys = [...new Set(needs.flatMap((n) => [...n.by.keys()]))].filter((k) => !joined.has(k)).sort();
  const forced = new Set(needs.filter((n) => n.every).flatMap((n) => [...n.by.keys()].filter((k) => !joined.has(k))));
  if (forced.size > size) return [];
  // The need with the fewest ways first: so a wrong beginning ends soon.
  const open = needs.filter((n) => !n.every).sort((a, b) => a.by.size - b.by.size);
  const fixed = leastOfDrafts(model);
  const found: OrderSet[] = [];
  let looked = 0;
  const boundOf = (chosen: ReadonlySet<string>): number => {
    let bound = fixed;
    for (const k of [...chosen, ...joined]) bound += leastFreight(p, k, joined.has(k));
    for (const n of needs) {
      const there = [...n.by].filter(([k]) => n.every || chosen.has(k) || joined.has(k)).map(([, cost]) => cost);
      bound += n.every ? there.reduce((a, c) => a + c, 0) : Math.min(n.least, Math.min(...there));
    }
    return bound;
  };
  const fill = (chosen: Set<string>, from: number, shut: ReadonlySet<string>): boolean => {
    if (++looked > most) return false;
    if (chosen.size === size) return found.push({ keys: [...chosen, ...joined], bound: boundOf(chosen) }) > 0;
    for (let i = from; i < keys.length; i++) {
      const k = keys[i]!;
      if (chosen.has(k) || shut.has(k)) continue;
      if (!fill(new Set([...chosen, k]), i + 1, shut)) return false;
    }
    return true;
  };
  const cover = (chosen: Set<string>, shut: ReadonlySet<string>): boolean => {
    if (++looked > most) return false;
    const next = open.find((n) => ![...n.by.keys()].some((k) => chosen.has(k) || joined.has(k)));
    if (!next) return fill(chosen, 0, shut);
    if (chosen.size === size) return true;
    const closed = new Set(shut);
    for (const k of next.by.keys()) {
      if (closed.has(k)) continue;
      if (!cover(new Set([...chosen, k]), closed)) return false;
      closed.add(k); // sets with it were all looked at
    }
    return true;
  };
  return cover(forced, new Set()) ? found.sort((a, b) => a.bound - b.bound) : null;
}

/** The problem in which only these orders may be written. */
export const within = (p: PlacingProblem, { keys }: OrderSet): PlacingProblem => ({
  ...p,
  rows: p.rows.map((row) => ({
    ...row,
    offers: row.offers.filter((o) => keys.includes(orderKey(o.supplier, row.store))),
  })),
});

function needsOf(model: Model): Need[] {
  const byRow = new Map<string, { row: PlacingProblem["rows"][number]; by: Map<string, number>; least: number }>();
  for (const { part, adds } of model.columns) {
    if (!part) continue;
    const { row } = part;
    const key = orderKey(part.part.supplier, row.store);
    const at = byRow.get(row.id) ?? { row, by: new Map<string, number>(), least: Number.POSITIVE_INFINITY };
    const cost = adds.cost ?? 0;
    at.by.set(key, Math.min(at.by.get(key) ?? Number.POSITIVE_INFINITY, cost));
    byRow.set(row.id, at);
  }
  return [...byRow.values()].map(({ row, by }) => ({
    by,
    every: row.locked !== null,
    // Parts of a split cost something, and no more is known of them here.
    least: row.maySplit && !row.locked ? Math.min(0, ...by.values()) : Number.POSITIVE_INFINITY,
  }));
}

/** What lines that stand on joined drafts cost at least. */
const leastOfDrafts = (model: Model): number =>
  model.rules
    .filter((r) => r.name.startsWith("stays_"))
    .reduce((a, r) => a + Math.min(...r.entries.map(([c]) => model.columns[c]!.adds.cost ?? 0)), 0);

function leastFreight(p: PlacingProblem, key: string, joined: boolean): number {
  const terms = termsOf(p).get(Number(key.split("/")[0]))!;
  const whole = freightHome(terms, p.home);
  if (joined) return terms.freeFrom === null ? 0 : -whole;
  return terms.freeFrom === null ? whole : 0;
}
