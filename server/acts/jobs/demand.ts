import type { DemandId, ItemId, JobId, StoreId } from "../../../core/ids";
import { type Db, sql } from "../../db/open";

/** A job wants so much less of an item: what is due first, of this store before others. */
export function wantLess(db: Db, job: JobId, item: ItemId, store: StoreId, quantity: number): void {
  let left = quantity;
  for (const d of demandsOf(db, job, item, store)) {
    const part = Math.min(left, d.quantity - d.issued);
    if (part > 0) sql(db, "UPDATE job_demand SET issued = issued + ? WHERE id = ?").run(part, d.id);
    left -= Math.max(0, part);
  }
}

const demandsOf = (db: Db, job: JobId, item: ItemId, store: StoreId) =>
  sql<{ id: DemandId; quantity: number; issued: number }>(
    db,
    "SELECT id, quantity, issued FROM job_demand WHERE job = ? AND item = ? ORDER BY store <> ?, due, id",
  ).all(job, item, store);

/** A job that is open wants so much more of an item: what is due last, of this store before others. */
export function wantAgain(db: Db, job: JobId, item: ItemId, store: StoreId, quantity: number): void {
  let left = quantity;
  const demands = demandsOf(db, job, item, store);
  for (const d of [...demands].reverse()) {
    const part = Math.min(left, d.issued);
    if (part > 0) sql(db, "UPDATE job_demand SET issued = issued - ? WHERE id = ?").run(part, d.id);
    left -= part;
  }
}
