import type { DemandId, ItemId, JobId, OrderId, OrderLineId, ReceiptId, StoreId } from "../../../core/ids";
import { factorOf, purchase, toStock } from "../../../core/numbers/quantity";
import { comesWhole } from "../../../core/numbers/units";
import { type HeldByJob, mostToUndo, type StillThere } from "../../../core/receiving/undo";
import { type Db, sql } from "../../db/open";

/** A tie of goods that came, in the order in which the units of its line go to their needs. Stock units. */
interface CameFor {
  line: OrderLineId;
  received: number;
  factor: number;
  quantity: number;
  demand: DemandId | null;
  job: JobId | null;
  name: string | null;
  /** What the job still wants of it. */
  open: number;
}

/**
 * What jobs hold of an item at a store: what came on orders written for them and was not issued yet. `back` is taken back
 * of one line, purchase units: its own needs wait for it again.
 */
export function heldByJobs(
  db: Db,
  item: ItemId,
  store: StoreId,
  back: { line: OrderLineId; quantity: number } | null,
): HeldByJob[] {
  const rows = sql<CameFor>(
    db,
    `SELECT l.id AS line, l.received, l.factor, t.quantity, d.id AS demand, d.job, j.kind || ' ' || j.code AS name, coalesce(d.quantity - d.issued, 0) AS open
     FROM order_line l JOIN need_tie t ON t.order_line = l.id LEFT JOIN job_demand d ON d.id = t.job_demand LEFT JOIN job j ON j.id = d.job AND j.closed IS NULL
     WHERE l.item = @item AND l.store = @store AND l.received > 0
       AND EXISTS (SELECT 1 FROM need_tie o WHERE o.order_line = l.id AND o.job_demand IS NOT NULL) ORDER BY l.id, t.rowid`,
  ).all({ item, store });
  const held = new Map<DemandId, HeldByJob & { open: number }>();
  let line: OrderLineId | null = null;
  let left = 0;
  for (const r of rows) {
    if (r.line !== line) {
      const received = r.received - (back?.line === r.line ? back.quantity : 0);
      left = toStock(purchase(Math.max(0, received)), factorOf(r.factor));
      line = r.line;
    }
    const part = Math.min(r.quantity, left);
    left -= part;
    if (r.demand === null || r.job === null || r.name === null || part <= 0) continue;
    const of = held.get(r.demand) ?? { demand: r.demand, job: r.job, name: r.name, quantity: 0, open: r.open };
    held.set(r.demand, { ...of, quantity: Math.min(of.open, of.quantity + part) });
  }
  return [...held.values()].filter((h) => h.quantity > 0).map(({ open: _, ...h }) => h);
}

/** A line of a receipt as it may be undone. Quantities in purchase units unless said. */
export interface UndoLine {
  id: number;
  line: OrderLineId;
  item: ItemId | null;
  store: StoreId;
  name: string;
  code: string | null;
  unit: string;
  unitCode: string;
  stockUnit: string;
  factor: number;
  lot: number | null;
  lotCode: string | null;
  quantity: number;
  undone: number;
  homeValue: number;
  value: number;
  account: string | null;
  /** The movement by which it came into stock; null where it never lay there. */
  movement: number | null;
}

export const readUndoLines = (db: Db, receipt: ReceiptId): UndoLine[] =>
  sql<UndoLine>(
    db,
    `SELECT x.id, x.order_line AS line, l.item, r.store, coalesce(i.name, l.words) AS name, i.code, u.name AS unit, l.unit AS unitCode,
            coalesce(su.name, u.name) AS stockUnit, l.factor, x.lot, k.code AS lotCode, x.quantity, x.undone, x.home_value AS homeValue, x.value, l.account,
            (SELECT m.id FROM movement m WHERE m.receipt_line = x.id AND m.kind = 'receipt' LIMIT 1) AS movement
     FROM receipt_line_now x JOIN receipt r ON r.id = x.receipt JOIN order_line l ON l.id = x.order_line JOIN unit u ON u.code = l.unit
     LEFT JOIN item i ON i.id = l.item LEFT JOIN unit su ON su.code = i.unit LEFT JOIN lot k ON k.id = x.lot WHERE x.receipt = ? ORDER BY x.id`,
  ).all(receipt);

