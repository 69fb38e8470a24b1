import { type BudgetPaper, type BudgetState, budgetState } from "../../../core/budgets/budget";
import type { Day } from "../../../core/calendar/day";
import { Big, roundToInteger } from "../../../core/numbers/decimal";
import { exchanged, lineNet, money, type UnitPrice } from "../../../core/numbers/money";
import { ONE } from "../../../core/numbers/quantity";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../company";
import { orderName } from "../orders/order";

export interface Budget {
  id: number;
  code: string;
  name: string;
  starts: Day;
  ends: Day;
  amount: number;
}
const BUDGET = "SELECT id, code, name, starts, ends, amount FROM budget";

/** All budget lines, the current periods of each code before the later and earlier ones. */
export const readBudgets = (db: Db): Budget[] => sql<Budget>(db, `${BUDGET} ORDER BY code, starts`).all();

/** Budget lines to choose from: one for each code, the period that holds on a day or the next one. */
export const budgetChoices = (db: Db, day: Day): Budget[] => {
  const by = new Map<string, Budget>();
  for (const b of sql<Budget>(db, `${BUDGET} WHERE ends >= ? ORDER BY code, starts`).all(day))
    if (!by.has(b.code.toLowerCase())) by.set(b.code.toLowerCase(), b);
  return [...by.values()];
};

/** The period of a budget line in which a day falls: the line that was named where no period has that day. */
function periodOf(all: readonly Budget[], named: number, day: Day): number {
  const line = all.find((b) => b.id === named);
  if (!line) return named;
  const same = all.filter((b) => b.code.toLowerCase() === line.code.toLowerCase());
  return same.find((b) => b.starts <= day && day <= b.ends)?.id ?? named;
}

interface OrderRow {
  order: number;
  number: string | null;
  state: string;
  supplierName: string;
  currency: string;
  rate: number | null;
  discount: number;
  budget: number;
  words: string;
  quantity: number;
  received: number;
  price: UnitPrice | null;
  standing: number;
  lineDiscount: number;
  required: Day;
  ordered: Day;
}

/** A line of an order in home currency, less its part of the discount on the whole order. */
function homeWorth(r: OrderRow, quantity: number, home: string): number {
  if (r.price === null || r.rate === null || quantity <= 0) return 0;
  const net = lineNet(quantity, r.price, r.standing, r.lineDiscount, r.currency).minor;
  const less = roundToInteger(new Big(net).times(10_000 - r.discount).div(10_000));
  return exchanged(money(less, r.currency), r.rate, home).minor;
}

const ORDERED = `
  SELECT o.id AS "order", o.number, o.state, s.name AS supplierName, o.currency, o.rate, o.discount, l.budget, l.words, l.quantity - l.closed_short AS quantity,
         l.received, l.price, l.standing_discount AS standing, l.discount AS lineDiscount, l.due AS required,
         substr(coalesce(o.placed, o.submitted, o.written), 1, 10) AS ordered
  FROM order_line l JOIN purchase_order o ON o.id = l.purchase_order JOIN supplier s ON s.id = o.supplier
  WHERE l.budget IS NOT NULL AND o.kind NOT IN ('blanket', 'standing') AND o.stage <> 'cancelled'`;

/** Every paper against every budget line, by its id. Drafts of orders are no commitment and stand nowhere here. */
export function readBudgetPapers(db: Db): Map<number, BudgetPaper[]> {
  const { currency: home, budgetBy } = theCompany(db);
  const all = readBudgets(db);
  const by = new Map<number, BudgetPaper[]>(all.map((b) => [b.id, []]));
  const put = (named: number, day: Day, paper: BudgetPaper) => {
    if (paper.minor !== 0) by.get(periodOf(all, named, day))?.push(paper);
  };
  for (const r of sql<OrderRow>(db, `${ORDERED} AND o.stage <> 'draft' ORDER BY o.id, l.position`).iterate()) {
    const day = budgetBy === "due" ? r.required : r.ordered;
    const label = `${orderName(r.order, r.number)}, ${r.supplierName}: ${r.words}`;
    const href = `/orders/${r.order}`;
    // What is open is the whole less what came, so that the two always come to the line.
    const whole = homeWorth(r, r.quantity, home);
    const came = homeWorth(r, r.received, home);
    put(r.budget, day, { figure: "received", minor: came, label, href });
    put(r.budget, day, { figure: "ordered", minor: whole - came, label, href });
  }
  for (const a of readAsked(db)) {
    put(a.budget, (a.neededBy ?? a.submitted) as Day, {
      figure: "asked",
      minor: a.minor,
      label: `${a.number}: ${a.words}`,
      href: `/requisitions/${a.requisition}`,
    });
  }
  return by;
}

