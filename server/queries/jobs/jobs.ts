import type { Day } from "../../../core/calendar/day";
import { laterOf } from "../../../core/calendar/day";
import type { BudgetId, DemandId, ItemId, JobId, OrderLineId, PersonId, StoreId, SupplierId } from "../../../core/ids";
import { type Coming, type Cover, coverOf, type OwnCover, sharedOut } from "../../../core/needs/lacking";
import { expect } from "../../../core/needs/projection";
import { factorOf, purchase, type StockQty, stock, toStock } from "../../../core/numbers/quantity";
import type { WaitChance } from "../../../core/suppliers/chance";
import { type Db, sql } from "../../db/open";
import type { PlanFor } from "../needs/need";
import { type Ground, groundOf, readPair } from "../needs/plan";
import { EXPIRING, type Pair, pairKey } from "../needs/positions";
import { chanceOfCover } from "../suppliers/wait-chances";

export interface JobRow {
  id: JobId;
  code: string;
  name: string;
  vessel: string;
  kind: "job" | "customer order";
  closed: string | null;
  lines: number;
  /** Lines that still want goods. */
  open: number;
  firstDue: Day | null;
  /** Lines for which goods are neither here nor coming in time. */
  short: number;
  tied: number;
}

export interface DemandLine {
  id: DemandId;
  item: ItemId;
  code: string;
  name: string;
  unit: string;
  store: StoreId;
  storeName: string;
  due: Day;
  quantity: number;
  issued: number;
  /** To be bought for this job alone. */
  tied: number;
  /** What of it stands on orders, with their papers. */
  orders: { id: number; name: string; state: string; quantity: number; received: boolean; due: Day }[];
  /** Null where nothing is open any more. */
  cover: LineCover | null;
  /** How likely all that it waits for is here on its day; null where nothing is open, or it waits for nothing. */
  chance: WaitChance | null;
}

export interface OutputLine {
  id: number;
  item: ItemId;
  code: string;
  name: string;
  unit: string;
  store: StoreId;
  storeName: string;
  due: Day;
  quantity: number;
  given: number;
}

export interface JobSheet {
  head: Pick<JobRow, "id" | "code" | "name" | "vessel" | "kind" | "closed"> & {
    direct: boolean;
    address: string;
    told: PersonId | null;
    budget: BudgetId | null;
  };
  lines: DemandLine[];
  outputs: OutputLine[];
}

interface OpenDemand extends Pair {
  id: DemandId;
  job: JobId;
  day: Day;
  quantity: number;
}

interface TiedOrder extends Pair {
  demand: DemandId;
  line: OrderLineId;
  quantity: number;
  day: Day;
}

const OPEN = `
  SELECT d.id, d.job, d.item, d.store, d.due AS day, d.quantity - d.issued AS quantity
  FROM job_demand d JOIN job j ON j.id = d.job WHERE d.issued < d.quantity AND j.closed IS NULL`;

/** What is still to come on orders that were written for one demand line alone, at most what was tied; that line's day. */
const ON_ITS_ORDER = `
  SELECT t.job_demand AS demand, l.id AS line, l.item, l.store, d.due AS day, min(t.quantity, (l.quantity - l.received - l.closed_short) * l.factor / 10000) AS quantity
  FROM need_tie t JOIN order_line l ON l.id = t.order_line JOIN job_demand d ON d.id = t.job_demand WHERE l.open = 1`;

/** A demand line's cover, what stands on its own orders beside: what of that comes too late counts as late. */
export type LineCover = Cover & { onItsOrder: StockQty };

