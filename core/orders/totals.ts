import { Big, roundToInteger } from "../numbers/decimal";
import { type BasisPoints, type Money, money, share } from "../numbers/money";
import { amount, percent, type Step, type Sum } from "../sums/sum";

export interface NetLine {
  /** Line net in the minor unit, as `lineNet` rounds it. */
  net: number;
  /** Rate of its tax category; two categories of one rate are taxed together. */
  taxRate: BasisPoints;
}

export interface TaxPart {
  rate: BasisPoints;
  net: Money;
  discountShare: Money;
  base: Money;
  tax: Money;
}

export interface Totals {
  lines: Money;
  discount: Money;
  /** Net of tax: what the spend ladder looks at. */
  net: Money;
  taxes: TaxPart[];
  tax: Money;
  total: Money;
  sum: Sum;
}

const part = (minor: number, rate: BasisPoints) => roundToInteger(new Big(minor).times(rate).div(10_000));

/** A document's totals, rounded only where domain §1 says so; tax once per category, as in EN 16931. */
export function totals(lines: readonly NetLine[], documentDiscount: BasisPoints, currency: string): Totals {
  const m = (minor: number) => money(minor, currency);
  const all = lines.reduce((a, l) => a + l.net, 0);
  const discount = part(all, documentDiscount);
  const byRate = new Map<BasisPoints, number>();
  for (const l of lines) byRate.set(l.taxRate, (byRate.get(l.taxRate) ?? 0) + l.net);
  const rates = [...byRate].sort((a, b) => b[0] - a[0]);
  const shares = share(
    discount,
    rates.map(([, net]) => net),
  );
  const taxes = rates.map(([rate, net], i): TaxPart => {
    const base = net - shares[i]!;
    return { rate, net: m(net), discountShare: m(shares[i]!), base: m(base), tax: m(part(base, rate)) };
  });
  const tax = taxes.reduce((a, t) => a + t.tax.minor, 0);
  const steps: Step[] = lines.map((l, i) => ({
    op: i ? "+" : "",
    label: `line ${i + 1}`,
    figure: amount(l.net, currency),
  }));
  if (documentDiscount) {
    steps.push({ op: "=", label: "lines", figure: amount(all, currency) });
    steps.push({ op: "·", label: "discount on the whole order", figure: percent(documentDiscount) });
    steps.push({ op: "−", label: "discount", figure: amount(discount, currency) });
  }
  steps.push({ op: "=", label: "net", figure: amount(all - discount, currency) });
  for (const t of taxes) {
    steps.push({ op: "·", label: "taxed at", figure: percent(t.rate) });
    steps.push({ op: "·", label: "on", figure: amount(t.base.minor, currency) });
    steps.push({ op: "+", label: "tax", figure: amount(t.tax.minor, currency) });
  }
  steps.push({ op: "=", label: "total", figure: amount(all - discount + tax, currency) });
  return {
    lines: m(all),
    discount: m(discount),
    net: m(all - discount),
    taxes,
    tax: m(tax),
    total: m(all - discount + tax),
    sum: { title: "The total", steps },
  };
}
