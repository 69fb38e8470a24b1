import type { Day } from "../../../core/calendar/day";
import type { OrderId } from "../../../core/ids";
import { type Db, sql } from "../../db/open";
import { type Borne, marksOf } from "./marks";

/** An order at a glance, beside a list. */
export interface OrderLook {
  marks: Borne[];
  lines: {
    id: number;
    words: string;
    kind: string;
    quantity: number;
    received: number;
    unit: string;
    late: boolean;
    promised: boolean;
  }[];
  more: number;
}

const MOST = 12;

export function readOrderLook(db: Db, order: OrderId, today: Day): OrderLook {
  const lines = sql<
    Omit<OrderLook["lines"][number], "late" | "promised"> & { due: Day; open: number; promised: Day | null }
  >(
    db,
    `SELECT l.id, l.words, l.kind, l.quantity, l.received, u.name AS unit, l.due, l.open, (SELECT max(s.promised) FROM order_schedule s WHERE s.order_line = l.id) AS promised
     FROM order_line l JOIN unit u ON u.code = l.unit WHERE l.purchase_order = ? ORDER BY l.position`,
  ).all(order);
  return {
    marks: marksOf(db, order),
    lines: lines
      .slice(0, MOST)
      .map(({ due, open, promised, ...l }) => ({ ...l, late: open === 1 && due < today, promised: promised !== null })),
    more: Math.max(0, lines.length - MOST),
  };
}
