import type { OrderLineId } from "../../../core/ids";
import { exchanged, money } from "../../../core/numbers/money";
import type { InvoiceState } from "../../../core/settling/invoice";
import { TURN_OF, TURNS } from "../../../core/settling/match";
import { turnedRound } from "../../../core/stock/posting";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../../queries/company";
import { bookingOf } from "../../queries/settling/booking";
import { type InvoiceSheet, readClaims, readInvoice } from "../../queries/settling/invoices";
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

/** Books an invoice: what was received meets what is invoiced, and it is owed (domain-goods §14). */
function match(db: Db, by: Doing, sheet: InvoiceSheet): void {
  const { head } = sheet;
  const home = theCompany(db).currency;
  const claims = readClaims(db, head.id).filter((c) => c.state === "Open");
  const booking = bookingOf(db, sheet, claims);
  const entry = openEntry(db, by, "invoice");
  post(db, entry, booking.postings);
  for (const l of booking.lines) {
    sql(db, "UPDATE invoice_line SET met = ? WHERE id = ?").run(l.met, l.id);
    if (l.orderLine !== null)
      sql(db, "UPDATE order_line SET invoiced = invoiced + ? WHERE id = ?").run(l.quantity, l.orderLine);
  }
  for (const c of claims) {
    const inHome = (minor: number) => exchanged(money(minor, c.currency), head.rate, home).minor;
    sql(db, "UPDATE claim SET home = ? WHERE id = ?").run(inHome(c.net) + inHome(c.tax), c.id);
  }
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

/** Turns a match round: the entry, what was invoiced of the orders, what is owed. Inside a transaction. */
export function turnMatchBack(db: Db, by: Doing, { head, lines }: InvoiceSheet): void {
  const entry = openEntry(db, by, "invoice", null, head.entry);
  post(db, entry, turnedRound(postingsOf(db, head.entry!)));
  const claims = readClaims(db, head.id).filter((c) => c.state !== "Withdrawn");
  for (const l of lines) {
    if (l.orderLine === null) continue;
    const missing = claims.reduce((a, c) => (c.position === l.position ? a + c.quantity : a), 0);
    sql(db, "UPDATE order_line SET invoiced = invoiced - ? WHERE id = ?").run(l.quantity - missing, l.orderLine);
  }
  sql(db, "UPDATE payable SET ended = ? WHERE invoice = ?").run(by.day, head.id);
}
