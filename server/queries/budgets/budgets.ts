import {
  type BudgetFigure,
  type BudgetPaper,
  type BudgetState,
  budgetState,
  type Commitment,
  periodOf,
} from "../../../core/budgets/budget";
import type { Day } from "../../../core/calendar/day";
import type { BudgetId, OrderId, RequisitionId } from "../../../core/ids";
import { exchanged, money, type UnitPrice } from "../../../core/numbers/money";
import { ONE } from "../../../core/numbers/quantity";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../company";
import { orderName } from "../orders/order";
import { askedWorth, budgetRules, commitmentsOfOrder } from "./commitments";

export interface Budget {
  id: BudgetId;
  code: string;
  name: string;
  starts: Day;
  ends: Day;
  amount: number;
}
const BUDGET = "SELECT id, code, name, starts, ends, amount FROM budget";

/** Budget lines to choose from: one for each code, the period that holds on a day or the next one. */
export const budgetChoices = (db: Db, day: Day): Budget[] => {
  const by = new Map<string, Budget>();
  for (const b of sql<Budget>(db, `${BUDGET} WHERE ends >= ? ORDER BY code, starts`).all(day))
    if (!by.has(b.code.toLowerCase())) by.set(b.code.toLowerCase(), b);
  return [...by.values()];
};

type Figure = Omit<Commitment, "budget">;
const byBudget = (rows: readonly Commitment[]): Map<number, Figure[]> => {
  const by = new Map<number, Figure[]>();
  for (const { budget, ...figure } of rows) by.set(budget, [...(by.get(budget) ?? []), figure]);
  return by;
};

/** All budget lines with their four figures, the earlier periods of each code first. */
export function readBudgets(db: Db): (Budget & BudgetState)[] {
  const { currency } = theCompany(db);
  const figures = byBudget(sql<Commitment>(db, "SELECT budget, figure, minor FROM budget_total").all());
  return sql<Budget>(db, `${BUDGET} ORDER BY code, starts`)
    .all()
    .map((b) => ({ ...b, ...budgetState(b, figures.get(b.id) ?? [], currency) }));
}

/** So many papers of a budget are shown at once. */
const MOST_PAPERS = 200;

export interface BudgetPapers {
  papers: BudgetPaper[];
  /** How many there are, and what they come to. */
  count: number;
  minor: number;
}

/** The papers behind a budget's figures, or behind one of them; the newest first, as many as one reads. */
export function readBudgetPapers(db: Db, budget: BudgetId, figure: BudgetFigure | null): BudgetPapers {
  const among = { budget, figure };
  const of = "FROM commitment c WHERE c.budget = @budget AND (@figure IS NULL OR c.figure = @figure)";
  const papers = sql<{
    figure: BudgetFigure;
    minor: number;
    order: OrderId | null;
    number: string;
    words: string;
    supplier: string;
    requisition: RequisitionId | null;
    invoice: number | null;
  }>(
    db,
    `SELECT c.figure, c.minor, o.id AS "order", coalesce(o.number, r.number, v.number) AS number, coalesce(l.words, nullif(q.words, ''), i.name, b.words, '') AS words,
            s.name AS supplier, r.id AS requisition, v.id AS invoice
     FROM (SELECT c.rowid AS at, c.* ${of} ORDER BY c.rowid DESC LIMIT ${MOST_PAPERS}) c
     LEFT JOIN order_line l ON l.id = c.order_line LEFT JOIN purchase_order o ON o.id = l.purchase_order
     LEFT JOIN invoice_line b ON b.id = c.invoice_line LEFT JOIN invoice v ON v.id = b.invoice LEFT JOIN supplier s ON s.id = coalesce(o.supplier, v.supplier)
     LEFT JOIN requisition_line q ON q.id = c.requisition_line LEFT JOIN requisition r ON r.id = q.requisition LEFT JOIN item i ON i.id = q.item
     ORDER BY c.at DESC`,
  ).all(among);
  const whole = sql<{ count: number; minor: number }>(
    db,
    `SELECT count(*) AS count, coalesce(sum(c.minor), 0) AS minor ${of}`,
  ).get(among)!;
  return {
    ...whole,
    papers: papers.map(({ figure, minor, ...p }) => ({ figure, minor, ...named(p) })),
  };
}

/** What a paper of a budget is called, and where it stands. */
function named(p: {
  order: OrderId | null;
  number: string;
  words: string;
  supplier: string;
  requisition: RequisitionId | null;
  invoice: number | null;
}): { label: string; href: string } {
  if (p.order !== null)
    return { label: `${orderName(p.order, p.number)}, ${p.supplier}: ${p.words}`, href: `/orders/${p.order}` };
  return p.invoice === null
    ? { label: `${p.number}: ${p.words}`, href: `/requisitions/${p.requisition}` }
    : { label: `Invoice ${p.number}, ${p.supplier}: ${p.words}`, href: `/settle/${p.invoice}` };
}

