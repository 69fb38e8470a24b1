import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { OrderLineId } from "../ids";
import { lineNet, unitPrice } from "../numbers/money";
import { type InvoicedLine, invoiceNumberKey, sumFaults, taxesOf } from "./invoice";
import { type BilledPaper, type HoldReason, holdsOf, type OrderedLine, stairOf } from "./match";

const Q = 10_000;
const P = (euros: number) => unitPrice(Math.round(euros * 1_000_000));

const order = (line: OrderLineId, price: number, received: number, more: Partial<OrderedLine> = {}): OrderedLine => ({
  line,
  order: 1,
  kind: "stocked",
  ordered: received * Q,
  received: received * Q,
  invoiced: 0,
  price: P(price),
  standing: 0,
  discount: 0,
  orderDiscount: 0,
  taxRate: 2000,
  tolerance: { percent: null, amount: null },
  ...more,
});
const line = (orderLine: OrderLineId, position: number, quantity: number, price: number): InvoicedLine => ({
  position,
  orderLine,
  quantity: quantity * Q,
  price: P(price),
  standing: 0,
  discount: 0,
  net: lineNet(quantity * Q, P(price), 0, 0, "EUR").minor,
  taxRate: 2000,
});
const paperOf = (lines: InvoicedLine[], more: Partial<BilledPaper> = {}): BilledPaper => {
  const taxes = taxesOf({ lines, allowances: more.allowances ?? [] });
  const total = taxes.reduce((a, t) => a + t.base + t.tax, 0);
  return { lines, allowances: [], taxes, total, currency: "EUR", ...more };
};
const by = (...all: OrderedLine[]) => new Map(all.map((o) => [o.line, o]));

const ORDERED = by(order(1, 624, 4, { ordered: 5 * Q }), order(2, 212.4, 3), order(3, 95, 1, { kind: "charge" }));
const EXAMPLE = paperOf([line(1, 1, 5, 617.5), line(2, 2, 3, 212.4), line(3, 3, 1, 95)]);

describe("the example of the design", () => {
  it("takes 709.80 apart: one drum, the price, the tax", () => {
    expect(EXAMPLE.total).toBe(4_583_64);
    expect(stairOf(EXAMPLE, ORDERED)).toEqual({
      expected: 3_873_84,
      steps: [
        { cause: "quantity", position: 1, minor: 624_00, quantity: Q },
        { cause: "price", position: 1, minor: -32_50, quantity: 0 },
        { cause: "tax", position: null, minor: 118_30, quantity: 0 },
      ],
      invoiced: 4_583_64,
    });
  });
  it("is held by the dock for one drum, and not for a price below the order's", () => {
    expect(holdsOf(EXAMPLE, ORDERED)).toEqual([{ reason: "quantity", position: 1, beyond: Q }]);
  });
});

describe("what is held", () => {
  const reasons = (paper: BilledPaper, ordered = ORDERED): HoldReason[] => holdsOf(paper, ordered).map((h) => h.reason);
  it("is a price beyond its tolerance: percent and amount, the smaller", () => {
    const dearer = (price: number, tolerance: OrderedLine["tolerance"]) =>
      reasons(paperOf([line(1, 1, 4, price)]), by(order(1, 624, 4, { tolerance })));
    expect(dearer(624.01, { percent: null, amount: null })).toEqual(["price"]);
    // 1 % of 2,496.00 is 24.96.
    expect(dearer(630.24, { percent: 100, amount: null })).toEqual([]);
    expect(dearer(630.25, { percent: 100, amount: null })).toEqual(["price"]);
    expect(dearer(630.24, { percent: 100, amount: 20_00 })).toEqual(["price"]);
    expect(dearer(629, { percent: 100, amount: 20_00 })).toEqual([]);
  });
  it("is a charge above the order's, another tax rate, and what no order has", () => {
    expect(reasons(paperOf([line(3, 1, 1, 96)]))).toEqual(["charge"]);
    expect(reasons(paperOf([{ ...line(2, 1, 3, 212.4), taxRate: 1000 }]))).toEqual(["tax"]);
    expect(reasons(paperOf([{ ...line(2, 1, 1, 40), orderLine: null }]))).toEqual(["other"]);
  });
  it("is more than came over two lines of one order line, in their order", () => {
    expect(holdsOf(paperOf([line(1, 1, 3, 624), line(1, 2, 2, 624)]), ORDERED)).toEqual([
      { reason: "quantity", position: 2, beyond: Q },
    ]);
  });
  it("is a paper that does not add up", () => {
    expect(holdsOf({ ...EXAMPLE, total: EXAMPLE.total + 1 }, ORDERED)).toContainEqual({
      reason: "sums",
      position: null,
      beyond: 1,
    });
  });
  it("is all of it where the invoice comes first", () => {
    const first = by(order(1, 624, 4, { received: 0 }));
    const paper = paperOf([line(1, 1, 4, 624)]);
    expect(holdsOf(paper, first)).toEqual([{ reason: "quantity", position: 1, beyond: 4 * Q }]);
    expect(stairOf(paper, first).expected).toBe(0);
  });
});

