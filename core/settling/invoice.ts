import type { OrderLineId } from "../ids";
import { Big, roundToInteger, safe } from "../numbers/decimal";
import type { BasisPoints, UnitPrice } from "../numbers/money";

export const INVOICE_KINDS = ["invoice", "credit note"] as const;
export type InvoiceKind = (typeof INVOICE_KINDS)[number];

/** Where an invoice stands. What is paid of it is known from its payments. */
export const INVOICE_STATES = ["Held", "Matched", "Part paid", "Paid", "Sent back", "Taken off"] as const;
export type InvoiceState = (typeof INVOICE_STATES)[number];

/** An invoice that still means something: neither sent back nor taken off. */
export const countsStill = (state: InvoiceState) => state !== "Sent back" && state !== "Taken off";

/** A line as their paper has it; money in minor units of its currency. */
export interface InvoicedLine {
  position: number;
  /** The order line that it bills; null: something that no order of ours has. */
  orderLine: OrderLineId | null;
  /** Purchase units, ten-thousandths. */
  quantity: number;
  /** For one, before discounts. */
  price: UnitPrice;
  /** Discounts taken off the price, one after the other. */
  standing: BasisPoints;
  discount: BasisPoints;
  /** What they ask for it, without tax. */
  net: number;
  taxRate: BasisPoints;
}

/** Tax by rate, as their paper states it: what it is worked out on, and what it comes to. */
export interface StatedTax {
  rate: BasisPoints;
  base: number;
  tax: number;
}

/** The money of a paper: its lines, what is taken off the whole, its taxes and what is to be paid. */
export interface InvoiceSums {
  lines: readonly Pick<InvoicedLine, "net" | "taxRate">[];
  /** What is taken off the whole, by rate. */
  allowances: readonly { rate: BasisPoints; minor: number }[];
  taxes: readonly StatedTax[];
  total: number;
}

/** What of a paper does not add up: each with the two figures. */
export interface SumFault {
  what: "base" | "tax" | "total" | "rate";
  rate: BasisPoints | null;
  stated: number;
  worked: number;
}

/** What their lines and allowances come to by rate. */
export function basesOf({ lines, allowances }: Pick<InvoiceSums, "lines" | "allowances">): Map<BasisPoints, number> {
  const bases = new Map<BasisPoints, number>();
  for (const l of lines) bases.set(l.taxRate, safe((bases.get(l.taxRate) ?? 0) + l.net));
  for (const a of allowances) bases.set(a.rate, safe((bases.get(a.rate) ?? 0) - a.minor));
  return bases;
}

/** Tax on a base, rounded once (EN 16931, BR-CO-17). Minor units. */
export const taxOn = (base: number, rate: BasisPoints) => roundToInteger(new Big(base).times(rate).div(10_000));

/** The taxes that a paper of these lines should state. */
export const taxesOf = (sums: Pick<InvoiceSums, "lines" | "allowances">): StatedTax[] =>
  [...basesOf(sums)].sort(([a], [b]) => b - a).map(([rate, base]) => ({ rate, base, tax: taxOn(base, rate) }));

/** Where a paper contradicts itself: bases, tax by rate, total. Nothing where it adds up. */
export function sumFaults(sums: InvoiceSums): SumFault[] {
  const faults: SumFault[] = [];
  const worked = basesOf(sums);
  for (const t of sums.taxes) {
    const base = worked.get(t.rate) ?? 0;
    if (t.base !== base) faults.push({ what: "base", rate: t.rate, stated: t.base, worked: base });
    const tax = taxOn(t.base, t.rate);
    if (t.tax !== tax) faults.push({ what: "tax", rate: t.rate, stated: t.tax, worked: tax });
  }
  for (const [rate, base] of worked)
    if (base !== 0 && !sums.taxes.some((t) => t.rate === rate))
      faults.push({ what: "rate", rate, stated: 0, worked: base });
  const net = [...worked.values()].reduce((a, b) => safe(a + b), 0);
  const total = sums.taxes.reduce((a, t) => safe(a + t.tax), net);
  if (total !== sums.total) faults.push({ what: "total", rate: null, stated: sums.total, worked: total });
  return faults;
}

/**
 * Their number as it is compared: case, spaces, dashes and leading zeros aside (domain-goods §14). Zeros lead where no
 * digit stands before them: "RE-0042" and "re42" are one, "RE-1002" and "RE-12" are not.
 */
export const invoiceNumberKey = (number: string): string =>
  number
    .normalize("NFKC")
    .replace(/[\s\p{Pd}\u00AD\u200B]/gu, "")
    .toUpperCase()
    .replace(/(?<![0-9])0+(?=[0-9])/g, "");
