import { z } from "zod";
import type { OrderLineId, SupplierId } from "../../../core/ids";
import { parseDecimal } from "../../../core/numbers/decimal";
import { showDay } from "../../../core/numbers/format";
import { exchanged, exponent, lineNet, money, moneyText, type UnitPrice } from "../../../core/numbers/money";
import { paidBy } from "../../../core/settling/due";
import { invoiceNumberKey, type StatedTax, taxesOf } from "../../../core/settling/invoice";
import { type Db, madeId, sql } from "../../db/open";
import { rateOn, theCompany } from "../../queries/company";
import { payTerms } from "../../queries/consigned/papers";
import { type BillableLine, billableLines } from "../../queries/settling/ordered";
import { twinsOf } from "../../queries/settling/twins";
import { checked, type Desk, type Done, done, once, type Problem, refuse, refuseAll } from "../desk";
import { DayField, Id, PriceOrNone, QuantityField, text } from "../fields";
import { entered } from "./entered";
import { judgeInvoice } from "./match-invoice";

const Amount = z.string().max(40).default("");

const OfOrder = Id.transform((id) => id as OrderLineId); // checked to be one by the act

export const EnterInvoice = z.object({
  supplier: Id.transform((id) => id as SupplierId), // checked to be one by the act
  number: text(40, 1, "Their number is missing."),
  day: DayField,
  /** What it bills of orders: purchase units, and their price where it is another. */
  lines: z
    .array(z.object({ line: OfOrder, quantity: QuantityField, price: PriceOrNone.optional() }))
    .max(2_000)
    .default([]),
  /** What it bills that no order has. */
  others: z
    .array(
      z.object({
        words: text(200, 2, "Say what it is."),
        account: text(40, 1, "Choose an account."),
        net: Amount,
        taxRate: Amount,
      }),
    )
    .max(50)
    .default([]),
  /** What is taken off the whole, of what is taxed at the house's highest rate on the paper. */
  allowance: Amount,
  /** The total that stands on the paper; empty: as worked out. */
  total: Amount,
  note: text(500).default(""),
  /** It was seen that it looks like another one, and is none. */
  another: z.string().optional(),
});
type Entered = z.output<typeof EnterInvoice>;

/** A line as it will be kept. */
interface NewLine {
  orderLine: OrderLineId | null;
  words: string;
  quantity: number;
  price: UnitPrice;
  standing: number;
  discount: number;
  net: number;
  taxRate: number;
  account: string | null;
}

/**
 * Enters an invoice: what it bills of which orders. It matches at once where it agrees with what was ordered and what came,
 * else it is held, with whose turn it is (domain-goods §14).
 */
export function enterInvoice(desk: Desk, raw: unknown): Done<{ invoice: number; state: string }> {
  const input = checked(EnterInvoice, raw);
  if (!input.ok) return input;
  return once(desk, "enter invoices", (tx) => {
    const kept = keepInvoice(tx.db, desk, input.value);
    if (!kept.ok) return kept;
    const state = judgeInvoice(tx.db, desk, kept.value);
    tx.record("invoice.entered", `invoice ${kept.value}`, {
      supplier: input.value.supplier,
      number: input.value.number,
      day: input.value.day,
      lines: input.value.lines,
      others: input.value.others,
      state,
    });
    return done({ invoice: kept.value, state });
  });
}

const readMoney = (typed: string, currency: string) => parseDecimal(typed, exponent(currency));

function keepInvoice(db: Db, desk: Desk, v: Entered): Done<number> {
  const supplier = sql<{ name: string; active: number; currency: string; taxed: number }>(
    db,
    "SELECT name, active, currency, taxed FROM supplier WHERE id = ?",
  ).get(v.supplier);
  if (!supplier) return refuse("supplier", "There is no such supplier.");
  if (!supplier.active)
    return refuse(
      "supplier",
      `${supplier.name} is not active: nothing of theirs is entered before a lead has seen to it.`,
    );
  if (v.day > desk.day) return refuse("day", `${showDay(v.day, desk.day)} has not come yet.`);
  const ordered = billableLines(
    db,
    v.lines.map((l) => l.line),
  );
  const currency = [...ordered.values()][0]?.currency ?? supplier.currency;
  const read = readLines(v, ordered, supplier.name, currency);
  if (!read.ok) return read;
  const lines = read.value;
  if (lines.length === 0) return refuse("", "Say what it bills: a line of an order, or something else.");
  const home = theCompany(db).currency;
  const rate = rateOn(db, currency, home, v.day);
  if (rate === null)
    return refuse("day", `No rate for ${currency} is known on this day. An administrator loads rates under Files.`);
  const sums = readSums(v, lines, currency);
  if (!sums.ok) return sums;
  const plain = invoiceNumberKey(v.number);
  const same = entered(db, v.supplier, v.number);
  if (same)
    return refuse(
      "number",
      `Invoice ${same.number} of ${showDay(same.day, desk.day)} is here already: the same number is not paid twice.`,
    );
  const { taxes, total, allowance } = sums.value;
  const twins = twinsOf(db, v.supplier, v.day, total, lines);
  if (twins.length && v.another !== "yes")
    return refuse(
      "another",
      `${twins.map((t) => `Invoice ${t.number} of ${showDay(t.day, desk.day)} ${t.why} and comes to ${moneyText(money(t.total, t.currency))} ${t.currency}`).join("; ")}. Is this another one?`,
    );
  const due = paidBy(payTerms(db, v.supplier), v.day);
  const tax = taxes.reduce((a, t) => a + t.tax, 0);
  const invoice = madeId(
    sql(
      db,
      `INSERT INTO invoice (supplier, number, plain, day, currency, rate, net, tax, total, home_total, state, since, due, early_percent, early_by, note, person, at)
       VALUES (@supplier, @number, @plain, @day, @currency, @rate, @net, @tax, @total, @homeTotal, 'Held', @now, @due, @earlyPercent, @earlyBy, @note, @person, @now)`,
    ).run({
      supplier: v.supplier,
      number: v.number,
      plain,
      day: v.day,
      currency,
      rate,
      net: total - tax,
      tax,
      total,
      homeTotal: exchanged(money(total, currency), rate, home).minor,
      due: due.by,
      earlyPercent: due.early?.percent ?? 0,
      earlyBy: due.early?.by ?? null,
      note: v.note,
      person: desk.person.id,
      now: desk.now,
    }),
  );
  keepParts(db, Number(invoice), lines, taxes, allowance);
  return done(Number(invoice));
}