/** What requisitions ask for that stands on no order yet, at what the asker was told, or else the reference cost. */
function readAsked(db: Db) {
  const rows = sql<{
    requisition: number;
    number: string;
    neededBy: string | null;
    submitted: string;
    budget: number;
    words: string;
    quantity: number;
    ordered: number;
    estimate: number | null;
    reference: UnitPrice | null;
  }>(
    db,
    `SELECT r.id AS requisition, r.number, r.needed_by AS neededBy, substr(r.submitted, 1, 10) AS submitted, q.budget,
            iif(q.words = '', coalesce(i.name, ''), q.words) AS words, coalesce(q.decided, q.quantity, ${ONE}) AS quantity,
            (SELECT coalesce(sum(t.quantity), 0) FROM need_tie t JOIN order_line l ON l.id = t.order_line JOIN purchase_order o ON o.id = l.purchase_order
             WHERE t.requisition_line = q.id AND o.stage NOT IN ('draft', 'cancelled')) AS ordered, q.estimate, i.reference_cost AS reference
     FROM requisition_line q JOIN requisition r ON r.id = q.requisition LEFT JOIN item i ON i.id = q.item
     WHERE q.budget IS NOT NULL AND q.declined IS NULL AND r.state IN ('In sign-off', 'Open', 'Part ordered', 'Ordered')`,
  ).all();
  const { currency } = theCompany(db);
  return rows.map((r) => {
    const whole = r.estimate ?? (r.reference === null ? 0 : lineNet(r.quantity, r.reference, 0, 0, currency).minor);
    const open = Math.max(0, r.quantity - r.ordered);
    return { ...r, minor: roundToInteger(new Big(whole).times(open).div(r.quantity)) };
  });
}

export interface BudgetView extends Budget, BudgetState {
  /** What the paper adds, as long as nobody has signed for it: 0 once it is cleared. */
  wish: number;
}

/** Until it is cleared, a paper stands beside the others, so that a budget is seen before it and after. */
const undecided = (state: string) => state === "Draft" || state === "In sign-off";

function budgetsWith(
  db: Db,
  all: readonly Budget[],
  wishes: ReadonlyMap<number, number>,
  own: string | null,
): BudgetView[] {
  const { currency: home } = theCompany(db);
  const papers = readBudgetPapers(db);
  return all
    .filter((b) => wishes.has(b.id))
    .map((b) => {
      const wish = wishes.get(b.id)!;
      const others = (papers.get(b.id) ?? []).filter((p) => p.href !== own);
      return { ...b, ...budgetState(b, others, home, wish), wish };
    });
}

/** The budgets that an order's lines go against, with what it adds to each; the period by the company's rule. */
export function budgetsOfOrder(db: Db, order: number, today: Day): BudgetView[] {
  const { currency: home, budgetBy } = theCompany(db);
  const rows = sql<OrderRow>(db, `${ORDERED} AND o.id = ?`).all(order);
  if (rows.length === 0) return [];
  const all = readBudgets(db);
  const wishes = new Map<number, number>();
  for (const r of rows) {
    const id = periodOf(all, r.budget, budgetBy === "due" ? r.required : r.state === "Draft" ? today : r.ordered);
    wishes.set(id, (wishes.get(id) ?? 0) + (undecided(r.state) ? homeWorth(r, r.quantity, home) : 0));
  }
  return budgetsWith(db, all, wishes, undecided(rows[0]!.state) ? `/orders/${order}` : null);
}

/** The same for a requisition. */
export function budgetsOfRequisition(db: Db, requisition: number, today: Day): BudgetView[] {
  const { currency: home } = theCompany(db);
  const rows = sql<{
    budget: number;
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
  const all = readBudgets(db);
  const wishes = new Map<number, number>();
  for (const r of rows) {
    const id = periodOf(all, r.budget, r.neededBy ?? today);
    const worth = r.estimate ?? (r.reference === null ? 0 : lineNet(r.quantity, r.reference, 0, 0, home).minor);
    wishes.set(id, (wishes.get(id) ?? 0) + (undecided(r.state) ? worth : 0));
  }
  return budgetsWith(db, all, wishes, undecided(rows[0]!.state) ? `/requisitions/${requisition}` : null);
}
