import { type Day, parseDay } from "../../../core/calendar/day";
import type { SupplierId } from "../../../core/ids";
import { Big, clip, parseDecimal } from "../../../core/numbers/decimal";
import { exponent, listedPrice, money, moneyText, unitPrice } from "../../../core/numbers/money";
import { parseQuantity } from "../../../core/numbers/quantity";
import { unitCode } from "../../../core/numbers/units";
import { brokenRules, type StatedInvoice } from "../../../core/settling/en16931";
import { type Billed, type BilledLine, readInvoiceXml } from "../../../exchange/ubl/invoice";
import { recordAudit } from "../../db/audit";
import { type Db, sql } from "../../db/open";
import { orderByNumber, readOrderHead } from "../../queries/orders/order";
import { readClaims } from "../../queries/settling/invoices";
import { type BillableLine, billableOfOrder } from "../../queries/settling/ordered";
import { type Desk, type Done, done, once, type Problem, refuse, refuseAll } from "../desk";
import type { Doing } from "../stock/post";
import { keepCredit } from "./credit-note";
import { entered } from "./entered";
import { keepInvoice, type NewInvoice, type NewInvoiceLine, supplierToBill } from "./keep-invoice";
import { judgeInvoice } from "./match-invoice";

export interface FiledInvoice {
  invoice: number;
  number: string;
  state: string;
}

/** Takes in an invoice that its supplier's system wrote: OASIS UBL 2.1, held against the arithmetic of EN 16931. */
export function invoiceFromFile(
  desk: Desk,
  bytes: Uint8Array,
  { name = "invoice.xml", another = false } = {},
): Done<FiledInvoice> {
  const read = readInvoiceXml(bytes);
  if (!read.ok) return refuse("file", read.says);
  return once(desk, "enter invoices", (tx) => {
    const kept = keepFiled(tx.db, desk, read.invoice, { name, type: "application/xml", bytes }, another);
    if (kept.ok) tx.record("invoice.entered", `invoice ${kept.value.invoice}`, { ...kept.value, from: name });
    return kept;
  });
}

/** The same for a file that lay in the inbox; one that looks like another is refused there, for somebody to look at. */
export function invoiceFromInbox(
  db: Db,
  bytes: Uint8Array,
  { now, day }: { now: string; day: Day },
): Done<FiledInvoice> {
  const read = readInvoiceXml(bytes);
  if (!read.ok) return refuse("file", read.says);
  const run = db.transaction(() => {
    const file = { name: "inbox.xml", type: "application/xml", bytes };
    const kept = keepFiled(db, { day, now, person: null }, read.invoice, file, false);
    if (!kept.ok) throw new NotKept(kept);
    recordAudit(db, now, null, "invoice.entered", `invoice ${kept.value.invoice}`, { ...kept.value, from: "inbox" });
    return kept;
  });
  try {
    return run.immediate();
  } catch (e) {
    if (e instanceof NotKept) return e.answer;
    throw e;
  }
}

class NotKept extends Error {
  constructor(readonly answer: { ok: false; problems: Problem[] }) {
    super("refused");
  }
}

function keepFiled(db: Db, by: Doing, b: Billed, file: NewInvoice["file"], another: boolean): Done<FiledInvoice> {
  if (b.kind === "credit note") return keepFiledCredit(db, by, b, file);
  const read = readFiled(db, b);
  if (!read.ok) return read;
  const kept = keepInvoice(db, by, { ...read.value, another, file });
  // A file has no fields: whatever is wrong is wrong with it.
  if (!kept.ok) return refuseAll(kept.problems.map((p) => (p.field === "another" ? p : { ...p, field: "file" })));
  return done({ invoice: kept.value, number: b.number, state: judgeInvoice(db, by, kept.value) });
}

/**
 * A credit note meets open claims of the invoices that it names: all of them, or the one that comes to exactly its total;
 * of a single one a part, too. Whatever else it comes to is refused with both figures.
 */
function keepFiledCredit(db: Db, by: Doing, b: Billed, file: NewInvoice["file"]): Done<FiledInvoice> {
  const read = readStated(b);
  if (!read.ok) return read;
  const orders = ordersOf(db, b);
  if (!orders.ok) return orders;
  const supplier = orders.value.supplier ?? supplierOf(db, b);
  if (supplier === null) return refuse("file", whose(b));
  if (b.credits.length === 0)
    return refuse("file", "It does not name the invoice that it credits (BillingReference): enter it at its claims.");
  const claims = [];
  for (const number of b.credits) {
    const invoice = entered(db, supplier, number);
    if (!invoice) return refuse("file", `There is no invoice ${clip(number)} of theirs here.`);
    claims.push(...readClaims(db, invoice.id).filter((c) => c.state === "Open"));
  }
  if (claims.length === 0) return refuse("file", "Nothing is claimed of what it credits.");
  const total = read.value.stated.totals.payable ?? 0;
  const alone = claims.filter((c) => c.net + c.tax === total);
  const met = claims.length > 1 && alone.length === 1 ? alone : claims;
  if (met.some((c) => c.currency !== b.currency))
    return refuse("file", `It is in ${b.currency}, the claims in ${met[0]!.currency}.`);
  const kept = keepCredit(db, by, {
    supplier,
    number: b.number.slice(0, 40),
    day: read.value.day,
    total,
    claims: met.map((c) => c.id),
    file,
  });
  if (!kept.ok) return refuseAll(kept.problems.map((p) => ({ ...p, field: "file" })));
  return done({ invoice: kept.value, number: b.number, state: "Matched" });
}