function keepParts(
  db: Db,
  invoice: number,
  lines: readonly NewLine[],
  taxes: readonly StatedTax[],
  allowance: { rate: number; minor: number } | null,
): void {
  const add = sql(
    db,
    `INSERT INTO invoice_line (invoice, position, order_line, words, quantity, price, standing, discount, net, tax_rate, account)
     VALUES (@invoice, @position, @orderLine, @words, @quantity, @price, @standing, @discount, @net, @taxRate, @account)`,
  );
  for (const [i, l] of lines.entries()) add.run({ ...l, invoice, position: i + 1 });
  const tax = sql(db, "INSERT INTO invoice_tax (invoice, rate, base, tax, allowance) VALUES (?, ?, ?, ?, ?)");
  for (const t of taxes) tax.run(invoice, t.rate, t.base, t.tax, allowance?.rate === t.rate ? allowance.minor : 0);
}

/** The lines as typed, each refused at its place. */
function readLines(
  v: Entered,
  ordered: ReadonlyMap<OrderLineId, BillableLine & { supplier: number }>,
  name: string,
  currency: string,
): Done<NewLine[]> {
  const problems: Problem[] = [];
  const lines: NewLine[] = [];
  v.lines.forEach((l, i) => {
    const o = ordered.get(l.line);
    if (!o || o.supplier !== v.supplier)
      problems.push({
        field: `lines.${i}.quantity`,
        says: `This is no line of an order of ${name} that may be billed.`,
      });
    else if (o.currency !== currency)
      problems.push({
        field: `lines.${i}.quantity`,
        says: `Order ${o.orderNumber} is in ${o.currency}, the others in ${currency}: bill them apart.`,
      });
    else {
      const price = l.price ?? o.price;
      lines.push({
        orderLine: o.line,
        words: "",
        quantity: l.quantity,
        price,
        standing: o.standing,
        discount: o.discount,
        net: lineNet(l.quantity, price, o.standing, o.discount, currency).minor,
        taxRate: o.taxRate,
        account: null,
      });
    }
  });
  v.others.forEach((o, i) => {
    const net = readMoney(o.net, currency);
    const rate = parseDecimal(o.taxRate || "0", 2);
    if (!net.ok) problems.push({ field: `others.${i}.net`, says: net.says });
    else if (net.value <= 0)
      problems.push({ field: `others.${i}.net`, says: "An amount above zero. What is below zero is a credit note." });
    else if (!rate.ok || rate.value < 0 || rate.value > 10_000)
      problems.push({ field: `others.${i}.taxRate`, says: "A tax rate between 0 and 100 percent." });
    else
      lines.push({
        orderLine: null,
        words: o.words,
        quantity: 10_000,
        price: priceOf(net.value, currency),
        standing: 0,
        discount: 0,
        net: net.value,
        taxRate: rate.value,
        account: o.account,
      });
  });
  return problems.length ? refuseAll(problems) : done(lines);
}

const priceOf = (minor: number, currency: string) => (minor * 10 ** (6 - exponent(currency))) as UnitPrice; // an amount as a price, exact below 2⁵³

/** Allowance, taxes and total: as typed, or as worked out. */
function readSums(
  v: Entered,
  lines: readonly NewLine[],
  currency: string,
): Done<{ taxes: StatedTax[]; total: number; allowance: { rate: number; minor: number } | null }> {
  const off = v.allowance.trim() === "" ? { ok: true as const, value: 0 } : readMoney(v.allowance, currency);
  if (!off.ok || off.value < 0) return refuse("allowance", off.ok ? "An amount above zero." : off.says);
  const rate = Math.max(...lines.map((l) => l.taxRate));
  const allowance = off.value ? { rate, minor: off.value } : null;
  const taxes = taxesOf({ lines, allowances: allowance ? [allowance] : [] });
  const worked = taxes.reduce((a, t) => a + t.base + t.tax, 0);
  if (worked <= 0) return refuse("allowance", "What is taken off is more than all of it.");
  if (v.total.trim() === "") return done({ taxes, total: worked, allowance });
  const total = readMoney(v.total, currency);
  if (!total.ok) return refuse("total", total.says);
  if (total.value <= 0) return refuse("total", "A total above zero. What is below zero is a credit note.");
  return done({ taxes, total: total.value, allowance });
}
