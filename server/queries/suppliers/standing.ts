import { type Day, laterOf, toDay } from "../../../core/calendar/day";
import type { ItemId, OrderId, OrderLineId, StoreId } from "../../../core/ids";
import { type OwnCover, sharedOut } from "../../../core/needs/lacking";
import { expect } from "../../../core/needs/projection";
import { pointOf } from "../../../core/needs/reorder";
import { reorderingFor } from "../../../core/needs/run";
import { Big, roundToInteger } from "../../../core/numbers/decimal";
import { exchanged, money } from "../../../core/numbers/money";
import { factorOf, ONE, purchase, stock, toStock } from "../../../core/numbers/quantity";
import { leftOf } from "../../../core/orders/blanket";
import { expectedOn, openOf } from "../../../core/orders/schedule";
import { amount, quantity } from "../../../core/sums/sum";
import type {
  ClaimStanding,
  CostStanding,
  PairStanding,
  SignOffStanding,
  Surroundings,
} from "../../../core/suppliers/effects";
import { count } from "../../../core/text";
import { type Db, sql } from "../../db/open";
import { readBudgets } from "../budgets/budgets";
import { theCompany } from "../company";
import { coverOfPair } from "../jobs/jobs";
import type { PlanFor } from "../needs/need";
import { groundOf, readPair } from "../needs/plan";
import { jobLabel, type Pair, pairKey } from "../needs/positions";
import { readBlanketLine, readCalls } from "../orders/calls";
import { type OrderHead, type OrderLine, orderTotals, readOrderHead, readOrderLines } from "../orders/order";
import { readSchedule } from "../orders/schedule";
import { outgrown, routeOrder } from "../signoff/route";

/**
 * How things stand around some lines of an order: the stock that they move, whoever waits for it, what the order costs, and
 * what of budgets, signatures and blanket orders it takes. Read with the queries that plan and count everywhere else.
 */
export function standingOf(
  db: Db,
  order: OrderId,
  touched: readonly OrderLineId[],
  plan: PlanFor,
  {
    also = [],
    now,
  }: {
    /** Stock besides that of the lines. */
    also?: readonly Pair[];
    /** The order, where it was read since it last changed. */
    now?: { head: OrderHead; lines: readonly OrderLine[] };
  } = {},
): Surroundings {
  const head = now?.head ?? readOrderHead(db, order)!;
  const lines = now?.lines ?? readOrderLines(db, order, head.currency);
  const of = lines.filter((l) => touched.includes(l.id));
  const { pairs, claims } = stockAround(db, [...of, ...also], plan);
  const { currency: home } = theCompany(db);
  return {
    today: plan.today,
    pairs,
    claims: [...claims, ...askedClaims(db, touched, plan.today)],
    cost: costOf(head, lines, of, home),
    budgets: readBudgets(db).map((b) => ({
      key: String(b.id),
      name: `${b.code}, ${b.starts} to ${b.ends}`,
      left: b.left,
      sum: b.sum,
    })),
    signOff: signOffOf(db, order, plan.today),
    blankets: of.flatMap((l) => (l.blanketLine === null ? [] : [blanketOfLine(db, l.blanketLine)])),
  };
}

/** The stock of the lines' items where they come to, and the jobs and customer orders that take from it. */
function stockAround(
  db: Db,
  lines: readonly { item: ItemId | null; store: StoreId }[],
  plan: PlanFor,
): { pairs: PairStanding[]; claims: ClaimStanding[] } {
  const g = groundOf(db, plan, false);
  const touched = new Map<string, Pair>();
  for (const l of lines) if (l.item !== null) touched.set(`${l.item}/${l.store}`, { item: l.item, store: l.store });
  const pairs: PairStanding[] = [];
  const claims: ClaimStanding[] = [];
  for (const pair of touched.values()) {
    const read = readPair(g, pair);
    if (!read) continue;
    const p = read.position;
    pairs.push({
      key: pairKey(pair),
      item: p.name,
      store: p.storeName,
      unit: p.stockUnit,
      onHand: p.onHand,
      stirs: expect(read.stirs, plan.asOf, plan.today),
      reorderPoint: pointOf(reorderingFor(plan.run, p.settings)),
      countOnOrder: g.countOnOrder,
    });
    const covers = coverOfPair(g, pair, read);
    for (const d of demandOf(db, pair)) {
      const cover = covers.get(d.id);
      if (!cover) continue;
      claims.push({
        key: `d${d.id}`,
        label: jobLabel(d),
        href: `/jobs/${d.jobId}`,
        item: p.name,
        pair: d.tied > 0 ? null : pairKey(pair),
        unit: p.stockUnit,
        due: laterOf(d.due, plan.today),
        wants: stock(d.quantity),
        waits: stock(cover.late + cover.lacking),
        until: cover.lacking > 0 ? null : cover.lateDay,
      });
    }
  }
  return { pairs, claims };
}