/** What of a received line lies there still, once so much of it is taken back; purchase units. */
export function stillThere(db: Db, x: UndoLine, quantity: number): StillThere {
  const { there, onHand } = sql<{ there: number; onHand: number }>(
    db,
    `SELECT coalesce(sum(iif(lot = coalesce(@lot, 0), max(quantity, 0), 0)), 0) AS there, coalesce(sum(quantity), 0) AS onHand
     FROM stock_balance WHERE item = @item AND store = @store AND owner = 0`,
  ).get({ lot: x.lot, item: x.item, store: x.store })!;
  return { there, onHand, held: heldByJobs(db, x.item!, x.store, { line: x.line, quantity }) };
}

/** How much of a line may be undone, and who holds what of it. */
export interface Undoable {
  id: number;
  name: string;
  code: string | null;
  lot: string | null;
  unit: string;
  stockUnit: string;
  left: number;
  most: number;
  /** Stock units that lie there of it; null where it never lay in stock. */
  there: number | null;
  held: HeldByJob[];
}

/** The lines of a receipt that are not undone whole, each with how much of it may be. It holds no price. */
export function readUndoable(db: Db, receipt: ReceiptId): Undoable[] {
  return readUndoLines(db, receipt)
    .filter((x) => x.undone < x.quantity)
    .map((x) => {
      const left = x.quantity - x.undone;
      const of = { id: x.id, name: x.name, code: x.code, lot: x.lotCode, unit: x.unit, stockUnit: x.stockUnit, left };
      if (x.movement === null) return { ...of, most: left, there: null, held: [] };
      const line = { left, factor: x.factor, whole: comesWhole(x.unitCode) };
      // The less is taken back, the more its own needs hold of it: from above down to what fits.
      let most = left;
      let there = stillThere(db, x, most);
      for (let i = 0; i < 20; i++) {
        const next = mostToUndo(there, line);
        if (next >= most) break;
        most = next;
        there = stillThere(db, x, most);
      }
      return { ...of, most, there: there.there, held: [...there.held] };
    });
}

/** What was undone of a receipt, by paper. It holds no price. */
export interface UndoneRow {
  id: number;
  number: string;
  day: string;
  person: string;
  reason: string;
  lines: { name: string; unit: string; quantity: number }[];
}

export function undosOf(db: Db, receipt: ReceiptId): UndoneRow[] {
  const lines = sql<{ of: number; name: string; unit: string; quantity: number }>(
    db,
    `SELECT n.receipt_undo AS "of", coalesce(i.name, l.words) AS name, u.name AS unit, n.quantity FROM receipt_line x JOIN receipt_undo_line n ON n.receipt_line = x.id
     JOIN order_line l ON l.id = x.order_line JOIN unit u ON u.code = l.unit LEFT JOIN item i ON i.id = l.item WHERE x.receipt = ? ORDER BY n.id`,
  ).all(receipt);
  return sql<Omit<UndoneRow, "lines">>(
    db,
    "SELECT u.id, u.number, u.day, p.name AS person, u.reason FROM receipt_undo u JOIN person p ON p.id = u.person WHERE u.receipt = ? ORDER BY u.id",
  )
    .all(receipt)
    .map((u) => ({ ...u, lines: lines.filter((l) => l.of === u.id).map(({ of: _, ...l }) => l) }));
}

/** Where a receipt came from. */
export const receiptHead = (db: Db, id: ReceiptId) =>
  sql<{ number: string; order: OrderId; store: StoreId; storeName: string }>(
    db,
    `SELECT r.number, r.purchase_order AS "order", r.store, t.name AS storeName FROM receipt r JOIN store t ON t.id = r.store WHERE r.id = ?`,
  ).get(id);

/** What of an order line was taken in and not undone, and what of it invoices bill, with their numbers. */
export const billedOf = (db: Db, line: OrderLineId): { taken: number; invoiced: number; numbers: string } =>
  sql<{ taken: number; invoiced: number; numbers: string }>(
    db,
    `SELECT (SELECT coalesce(sum(x.quantity - x.undone), 0) FROM receipt_line_now x WHERE x.order_line = l.id) AS taken, l.invoiced,
            coalesce((SELECT group_concat(DISTINCT v.number) FROM invoice_line b JOIN invoice v ON v.id = b.invoice
                      WHERE b.order_line = l.id AND v.state NOT IN ('Held', 'Sent back', 'Taken off')), '') AS numbers
     FROM order_line l WHERE l.id = ?`,
  ).get(line)!;
