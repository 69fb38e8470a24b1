import type { CheckedRow } from "../../../../exchange/csv/table";
import { sql } from "../../../db/open";
import { tieWhereSet } from "../../jobs/tie-demand";
import { type Loader, NO_ITEM, NO_JOB, NO_STORE } from "../loader";

export function jobs(l: Loader, rows: CheckedRow[]): void {
  const touched = new Set<number>();
  for (const row of rows) {
    const item = l.find(row, "item", "item", NO_ITEM);
    const store = l.find(row, "store", "store", NO_STORE);
    if (l.twice(row, "job", "item", "store", "due") || item === null || store === null) continue;
    const v = row.values as { job: string; name: string; vessel: string; quantity: number; issued: number };
    if (v.issued > v.quantity) {
      l.fault(row, "issued", "More was issued than the job asks for.");
      continue;
    }
    sql(
      l.db,
      `INSERT INTO job (code, name, vessel, kind) VALUES (@job, @name, @vessel, @kind)
       ON CONFLICT (code) DO UPDATE SET name = iif(@name = '', name, @name), vessel = iif(@vessel = '', vessel, @vessel), kind = @kind`,
    ).run(row.values);
    const { id } = sql<{ id: number }>(l.db, "SELECT id FROM job WHERE code = ?").get(v.job)!;
    const key = { ...row.values, jobId: id, itemId: item, storeId: store };
    const there =
      sql(
        l.db,
        "SELECT 1 FROM job_demand WHERE job = @jobId AND item = @itemId AND store = @storeId AND due = @due",
      ).get(key) !== undefined;
    l.put(
      there,
      "INSERT INTO job_demand (job, item, store, due, quantity, issued) VALUES (@jobId, @itemId, @storeId, @due, @quantity, @issued)",
      "UPDATE job_demand SET quantity = @quantity, issued = @issued WHERE job = @jobId AND item = @itemId AND store = @storeId AND due = @due",
      key,
    );
    touched.add(id);
  }
  if (l.faults.length === 0) for (const id of touched) tieWhereSet(l.db, l.desk, id);
}

/** What jobs give back to stock. */
export function outputs(l: Loader, rows: CheckedRow[]): void {
  for (const row of rows) {
    const job = l.find(row, "job", "job", NO_JOB);
    const item = l.find(row, "item", "item", NO_ITEM);
    const store = l.find(row, "store", "store", NO_STORE);
    if (l.twice(row, "job", "item", "store", "due") || job === null || item === null || store === null) continue;
    const v = row.values as { quantity: number; given: number };
    if (v.given > v.quantity) {
      l.fault(row, "given", "More was given back than the job should give.");
      continue;
    }
    const key = { ...row.values, jobId: job, itemId: item, storeId: store };
    const there =
      sql(
        l.db,
        "SELECT 1 FROM job_output WHERE job = @jobId AND item = @itemId AND store = @storeId AND due = @due",
      ).get(key) !== undefined;
    l.put(
      there,
      "INSERT INTO job_output (job, item, store, due, quantity, given) VALUES (@jobId, @itemId, @storeId, @due, @quantity, @given)",
      "UPDATE job_output SET quantity = @quantity, given = @given WHERE job = @jobId AND item = @itemId AND store = @storeId AND due = @due",
      key,
    );
  }
}
