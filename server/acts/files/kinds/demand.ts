import type { ItemId, JobId, StoreId } from "../../../../core/ids";
import { notForJobs } from "../../../../core/needs/for-jobs";
import type { RowOf, RowsOf } from "../../../../exchange/csv/kinds";
import type { CheckedRow } from "../../../../exchange/csv/table";
import { sql } from "../../../db/open";
import { tieWhereSet } from "../../jobs/tie-demand";
import { type Loader, NO_ITEM, NO_JOB, NO_STORE } from "../loader";

/** What a job is called, whose it is and of which kind it is stand beside its lines, in one row at least. */
const OF_THE_JOB = ["name", "vessel", "kind"] as const;

export function jobs(l: Loader, rows: RowsOf<"jobs">): void {
  const touched = new Set<number>();
  const said = OF_THE_JOB.map((column) => ({ column, of: l.across(rows, ["job"], column) }));
  const ids = new Map<string, number>();
  for (const row of l.each(rows)) {
    const item = l.find(row, "item", "item", NO_ITEM);
    const store = l.find(row, "store", "store", NO_STORE);
    if (l.twice(row, "job", "item", "store", "due") || item === null || store === null) continue;
    const v = row.values;
    const kind = sql<{ kind: string }>(l.db, "SELECT kind FROM item WHERE id = ?").get(item)!.kind;
    const why = notForJobs(kind);
    if (why) {
      l.fault(row, "item", why);
      continue;
    }
    let id = ids.get(v.job.toLowerCase());
    if (id === undefined) {
      l.keep(
        row,
        "job",
        { code: v.job },
        Object.fromEntries(said.map(({ column, of }) => [column, [column, of(row)]])),
      );
      id = sql<{ id: JobId }>(l.db, "SELECT id FROM job WHERE code = ?").get(v.job)!.id;
      ids.set(v.job.toLowerCase(), id);
    }
    keepPart(
      l,
      row,
      "job_demand",
      { job: id, item, store, due: v.due },
      "issued",
      "More was issued than the job asks for.",
    );
    touched.add(id);
  }
  if (l.faults.length === 0) for (const id of touched) tieWhereSet(l.db, l.desk, id);
}

/** What jobs give back to stock. */
export function outputs(l: Loader, rows: RowsOf<"outputs">): void {
  for (const row of l.each(rows)) {
    const job = l.find(row, "job", "job", NO_JOB);
    const item = l.find(row, "item", "item", NO_ITEM);
    const store = l.find(row, "store", "store", NO_STORE);
    if (l.twice(row, "job", "item", "store", "due") || job === null || item === null || store === null) continue;
    const { due } = row.values;
    keepPart(l, row, "job_output", { job, item, store, due }, "given", "More was given back than the job should give.");
  }
}

/** A line of a job with how much of it is done, which is never more than the whole. */
function keepPart(
  l: Loader,
  row: CheckedRow<RowOf<"jobs">> | CheckedRow<RowOf<"outputs">>,
  table: "job_demand" | "job_output",
  key: { job: JobId; item: ItemId; store: StoreId; due: string },
  part: "issued" | "given",
  tooMuch: string,
): void {
  const { quantity } = row.values;
  const said = "issued" in row.values ? row.values.issued : row.values.given;
  const known = l.given.has(part)
    ? undefined
    : sql<{ part: number }>(
        l.db,
        `SELECT ${part} AS part FROM ${table} WHERE job = @job AND item = @item AND store = @store AND due = @due`,
      ).get(key)?.part;
  if ((known ?? said) > quantity) l.fault(row, l.given.has(part) ? part : "quantity", tooMuch);
  else l.keep(row, table, { ...key }, { quantity: ["quantity", quantity], [part]: [part, said] });
}
