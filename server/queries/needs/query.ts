import { z } from "zod";
import { type Day, parseDay } from "../../../core/calendar/day";
import { isOneOf, keysOf, recordOf } from "../../../core/keys";
import { RUNS } from "../../../core/needs/run";
import { inOrder } from "../../../core/text";
import { type Done, done, type Problem, refuseAll } from "../../acts/desk";
import { type Db, sql } from "../../db/open";
import { AddressDay, AddressList, listed } from "../address";
import { NEED_SOURCES, type Need, type PlanFor } from "./need";

/** How the sheet can be grouped, and which columns it can be sorted by. */
export const GROUPINGS = ["supplier", "store", "job", "date", "none"] as const;
export type Grouping = (typeof GROUPINGS)[number];

export const LATENESS = ["misses", "below", "due"] as const;
export type Lateness = (typeof LATENESS)[number];

type Value = number | string | null;
/** What each column sorts by. Money sorts in home currency. */
export const SORTS: Record<string, (n: Need) => Value> = {
  item: (n) => n.name,
  code: (n) => n.code,
  source: (n) => n.source,
  store: (n) => n.storeName,
  kind: (n) => n.kind,
  category: (n) => n.category,
  hand: (n) => n.stock?.onHand ?? null,
  committed: (n) => n.stock?.committed ?? null,
  order: (n) => n.stock?.onOrder ?? null,
  available: (n) => n.stock?.available ?? null,
  point: (n) => n.stock?.reorderPoint ?? null,
  policy: (n) => n.policy,
  used: (n) => n.usage.last30,
  before: (n) => n.usage.before,
  after: (n) => n.usage.after,
  cover: (n) => n.cover,
  needed: (n) => n.neededOn,
  by: (n) => n.orderBy,
  arrives: (n) => n.arrives,
  late: (n) => n.lateBy,
  misses: (n) => n.missesBy,
  job: (n) => n.forJob,
  supplier: (n) => n.supplier?.name ?? null,
  buyer: (n) => n.supplier?.buyer ?? null,
  price: (n) => n.price,
  last: (n) => n.lastPrice,
  wanted: (n) => n.wanted,
  buy: (n) => n.buy,
  suggested: (n) => n.buy,
  unit: (n) => n.unit,
  tide: (n) => (n.stock ? n.stock.available - n.stock.reorderPoint : null),
  amount: (n) => n.homeAmount,
};

/** What an address of the page asks for; anything it does not understand is left out of it. */
const Address = z.object({
  source: AddressList.transform((l) => l.filter((s) => isOneOf(NEED_SOURCES, s))),
  store: AddressList,
  supplier: AddressList,
  buyer: AddressList,
  category: AddressList,
  kind: AddressList,
  late: z.enum(LATENESS).optional().catch(undefined),
  find: z.string().max(80).optional().default("").catch(""),
  ticked: z.literal("yes").optional().catch(undefined),
  group: z.enum(GROUPINGS).default("supplier").catch("supplier"),
  sort: z.string().max(20).optional().catch(undefined),
  run: z.enum(RUNS).default("usual").catch("usual"),
  asOf: AddressDay,
});
export interface NeedQuery extends Omit<z.output<typeof Address>, "sort"> {
  sort: { column: string; down: boolean } | null;
}

export function needQuery(search: URLSearchParams): NeedQuery {
  const read = Address.parse(Object.fromEntries(search));
  const column = read.sort?.replace(/^-/, "") ?? "";
  return { ...read, sort: Object.hasOwn(SORTS, column) ? { column, down: read.sort!.startsWith("-") } : null };
}

/**
 * The same for a program, which would not see that something of its address was not understood: that is refused. Stores
 * and suppliers may stand by their codes.
 */