const whose = (b: Billed) =>
  `Whose invoice it is, is not known: ${clip(b.supplier.name ?? "no name")} is none of our suppliers.`;

/** The figures of a file; a sentence for each that is none. */
class Figures {
  readonly problems: Problem[] = [];
  constructor(private readonly currency: string) {}
  private read(what: string, text: string, places: number): number {
    const parsed = parseDecimal(text, places);
    if (parsed.ok) return parsed.value;
    this.problems.push({ field: "file", says: `${what}: “${clip(text)}” is no amount of ${this.currency}.` });
    return 0;
  }
  amount = (what: string, text: string) => this.read(what, text, exponent(this.currency));
  some = (what: string, text: string | null) => (text === null ? null : this.amount(what, text));
  rate(what: string, text: string): number {
    const parsed = parseDecimal(text, 2);
    if (parsed.ok && parsed.value >= 0 && parsed.value <= 10_000) return parsed.value;
    this.problems.push({ field: "file", says: `${what}: “${clip(text)}” is no tax rate.` });
    return 0;
  }
}

function statedBy(b: Billed, f: Figures): StatedInvoice {
  const t = b.totals;
  return {
    lines: b.lines.map((l) => ({ net: f.amount(`Line ${l.id}`, l.net), rate: f.rate(`Line ${l.id}`, l.rate) })),
    allowances: b.allowances.map((a) => ({
      charge: a.charge,
      minor: f.amount(a.words || "AllowanceCharge", a.amount),
      rate: f.rate(a.words || "AllowanceCharge", a.rate),
    })),
    taxes: b.taxes.map((x) => ({
      rate: f.rate("TaxSubtotal", x.rate),
      base: f.amount("TaxableAmount", x.base),
      tax: f.amount("TaxAmount", x.tax),
    })),
    totals: {
      lines: f.some("LineExtensionAmount", t.lines),
      allowances: f.some("AllowanceTotalAmount", t.allowances),
      charges: f.some("ChargeTotalAmount", t.charges),
      exclusive: f.some("TaxExclusiveAmount", t.exclusive),
      tax: f.some("TaxAmount", t.tax),
      inclusive: f.some("TaxInclusiveAmount", t.inclusive),
      prepaid: f.some("PrepaidAmount", t.prepaid),
      rounding: f.some("PayableRoundingAmount", t.rounding),
      payable: f.some("PayableAmount", t.payable),
    },
  };
}

const CURRENCY = /^[A-Z]{3}$/;

/** The day and the figures of a file, once its arithmetic holds; all that is wrong with it at once. */
function readStated(b: Billed): Done<{ day: Day; stated: StatedInvoice }> {
  const day = parseDay(b.issued);
  if (!day) return refuse("file", `IssueDate “${clip(b.issued)}” is no day.`);
  if (!CURRENCY.test(b.currency)) return refuse("file", `“${clip(b.currency)}” is no currency.`);
  const figures = new Figures(b.currency);
  const stated = statedBy(b, figures);
  if (figures.problems.length) return refuseAll(figures.problems);
  const broken = brokenRules(stated);
  if (broken.length)
    return refuseAll(
      broken.map((r) => ({
        field: "file",
        says: `${r.rule}: ${r.says} is ${moneyText(money(r.stated, b.currency))}, and should be ${moneyText(money(r.worked, b.currency))}.`,
      })),
    );
  if (stated.totals.prepaid)
    return refuse("file", "It says that a part was paid before: such an invoice is entered by hand.");
  return done({ day, stated });
}

/** What a file bills, as it will be kept. */
function readFiled(db: Db, b: Billed): Done<Omit<NewInvoice, "another" | "file">> {
  const read = readStated(b);
  if (!read.ok) return read;
  const { day, stated } = read.value;
  const orders = ordersOf(db, b);
  if (!orders.ok) return orders;
  const supplier = orders.value.supplier ?? supplierOf(db, b);
  if (supplier === null) return refuse("file", whose(b));
  const may = supplierToBill(db, supplier);
  if (!may.ok) return refuse("file", may.problems[0]!.says);
  const lines = linesOf(b, stated, orders.value.lines);
  if (!lines.ok) return lines;
  return done({
    supplier,
    number: b.number.slice(0, 40),
    day,
    currency: b.currency,
    lines: lines.value,
    taxes: stated.taxes,
    allowances: stated.allowances.filter((a) => !a.charge),
    total: stated.totals.payable ?? 0,
    note: b.note.slice(0, 500),
  });
}

