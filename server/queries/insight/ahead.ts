import { z } from "zod";
import { periodOf } from "../../../core/budgets/budget";
import type { Day } from "../../../core/calendar/day";
import type { BudgetId, JobId, OrderId, SupplierId } from "../../../core/ids";
import {
  AHEAD_BY,
  type AheadBy,
  type ComingFigures,
  type DueMoney,
  type PartAhead,
  paidOnceHere,
  stillComingBy,
  type WeekAhead,
  weekKey,
  weeksAhead,
  withTax,
  worthOfPart,
} from "../../../core/insight/ahead";
import { movedPromises } from "../../../core/insight/record";
import { type PayTerms, payBy } from "../../../core/orders/terms";
import { type Db, sql } from "../../db/open";
import { readBudgets } from "../budgets/budgets";
import { budgetRules } from "../budgets/commitments";
import { type JobRisk, readJobRisks } from "../jobs/job-risks";
import type { PlanFor } from "../needs/need";
import { readPayableSums } from "../settling/payables";

/** A part that is still to come, with where it stands. */
export interface OpenPart extends PartAhead {
  order: OrderId;
  number: string;
  supplier: SupplierId;
  supplierName: string;
  name: string;
  job: JobId | null;
  /** The budget line in whose period it counts. */
  budget: BudgetId | null;
}

interface PartRow extends Omit<OpenPart, "value" | "billed" | "payBy"> {
  placed: Day;
  open: number;
  ordered: number;
  homeNet: number | null;
  taxRate: number;
  days: number;
  from: PayTerms["from"];
}
const TERMS = `coalesce(o.terms_days, p.terms_days) AS days, iif(o.terms_days IS NULL, p.terms_from, o.terms_from) AS "from"`;
/** The statement alone, for whoever measures it. */
export const OPEN_PARTS = `
  SELECT o.id AS "order", o.number, o.supplier, p.name AS supplierName, coalesce(i.name, l.words) AS name, s.requested, s.due, substr(o.placed, 1, 10) AS placed,
         coalesce(l.job, o.job, (SELECT d.job FROM need_tie t JOIN job_demand d ON d.id = t.job_demand WHERE t.order_line = l.id LIMIT 1)) AS job, l.budget,
         s.quantity AS open, l.quantity AS ordered, l.home_net AS homeNet, l.tax_rate AS taxRate, ${TERMS}
  FROM open_schedule s JOIN order_line l ON l.id = s.order_line JOIN purchase_order o ON o.id = l.purchase_order JOIN supplier p ON p.id = o.supplier
  LEFT JOIN item i ON i.id = l.item
  WHERE o.stage = 'placed' AND o.kind NOT IN ('blanket', 'standing') AND l.kind <> 'charge'`;

/** All that suppliers have still to bring, in no order. */
export function readOpenParts(db: Db, today: Day): OpenPart[] {
  const { periods, by } = budgetRules(db);
  return sql<PartRow>(db, OPEN_PARTS)
    .all()
    .map(({ placed, open, ordered, homeNet, taxRate, days, from, ...p }) => {
      const value = worthOfPart(homeNet ?? 0, open, ordered);
      return {
        ...p,
        budget: p.budget === null ? null : (periodOf(periods, p.budget, by === "due" ? p.due : placed) as BudgetId), // a budget's own id, or that of its period
        value,
        billed: withTax(value, taxRate),
        payBy: paidOnceHere({ days, from, earlyPercent: 0, earlyDays: 0 }, p.due, today),
      };
    });
}

/** What came and is not billed: each order line's balance of *received, not invoiced*, with tax, as if it were billed today. */
export interface UnbilledGoods extends DueMoney {
  order: OrderId;
  number: string;
  supplier: SupplierId;
  supplierName: string;
}
const TO_BILL = `
  SELECT o.id AS "order", o.number, o.supplier, p.name AS supplierName, -x.minor AS net, l.tax_rate AS taxRate, ${TERMS}
  FROM (SELECT order_line, sum(minor) AS minor FROM posting WHERE role = 'received not invoiced' AND order_line IS NOT NULL GROUP BY order_line HAVING sum(minor) < 0) x
  JOIN order_line l ON l.id = x.order_line JOIN purchase_order o ON o.id = l.purchase_order JOIN supplier p ON p.id = o.supplier WHERE o.agreement IS NULL`;