export function needQueryOfProgram(db: Db, search: URLSearchParams, today: Day): Done<NeedQuery> {
  const problems: Problem[] = [];
  const no = (field: string, says: string) => problems.push({ field, says });
  const oneOf = (field: string, list: readonly string[]) => {
    const said = search.get(field);
    if (said !== null && !list.includes(said)) no(field, `Use one of: ${list.join(", ")}.`);
  };
  const asOf = search.get("asOf");
  const day = asOf === null ? null : parseDay(asOf);
  if (asOf !== null && day === null) no("asOf", "There is no such day. Write it like 2026-11-24.");
  if (day !== null && day < today) no("asOf", "This day has passed.");
  oneOf("run", RUNS);
  oneOf("late", LATENESS);
  oneOf("group", GROUPINGS);
  oneOf(
    "sort",
    Object.keys(SORTS).flatMap((s) => [s, `-${s}`]),
  );
  for (const s of listed(search.get("source") ?? ""))
    if (!isOneOf(NEED_SOURCES, s)) no("source", `Use some of: ${NEED_SOURCES.join(", ")}.`);
  const query = needQuery(search);
  for (const field of ["store", "supplier"] as const) {
    const find = sql<{ id: number }>(
      db,
      `SELECT id FROM ${field} WHERE code = @said OR id = @id ORDER BY code = @said DESC`,
    );
    query[field] = query[field].map((said) => {
      if (field === "supplier" && said === "none") return said;
      const found = find.get({ said, id: /^\d{1,15}$/.test(said) ? Number(said) : null });
      if (!found) no(field, `There is no ${field} “${said.slice(0, 40)}”.`);
      return String(found?.id ?? 0);
    });
  }
  return problems.length ? refuseAll(problems) : done(query);
}

/** The plan that an address asks for. A day that has passed is today. */
export const planOf = (q: NeedQuery, today: Day, hour: number): PlanFor => ({
  today,
  hour,
  run: q.run,
  asOf: q.asOf && q.asOf > today ? q.asOf : today,
});

export interface Group {
  /** Index of its first row. */
  start: number;
  count: number;
  label: string;
  /** Second part of the heading, such as a currency. */
  about: string;
}
export interface Facet {
  value: string;
  label: string;
  count: number;
}
export type FacetName = "source" | "store" | "supplier" | "buyer" | "category" | "kind";
export interface Laid {
  rows: readonly Need[];
  groups: readonly Group[];
}

const FACETS: Record<FacetName, (n: Need) => [value: string, label: string]> = {
  source: (n) => [n.source, n.source],
  store: (n) => [String(n.store), n.storeName],
  supplier: (n) => (n.supplier ? [String(n.supplier.id), n.supplier.name] : ["none", "no supplier yet"]),
  buyer: (n) => (n.supplier?.buyer ? [n.supplier.buyer, n.supplier.buyer] : ["none", "nobody in particular"]),
  category: (n) => [n.category || "none", n.category || "without a category"],
  kind: (n) => [n.kind, n.kind],
};
export const FACET_NAMES = keysOf(FACETS);

/** What the pool can be narrowed by, with how many needs each choice has. */
export function facetsOf(needs: readonly Need[]): Record<FacetName, Facet[]> & { late: Record<Lateness, number> } {
  return kept(needs, "facets", () => {
    const by = recordOf(FACET_NAMES, () => new Map<string, Facet>());
    const late = { misses: 0, below: 0, due: 0 };
    for (const n of needs) {
      for (const name of FACET_NAMES) {
        const [value, label] = FACETS[name](n);
        const facet = by[name].get(value);
        if (facet) facet.count++;
        else by[name].set(value, { value, label, count: 1 });
      }
      for (const l of LATENESS) if (isLate(n, l)) late[l]++;
    }
    const sources: readonly string[] = NEED_SOURCES;
    const order = (f: Facet) => sources.indexOf(f.value);
    const sorted = recordOf(FACET_NAMES, (f) =>
      [...by[f].values()].sort((a, b) => (f === "source" ? order(a) - order(b) : inOrder(a.label, b.label))),
    );
    return { ...sorted, late };
  });
}

/** "misses": somebody goes without. "below": it cannot be there in time. "due": the day to order by is here or passed. */
function isLate(n: Need, how: Lateness): boolean {
  if (how === "misses") return n.missesBy > 0;
  return how === "below" ? n.lateBy > 0 : n.lateBy > 0 || n.missesBy > 0 || n.dueNow;
}

function keeps(q: NeedQuery): (n: Need) => boolean {
  const tests: ((n: Need) => boolean)[] = [];
  for (const name of FACET_NAMES) {
    const wanted = new Set(q[name]);
    if (wanted.size) tests.push((n) => wanted.has(FACETS[name](n)[0]));
  }
  const { late } = q;
  if (late) tests.push((n) => isLate(n, late));
  const words = q.find.toLowerCase().split(/\s+/).filter(Boolean);
  if (words.length) {
    tests.push((n) => {
      const text =
        `${n.code} ${n.name} ${n.storeName} ${n.supplier?.name ?? ""} ${n.category} ${n.forJob ?? ""} ${n.requisition?.number ?? ""} ${n.requisition?.asker ?? ""}`.toLowerCase();
      return words.every((w) => text.includes(w));
    });
  }
  return (n) => tests.every((t) => t(n));
}

