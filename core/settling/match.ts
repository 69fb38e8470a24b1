import type { OrderLineId } from "../ids";
import { isOneOf } from "../keys";
import { Big, safe } from "../numbers/decimal";
import { type BasisPoints, lineNet, money, type UnitPrice } from "../numbers/money";
import type { LineKind } from "../orders/kinds";
import { totals } from "../orders/totals";
import { basesOf, type InvoicedLine, type InvoiceSums, type SumFault, sumFaults, taxOn } from "./invoice";

/** A line of an order as an invoice is held against it; quantities in purchase units, ten-thousandths. */
export interface OrderedLine {
  line: OrderLineId;
  order: number;
  kind: LineKind;
  ordered: number;
  /** What was taken in and not undone; of a charge all of it: nobody counts it in. */
  received: number;
  /** What other invoices that matched bill already. */
  invoiced: number;
  price: UnitPrice;
  standing: BasisPoints;
  discount: BasisPoints;
  /** Taken off the whole order. */
  orderDiscount: BasisPoints;
  taxRate: BasisPoints;
  /** How far its price may lie above the order's: hundredths of a percent, and minor units of the invoice's currency for the line; both set: the smaller counts. */
  tolerance: { percent: number | null; amount: number | null };
}

/** What is received and not invoiced: what this paper may bill. */
export const billable = (o: Pick<OrderedLine, "received" | "invoiced">): number => Math.max(0, o.received - o.invoiced);

/** Why an invoice is held. */
export const HOLDS = ["quantity", "price", "charge", "tax", "sums", "other"] as const;
export type HoldReason = (typeof HOLDS)[number];
/** Whose turn a reason is. */
export const TURNS = ["buyer", "dock", "supplier"] as const;
export type Turn = (typeof TURNS)[number];
/** Whose turn it is, each once, in a fixed order. */
export const turnsIn = (turn: string): Turn[] => turn.split(",").filter((t) => isOneOf(TURNS, t));

export const TURN_OF: Record<HoldReason, Turn> = {
  quantity: "dock",
  price: "buyer",
  charge: "buyer",
  tax: "supplier",
  sums: "supplier",
  other: "buyer",
};

export interface Hold {
  reason: HoldReason;
  /** The line it is about; null: the whole paper. */
  position: number | null;
  /** What is beyond: purchase units for a quantity, else minor units of the invoice's currency. */
  beyond: number;
}

interface Priced {
  price: UnitPrice;
  standing: BasisPoints;
  discount: BasisPoints;
}
const netOf = (quantity: number, l: Priced, currency: string) =>
  lineNet(quantity, l.price, l.standing, l.discount, currency).minor;

/** What the order would have this line cost, for so much of it. */
export const orderedNet = (o: Priced, quantity: number, currency: string) => netOf(quantity, o, currency);

/** How far a line may cost more than ordered. Minor units of the invoice's currency. */
export function priceSpare(o: OrderedLine, quantity: number, currency: string): number {
  const { percent, amount } = o.tolerance;
  const net = orderedNet(o, quantity, currency);
  const part =
    percent === null ? null : Number(new Big(net).times(percent).div(10_000).round(0, Big.roundDown).toFixed(0));
  if (part === null) return amount ?? 0;
  return amount === null ? part : Math.min(part, amount);
}

/** What is held against one line: quantity beyond what came, price or charge beyond tolerance, another tax rate. */
function lineHolds(l: InvoicedLine, o: OrderedLine, currency: string): Hold[] {
  const holds: Hold[] = [];
  const beyond = l.quantity - billable(o);
  if (beyond > 0) holds.push({ reason: "quantity", position: l.position, beyond });
  const more = l.net - orderedNet(o, l.quantity, currency);
  if (more > priceSpare(o, l.quantity, currency))
    holds.push({ reason: o.kind === "charge" ? "charge" : "price", position: l.position, beyond: more });
  if (l.taxRate !== o.taxRate) holds.push({ reason: "tax", position: l.position, beyond: 0 });
  return holds;
}

export interface BilledPaper extends InvoiceSums {
  lines: readonly InvoicedLine[];
  currency: string;
}

/**
 * Why a paper does not match (domain-goods §14). Several lines of one order line share what was received, in their order;
 * what costs less than ordered is never held.
 */
export function holdsOf(paper: BilledPaper, ordered: ReadonlyMap<OrderLineId, OrderedLine>): Hold[] {
  const before = new Map<OrderLineId, number>();
  const holds: Hold[] = [];
  for (const l of paper.lines) {
    const o = l.orderLine === null ? undefined : ordered.get(l.orderLine);
    if (l.orderLine === null || !o) {
      holds.push({ reason: "other", position: l.position, beyond: l.net });
      continue;
    }
    const taken = before.get(l.orderLine) ?? 0;
    before.set(l.orderLine, taken + l.quantity);
    holds.push(...lineHolds(l, { ...o, invoiced: o.invoiced + taken }, paper.currency));
  }
  const faults: SumFault[] = sumFaults(paper);
  if (faults.length) holds.push({ reason: "sums", position: null, beyond: faults[0]!.stated - faults[0]!.worked });
  return holds;
}