export const readToBill = (db: Db, today: Day): UnbilledGoods[] =>
  sql<
    Pick<UnbilledGoods, "order" | "number" | "supplier" | "supplierName"> & { net: number; taxRate: number } & Pick<
        PayTerms,
        "days" | "from"
      >
  >(db, TO_BILL)
    .all()
    .map(({ net, taxRate, days, from, ...b }) => ({
      ...b,
      minor: withTax(net, taxRate),
      due: payBy({ days, from, earlyPercent: 0, earlyDays: 0 }, today),
    }));

/** What an address asks for. */
export interface AheadAsked {
  by: AheadBy;
}
const Asked = z.object({ by: z.enum(AHEAD_BY).catch("week") });
export const aheadAsked = (search: URLSearchParams): AheadAsked => Asked.parse({ by: search.get("by") });

export interface SupplierAhead extends ComingFigures {
  key: string;
  label: string;
  /** Of its lines that are still open: how often they said another day, and days later less days sooner. */
  promises: { count: number; days: number };
  /** What is owed them, and will be for goods that are not billed; null for whoever does not see payables. */
  owed: number | null;
  toBill: number | null;
}
export interface JobAhead extends ComingFigures, JobRisk {
  key: string;
}
export interface BudgetAhead extends ComingFigures {
  key: string;
  label: string;
  starts: Day;
  ends: Day;
  amount: number;
  spent: number;
  asked: number;
  left: number;
}
/** What is still to come, as it was asked for. */
export type StillToCome =
  | { by: "week"; rows: WeekAhead[] }
  | { by: "supplier"; rows: SupplierAhead[] }
  | { by: "job"; rows: JobAhead[] }
  | { by: "budget"; rows: BudgetAhead[] };

const NOTHING: ComingFigures = { parts: 0, coming: 0, late: [0, 0, 0], moved: 0 };

/** Of the lines that are still open, by supplier: what they said of them. */
function movedBySupplier(db: Db): Map<SupplierId, { count: number; days: number }> {
  const said = sql<{ line: number; day: Day; at: string; supplier: SupplierId }>(
    db,
    `SELECT p.order_line AS line, p.day, p.at, o.supplier FROM promise p JOIN order_line l ON l.id = p.order_line JOIN purchase_order o ON o.id = l.purchase_order
     WHERE l.open = 1 AND o.stage = 'placed' AND o.kind NOT IN ('blanket', 'standing') AND p.at IS NOT NULL ORDER BY p.order_line, p.at`,
  ).all();
  const supplierOf = new Map(said.map((s) => [s.line, s.supplier]));
  const by = new Map<SupplierId, { count: number; days: number }>();
  for (const m of movedPromises(said)) {
    const supplier = supplierOf.get(m.line)!;
    const before = by.get(supplier) ?? { count: 0, days: 0 };
    by.set(supplier, { count: before.count + 1, days: before.days + m.days });
  }
  return by;
}

function suppliersAhead(db: Db, today: Day, pays: boolean): SupplierAhead[] {
  const parts = readOpenParts(db, today);
  const names = new Map(parts.map((p) => [String(p.supplier), p.supplierName]));
  const coming = stillComingBy(parts, (p) => String(p.supplier), today);
  // Whoever brings nothing any more and is still to be paid has a row, too.
  const add = (rows: readonly { supplier: SupplierId; name: string; minor: number }[]) => {
    const by = new Map<string, number>();
    for (const { supplier, name, minor } of rows) {
      const key = String(supplier);
      by.set(key, (by.get(key) ?? 0) + minor);
      names.set(key, name);
      if (!coming.has(key)) coming.set(key, NOTHING);
    }
    return by;
  };
  const owed = pays
    ? add(readPayableSums(db, today).map((s) => ({ supplier: s.supplierId, name: s.supplier, minor: s.homeLeft })))
    : null;
  const toBill = pays ? add(readToBill(db, today).map((b) => ({ ...b, name: b.supplierName }))) : null;
  const moved = movedBySupplier(db);
  return [...coming]
    .map(([key, f]) => {
      return {
        ...f,
        key,
        label: names.get(key)!,
        promises: moved.get(Number(key) as SupplierId) ?? { count: 0, days: 0 }, // the key of a supplier is its id
        owed: owed && (owed.get(key) ?? 0),
        toBill: toBill && (toBill.get(key) ?? 0),
      };
    })
    .sort((a, b) => lateOf(b) - lateOf(a) || b.coming - a.coming || a.label.localeCompare(b.label));
}
const lateOf = (f: ComingFigures) => f.late[0] + f.late[1] + f.late[2];