const groupOf: Record<Grouping, (n: Need) => [key: string, label: string, about: string]> = {
  supplier: (n) =>
    n.supplier ? [n.supplier.name, n.supplier.name, n.supplier.currency] : ["\uffff", "No supplier yet", ""],
  store: (n) => [n.storeName, n.storeName, ""],
  job: (n) => (n.forJob ? [n.forJob, n.forJob, ""] : ["\uffff", "For no job", ""]),
  date: (n) => [n.orderBy ?? "\uffff", n.orderBy ?? "", ""],
  none: () => ["", "", ""],
};

const urgency = (n: Need) => (n.missesBy > 0 ? `0${99_999 - n.missesBy}` : `1${n.orderBy ?? "9"}`);

/**
 * The needs that an address asks for, in its order. Without a sort, the most urgent stands first within its group, and
 * groups of suppliers and jobs stand by their most urgent need. Kept until the needs change.
 */
export function layOut(needs: readonly Need[], q: NeedQuery, ticked: ReadonlySet<string>): Laid {
  const lay = () => {
    const keep = keeps(q);
    const group = groupOf[q.group];
    const sortBy = q.sort ? SORTS[q.sort.column]! : null;
    const sign = q.sort?.down ? -1 : 1;
    const most = new Map<string, string>();
    const keyed = [];
    for (const need of needs) {
      if (!keep(need) || (q.ticked && !ticked.has(need.key))) continue;
      const [key] = group(need);
      const own = urgency(need);
      const before = most.get(key);
      if (before === undefined || own < before) most.set(key, own);
      keyed.push({ need, key, own, value: sortBy ? sortBy(need) : null });
    }
    const byUrgency = q.group === "supplier" || q.group === "job";
    keyed.sort(
      (a, b) =>
        (a.key === b.key
          ? 0
          : (a.key === "\uffff" ? 1 : 0) - (b.key === "\uffff" ? 1 : 0) ||
            (byUrgency ? inOrder(most.get(a.key)!, most.get(b.key)!) : 0) ||
            inOrder(a.key, b.key)) ||
        (sortBy ? sign * compare(a.value, b.value) : 0) ||
        inOrder(a.own, b.own) ||
        inOrder(a.need.name, b.need.name) ||
        inOrder(a.need.key, b.need.key),
    );
    const groups: Group[] = [];
    let last: string | null = null;
    keyed.forEach(({ need, key }, start) => {
      if (key !== last && q.group !== "none") {
        const [, label, about] = group(need);
        groups.push({ start, count: 0, label, about });
      }
      last = key;
      if (groups.length) groups.at(-1)!.count++;
    });
    return { rows: keyed.map((k) => k.need), groups };
  };
  // What is ticked changes with every click; everything else only with the needs.
  return q.ticked ? lay() : kept(needs, JSON.stringify(q), lay);
}

/** Nothing stands last, whichever way a column is sorted. */
function compare(a: Value, b: Value): number {
  if (a === null || b === null || a === b) return a === b ? 0 : a === null ? 1 : -1;
  return typeof a === "number" && typeof b === "number"
    ? a - b
    : inOrder(String(a).toLowerCase(), String(b).toLowerCase());
}

const MOST_KEPT = 12;
const known = new WeakMap<readonly Need[], Map<string, unknown>>();
function kept<T>(needs: readonly Need[], name: string, make: () => T): T {
  let by = known.get(needs);
  if (!by) known.set(needs, (by = new Map()));
  if (!by.has(name)) {
    by.set(name, make());
    for (const old of by.keys()) if (by.size > MOST_KEPT && old !== name) by.delete(old);
  }
  return by.get(name) as T; // what `make` of this name made
}

/** Needs by their keys. */
export const byKey = (needs: readonly Need[]): ReadonlyMap<string, Need> =>
  kept(needs, "by key", () => new Map(needs.map((n) => [n.key, n])));