/** What each line has on orders of its own, by when it comes; and how much that is in all. */
function ownOfPair(g: Ground, pair: Pair): { all: number; by: Map<DemandId, OwnCover[]> } {
  const ties = sql<TiedOrder>(g.db, `${ON_ITS_ORDER} AND l.item = ? AND l.store = ?`).all(pair.item, pair.store);
  const by = new Map<DemandId, OwnCover[]>();
  for (const line of new Set(ties.map((t) => t.line))) {
    const parts = sql<{ day: Day; quantity: number; factor: number; supplier: SupplierId; stage: string }>(
      g.db,
      `SELECT s.due AS day, s.quantity, s.factor, o.supplier, o.stage FROM open_schedule s JOIN purchase_order o ON o.id = s.purchase_order
       WHERE s.order_line = ?`,
    )
      .all(line)
      .map((p) => ({
        day: laterOf(p.day, g.plan.today),
        quantity: toStock(purchase(p.quantity), factorOf(p.factor)),
        ...(p.stage === "placed" ? { from: { supplier: p.supplier, promised: p.day } } : {}),
      }));
    const wanting = ties
      .filter((t) => t.line === line)
      .map((t) => ({ id: t.demand, day: laterOf(t.day, g.plan.today), quantity: stock(t.quantity) }));
    for (const [demand, own] of sharedOut(parts, wanting)) by.set(demand, [...(by.get(demand) ?? []), own]);
  }
  return { all: ties.reduce((a, t) => a + t.quantity, 0), by };
}

/** What of a line's own orders it can use, what comes in time first. */
function ownOfLine(wants: number, own: readonly OwnCover[]): OwnCover {
  const inTime = Math.min(
    wants,
    own.reduce((a, o) => a + o.inTime, 0),
  );
  const late = Math.min(
    wants - inTime,
    own.reduce((a, o) => a + o.late, 0),
  );
  const days = own.flatMap((o) => o.lateDay ?? []).sort();
  const draws = own.flatMap((o) => o.draws);
  return { inTime: stock(inTime), late: stock(late), lateDay: late > 0 ? days.at(-1)! : null, draws };
}

/** Where the goods for every open line of the given pairs come from. Goods ordered for one job serve it first. */
export function coverOfPair(g: Ground, pair: Pair, read = readPair(g, pair)): Map<DemandId, LineCover> {
  const wanting = sql<OpenDemand>(g.db, `${OPEN} AND d.item = ? AND d.store = ?`).all(pair.item, pair.store);
  const own = ownOfPair(g, pair);
  const supply: Coming[] = [];
  let taken = own.all;
  for (const s of read ? expect(read.stirs, g.plan.today) : []) {
    if (s.quantity <= 0) continue;
    // What stands on a job's own order is not given to others.
    const part = s.kind === "order" || s.kind === "being written" ? Math.min(taken, s.quantity) : 0;
    taken -= part;
    if (s.quantity > part)
      supply.push({
        day: s.day,
        quantity: stock(s.quantity - part),
        label: s.label,
        href: s.href,
        ...(s.from ? { from: s.from } : {}),
      });
  }
  const lines = wanting.map((d) => {
    const its = ownOfLine(d.quantity, own.by.get(d.id) ?? []);
    return { ...d, its, quantity: stock(d.quantity - its.inTime - its.late) };
  });
  const covers = coverOf(
    read?.position.onHand ?? stock(0),
    lines.map((d) => ({ id: d.id, day: laterOf(d.day, g.plan.today), quantity: d.quantity })),
    supply,
    sql<Pair & { lot: string; until: Day; quantity: number }>(
      g.db,
      `${EXPIRING} AND s.item = ? AND s.store = ? GROUP BY l.id`,
    ).all(g.plan.today, pair.item, pair.store),
  );
  const itsOrder = new Map(lines.map((d) => [d.id, d.its]));
  return new Map(
    covers.map((c) => {
      const its = itsOrder.get(c.id)!;
      const days = [c.lateDay, its.lateDay].filter((d) => d !== null).sort();
      return [
        c.id,
        {
          ...c,
          onItsOrder: its.inTime,
          late: stock(c.late + its.late),
          lateDay: days.at(-1) ?? null,
          draws: [...its.draws, ...c.draws],
        },
      ];
    }),
  );
}

