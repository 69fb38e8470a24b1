import type { Day } from "../../../core/calendar/day";
import type { OrderId, OrderLineId, SourcingId } from "../../../core/ids";
import { Big } from "../../../core/numbers/decimal";
import { exponent, lineNet, type UnitPrice } from "../../../core/numbers/money";
import { ONE, purchase, QTY_MOST } from "../../../core/numbers/quantity";
import { type BlanketLine, type Call, leftOf } from "../../../core/orders/blanket";
import type { Limit } from "../../../core/orders/kinds";
import type { OrderStage } from "../../../core/orders/status";
import type { BlanketPrice } from "../../../core/pricing/price";
import { type Db, sql } from "../../db/open";
import { orderName } from "./order";

interface CallRow {
  line: OrderLineId;
  order: OrderId;
  number: string | null;
  stage: OrderStage;
  day: Day;
  quantity: number;
  price: UnitPrice | null;
  standing: number;
  discount: number;
  currency: string;
}

/** What was drawn from a blanket line, the first first; what was cancelled or closed short is no call. */
export interface CallPaper extends Call {
  order: OrderId;
  line: OrderLineId;
  stage: OrderStage;
}

/** Call-offs of one blanket line. Drafts count too, so that two buyers never draw the same. */
export function readCalls(db: Db, blanketLine: number, but: number | null = null): CallPaper[] {
  return sql<CallRow>(
    db,
    `SELECT l.id AS line, o.id AS "order", o.number, o.stage, substr(coalesce(o.placed, o.written), 1, 10) AS day, l.quantity - l.closed_short AS quantity, l.price,
            l.standing_discount AS standing, l.discount, o.currency
     FROM order_line l JOIN purchase_order o ON o.id = l.purchase_order
     WHERE l.blanket_line = ? AND o.stage <> 'cancelled' AND o.kind <> 'standing' AND l.quantity > l.closed_short AND l.id IS NOT ? ORDER BY day, l.id`,
  )
    .all(blanketLine, but)
    .map((c) => ({
      order: c.order,
      line: c.line,
      stage: c.stage,
      day: c.day,
      quantity: c.quantity,
      value: c.price === null ? 0 : lineNet(c.quantity, c.price, c.standing, c.discount, c.currency).minor,
      label: `${orderName(c.order, c.number)}${c.stage === "draft" ? ", being written" : ""}`,
      href: `/orders/${c.order}`,
    }));
}

interface TermsRow {
  id: number;
  order: OrderId;
  number: string | null;
  limits: Limit;
  committed: number;
  committedValue: number | null;
  least: number;
  starts: Day;
  ends: Day;
  unit: string;
  currency: string;
  price: UnitPrice | null;
  standing: number;
  discount: number;
}

const TERMS = `
  SELECT l.id, b.id AS "order", b.number, l.limits, l.quantity AS committed, l.committed_value AS committedValue, l.least, b.starts, b.ends, u.name AS unit, b.currency,
         l.price, l.standing_discount AS standing, l.discount, coalesce((SELECT c.standing_discount FROM sourcing c WHERE c.id = l.sourcing), 0) AS recordStanding
  FROM purchase_order b CROSS JOIN order_line l ON l.purchase_order = b.id JOIN unit u ON u.code = l.unit
  WHERE b.kind = 'blanket'`;

const termsOf = (r: TermsRow): BlanketLine => ({ ...r, committedValue: r.committedValue ?? 0 });

/** What a blanket line promises; null where there is no such line. */
export function readBlanketLine(db: Db, line: OrderLineId): (BlanketLine & { order: OrderId; name: string }) | null {
  const row = sql<TermsRow & { recordStanding: number }>(db, `${TERMS} AND l.id = ?`).get(line);
  return row ? { ...termsOf(row), order: row.order, name: orderName(row.order, row.number) } : null;
}

/**
 * Blanket lines of a sourcing record from which something may be called off, the one that ends first before the others.
 * `but` leaves a line of an order out of what is called off already.
 */
export function readBlanketPrices(db: Db, sourcing: SourcingId): BlanketPrice[] {
  const rows = sql<TermsRow & { recordStanding: number }>(
    db,
    `${TERMS} AND b.placed IS NOT NULL AND b.stage NOT IN ('closed', 'cancelled') AND l.sourcing = ? AND l.price IS NOT NULL ORDER BY b.ends, l.id`,
  ).all(sourcing);
  return rows.flatMap((r): BlanketPrice[] => {
    const { left, leftValue } = leftOf(termsOf(r), readCalls(db, r.id));
    const byQuantity = r.limits === "value" ? Number.POSITIVE_INFINITY : left;
    const byValue = r.limits === "quantity" ? Number.POSITIVE_INFINITY : quantityWorth(leftValue, r);
    return [
      {
        order: orderName(r.order, r.number),
        line: r.id,
        price: r.price!,
        starts: r.starts,
        ends: r.ends,
        least: purchase(r.least),
        left: purchase(Math.max(0, Math.min(byQuantity, byValue))),
      },
    ];
  });
}

/** How much an amount still pays for at the price of a line, less the discounts of its record. */
function quantityWorth(minor: number, r: TermsRow & { recordStanding: number }): number {
  if (minor <= 0 || r.price === null) return 0;
  const one = new Big(r.price)
    .times(10_000 - r.recordStanding)
    .div(10_000)
    .div(1_000_000);
  if (one.lte(0)) return QTY_MOST;
  const quantity = new Big(minor).div(new Big(10).pow(exponent(r.currency))).div(one);
  return quantity.gt(QTY_MOST / ONE) ? QTY_MOST : Number(quantity.times(ONE).round(0, Big.roundDown).toFixed(0));
}

/** The same for every record that stands on a blanket order. */
export function readAllBlanketPrices(db: Db): Map<number, BlanketPrice[]> {
  const records = sql<{ sourcing: SourcingId }>(
    db,
    `SELECT DISTINCT l.sourcing FROM purchase_order b CROSS JOIN order_line l ON l.purchase_order = b.id
     WHERE b.kind = 'blanket' AND b.placed IS NOT NULL AND l.sourcing IS NOT NULL`,
  ).all();
  return new Map(records.map(({ sourcing }) => [sourcing, readBlanketPrices(db, sourcing)]));
}
