import type { OrderLineId, RequisitionId } from "../../../core/ids";
import { type Factor, factorOf, ONE, type PurchaseQty, purchase, toStock } from "../../../core/numbers/quantity";
import { type Db, sql } from "../../db/open";

interface TieRow {
  at: number;
  source: string;
  requisition: RequisitionId | null;
  demand: number | null;
  noted: number | null;
  wanted: number;
}

/** Remembers what an order line is for: so much, in stock units, of the need of a key. */
export function tieTo(db: Db, line: OrderLineId, key: string, wanted: number): void {
  const [kind, id] = key.split(":");
  const source = ({ r: "requisition", j: "job", n: "noted" } as const)[kind ?? ""] ?? "reorder";
  sql(
    db,
    "INSERT INTO need_tie (order_line, source, requisition_line, job_demand, noted_need, quantity, wanted) VALUES (?, ?, ?, ?, ?, ?, ?)",
  ).run(line, source, kind === "r" ? id : null, kind === "j" ? id : null, kind === "n" ? id : null, wanted, wanted);
}

/**
 * What a line covers of its needs follows its quantity: cut, the rest goes back to the pool; raised again, it takes back
 * what nobody else has taken meanwhile.
 */
export function refitTies(db: Db, line: OrderLineId): void {
  const row = sql<{ quantity: PurchaseQty; factor: Factor }>(
    db,
    "SELECT quantity, factor FROM order_line WHERE id = ?",
  ).get(line)!;
  let left: number = toStock(row.quantity, row.factor);
  const ties = sql<TieRow>(
    db,
    `SELECT rowid AS at, source, requisition_line AS requisition, job_demand AS demand, noted_need AS noted, wanted
     FROM need_tie WHERE order_line = ? ORDER BY rowid`,
  ).all(line);
  const set = sql(db, "UPDATE need_tie SET quantity = ? WHERE rowid = ? AND quantity <> ?");
  for (const t of ties) {
    const quantity = Math.max(0, Math.min(t.wanted, left, openOf(db, t)));
    set.run(quantity, t.at, quantity);
    left -= quantity;
  }
}

/** What is left of a tie's need beside what other lines cover. */
function openOf(db: Db, t: TieRow): number {
  const one = (text: string, id: number) => sql<{ n: number }>(db, text).get(t.at, id)?.n ?? 0;
  if (t.requisition !== null)
    return one(
      `SELECT coalesce(q.decided, q.quantity, ${ONE}) - (SELECT coalesce(sum(t.quantity), 0) FROM need_tie t WHERE t.requisition_line = q.id AND t.rowid <> ?) AS n
       FROM requisition_line q WHERE q.id = ?`,
      t.requisition,
    );
  if (t.demand !== null)
    return one(
      `SELECT d.tied - (SELECT coalesce(sum(t.quantity), 0) FROM need_tie t WHERE t.job_demand = d.id AND t.rowid <> ?) AS n FROM job_demand d WHERE d.id = ?`,
      t.demand,
    );
  if (t.noted !== null)
    return one(
      `SELECT n.quantity - (SELECT coalesce(sum(t.quantity), 0) FROM need_tie t WHERE t.noted_need = n.id AND t.rowid <> ?) AS n FROM noted_need n WHERE n.id = ?`,
      t.noted,
    );
  return t.wanted;
}

/** The needs behind a line keep what has come, in their order, and are open again for the rest. */
export function openNeedsAgain(db: Db, line: OrderLineId, received: number, factor: number): void {
  let left: number = toStock(purchase(received), factorOf(factor));
  const ties = sql<{ at: number; quantity: number }>(
    db,
    "SELECT rowid AS at, quantity FROM need_tie WHERE order_line = ? ORDER BY rowid",
  ).all(line);
  for (const t of ties) {
    const kept = Math.min(t.quantity, left);
    sql(db, "UPDATE need_tie SET quantity = ?, wanted = ? WHERE rowid = ?").run(kept, kept, t.at);
    left -= kept;
  }
}