/** What causes a difference between what was expected and what they ask. */
export const CAUSES = ["quantity", "price", "discount", "charge", "other", "tax", "rounding"] as const;
export type Cause = (typeof CAUSES)[number];

/** One step of the stair; minor units of the invoice's currency, above zero where they ask more. */
export interface StairStep {
  cause: Cause;
  /** The line it comes from; null: the whole paper. */
  position: number | null;
  minor: number;
  /** Quantity steps: so much more, or less, than is expected. */
  quantity: number;
}

export interface Stair {
  /** With tax. */
  expected: number;
  steps: StairStep[];
  invoiced: number;
}

/** What one line adds to each cause. */
function lineSteps(l: InvoicedLine, o: OrderedLine | undefined, expected: number, currency: string): StairStep[] {
  const step = (cause: Cause, minor: number, quantity = 0): StairStep => ({
    cause,
    position: l.position,
    minor,
    quantity,
  });
  if (!o) return [step("other", l.net)];
  const agreed = { price: o.price, standing: o.standing, discount: o.discount };
  const was = netOf(expected, agreed, currency);
  const atOrder = netOf(l.quantity, agreed, currency);
  const atTheirs = netOf(l.quantity, { ...agreed, price: l.price }, currency);
  const discounted = netOf(l.quantity, l, currency);
  if (o.kind === "charge") return [step("charge", l.net - was)];
  return [
    step("quantity", atOrder - was, l.quantity - expected),
    step("price", atTheirs - atOrder),
    step("discount", discounted - atTheirs),
    step("rounding", l.net - discounted),
  ];
}

/** What was expected: received and not invoiced of the lines that the paper names, at order prices, by order. */
interface Expected {
  net: number;
  discount: number;
  bases: Map<BasisPoints, number>;
}

function expectedOf(rows: readonly { o: OrderedLine; quantity: number }[], currency: string): Expected {
  const bases = new Map<BasisPoints, number>();
  let net = 0;
  let discount = 0;
  for (const order of new Set(rows.map((r) => r.o.order))) {
    const of = rows.filter((r) => r.o.order === order);
    const t = totals(
      of.map((r) => ({ net: netOf(r.quantity, r.o, currency), taxRate: r.o.taxRate })),
      of[0]!.o.orderDiscount,
      currency,
    );
    net += t.lines.minor;
    discount += t.discount.minor;
    for (const p of t.taxes) bases.set(p.rate, (bases.get(p.rate) ?? 0) + p.base.minor);
  }
  return { net, discount, bases };
}

/**
 * From what was expected to what they ask, taken apart exactly (domain-goods §14): quantity at order price, price at
 * invoiced quantity, discounts, charges, what no order has, tax, rounding. Expected is what came of the lines that the
 * paper names and no invoice billed, whole charges with it, at the order's prices and rates.
 */
export function stairOf(paper: BilledPaper, ordered: ReadonlyMap<OrderLineId, OrderedLine>): Stair {
  const { currency } = paper;
  const left = new Map<OrderLineId, number>();
  const rows: { o: OrderedLine; quantity: number }[] = [];
  const steps: StairStep[] = [];
  const last = new Map(paper.lines.map((l, i) => [l.orderLine, i]));
  paper.lines.forEach((l, i) => {
    const o = l.orderLine === null ? undefined : ordered.get(l.orderLine);
    if (!o || l.orderLine === null) {
      steps.push(...lineSteps(l, undefined, 0, currency));
      return;
    }
    const open = left.get(l.orderLine) ?? billable(o);
    // The last of its lines is expected to bill all that is left.
    const quantity = last.get(l.orderLine) === i ? open : Math.min(open, l.quantity);
    left.set(l.orderLine, open - quantity);
    rows.push({ o, quantity });
    steps.push(...lineSteps(l, o, quantity, currency));
  });
  const expected = expectedOf(rows, currency);
  const allowance = paper.allowances.reduce((a, x) => safe(a + x.minor), 0);
  const whole = (cause: Cause, minor: number): StairStep => ({ cause, position: null, minor, quantity: 0 });
  steps.push(whole("discount", expected.discount - allowance));
  const taxExpected = [...expected.bases].reduce((a, [rate, base]) => safe(a + taxOn(base, rate)), 0);
  const taxStated = paper.taxes.reduce((a, t) => safe(a + t.tax), 0);
  steps.push(whole("tax", taxStated - taxExpected));
  const net = [...basesOf(paper).values()].reduce((a, b) => safe(a + b), 0);
  steps.push(whole("rounding", paper.total - net - taxStated));
  return {
    expected: money(expected.net - expected.discount + taxExpected, currency).minor,
    steps: steps.filter((s) => s.minor !== 0),
    invoiced: paper.total,
  };
}
