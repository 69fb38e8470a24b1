import { addDays, type Day, laterOf } from "../../../core/calendar/day";
import type { ItemId, OrderId, OrderLineId, StoreId, SupplierId } from "../../../core/ids";
import { expect, type Level, project, type Stir } from "../../../core/needs/projection";
import { Big, roundToInteger } from "../../../core/numbers/decimal";
import type { UnitPrice } from "../../../core/numbers/money";
import { costSum } from "../../../core/orders/charges";
import type { Sum } from "../../../core/sums/sum";
import { type Db, sql } from "../../db/open";
import { usualPlan } from "../needs/needs";
import { groundOf, readPair } from "../needs/plan";
import { pricePerStockUnit } from "../needs/slip";
import { costLines, orderName, readOrderHead, readOrderLines } from "./order";

/** A price that was paid once. */
export interface Paid {
  order: OrderId;
  name: string;
  supplier: string;
  /** Paid to this order's supplier. */
  own: boolean;
  day: Day;
  price: UnitPrice;
  currency: string;
  unit: string;
  quantity: number;
  /** For one stock unit in home currency, after discounts, in millionths: what can be compared. */
  home: number | null;
}

export interface LineSlip {
  line: OrderLineId;
  paid: Paid[];
  stockUnit: string | null;
  projection: { levels: Level[]; stirs: Stir[]; last: Day; reorderPoint: number } | null;
  /** Where charges are spread over the goods. */
  cost: Sum | null;
}

interface PaidRow extends Omit<Paid, "name" | "own" | "home"> {
  number: string | null;
  supplierId: number;
  factor: number;
  standing: number;
  discount: number;
  rate: number | null;
}

/** What was paid for an item before, the last first. */
export function readPaid(db: Db, item: ItemId, supplier: SupplierId, but: number): Paid[] {
  return sql<PaidRow>(
    db,
    `SELECT o.id AS "order", o.number, s.name AS supplier, s.id AS supplierId, substr(o.placed, 1, 10) AS day, l.price, o.currency, u.name AS unit, l.quantity, l.factor,
            l.standing_discount AS standing, l.discount, o.rate
     FROM order_line l JOIN purchase_order o ON o.id = l.purchase_order JOIN supplier s ON s.id = o.supplier JOIN unit u ON u.code = l.unit
     WHERE l.item = ? AND o.placed IS NOT NULL AND o.kind <> 'blanket' AND l.price IS NOT NULL AND o.id <> ? ORDER BY l.id DESC LIMIT 24`,
  )
    .all(item, but)
    .map(({ number, supplierId, factor, standing, discount, rate, ...p }) => ({
      ...p,
      name: orderName(p.order, number),
      own: supplierId === supplier,
      home: rate === null ? null : inHomeCurrency(pricePerStockUnit(p.price, factor, standing), discount, rate),
    }));
}

/** A price for one unit, less a discount, in home currency; millionths. */
export const inHomeCurrency = (perUnit: number, discount: number, rate: number): number =>
  roundToInteger(
    new Big(perUnit)
      .times(10_000 - discount)
      .times(rate)
      .div(10_000)
      .div(1_000_000),
  );

/** What stands beside a line while it is written: prices paid, and the item's stock to come with this line in it. */
export function readLineSlip(db: Db, order: OrderId, line: OrderLineId, today: Day, hour: number): LineSlip | null {
  const head = readOrderHead(db, order);
  if (!head) return null;
  const lines = readOrderLines(db, order, head.currency);
  const here = lines.find((l) => l.id === line);
  if (!here) return null;
  const spread = lines.some((l) => l.kind === "charge" && l.spread !== "expense");
  const goods = here.kind === "stocked" || here.kind === "not stocked";
  return {
    line,
    paid: here.item === null ? [] : readPaid(db, here.item, head.supplier, order),
    stockUnit: here.stockUnit,
    projection:
      here.kind === "stocked" && here.item !== null
        ? projected(db, here.item, here.store, here.required, today, hour)
        : null,
    cost: spread && goods ? costSum(costLines([here])[0]!, costLines(lines), here.quantity, head.currency) : null,
  };
}

function projected(
  db: Db,
  item: ItemId,
  store: StoreId,
  required: Day,
  today: Day,
  hour: number,
): LineSlip["projection"] {
  const g = groundOf(db, usualPlan(today, hour), false);
  const read = readPair(g, { item, store });
  if (!read) return null;
  const stirs = expect(read.stirs, today, today);
  const last = addDays(laterOf(required, today), 14);
  return {
    levels: project(read.position.onHand, stirs, today, last),
    stirs: stirs.filter((s) => s.day <= last),
    last,
    reorderPoint: read.position.settings.reorderPoint,
  };
}