const jobsAhead = (db: Db, plan: PlanFor): JobAhead[] => {
  const coming = stillComingBy(
    readOpenParts(db, plan.today),
    (p) => (p.job === null ? null : String(p.job)),
    plan.today,
  );
  return readJobRisks(db, plan).map((j) => ({ ...NOTHING, ...coming.get(String(j.id)), ...j, key: String(j.id) }));
};

function budgetsAhead(db: Db, today: Day): BudgetAhead[] {
  const coming = stillComingBy(readOpenParts(db, today), (p) => (p.budget === null ? null : String(p.budget)), today);
  return readBudgets(db)
    .filter((b) => b.ends >= today || coming.has(String(b.id)))
    .map((b) => ({
      ...NOTHING,
      ...coming.get(String(b.id)),
      key: String(b.id),
      label: `${b.code} ${b.name}`,
      starts: b.starts,
      ends: b.ends,
      amount: b.amount,
      spent: b.figures.billed + b.figures.received,
      asked: b.figures.asked,
      left: b.left,
    }));
}

/** All that is still to come, and for whoever sees payables what goes out for it. */
export function readStillToCome(db: Db, { by }: AheadAsked, plan: PlanFor, pays: boolean): StillToCome {
  const { today } = plan;
  switch (by) {
    case "week":
      return {
        by,
        rows: weeksAhead(
          readOpenParts(db, today).map((p) => (pays ? p : { ...p, billed: 0 })),
          pays ? readPayableSums(db, today).map((s) => ({ due: s.due, minor: s.homeLeft })) : [],
          pays ? readToBill(db, today) : [],
          today,
        ),
      };
    case "supplier":
      return { by, rows: suppliersAhead(db, today, pays) };
    case "job":
      return { by, rows: jobsAhead(db, plan) };
    case "budget":
      return { by, rows: budgetsAhead(db, today) };
  }
}

/** What stands behind a row: the papers worth most first, as many as one reads. */
export interface AheadBeside {
  parts: Pick<OpenPart, "order" | "number" | "supplierName" | "name" | "requested" | "due" | "value">[];
  found: number;
  /** Null for whoever does not see payables. */
  owed: { supplier: string; due: Day; papers: number; minor: number }[] | null;
  toBill: Pick<UnbilledGoods, "order" | "number" | "supplierName" | "due" | "minor">[] | null;
}
const MOST = 40;

/** The goods, debts and unbilled receipts behind one row. */
export function readAheadBeside(db: Db, { by }: AheadAsked, key: string, today: Day, pays: boolean): AheadBeside {
  const all = readOpenParts(db, today);
  const mine = all.filter(
    (p) =>
      ({ week: weekKey(p.due, today), supplier: String(p.supplier), job: String(p.job), budget: String(p.budget) })[
        by
      ] === key,
  );
  const hasMoney = by === "week" || by === "supplier";
  const here = (m: { due: Day }, supplier: SupplierId) =>
    by === "week" ? weekKey(m.due, today) === key : String(supplier) === key;
  return {
    parts: mine
      .sort((a, b) => b.value - a.value || a.order - b.order)
      .slice(0, MOST)
      .map(({ order, number, supplierName, name: words, requested, due, value }) => ({
        order,
        number,
        supplierName,
        name: words,
        requested,
        due,
        value,
      })),
    found: mine.length,
    owed:
      pays && hasMoney
        ? readPayableSums(db, today)
            .filter((s) => here(s, s.supplierId))
            .sort((a, b) => a.due.localeCompare(b.due))
            .slice(0, MOST)
            .map((s) => ({ supplier: s.supplier, due: s.due, papers: s.papers, minor: s.homeLeft }))
        : null,
    toBill:
      pays && hasMoney
        ? readToBill(db, today)
            .filter((b) => here(b, b.supplier))
            .sort((a, b) => b.minor - a.minor)
            .slice(0, MOST)
        : null,
  };
}
