import type { OrderId } from "../../../core/ids";
import {
  type OrderMoments,
  type StopWait,
  WAITS,
  type WaitFigures,
  waited,
  waitFigures,
} from "../../../core/insight/stops";
import { type Db, sql } from "../../db/open";
import type { DaySpan } from "./record-facts";

export interface WaitingOrder extends OrderMoments {
  id: OrderId;
  number: string;
  supplier: string;
}

/** Orders that were written in some days, with when they reached each stop. Call-offs that write themselves are among them. */
const readMoments = (db: Db, span: DaySpan): WaitingOrder[] =>
  sql<WaitingOrder>(
    db,
    `SELECT o.id, coalesce(o.number, 'draft') AS number, s.name AS supplier, o.written, o.submitted, o.cleared, o.placed,
            nullif(min(coalesce((SELECT min(a.at) FROM answer a WHERE a.purchase_order = o.id), '9'),
                       coalesce((SELECT min(p.at) FROM order_line l JOIN promise p ON p.order_line = l.id WHERE l.purchase_order = o.id), '9')), '9') AS answered,
            (SELECT min(r.at) FROM receipt r WHERE r.purchase_order = o.id) AS came,
            (SELECT min(v.matched) FROM order_line l JOIN invoice_line b ON b.order_line = l.id JOIN invoice v ON v.id = b.invoice WHERE l.purchase_order = o.id) AS billed
     FROM purchase_order o JOIN supplier s ON s.id = o.supplier
     WHERE o.written >= @from AND o.written < date(@until, '+1 day') AND o.stage <> 'cancelled' AND o.kind NOT IN ('blanket', 'standing')`,
  ).all({ ...span });

export interface WaitRow {
  wait: StopWait;
  /** Null where no order got so far. */
  figures: WaitFigures | null;
  /** The slowest, with the minutes that each took. */
  slowest: { id: OrderId; number: string; supplier: string; minutes: number }[];
}
const MOST_SLOW = 30;

/** How long the orders of some days took from stop to stop, and which took longest. */
export function readWaits(db: Db, span: DaySpan): { orders: number; rows: WaitRow[] } {
  const orders = readMoments(db, span);
  return {
    orders: orders.length,
    rows: WAITS.map((wait) => ({
      wait,
      figures: waitFigures(orders, wait),
      slowest: orders
        .flatMap(({ id, number, supplier, ...o }) => {
          const minutes = waited(o, wait);
          return minutes === null ? [] : [{ id, number, supplier, minutes }];
        })
        .sort((a, b) => b.minutes - a.minutes || a.id - b.id)
        .slice(0, MOST_SLOW),
    })),
  };
}
