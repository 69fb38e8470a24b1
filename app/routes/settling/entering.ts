import { lineNet, parsePrice, priceText } from "../../../core/numbers/money";
import { parseQuantity, quantityText } from "../../../core/numbers/quantity";
import { taxesOf } from "../../../core/settling/invoice";
import type { BillableLine } from "../../../server/queries/settling/ordered";

/** A line as somebody types it; an empty quantity bills nothing of it. */
export interface BilledAsTyped {
  line: number;
  quantity: string;
  price: string;
}
/** What no order has. */
export interface TypedOther {
  words: string;
  account: string;
  /** The id of a budget line; empty: none. */
  budget: string;
  net: string;
  taxRate: string;
}
/** An invoice that is being entered. */
export interface TypedInvoice {
  number: string;
  day: string;
  total: string;
  allowance: string;
  note: string;
  lines: BilledAsTyped[];
  others: TypedOther[];
}

/** What a line is expected to bill: what came and is not invoiced; before anything came, what was ordered. */
const toBill = (l: BillableLine): number => {
  const came = l.received - l.invoiced;
  return came > 0 ? came : l.received === 0 ? l.ordered - l.invoiced : 0;
};

/** An invoice that says what is expected: only differences are typed. */
export const expectedInvoice = (lines: readonly BillableLine[], day: string): TypedInvoice => ({
  number: "",
  day,
  total: "",
  allowance: "",
  note: "",
  lines: lines.map((l) => {
    const quantity = toBill(l);
    return { line: l.line, quantity: quantity > 0 ? quantityText(quantity) : "", price: priceText(l.price) };
  }),
  others: [],
});

/** A kept draft on lines that may be others meanwhile: what was typed stays, what is new is as expected. */
export const fittedTo = (d: TypedInvoice, lines: readonly BillableLine[]): TypedInvoice => ({
  ...d,
  lines: expectedInvoice(lines, d.day).lines.map((x) => d.lines.find((l) => l.line === x.line) ?? x),
});

/** What is sent: lines with a quantity; a price only where it is another than the order's. */
export const billedLines = (d: TypedInvoice, lines: readonly BillableLine[]) =>
  d.lines
    .filter((l) => l.quantity.trim() !== "")
    .map((l) => {
      const of = lines.find((x) => x.line === l.line);
      const price = parsePrice(l.price);
      const same = price.ok && of !== undefined && price.value === of.price;
      return { line: l.line, quantity: l.quantity, ...(same ? {} : { price: l.price }) };
    });

/** What the typed lines of orders come to, net and with tax; null while one of them is no number. */
export function workedOut(d: TypedInvoice, lines: readonly BillableLine[]): { net: number; total: number } | null {
  const typed: { net: number; taxRate: number }[] = [];
  for (const l of d.lines) {
    if (l.quantity.trim() === "") continue;
    const of = lines.find((x) => x.line === l.line);
    const quantity = parseQuantity(l.quantity);
    const price = parsePrice(l.price);
    if (!of || !quantity.ok || !price.ok) return null;
    typed.push({
      net: lineNet(quantity.value, price.value, of.standing, of.discount, of.currency).minor,
      taxRate: of.taxRate,
    });
  }
  const taxes = taxesOf({ lines: typed, allowances: [] });
  return {
    net: taxes.reduce((a, t) => a + t.base, 0),
    total: taxes.reduce((a, t) => a + t.base + t.tax, 0),
  };
}
