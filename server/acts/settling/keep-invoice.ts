import type { Day } from "../../../core/calendar/day";
import type { BudgetId, OrderLineId, SupplierId } from "../../../core/ids";
import { showDay } from "../../../core/numbers/format";
import { exchanged, money, moneyText, type UnitPrice } from "../../../core/numbers/money";
import { paidBy } from "../../../core/settling/due";
import { invoiceNumberKey, type StatedTax } from "../../../core/settling/invoice";
import { type Db, madeId, sql } from "../../db/open";
import { rateOn, theCompany } from "../../queries/company";
import { payTerms } from "../../queries/consigned/papers";
import { twinsOf } from "../../queries/settling/twins";
import { type Done, done, refuse } from "../desk";
import type { Doing } from "../stock/post";
import { entered } from "./entered";

/** A line as it will be kept; money in minor units of the invoice's currency. */
export interface NewInvoiceLine {
  orderLine: OrderLineId | null;
  words: string;
  quantity: number;
  price: UnitPrice;
  standing: number;
  discount: number;
  net: number;
  taxRate: number;
  account: string | null;
  /** Of what no order has. */
  budget: BudgetId | null;
}

/** An invoice as it will be kept, whichever way it came. */
export interface NewInvoice {
  supplier: SupplierId;
  number: string;
  day: Day;
  currency: string;
  lines: readonly NewInvoiceLine[];
  taxes: readonly StatedTax[];
  /** What is taken off the whole, by rate. */
  allowances: readonly { rate: number; minor: number }[];
  total: number;
  note: string;
  /** Somebody saw that it looks like another one, and is none. */
  another: boolean;
  /** The file that it came in. */
  file: { name: string; type: string; bytes: Uint8Array } | null;
}

/** May something of this supplier be entered? */
export function supplierToBill(db: Db, id: SupplierId): Done<{ name: string; currency: string }> {
  const supplier = sql<{ name: string; active: number; currency: string }>(
    db,
    "SELECT name, active, currency FROM supplier WHERE id = ?",
  ).get(id);
  if (!supplier) return refuse("supplier", "There is no such supplier.");
  if (!supplier.active)
    return refuse(
      "supplier",
      `${supplier.name} is not active: nothing of theirs is entered before a lead has seen to it.`,
    );
  return done({ name: supplier.name, currency: supplier.currency });
}

export const isAccount = (db: Db, code: string) =>
  sql(db, "SELECT 1 FROM account WHERE code = ?").get(code) !== undefined;
export const isBudget = (db: Db, id: number) => sql(db, "SELECT 1 FROM budget WHERE id = ?").get(id) !== undefined;

/** Keeps an invoice as held, to be judged next: once for each number, near-twins only where somebody looked. In the act's transaction. */
export function keepInvoice(db: Db, by: Doing, v: NewInvoice): Done<number> {
  const today = by.day as Day; // the desk's own
  if (v.day > today) return refuse("day", `${showDay(v.day, today)} has not come yet.`);
  const home = theCompany(db).currency;
  const rate = rateOn(db, v.currency, home, v.day);
  if (rate === null)
    return refuse("day", `No rate for ${v.currency} is known on this day. An administrator loads rates under Files.`);
  const same = entered(db, v.supplier, v.number);
  if (same)
    return refuse(
      "number",
      `Invoice ${same.number} of ${showDay(same.day, today)} is here already: the same number is not paid twice.`,
    );
  const twins = twinsOf(db, v.supplier, v.day, v.total, v.lines);
  if (twins.length && !v.another)
    return refuse(
      "another",
      `${twins.map((t) => `Invoice ${t.number} of ${showDay(t.day, today)} ${t.why} and comes to ${moneyText(money(t.total, t.currency))} ${t.currency}`).join("; ")}. Is this another one?`,
    );
  const due = paidBy(payTerms(db, v.supplier), v.day);
  const tax = v.taxes.reduce((a, t) => a + t.tax, 0);
  const invoice = Number(
    madeId(
      sql(
        db,
        `INSERT INTO invoice (supplier, number, plain, day, currency, rate, net, tax, total, home_total, state, since, due, early_percent, early_by, note, person, at)
         VALUES (@supplier, @number, @plain, @day, @currency, @rate, @net, @tax, @total, @homeTotal, 'Held', @now, @due, @earlyPercent, @earlyBy, @note, @person, @now)`,
      ).run({
        supplier: v.supplier,
        number: v.number,
        plain: invoiceNumberKey(v.number),
        day: v.day,
        currency: v.currency,
        rate,
        net: v.total - tax,
        tax,
        total: v.total,
        homeTotal: exchanged(money(v.total, v.currency), rate, home).minor,
        due: due.by,
        earlyPercent: due.early?.percent ?? 0,
        earlyBy: due.early?.by ?? null,
        note: v.note,
        person: by.person?.id ?? null,
        now: by.now,
      }),
    ),
  );
  keepParts(db, by, invoice, v, (minor) => exchanged(money(minor, v.currency), rate, home).minor);
  return done(invoice);
}

function keepParts(
  db: Db,
  by: Doing,
  invoice: number,
  { lines, taxes, allowances, file }: NewInvoice,
  inHome: (minor: number) => number,
): void {
  const add = sql(
    db,
    `INSERT INTO invoice_line (invoice, position, order_line, words, quantity, price, standing, discount, net, tax_rate, account, budget, home_net)
     VALUES (@invoice, @position, @orderLine, @words, @quantity, @price, @standing, @discount, @net, @taxRate, @account, @budget, @homeNet)`,
  );
  for (const [i, l] of lines.entries()) add.run({ ...l, homeNet: inHome(l.net), invoice, position: i + 1 });
  const tax = sql(db, "INSERT INTO invoice_tax (invoice, rate, base, tax, allowance) VALUES (?, ?, ?, ?, ?)");
  const off = (rate: number) => allowances.reduce((a, x) => (x.rate === rate ? a + x.minor : a), 0);
  for (const t of taxes) tax.run(invoice, t.rate, t.base, t.tax, off(t.rate));
  if (file) keepInvoiceFile(db, by, invoice, file);
}

/** Keeps the file that an invoice or a credit note came in. */
export function keepInvoiceFile(db: Db, by: Doing, invoice: number, file: NonNullable<NewInvoice["file"]>): void {
  sql(db, "INSERT INTO invoice_file (invoice, name, type, bytes, person, at) VALUES (?, ?, ?, ?, ?, ?)").run(
    invoice,
    file.name,
    file.type,
    file.bytes,
    by.person?.id ?? null,
    by.now,
  );
}
