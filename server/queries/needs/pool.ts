import { type Db, sql } from "../../db/open";
import { inWorker } from "../../jobs/crew";
import { clockOf, touchedSince } from "./clock";
import { readMerged, withMerged } from "./merged";
import type { Need, PlanFor } from "./need";
import { type KnownPapers, paperNeeds } from "./paper-needs";
import { groundOf, planPair, planStock } from "./plan";
import { pairKey } from "./positions";

/** A company of at most so many pairs is planned on the spot; a larger one in a worker. */
const ON_THE_SPOT = 3_000;
/** So many touched pairs are worked out anew on the spot; more are quicker as a whole. */
const FEW = 400;
/** Plans that are kept at the same time, by the rule and the day they are made for. */
const KEPT = 4;

export interface Pool {
  needs: readonly Need[];
  /** The tick of the clock that these needs are of. */
  at: number;
  /** How far the worker is, while these needs are older than what is in the file. */
  working: { done: number; of: number } | null;
  /** Somebody stopped the worker: these needs are of before, until it is begun again. */
  stopped: boolean;
}

interface Kept {
  at: number;
  stock: Map<string, Need>;
  papers: Need[];
  known: KnownPapers;
  needs: Need[];
  work: { done: number; of: number; promise: Promise<void> } | null;
  fault: unknown;
  stop: AbortController | null;
  stopped: boolean;
}

const kept = new WeakMap<Db, Map<string, Kept>>();

/**
 * What has to be bought by a plan, in every store. It is kept from one reading to the next; after a change only what it
 * touched is worked out anew. Where that is too much at once, a worker does it, and the needs known so far are given
 * with how far it is.
 */
export function readPool(db: Db, plan: PlanFor): Pool {
  const pool = poolOf(db, plan);
  if (pool.work === null && !pool.stopped && pool.at !== clockOf(db)) refresh(db, plan, pool);
  return {
    needs: pool.needs,
    at: pool.at,
    working: pool.work && { done: pool.work.done, of: pool.work.of },
    stopped: pool.stopped,
  };
}

export const readNeeds = (db: Db, plan: PlanFor): readonly Need[] => readPool(db, plan).needs;

/** The pool once it is up to date, however long that takes. */
export async function settledPool(db: Db, plan: PlanFor): Promise<Pool> {
  beginPlan(db, plan);
  for (;;) {
    const pool = readPool(db, plan);
    if (!pool.working) return pool;
    await poolOf(db, plan).work?.promise;
  }
}

/** Stops the worker, if one works this plan out; the needs known so far stay. */
export function stopPlan(db: Db, plan: PlanFor): void {
  const pool = poolOf(db, plan);
  if (!pool.work) return;
  pool.stopped = true;
  pool.stop?.abort();
}

/** Lets a stopped plan be worked out again. */
export function beginPlan(db: Db, plan: PlanFor): void {
  poolOf(db, plan).stopped = false;
}

function poolOf(db: Db, plan: PlanFor): Kept {
  let all = kept.get(db);
  if (!all) kept.set(db, (all = new Map()));
  const passed = sql<{ n: number }>(db, "SELECT count(DISTINCT cut_off) AS n FROM supplier WHERE cut_off <= ?").get(
    plan.hour,
  )!.n;
  const name = `${plan.today}/${passed}/${plan.run}/${plan.asOf}`;
  let pool = all.get(name);
  if (!pool) {
    pool = {
      at: 0,
      stock: new Map(),
      papers: [],
      known: new Map(),
      needs: [],
      work: null,
      fault: null,
      stop: null,
      stopped: false,
    };
    all.set(name, pool);
    for (const old of all.keys()) if (all.size > KEPT && all.get(old)?.work === null) all.delete(old);
  }
  return pool;
}

function refresh(db: Db, plan: PlanFor, pool: Kept): void {
  const touched = pool.at === 0 ? null : touchedSince(db, pool.at);
  if (!touched || touched.everything || touched.pairs.length > FEW) {
    planWhole(db, plan, pool);
    return;
  }
  const at = clockOf(db);
  const g = groundOf(db, plan, false);
  for (const pair of touched.pairs) {
    const need = planPair(g, pair);
    if (need) pool.stock.set(need.key, need);
    else pool.stock.delete(`s:${pairKey(pair).replace("/", ":")}`);
  }
  if (touched.papers || pool.papers.some((n) => n.item !== null && touched.items.has(n.item)))
    pool.papers = paperNeeds(g, pool.known, touched.items);
  gather(db, plan, pool, at);
}

function gather(db: Db, plan: PlanFor, pool: Kept, at: number): void {
  // A run of jobs is of jobs alone: what others ask for is not in it.
  const papers = plan.run === "jobs" ? pool.papers.filter((n) => n.source === "job") : pool.papers;
  pool.needs = withMerged(groundOf(db, plan, false), [...pool.stock.values(), ...papers], readMerged(db));
  pool.at = at;
}

function planWhole(db: Db, plan: PlanFor, pool: Kept): void {
  const { of } = sql<{ of: number }>(db, "SELECT count(*) AS of FROM item_store").get()!;
  // Where the worker failed, the plan takes longer, but it is made.
  if (of <= ON_THE_SPOT || db.memory || db.inTransaction || pool.fault) {
    const at = clockOf(db);
    pool.stock = new Map(planStock(db, plan).map((n) => [n.key, n]));
    pool.known = new Map();
    pool.papers = paperNeeds(groundOf(db, plan, false), pool.known);
    gather(db, plan, pool, at);
    pool.fault = null;
    return;
  }
  const stock = new Map<string, Need>();
  const work = { done: 0, of, promise: Promise.resolve() };
  pool.work = work;
  pool.fault = null;
  pool.stop = new AbortController();
  work.promise = inWorker(
    "plan",
    { file: db.name, plan },
    {
      onPart: (needs) => {
        for (const n of needs) stock.set(n.key, n);
      },
      onDone: (done) => {
        work.done = done;
      },
      signal: pool.stop.signal,
    },
  ).then(
    ({ at }) => {
      pool.work = null;
      if (!db.open) return;
      pool.stock = stock;
      pool.known = new Map();
      pool.papers = paperNeeds(groundOf(db, plan, false), pool.known);
      gather(db, plan, pool, at);
    },
    (fault) => {
      pool.work = null;
      if (!pool.stopped) pool.fault = fault;
    },
  );
}