describe("the sums of a paper", () => {
  it("name what does not add up, with both figures", () => {
    const good = { lines: EXAMPLE.lines, allowances: [{ rate: 2000, minor: 20_00 }] };
    const taxes = taxesOf(good);
    const total = taxes.reduce((a, t) => a + t.base + t.tax, 0);
    expect(sumFaults({ ...good, taxes, total })).toEqual([]);
    expect(sumFaults({ ...good, taxes: [{ ...taxes[0]!, tax: taxes[0]!.tax + 2 }], total: total + 2 })).toEqual([
      { what: "tax", rate: 2000, stated: taxes[0]!.tax + 2, worked: taxes[0]!.tax },
    ]);
    expect(
      sumFaults({ ...good, taxes: [{ ...taxes[0]!, rate: 1900, base: 0, tax: 0 }], total }).map((f) => f.what),
    ).toEqual(["rate", "total"]);
  });
  it("compare numbers by what is written, not how", () => {
    for (const same of ["RE-0042", "re 42", "RE–42", "Re-00042", "re\u00AD42"])
      expect(invoiceNumberKey(same)).toBe("RE42");
    expect(invoiceNumberKey("RE-1002")).not.toBe(invoiceNumberKey("RE-12"));
    expect(invoiceNumberKey("4-007")).not.toBe(invoiceNumberKey("47"));
    expect(invoiceNumberKey("000")).toBe("0");
  });
});

/** An invoice of up to six lines of two orders with anything wrong that can be. */
const anything = fc.record({
  rows: fc.array(
    fc.record({
      order: fc.integer({ min: 1, max: 2 }),
      charge: fc.boolean(),
      received: fc.integer({ min: 0, max: 200 * Q }),
      before: fc.integer({ min: 0, max: 100 * Q }),
      quantity: fc.integer({ min: 1, max: 250 * Q }),
      price: fc.integer({ min: 0, max: 2_000_000_000 }),
      theirs: fc.integer({ min: 0, max: 2_000_000_000 }),
      discounts: fc.array(fc.integer({ min: 0, max: 10_000 }), { minLength: 4, maxLength: 4 }),
      off: fc.integer({ min: -3, max: 3 }),
      rates: fc.array(fc.constantFrom(0, 700, 1900, 2000), { minLength: 2, maxLength: 2 }),
      known: fc.boolean(),
      again: fc.boolean(),
    }),
    { minLength: 1, maxLength: 6 },
  ),
  whole: fc.array(fc.integer({ min: 0, max: 3_000 }), { minLength: 2, maxLength: 2 }),
  allowance: fc.integer({ min: 0, max: 50_000 }),
  taxOff: fc.integer({ min: -5, max: 5 }),
  off: fc.integer({ min: -200, max: 200 }),
  currency: fc.constantFrom("EUR", "JPY", "KWD"),
});

describe("the stair", () => {
  it("adds up to the cent, whatever the invoice", () => {
    fc.assert(
      fc.property(anything, ({ rows, whole, allowance, taxOff, off, currency }) => {
        const ordered = new Map<OrderLineId, OrderedLine>();
        const lines: InvoicedLine[] = [];
        rows.forEach((r, i) => {
          const id = i + 1;
          const [standing, discount, theirStanding, theirDiscount] = r.discounts;
          if (r.known)
            ordered.set(
              id,
              order(id, 0, 0, {
                order: r.order,
                kind: r.charge ? "charge" : "stocked",
                received: r.received,
                invoiced: r.before,
                price: unitPrice(r.price),
                standing: standing!,
                discount: discount!,
                orderDiscount: whole[r.order - 1]!,
                taxRate: r.rates[0]!,
              }),
            );
          for (const more of r.again ? [0, 1] : [0]) {
            const price = unitPrice(r.theirs + more);
            const net = lineNet(r.quantity, price, theirStanding!, theirDiscount!, currency).minor + r.off;
            lines.push({
              position: lines.length + 1,
              orderLine: r.known ? id : null,
              quantity: r.quantity,
              price,
              standing: theirStanding!,
              discount: theirDiscount!,
              net,
              taxRate: r.rates[1]!,
            });
          }
        });
        const allowances = allowance ? [{ rate: lines[0]!.taxRate, minor: allowance }] : [];
        const taxes = taxesOf({ lines, allowances }).map((t, i) => (i === 0 ? { ...t, tax: t.tax + taxOff } : t));
        const total = taxes.reduce((a, t) => a + t.base + t.tax, off);
        const stair = stairOf({ lines, allowances, taxes, total, currency }, ordered);
        expect(stair.steps.reduce((a, s) => a + s.minor, stair.expected)).toBe(total);
        expect(stair.invoiced).toBe(total);
        expect(stair.steps.every((s) => s.minor !== 0)).toBe(true);
      }),
      { numRuns: 400 },
    );
  });
});