export interface BudgetView extends Budget, BudgetState {
  /** What the paper adds, as long as nobody has signed for it: 0 once it is cleared. */
  wish: number;
}

/** What a paper would add to each budget, beside what others take; `own` is what of it is kept there already. */
function budgetsWith(db: Db, wishes: ReadonlyMap<number, number>, own: readonly Commitment[]): BudgetView[] {
  const { currency } = theCompany(db);
  const ids = JSON.stringify([...wishes.keys()]);
  const kept = sql<Commitment>(
    db,
    "SELECT budget, figure, minor FROM budget_total WHERE budget IN (SELECT value FROM json_each(?))",
  ).all(ids);
  const others = byBudget([...kept, ...own.map((c) => ({ ...c, minor: -c.minor }))]);
  return sql<Budget>(db, `${BUDGET} WHERE id IN (SELECT value FROM json_each(?)) ORDER BY code, starts`)
    .all(ids)
    .map((b) => {
      const wish = wishes.get(b.id)!;
      return { ...b, ...budgetState(b, others.get(b.id) ?? [], currency, wish), wish };
    });
}

/** The budgets that an order's lines go against, with what it adds to each; the period by the company's rule. */
export function budgetsOfOrder(db: Db, order: OrderId, today: Day): BudgetView[] {
  const found = commitmentsOfOrder(db, order, budgetRules(db), today).flatMap((l) => l.commitments);
  if (found.length === 0) return [];
  const { stage } = sql<{ stage: string }>(db, "SELECT stage FROM purchase_order WHERE id = ?").get(order)!;
  // Until it is cleared, a paper stands beside the others, so that a budget is seen before it and after.
  const undecided = stage === "draft" || stage === "in sign-off";
  const wishes = new Map<number, number>();
  for (const c of found) wishes.set(c.budget, (wishes.get(c.budget) ?? 0) + (undecided ? c.minor : 0));
  return budgetsWith(db, wishes, stage === "in sign-off" ? found : []);
}

/** The budgets of what an invoice bills that no order has, with what it adds to each while it is held. */
export function budgetsOfInvoice(db: Db, invoice: number): BudgetView[] {
  const { home, periods } = budgetRules(db);
  const wishes = new Map<number, number>();
  for (const l of sql<{ budget: BudgetId; net: number; currency: string; rate: number; day: Day }>(
    db,
    `SELECT l.budget, l.net, v.currency, v.rate, v.day FROM invoice_line l JOIN invoice v ON v.id = l.invoice
     WHERE l.budget IS NOT NULL AND v.state = 'Held' AND v.id = ?`,
  ).all(invoice)) {
    const id = periodOf(periods, l.budget, l.day);
    wishes.set(id, (wishes.get(id) ?? 0) + exchanged(money(l.net, l.currency), l.rate, home).minor);
  }
  return wishes.size ? budgetsWith(db, wishes, []) : [];
}

/** The same for a requisition. */
export function budgetsOfRequisition(db: Db, requisition: RequisitionId, today: Day): BudgetView[] {
  const rows = sql<{
    budget: BudgetId;
    neededBy: Day | null;
    estimate: number | null;
    quantity: number;
    reference: UnitPrice | null;
    state: string;
  }>(
    db,
    `SELECT q.budget, r.needed_by AS neededBy, q.estimate, coalesce(q.decided, q.quantity, ${ONE}) AS quantity, i.reference_cost AS reference, r.state
     FROM requisition_line q JOIN requisition r ON r.id = q.requisition LEFT JOIN item i ON i.id = q.item WHERE q.budget IS NOT NULL AND q.requisition = ?`,
  ).all(requisition);
  if (rows.length === 0) return [];
  const { home, periods } = budgetRules(db);
  const signing = rows[0]!.state === "In sign-off";
  const wishes = new Map<number, number>();
  for (const r of rows) {
    const id = periodOf(periods, r.budget, r.neededBy ?? today);
    wishes.set(id, (wishes.get(id) ?? 0) + (signing || r.state === "Draft" ? askedWorth(r, home) : 0));
  }
  const own = signing
    ? sql<Commitment>(
        db,
        "SELECT c.budget, c.figure, c.minor FROM commitment c JOIN requisition_line q ON q.id = c.requisition_line WHERE q.requisition = ?",
      ).all(requisition)
    : [];
  return budgetsWith(db, wishes, own);
}