/** The orders that it names, with their lines by their position; all of one supplier. */
function ordersOf(db: Db, b: Billed): Done<{ supplier: SupplierId | null; lines: Map<string, BillableLine[]> }> {
  const lines = new Map<string, BillableLine[]>();
  let supplier: SupplierId | null = null;
  for (const number of new Set([b.order, ...b.lines.map((l) => l.order)].filter((n) => n !== null))) {
    const id = orderByNumber(db, number);
    const head = id === null ? null : readOrderHead(db, id);
    if (id === null || !head) return refuse("file", `There is no order ${clip(number)} of ours.`);
    if (supplier !== null && head.supplier !== supplier)
      return refuse("file", `Order ${clip(number)} is of another supplier than the others.`);
    if (head.currency !== b.currency)
      return refuse("file", `Order ${clip(number)} is in ${head.currency}, the invoice in ${b.currency}.`);
    supplier = head.supplier;
    lines.set(number, billableOfOrder(db, id, true));
  }
  return done({ supplier, lines });
}

/** A supplier by the account that we gave them, or the tax number, or the very name that we have. */
function supplierOf(db: Db, { supplier: { account, name } }: Billed): SupplierId | null {
  const by = (column: "code" | "name", value: string | null) =>
    value === null
      ? null
      : (sql<{ id: SupplierId }>(db, `SELECT id FROM supplier WHERE ${column} = ? COLLATE NOCASE`).get(value)?.id ??
        null);
  return by("code", account) ?? by("name", name);
}

function linesOf(
  b: Billed,
  stated: StatedInvoice,
  orders: ReadonlyMap<string, BillableLine[]>,
): Done<NewInvoiceLine[]> {
  const problems: Problem[] = [];
  const lines: NewInvoiceLine[] = [];
  b.lines.forEach((l, i) => {
    const { net, rate } = stated.lines[i]!;
    const number = l.order ?? (l.line === null ? null : b.order);
    if (number === null) {
      lines.push(onNoOrder(l.words || `line ${l.id}`, net, rate, b.currency));
      return;
    }
    const of = orders.get(number)?.find((o) => String(o.position) === l.line);
    const read = of
      ? orderedLine(l, of, net, rate)
      : { ok: false as const, says: `order ${clip(number)} has no line ${clip(l.line ?? "")}.` };
    if (read.ok) lines.push(read.value);
    else problems.push({ field: "file", says: `Line ${clip(l.id)}: ${read.says}` });
  });
  stated.allowances.forEach((a, i) => {
    if (!a.charge) return;
    const words = b.allowances[i]!.words || "a charge";
    const [charge, ...more] = [...orders.values()].flat().filter((o) => o.kind === "charge" && o.invoiced < o.ordered);
    lines.push(
      charge && more.length === 0
        ? { ...onNoOrder("", a.minor, a.rate, b.currency), orderLine: charge.line }
        : onNoOrder(words, a.minor, a.rate, b.currency),
    );
  });
  return problems.length ? refuseAll(problems) : done(lines);
}

const onNoOrder = (words: string, net: number, taxRate: number, currency: string): NewInvoiceLine => ({
  orderLine: null,
  words: words.slice(0, 200),
  quantity: 10_000,
  price: unitPrice(net * 10 ** (6 - exponent(currency))),
  standing: 0,
  discount: 0,
  net,
  taxRate,
  account: null,
  budget: null,
});

/** A line of an order: their price is net, so the order's discounts are put back onto it. */
function orderedLine(
  l: BilledLine,
  of: BillableLine,
  net: number,
  taxRate: number,
): { ok: true; value: NewInvoiceLine } | { ok: false; says: string } {
  const quantity = parseQuantity(l.quantity);
  if (!quantity.ok) return quantity;
  if (l.unit !== null && l.unit !== unitCode(of.unitCode))
    return { ok: false, says: `it is billed in ${clip(l.unit)}, and was ordered in ${unitCode(of.unitCode)}.` };
  const price = pricePer(l, quantity.value, net, of.currency);
  if (!price.ok) return price;
  const listed = listedPrice(price.value, of.standing, of.discount);
  if (!listed.ok) return listed;
  return {
    ok: true,
    value: {
      orderLine: of.line,
      words: "",
      quantity: quantity.value,
      price: listed.value,
      standing: of.standing,
      discount: of.discount,
      net,
      taxRate,
      account: null,
      budget: null,
    },
  };
}

/** The net price of one, in main units; from the line's amount where no price stands there. */
function pricePer(
  l: BilledLine,
  quantity: number,
  net: number,
  currency: string,
): { ok: true; value: Big } | { ok: false; says: string } {
  if (l.price === null)
    return {
      ok: true,
      value: new Big(net)
        .times(10_000)
        .div(quantity)
        .div(10 ** exponent(currency)),
    };
  const amount = parseDecimal(l.price, 6);
  const per = parseQuantity(l.per ?? "1");
  if (!amount.ok) return amount;
  if (!per.ok) return per;
  if (amount.value < 0) return { ok: false, says: "a price below zero." };
  return { ok: true, value: new Big(amount.value).div(1_000_000).times(10_000).div(per.value) };
}
