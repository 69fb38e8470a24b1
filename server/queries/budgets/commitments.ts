import { z } from "zod";
import { type Commitment, commitmentsOf, type Period, periodOf } from "../../../core/budgets/budget";
import { type Day, toDay } from "../../../core/calendar/day";
import type { BudgetId, OrderId } from "../../../core/ids";
import { Big, roundToInteger } from "../../../core/numbers/decimal";
import { exchanged, lineNet, money, type UnitPrice } from "../../../core/numbers/money";
import { ONE } from "../../../core/numbers/quantity";
import type { Scheduled } from "../../../core/orders/schedule";
import type { OrderStage } from "../../../core/orders/status";
import { readColumn } from "../../db/json-columns";
import { type Db, sql } from "../../db/open";
import { type Company, theCompany } from "../company";
import { rememberSettings } from "../remember";

/** What one line takes of budgets. */
export interface LineCommitments {
  line: number;
  commitments: Commitment[];
}

/** What is the same for every line. */
export interface BudgetRules {
  home: string;
  by: Company["budgetBy"];
  periods: readonly Period[];
}
export const budgetRules = (db: Db): BudgetRules =>
  rememberSettings(db, "budget rules", () => {
    const { currency, budgetBy } = theCompany(db);
    return {
      home: currency,
      by: budgetBy,
      periods: sql<Period>(db, "SELECT id, code, starts, ends FROM budget ORDER BY code, starts").all(),
    };
  });

interface LineRow extends Scheduled {
  line: number;
  stage: OrderStage;
  currency: string;
  rate: number | null;
  orderDiscount: number;
  budget: BudgetId;
  price: UnitPrice | null;
  standing: number;
  discount: number;
  ordered: Day;
  invoiced: number;
  /** JSON: what invoices bill of it, less what is asked back, in their currency; null where none does. */
  bills: string | null;
}

/** What matched invoices bill of a line `l`, each with its rate and day. */
const BILLS = `
  iif(l.invoiced = 0, NULL, (SELECT json_group_array(json_object('minor', b.net - coalesce((SELECT sum(c.net) FROM claim c WHERE c.invoice_line = b.id AND c.state IN ('Open', 'Credited')), 0),
      'currency', v.currency, 'rate', v.rate, 'day', v.day))
    FROM invoice_line b JOIN invoice v ON v.id = b.invoice WHERE b.order_line = l.id AND v.state NOT IN ('Held', 'Sent back', 'Taken off')))`;
const BillsColumn = z.array(
  z.object({ minor: z.number(), currency: z.string(), rate: z.number(), day: z.string().transform(toDay) }),
);

// An order is found by its lines, and a line by its id: the index of lines with a budget would be a long way round.
const LINES = `
  SELECT l.id AS line, o.stage, o.currency, o.rate, o.discount AS orderDiscount, l.budget, l.price, l.standing_discount AS standing, l.discount,
         substr(coalesce(o.placed, o.submitted, o.written), 1, 10) AS ordered,
         s.quantity, s.requested AS required, s.promised, s.received, s.closed_short AS closedShort,
         l.invoiced, ${BILLS} AS bills
  FROM order_line l JOIN purchase_order o ON o.id = l.purchase_order JOIN order_schedule s ON s.order_line = l.id
  WHERE +l.budget IS NOT NULL AND o.kind NOT IN ('blanket', 'standing') AND o.stage <> 'cancelled'`;
const IN_ORDER = "ORDER BY l.purchase_order, l.id, s.position";

/** What so much of a line comes to at home, less its part of the discount on the whole order. */
function worthAtHome(r: LineRow, quantity: number, home: string): number {
  if (r.price === null || r.rate === null || quantity <= 0) return 0;
  const net = lineNet(quantity, r.price, r.standing, r.discount, r.currency).minor;
  const less = roundToInteger(new Big(net).times(10_000 - r.orderDiscount).div(10_000));
  return exchanged(money(less, r.currency), r.rate, home).minor;
}

const billsOf = (r: LineRow, home: string): { minor: number; day: Day }[] =>
  r.bills === null
    ? []
    : readColumn(BillsColumn, r.bills).map((b) => ({
        minor: exchanged(money(b.minor, b.currency), b.rate, home).minor,
        day: b.day,
      }));

/** Lines with their commitments; rows of one line stand together. `today` is the day of what is ordered only now. */
function fromRows(rows: Iterable<LineRow>, rules: BudgetRules, today: Day | null): LineCommitments[] {
  const found: LineCommitments[] = [];
  let open: LineRow[] = [];
  const close = () => {
    const [first] = open;
    if (!first) return;
    const ordered = first.stage === "draft" && today ? today : first.ordered;
    found.push({
      line: first.line,
      commitments: commitmentsOf(
        {
          budget: first.budget,
          by: rules.by === "due" ? null : ordered,
          schedule: open,
          invoiced: first.invoiced,
          billed: billsOf(first, rules.home),
          worth: (quantity) => worthAtHome(first, quantity, rules.home),
        },
        rules.periods,
      ),
    });
    open = [];
  };
  for (const r of rows) {
    if (open[0]?.line !== r.line) close();
    open.push(r);
  }
  close();
  return found;
}

