import type { OrderLineId } from "../../../core/ids";
import { Big, roundToInteger } from "../../../core/numbers/decimal";
import { exchanged, money } from "../../../core/numbers/money";
import { billable, type OrderedLine } from "../../../core/settling/match";
import { invoicePostings, type Posting } from "../../../core/stock/posting";
import { type Db, sql } from "../../db/open";
import { rateOn, theCompany } from "../company";
import type { InvoiceLineRow, InvoiceSheet } from "./invoices";

/** What is asked back with an invoice, in its currency. */
export interface AskedBack {
  position: number | null;
  /** Of goods: so many are not here, and not met even where they came since. */
  quantity: number;
  net: number;
  tax: number;
}

/** What an invoice books where it matches, and what each line meets of what was received. */
export interface Booking {
  postings: Posting[];
  /** Of each line: what becomes invoiced of its order line (purchase units), and the value it meets (home currency). */
  lines: { id: number; orderLine: OrderLineId | null; quantity: number; met: number }[];
}

/** What lies on *received, not invoiced* of an order line, home currency. */
const openValue = (db: Db, line: OrderLineId): number =>
  -sql<{ minor: number }>(
    db,
    "SELECT coalesce(sum(minor), 0) AS minor FROM posting WHERE order_line = ? AND role = 'received not invoiced'",
  ).get(line)!.minor;

/** What of its order line a line meets: all of the value that is left with the last of it. `before` was met by the lines above. */
function meets(db: Db, l: InvoiceLineRow, o: OrderedLine, before: number): { quantity: number; met: number } {
  const open = billable(o);
  const quantity = Math.max(0, Math.min(l.quantity, open));
  if (o.kind === "charge" || quantity === 0) return { quantity, met: 0 };
  const value = openValue(db, o.line) - before;
  return { quantity, met: quantity >= open ? value : roundToInteger(new Big(value).times(quantity).div(open)) };
}

/** A charge that is an expense has no receipt: it is booked with its invoice. Null for all else. */
const expenseOf = (db: Db, line: OrderLineId) =>
  sql<{ account: string | null }>(
    db,
    "SELECT account FROM order_line WHERE id = ? AND kind = 'charge' AND spread = 'expense'",
  ).get(line) ?? null;

function orderRate(db: Db, line: OrderLineId, { day, rate }: InvoiceSheet["head"]): number {
  const o = sql<{ rate: number | null; currency: string }>(
    db,
    "SELECT o.rate, o.currency FROM order_line l JOIN purchase_order o ON o.id = l.purchase_order WHERE l.id = ?",
  ).get(line)!;
  return o.rate ?? rateOn(db, o.currency, theCompany(db).currency, day) ?? rate;
}

/** Works out what an invoice books with what is asked back; reads only (domain-goods §14). */
export function bookingOf(db: Db, { head, lines, taxes, ordered }: InvoiceSheet, asked: readonly AskedBack[]): Booking {
  const home = theCompany(db).currency;
  const inHome = (minor: number, rate = head.rate) => exchanged(money(minor, head.currency), rate, home).minor;
  const expenses: { line: number | null; account: string | null; minor: number }[] = [];
  const before = new Map<OrderLineId, { quantity: number; met: number }>();
  const booked: Booking["lines"] = [];
  let exchange = 0;
  for (const l of lines) {
    const o = l.orderLine === null ? undefined : ordered.get(l.orderLine);
    if (!o) {
      expenses.push({ line: null, account: l.account, minor: inHome(l.net) });
      booked.push({ id: l.id, orderLine: null, quantity: 0, met: 0 });
      continue;
    }
    const above = before.get(o.line) ?? { quantity: 0, met: 0 };
    const missing = asked.reduce((a, c) => (c.position === l.position ? a + c.quantity : a), 0);
    const part = meets(
      db,
      { ...l, quantity: l.quantity - missing },
      { ...o, invoiced: o.invoiced + above.quantity },
      above.met,
    );
    before.set(o.line, { quantity: above.quantity + part.quantity, met: above.met + part.met });
    booked.push({ id: l.id, orderLine: o.line, ...part });
    const cost = asked.reduce((a, c) => (c.position === l.position ? a - c.net : a), l.net);
    const expense = expenseOf(db, o.line);
    if (expense) expenses.push({ line: o.line, account: expense.account, minor: inHome(cost) });
    else exchange += inHome(cost) - inHome(cost, orderRate(db, o.line, head));
  }
  const askedTax = asked.reduce((a, c) => a + inHome(c.tax), 0);
  const postings = invoicePostings({
    met: booked.flatMap((b) => (b.orderLine === null ? [] : [{ line: b.orderLine, minor: b.met }])),
    expenses,
    tax: taxes.reduce((a, t) => a + inHome(t.tax), 0) - askedTax,
    claim: asked.reduce((a, c) => a + inHome(c.net), askedTax),
    exchange,
    owed: head.homeTotal,
  });
  return { postings, lines: booked };
}