interface DemandRow {
  id: number;
  due: Day;
  quantity: number;
  tied: number;
  jobId: number;
  job: string;
  vessel: string;
  kind: "job" | "customer order";
}
const demandOf = (db: Db, pair: Pair): DemandRow[] =>
  sql<DemandRow>(
    db,
    `SELECT d.id, d.due, d.quantity - d.issued AS quantity, d.tied, j.id AS jobId, j.code AS job, j.vessel, j.kind
     FROM job_demand d JOIN job j ON j.id = d.job WHERE d.issued < d.quantity AND j.closed IS NULL AND d.item = ? AND d.store = ? ORDER BY d.due, d.id`,
  ).all(pair.item, pair.store);

interface AskedRow {
  line: number;
  requisition: number;
  number: string;
  what: string;
  unit: string;
  due: Day;
  wants: number;
}

/** Lines of requisitions that the touched lines were written for, by all that is ordered for them anywhere. */
function askedClaims(db: Db, touched: readonly OrderLineId[], today: Day): ClaimStanding[] {
  const rows = sql<AskedRow>(
    db,
    `SELECT q.id AS line, r.id AS requisition, r.number, coalesce(i.name, q.words) AS what, coalesce(u.name, '') AS unit, r.needed_by AS due,
            coalesce(q.decided, q.quantity, ${ONE}) AS wants
     FROM requisition_line q JOIN requisition r ON r.id = q.requisition LEFT JOIN item i ON i.id = q.item LEFT JOIN unit u ON u.code = i.unit
     WHERE r.needed_by IS NOT NULL AND q.id IN (SELECT t.requisition_line FROM need_tie t WHERE t.order_line IN (SELECT value FROM json_each(?)))
     ORDER BY r.needed_by, q.id`,
  ).all(JSON.stringify(touched));
  return rows.map((r) => {
    const own = tiesOfAsked(db, r.line, today);
    const inTime = own.reduce((a, o) => a + o.inTime, 0);
    const late = own.reduce((a, o) => a + o.late, 0);
    const waits = Math.max(0, r.wants - inTime);
    const days = own.flatMap((o) => o.lateDay ?? []).sort();
    return {
      key: `r${r.line}`,
      label: `requisition ${r.number}`,
      href: `/requisitions/${r.requisition}`,
      item: r.what,
      pair: null,
      unit: r.unit,
      due: laterOf(r.due, today),
      wants: stock(r.wants),
      waits: stock(waits),
      until: waits > 0 && waits <= late ? days.at(-1)! : null,
    };
  });
}