/** What every line of an order takes, or would take while it is a draft. */
export const commitmentsOfOrder = (db: Db, order: OrderId, rules: BudgetRules, today: Day): LineCommitments[] =>
  fromRows(sql<LineRow>(db, `${LINES} AND o.id = ? ${IN_ORDER}`).iterate(order), rules, today);

/** What these order lines take, or all of them. Drafts are no commitment. */
export const orderCommitments = (db: Db, rules: BudgetRules, lines: readonly number[] | null): LineCommitments[] =>
  fromRows(
    lines
      ? sql<LineRow>(
          db,
          `${LINES} AND o.stage <> 'draft' AND l.id IN (SELECT value FROM json_each(?)) ${IN_ORDER}`,
        ).iterate(JSON.stringify(lines))
      : sql<LineRow>(db, `${LINES} AND o.stage <> 'draft' ${IN_ORDER}`).iterate(),
    rules,
    null,
  );

interface BilledRow {
  line: number;
  budget: BudgetId;
  minor: number;
  currency: string;
  rate: number;
  day: Day;
}
const BILLED = `
  SELECT b.id AS line, b.budget, b.net - coalesce((SELECT sum(c.net) FROM claim c WHERE c.invoice_line = b.id AND c.state IN ('Open', 'Credited')), 0) AS minor,
         v.currency, v.rate, v.day
  FROM invoice_line b JOIN invoice v ON v.id = b.invoice WHERE b.budget IS NOT NULL AND v.state NOT IN ('Held', 'Sent back', 'Taken off')`;

/** What matched invoices bill that no order has, in the period of the invoice's day; these lines, or all of them. */
export function billedCommitments(db: Db, rules: BudgetRules, lines: readonly number[] | null): LineCommitments[] {
  const rows = lines
    ? sql<BilledRow>(db, `${BILLED} AND b.id IN (SELECT value FROM json_each(?))`).all(JSON.stringify(lines))
    : sql<BilledRow>(db, BILLED).all();
  return rows.map((r) => {
    const { minor } = exchanged(money(r.minor, r.currency), r.rate, rules.home);
    const budget = periodOf(rules.periods, r.budget, r.day);
    return { line: r.line, commitments: minor === 0 ? [] : [{ budget, figure: "billed", minor }] };
  });
}

interface AskedRow {
  line: number;
  budget: BudgetId;
  neededBy: Day | null;
  submitted: Day;
  quantity: number;
  ordered: number;
  estimate: number | null;
  reference: UnitPrice | null;
}
const ASKED = `
  SELECT q.id AS line, q.budget, r.needed_by AS neededBy, substr(r.submitted, 1, 10) AS submitted, coalesce(q.decided, q.quantity, ${ONE}) AS quantity,
         (SELECT coalesce(sum(t.quantity), 0) FROM need_tie t JOIN order_line l ON l.id = t.order_line JOIN purchase_order o ON o.id = l.purchase_order
          WHERE t.requisition_line = q.id AND o.stage NOT IN ('draft', 'cancelled')) AS ordered, q.estimate, i.reference_cost AS reference
  FROM requisition_line q JOIN requisition r ON r.id = q.requisition LEFT JOIN item i ON i.id = q.item
  WHERE q.budget IS NOT NULL AND q.declined IS NULL AND r.state IN ('In sign-off', 'Open', 'Part ordered', 'Ordered')`;

/** A line of a requisition at what the asker was told, else at the item's reference cost. */
export const askedWorth = (r: Pick<AskedRow, "estimate" | "reference" | "quantity">, home: string): number =>
  r.estimate ?? (r.reference === null ? 0 : lineNet(r.quantity, r.reference, 0, 0, home).minor);

/** What lines of requisitions ask for that stands on no order yet; these lines, or all of them. */
export function askedCommitments(db: Db, rules: BudgetRules, lines: readonly number[] | null): LineCommitments[] {
  const rows = lines
    ? sql<AskedRow>(db, `${ASKED} AND q.id IN (SELECT value FROM json_each(?))`).all(JSON.stringify(lines))
    : sql<AskedRow>(db, ASKED).all();
  return rows.map((r) => {
    const open = Math.max(0, r.quantity - r.ordered);
    const minor = roundToInteger(new Big(askedWorth(r, rules.home)).times(open).div(r.quantity));
    const budget = periodOf(rules.periods, r.budget, r.neededBy ?? r.submitted);
    return { line: r.line, commitments: minor === 0 ? [] : [{ budget, figure: "asked", minor }] };
  });
}
