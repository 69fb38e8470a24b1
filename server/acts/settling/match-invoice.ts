import type { OrderLineId } from "../../../core/ids";
import { Big, roundToInteger } from "../../../core/numbers/decimal";
import { exchanged, money } from "../../../core/numbers/money";
import { claimFor } from "../../../core/settling/claim";
import type { InvoiceState } from "../../../core/settling/invoice";
import { billable, type OrderedLine, TURN_OF, TURNS } from "../../../core/settling/match";
import { invoicePostings, turnedRound } from "../../../core/stock/posting";
import { type Db, sql } from "../../db/open";
import { rateOn, theCompany } from "../../queries/company";
import { type InvoiceLineRow, type InvoiceSheet, readClaims, readInvoice } from "../../queries/settling/invoices";
import { postingsOf } from "../../queries/settling/journal";
import { type Doing, openEntry, post } from "../stock/post";

/**
 * Holds an invoice that waits against what was ordered and what came: it matches where nothing is held that nobody let
 * pass, else it says whose turn it is. Inside a transaction.
 */
export function judgeInvoice(db: Db, by: Doing, id: number): InvoiceState {
  const sheet = readInvoice(db, id)!;
  if (sheet.head.state !== "Held") return sheet.head.state;
  if (sheet.open.length === 0) {
    match(db, by, sheet);
    return "Matched";
  }
  const turns = new Set(sheet.open.map((h) => TURN_OF[h.reason]));
  const turn = TURNS.filter((t) => turns.has(t)).join(",");
  if (turn !== sheet.head.turn)
    sql(db, "UPDATE invoice SET turn = ?, since = ?, version = version + 1 WHERE id = ?").run(turn, by.now, id);
  return "Held";
}

/** Holds all invoices that wait for these order lines against what stands now. Inside a transaction. */
export function judgeInvoicesOf(db: Db, by: Doing, lines: readonly OrderLineId[]): void {
  const waiting = sql<{ id: number }>(
    db,
    `SELECT DISTINCT v.id FROM invoice v JOIN invoice_line l ON l.invoice = v.id
     WHERE v.state = 'Held' AND l.order_line IN (SELECT value FROM json_each(?)) ORDER BY v.id`,
  ).all(JSON.stringify(lines));
  for (const { id } of waiting) judgeInvoice(db, by, id);
}

/** What of received and not invoiced goods a line meets: quantity in purchase units, value in home currency. */
interface Met {
  quantity: number;
  minor: number;
}

/** What lies on *received, not invoiced* of an order line: its receipts less what was met already. */
const openValue = (db: Db, line: OrderLineId): number =>
  -sql<{ minor: number }>(
    db,
    "SELECT coalesce(sum(minor), 0) AS minor FROM posting WHERE order_line = ? AND role = 'received not invoiced'",
  ).get(line)!.minor;

function meets(db: Db, l: InvoiceLineRow, o: OrderedLine): Met {
  const open = billable(o);
  const quantity = Math.min(l.quantity, open);
  if (o.kind === "charge" || quantity === 0) return { quantity, minor: 0 };
  const value = openValue(db, o.line);
  return { quantity, minor: quantity >= open ? value : roundToInteger(new Big(value).times(quantity).div(open)) };
}