/** What one line of a requisition has on each order line that was written for it: in time, or too late. */
function tiesOfAsked(db: Db, asked: number, today: Day): OwnCover[] {
  const lines = sql<{ line: OrderLineId; factor: number }>(
    db,
    `SELECT DISTINCT l.id AS line, l.factor FROM need_tie t JOIN order_line l ON l.id = t.order_line JOIN purchase_order o ON o.id = l.purchase_order
     WHERE t.requisition_line = ? AND o.stage <> 'cancelled'`,
  ).all(asked);
  return lines.flatMap(({ line, factor }) => {
    const inStock = (n: number) => toStock(purchase(n), factorOf(factor));
    const parts = readSchedule(db, line).flatMap((s) => [
      { day: today, quantity: inStock(s.received) },
      { day: laterOf(expectedOn(s), today), quantity: inStock(openOf(s)) },
    ]);
    const ties = sql<{ id: number; asked: number | null; due: Day | null; quantity: number }>(
      db,
      `SELECT t.rowid AS id, t.requisition_line AS asked, coalesce(r.needed_by, d.due) AS due, t.quantity FROM need_tie t
       LEFT JOIN requisition_line q ON q.id = t.requisition_line LEFT JOIN requisition r ON r.id = q.requisition LEFT JOIN job_demand d ON d.id = t.job_demand
       WHERE t.order_line = ? ORDER BY t.rowid`,
    ).all(line);
    const shared = sharedOut(
      parts,
      ties.map((t) => ({ id: t.id, day: laterOf(t.due ?? LAST, today), quantity: stock(t.quantity) })),
    );
    return ties.filter((t) => t.asked === asked).map((t) => shared.get(t.id)!);
  });
}
/** What nobody wants by a day is served last. */
const LAST = toDay("2099-12-31");

function costOf(
  head: OrderHead,
  lines: readonly OrderLine[],
  touched: readonly OrderLine[],
  home: string,
): CostStanding {
  const { discount } = orderTotals(lines, head.discount, head.currency);
  const others = lines.filter((l) => !touched.includes(l));
  const rest = others.reduce((a, l) => a + l.net, 0);
  const atHome = (minor: number) =>
    head.rate === null ? 0 : exchanged(money(minor, head.currency), head.rate, home).minor;
  const less = (net: number) => roundToInteger(new Big(net).times(10_000 - head.discount).div(10_000));
  const together = (l: OrderLine) =>
    lines
      .filter((o) => o.sourcing !== null && o.sourcing === l.sourcing)
      .reduce((a, o) => a + o.quantity - o.closedShort, 0);
  return {
    currency: head.currency,
    lines: [
      ...touched.map((l) => ({ label: `line ${l.position}, ${l.words}`, net: l.net })),
      ...(others.length ? [{ label: count(others.length, "other line"), net: rest }] : []),
    ],
    discount: discount.minor,
    freight: head.freight,
    freightFreeFrom: head.orderTerms.freeFrom,
    home,
    homeTotal: head.homeNet + atHome(head.freight),
    minimum: head.orderTerms.minimum,
    breaks: touched.flatMap((l) =>
      l.priceSource.kind === "price list" || l.priceSource.kind === "quote" || l.priceSource.kind === "said"
        ? [
            {
              key: String(l.id),
              label: `Line ${l.position}`,
              quantity: together(l),
              from: l.priceSource.from,
              unit: l.unit,
            },
          ]
        : [],
    ),
    stockValue: touched.filter((l) => l.kind === "stocked").reduce((a, l) => a + atHome(less(l.net)), 0),
  };
}

function signOffOf(db: Db, order: OrderId, today: Day): SignOffStanding {
  const { way, growth } = routeOrder(db, order, today);
  const again = outgrown(db, order, today);
  return {
    again,
    says: growth?.says ?? "",
    growth: growth ? growthOf(growth.sum) : 0,
    sum: growth?.sum ?? null,
    who: again && way.ok ? way.seats.map((s) => s.name) : [],
  };
}

/** The growth as its sum says it. */
const growthOf = (sum: { steps: readonly { op: string; figure: { kind: string; minor?: number } }[] }): number =>
  sum.steps.find((s) => s.op === "=")?.figure.minor ?? 0;

function blanketOfLine(db: Db, line: OrderLineId): Surroundings["blankets"][number] {
  const blanket = readBlanketLine(db, line)!;
  const { left, leftValue, sum } = leftOf(blanket, readCalls(db, line));
  const byValue = blanket.limits === "value";
  return {
    key: String(line),
    name: blanket.name,
    left: byValue ? amount(leftValue, blanket.currency) : quantity(left, blanket.unit),
    over: byValue ? leftValue < 0 : left < 0 || (blanket.limits === "both" && leftValue < 0),
    sum,
  };
}
