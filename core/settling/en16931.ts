import { safe } from "../numbers/decimal";
import type { BasisPoints } from "../numbers/money";
import { taxOn } from "./invoice";

/** The money of an invoice as its file states it: minor units of its currency. */
export interface StatedInvoice {
  lines: readonly { net: number; rate: BasisPoints }[];
  allowances: readonly { charge: boolean; minor: number; rate: BasisPoints }[];
  taxes: readonly { rate: BasisPoints; base: number; tax: number }[];
  /** Null: not stated. */
  totals: {
    lines: number | null;
    allowances: number | null;
    charges: number | null;
    exclusive: number | null;
    tax: number | null;
    inclusive: number | null;
    prepaid: number | null;
    rounding: number | null;
    payable: number | null;
  };
}

/** A rule of EN 16931 that an invoice breaks, with what it states and what it should. */
export interface BrokenRule {
  rule: string;
  says: string;
  stated: number;
  worked: number;
}

const sum = (all: readonly number[]) => all.reduce((a, b) => safe(a + b), 0);

/**
 * Holds the totals of an invoice against the arithmetic of EN 16931-1 (BR-CO-10 to BR-CO-17 and the bases by rate of BR-S-08).
 * A total that may be left out and is counts as nought. None broken: it adds up.
 */
export function brokenRules({ lines, allowances, taxes, totals: t }: StatedInvoice): BrokenRule[] {
  const off = sum(allowances.filter((a) => !a.charge).map((a) => a.minor));
  const on = sum(allowances.filter((a) => a.charge).map((a) => a.minor));
  const net = sum(lines.map((l) => l.net));
  const exclusive = t.exclusive ?? 0;
  const inclusive = t.inclusive ?? 0;
  const rules: [rule: string, says: string, stated: number, worked: number][] = [
    ["BR-CO-10", "the sum of the lines", t.lines ?? 0, net],
    ["BR-CO-11", "the sum of what is taken off", t.allowances ?? 0, off],
    ["BR-CO-12", "the sum of charges", t.charges ?? 0, on],
    ["BR-CO-13", "the total without tax", exclusive, (t.lines ?? 0) - (t.allowances ?? 0) + (t.charges ?? 0)],
    ["BR-CO-14", "the tax in all", t.tax ?? 0, sum(taxes.map((x) => x.tax))],
    ["BR-CO-15", "the total with tax", inclusive, exclusive + (t.tax ?? 0)],
    ["BR-CO-16", "what is to be paid", t.payable ?? 0, inclusive - (t.prepaid ?? 0) + (t.rounding ?? 0)],
  ];
  for (const x of taxes) rules.push(["BR-CO-17", `the tax at ${x.rate / 100} %`, x.tax, taxOn(x.base, x.rate)]);
  for (const rate of new Set([...lines, ...allowances, ...taxes].map((x) => x.rate))) {
    const base = sum([
      ...lines.filter((l) => l.rate === rate).map((l) => l.net),
      ...allowances.filter((a) => a.rate === rate).map((a) => (a.charge ? a.minor : -a.minor)),
    ]);
    rules.push([
      "BR-S-08",
      `what is taxed at ${rate / 100} %`,
      sum(taxes.filter((x) => x.rate === rate).map((x) => x.base)),
      base,
    ]);
  }
  return rules
    .filter(([, , stated, worked]) => stated !== worked)
    .map(([rule, says, stated, worked]) => ({ rule, says, stated, worked }));
}