/** Books an invoice: what was received meets what is invoiced, and it is owed (domain-goods §14). */
function match(db: Db, by: Doing, { head, lines, taxes, ordered }: InvoiceSheet): void {
  const home = theCompany(db).currency;
  const inHome = (minor: number, rate = head.rate) => exchanged(money(minor, head.currency), rate, home).minor;
  const entry = openEntry(db, by, "invoice");
  const met: { line: number; minor: number }[] = [];
  const expenses: { line: number | null; account: string | null; minor: number }[] = [];
  const claims = readClaims(db, head.id).filter((c) => c.state === "Open");
  let exchange = 0;
  for (const l of lines) {
    const o = l.orderLine === null ? undefined : ordered.get(l.orderLine);
    if (!o) {
      expenses.push({ line: null, account: l.account, minor: inHome(l.net) });
      sql(db, "UPDATE invoice_line SET met = 0 WHERE id = ?").run(l.id);
      continue;
    }
    const asked = claims.filter((c) => c.position === l.position).reduce((a, c) => a + c.net, 0);
    const part = meets(db, l, o);
    ordered.set(o.line, { ...o, invoiced: o.invoiced + part.quantity });
    sql(db, "UPDATE order_line SET invoiced = invoiced + ? WHERE id = ?").run(part.quantity, o.line);
    sql(db, "UPDATE invoice_line SET met = ? WHERE id = ?").run(part.minor, l.id);
    if (part.minor !== 0) met.push({ line: o.line, minor: part.minor });
    const expense = expenseOf(db, o.line);
    if (expense) expenses.push({ line: o.line, account: expense.account, minor: inHome(l.net - asked) });
    else exchange += inHome(l.net - asked) - inHome(l.net - asked, orderRate(db, o.line, head.day) ?? head.rate);
  }
  const claimedTax = claims.reduce((a, c) => a + inHome(c.tax), 0);
  for (const c of claims) sql(db, "UPDATE claim SET home = ? WHERE id = ?").run(inHome(c.net) + inHome(c.tax), c.id);
  const tax = taxes.reduce((a, t) => a + inHome(t.tax), 0) - claimedTax;
  const claim = claims.reduce((a, c) => a + inHome(c.net), claimedTax);
  post(db, entry, invoicePostings({ met, expenses, tax, claim, exchange, owed: head.homeTotal }));
  sql(
    db,
    "UPDATE invoice SET state = 'Matched', turn = '', since = @now, matched = @now, entry = @entry, version = version + 1 WHERE id = @id",
  ).run({ now: by.now, entry, id: head.id });
  sql(
    db,
    `INSERT INTO payable (supplier, invoice, currency, net, tax, total, home_total, due, day, entry)
     VALUES (@supplier, @id, @currency, @net, @tax, @total, @homeTotal, @due, @day, @entry)`,
  ).run({
    supplier: head.supplier,
    id: head.id,
    currency: head.currency,
    net: head.net,
    tax: head.tax,
    total: head.total,
    homeTotal: head.homeTotal,
    due: head.due,
    day: by.day,
    entry,
  });
}

/** A charge that is an expense has no receipt: it is booked with its invoice. Null for all else. */
const expenseOf = (db: Db, line: OrderLineId) =>
  sql<{ account: string | null }>(
    db,
    "SELECT account FROM order_line WHERE id = ? AND kind = 'charge' AND spread = 'expense'",
  ).get(line) ?? null;

const orderRate = (db: Db, line: OrderLineId, day: InvoiceSheet["head"]["day"]): number | null => {
  const o = sql<{ rate: number | null; currency: string }>(
    db,
    "SELECT o.rate, o.currency FROM order_line l JOIN purchase_order o ON o.id = l.purchase_order WHERE l.id = ?",
  ).get(line)!;
  return o.rate ?? rateOn(db, o.currency, theCompany(db).currency, day);
};

/** Turns a match round: the entry, what was invoiced of the orders, what is owed. Inside a transaction. */
export function turnMatchBack(db: Db, by: Doing, sheet: InvoiceSheet): void {
  const { head, lines } = sheet;
  const entry = openEntry(db, by, "invoice", null, head.entry);
  post(db, entry, turnedRound(postingsOf(db, head.entry!)));
  const claims = readClaims(db, head.id);
  for (const l of lines) {
    if (l.orderLine === null) continue;
    const missing = claims
      .filter((c) => c.position === l.position && c.reason === "quantity")
      .reduce((a, c) => a + c.quantity, 0);
    sql(db, "UPDATE order_line SET invoiced = invoiced - ? WHERE id = ?").run(l.quantity - missing, l.orderLine);
  }
  sql(db, "UPDATE payable SET ended = ? WHERE invoice = ?").run(by.day, head.id);
}

/** What may be asked back of a line that is held, and how it is said. Null where there is nothing. */
export function claimable(sheet: InvoiceSheet, position: number, reason: "quantity" | "price" | "charge") {
  const l = sheet.lines.find((x) => x.position === position);
  const o = l?.orderLine ? sheet.ordered.get(l.orderLine) : undefined;
  if (!l || !o) return null;
  const missing = sheet.holds.find((h) => h.position === position && h.reason === "quantity")?.beyond ?? 0;
  return claimFor(l, o, reason, missing, sheet.head.currency);
}
