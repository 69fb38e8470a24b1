import { z } from "zod";
import type { BudgetId, OrderLineId, SupplierId } from "../../../core/ids";
import { parseDecimal } from "../../../core/numbers/decimal";
import { exponent, lineNet, type UnitPrice } from "../../../core/numbers/money";
import { taxesOf } from "../../../core/settling/invoice";
import type { Db } from "../../db/open";
import { type BillableLine, billableLines } from "../../queries/settling/ordered";
import { checked, type Desk, type Done, done, once, type Problem, refuse, refuseAll } from "../desk";
import { DayField, Id, orNone, PriceOrNone, QuantityField, text } from "../fields";
import { isAccount, isBudget, keepInvoice, type NewInvoice, type NewInvoiceLine, supplierToBill } from "./keep-invoice";
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
        /** The budget line that it goes against. */
        budget: orNone(Id.transform((id) => id as BudgetId)).default(null), // checked to be one by the act
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

/**
 * Enters an invoice: what it bills of which orders. It matches at once where it agrees with what was ordered and what came,
 * else it is held, with whose turn it is (domain-goods §14).
 */
export function enterInvoice(desk: Desk, raw: unknown): Done<{ invoice: number; state: string }> {
  const input = checked(EnterInvoice, raw);
  if (!input.ok) return input;
  return once(desk, "enter invoices", (tx) => {
    const typed = typedInvoice(tx.db, input.value);
    if (!typed.ok) return typed;
    const kept = keepInvoice(tx.db, desk, typed.value);
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

/** What was typed, as it will be kept. */
export function typedInvoice(db: Db, v: Entered): Done<NewInvoice> {
  const supplier = supplierToBill(db, v.supplier);
  if (!supplier.ok) return supplier;
  const ordered = billableLines(
    db,
    v.lines.map((l) => l.line),
  );
  const currency = [...ordered.values()][0]?.currency ?? supplier.value.currency;
  const read = readLines(db, v, ordered, supplier.value.name, currency);
  if (!read.ok) return read;
  const lines = read.value;
  if (lines.length === 0) return refuse("", "Say what it bills: a line of an order, or something else.");
  const sums = readSums(v, lines, currency);
  if (!sums.ok) return sums;
  const { supplier: id, number, day, note } = v;
  return done({
    supplier: id,
    number,
    day,
    note,
    currency,
    lines,
    ...sums.value,
    another: v.another === "yes",
    file: null,
  });
}

/** The lines as typed, each refused at its place. */
function readLines(
  db: Db,
  v: Entered,
  ordered: ReadonlyMap<OrderLineId, BillableLine & { supplier: number }>,
  name: string,
  currency: string,
): Done<NewInvoiceLine[]> {
  const problems: Problem[] = [];
  const lines: NewInvoiceLine[] = [];
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
        budget: null,
      });
    }
  });
  v.others.forEach((o, i) => {
    const net = readMoney(o.net, currency);
    const rate = parseDecimal(o.taxRate || "0", 2);
    if (!isAccount(db, o.account))
      problems.push({ field: `others.${i}.account`, says: `There is no account ${o.account}.` });
    else if (o.budget !== null && !isBudget(db, o.budget))
      problems.push({ field: `others.${i}.budget`, says: "There is no such budget line." });
    else if (!net.ok) problems.push({ field: `others.${i}.net`, says: net.says });
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
        budget: o.budget,
      });
  });
  return problems.length ? refuseAll(problems) : done(lines);
}

const priceOf = (minor: number, currency: string) => (minor * 10 ** (6 - exponent(currency))) as UnitPrice; // an amount as a price, exact below 2⁵³

/** Allowance, taxes and total: as typed, or as worked out. */
function readSums(
  v: Entered,
  lines: readonly NewInvoiceLine[],
  currency: string,
): Done<Pick<NewInvoice, "taxes" | "total" | "allowances">> {
  const off = v.allowance.trim() === "" ? { ok: true as const, value: 0 } : readMoney(v.allowance, currency);
  if (!off.ok || off.value < 0) return refuse("allowance", off.ok ? "An amount above zero." : off.says);
  const rate = Math.max(...lines.map((l) => l.taxRate));
  const allowances = off.value ? [{ rate, minor: off.value }] : [];
  const taxes = taxesOf({ lines, allowances });
  const worked = taxes.reduce((a, t) => a + t.base + t.tax, 0);
  if (worked <= 0) return refuse("allowance", "What is taken off is more than all of it.");
  if (v.total.trim() === "") return done({ taxes, total: worked, allowances });
  const total = readMoney(v.total, currency);
  if (!total.ok) return refuse("total", total.says);
  if (total.value <= 0) return refuse("total", "A total above zero. What is below zero is a credit note.");
  return done({ taxes, total: total.value, allowances });
}