/** The same for every open line of a job, or of all jobs, by demand line. */
export function readCovers(db: Db, plan: PlanFor, job: JobId | null): Map<number, LineCover> {
  const g = groundOf(db, plan, false);
  const pairs = new Map<string, Pair>();
  const rows = job === null ? sql<OpenDemand>(db, OPEN).all() : sql<OpenDemand>(db, `${OPEN} AND d.job = ?`).all(job);
  for (const r of rows) pairs.set(pairKey(r), { item: r.item, store: r.store });
  const all = new Map<number, LineCover>();
  for (const pair of pairs.values()) for (const [id, cover] of coverOfPair(g, pair)) all.set(id, cover);
  return all;
}

/** All jobs and customer orders, those that wait first. */
export function readJobs(db: Db, plan: PlanFor): JobRow[] {
  const rows = sql<Omit<JobRow, "short"> & { demand: string | null }>(
    db,
    `SELECT j.id, j.code, j.name, j.vessel, j.kind, j.closed, count(d.id) AS lines,
            coalesce(sum(d.issued < d.quantity), 0) AS open, min(iif(d.issued < d.quantity, d.due, NULL)) AS firstDue,
            coalesce(sum(d.tied > 0), 0) AS tied, group_concat(d.id) AS demand
     FROM job j LEFT JOIN job_demand d ON d.job = j.id GROUP BY j.id
     ORDER BY j.closed IS NOT NULL, firstDue IS NULL, firstDue, j.code`,
  ).all();
  const covers = readCovers(db, plan, null);
  return rows.map(({ demand, ...j }) => ({
    ...j,
    short: (demand ?? "").split(",").filter((id) => {
      const cover = covers.get(Number(id));
      return cover !== undefined && (cover.lacking > 0 || cover.late > 0);
    }).length,
  }));
}

export function readJob(db: Db, id: JobId, plan: PlanFor): JobSheet | null {
  const found = sql<Omit<JobSheet["head"], "direct"> & { direct: number }>(
    db,
    "SELECT id, code, name, vessel, kind, closed, direct, address, told, budget FROM job WHERE id = ?",
  ).get(id);
  if (!found) return null;
  const head = { ...found, direct: found.direct === 1 };
  const covers = readCovers(db, plan, id);
  const orders = sql<{
    demand: number;
    id: number;
    number: string | null;
    state: string;
    quantity: number;
    open: number;
    due: Day;
  }>(
    db,
    `SELECT t.job_demand AS demand, o.id, o.number, o.state, t.quantity, l.open, l.due
     FROM need_tie t JOIN order_line l ON l.id = t.order_line JOIN purchase_order o ON o.id = l.purchase_order
     JOIN job_demand d ON d.id = t.job_demand WHERE d.job = ? ORDER BY o.id`,
  ).all(id);
  const lines = sql<Omit<DemandLine, "cover" | "orders" | "chance">>(
    db,
    `SELECT d.id, d.item, i.code, i.name, u.name AS unit, d.store, s.name AS storeName, d.due, d.quantity, d.issued, d.tied
     FROM job_demand d JOIN item i ON i.id = d.item JOIN unit u ON u.code = i.unit JOIN store s ON s.id = d.store
     WHERE d.job = ? ORDER BY d.due, i.name`,
  ).all(id);
  return {
    head,
    lines: lines.map((l) => ({
      ...l,
      cover: covers.get(l.id) ?? null,
      chance: chanceOfCover(db, { id: l.item, name: l.name }, covers.get(l.id) ?? null, l.due, plan.today),
      orders: orders
        .filter((o) => o.demand === l.id)
        .map((o) => ({
          id: o.id,
          name: o.number ?? `Draft ${o.id}`,
          state: o.state,
          quantity: o.quantity,
          received: o.open === 0,
          due: o.due,
        })),
    })),
    outputs: sql<OutputLine>(
      db,
      `SELECT t.id, t.item, i.code, i.name, u.name AS unit, t.store, s.name AS storeName, t.due, t.quantity, t.given
       FROM job_output t JOIN item i ON i.id = t.item JOIN unit u ON u.code = i.unit JOIN store s ON s.id = t.store
       WHERE t.job = ? ORDER BY t.due, i.name`,
    ).all(id),
  };
}
