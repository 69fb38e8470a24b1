import type { Day } from "../../../core/calendar/day";
import type { OrderId, OrderLineId, StoreId } from "../../../core/ids";
import { type Db, sql } from "../../db/open";

/** Goods of a line that are on their way, of one lot: purchase units. */
export interface AnnouncedLine {
  line: OrderLineId;
  quantity: number;
  lot: string;
  expires: Day | null;
  pallet: string;
}

/** A load that its supplier announced and that is not counted in yet. */
export interface AnnouncedLoadRow {
  id: number;
  number: string;
  arrives: Day | null;
  packages: number | null;
  weight: number | null;
  note: string;
  lines: AnnouncedLine[];
}

/** What is announced of an order for one store, the earliest first. */
export function readAnnounced(db: Db, order: OrderId, store: StoreId): AnnouncedLoadRow[] {
  const rows = sql<Omit<AnnouncedLoadRow, "lines">>(
    db,
    "SELECT id, number, arrives, packages, weight, note FROM announced WHERE purchase_order = ? AND receipt IS NULL ORDER BY coalesce(arrives, issued), id",
  ).all(order);
  const lines = sql<AnnouncedLine>(
    db,
    `SELECT a.order_line AS line, a.quantity, a.lot, a.expires, a.pallet FROM announced_line a JOIN order_line l ON l.id = a.order_line
     WHERE a.announced = ? AND l.store = ? ORDER BY a.id`,
  );
  return rows.map((r) => ({ ...r, lines: lines.all(r.id, store) })).filter((r) => r.lines.length > 0);
}

/** Of which order a pallet is announced, at a store. */
export const orderOfPallet = (db: Db, store: StoreId, pallet: string): { order: OrderId; number: string } | null =>
  sql<{ order: OrderId; number: string }>(
    db,
    `SELECT o.id AS "order", o.number FROM announced_line a JOIN announced n ON n.id = a.announced JOIN order_line l ON l.id = a.order_line JOIN purchase_order o ON o.id = n.purchase_order
     WHERE a.pallet = ? AND l.store = ? AND n.receipt IS NULL LIMIT 1`,
  ).get(pallet, store) ?? null;

/** When the next load that is announced of an order should come to a store, and its number: by order and store. */
export const announcedByLoad = (db: Db): Map<string, { number: string; arrives: Day | null }> =>
  new Map(
    sql<{ order: OrderId; store: StoreId; number: string; arrives: Day | null }>(
      db,
      `SELECT n.purchase_order AS "order", l.store, n.number, n.arrives FROM announced n JOIN announced_line a ON a.announced = n.id JOIN order_line l ON l.id = a.order_line
       WHERE n.receipt IS NULL GROUP BY n.id, l.store ORDER BY coalesce(n.arrives, n.issued) DESC, n.id DESC`,
    )
      .all()
      .map((r) => [`${r.order} ${r.store}`, { number: r.number, arrives: r.arrives }]),
  );
