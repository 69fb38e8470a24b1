import { z } from "zod";
import type { ItemId, JobId } from "../../../core/ids";
import { notForJobs } from "../../../core/needs/for-jobs";
import { type Db, sql } from "../../db/open";
import { checked, type Desk, type Done, done, once, type Problem, refuse, refuseAll } from "../desk";
import { DayField, Id, orNone, QuantityField, TickBox, text } from "../fields";
import { writeDirectOrders } from "./direct-orders";
import { tieWhereSet } from "./tie-demand";

const Line = z.object({ id: orNone(Id), item: orNone(Id), store: Id, due: DayField, quantity: QuantityField });
export const KeepJob = z.object({
  job: orNone(Id),
  code: text(40, 1, "A job needs a code.").refine((c) => /^\S*$/.test(c), "A code has no spaces."),
  name: text(120),
  vessel: text(60),
  kind: z.enum(["job", "customer order"], "Choose job or customer order."),
  /** What it lacks is shipped to it by whoever sells it, and passes our stores by. */
  direct: TickBox,
  address: text(300).default(""),
  /** Who is told when goods for it come in. */
  told: orNone(Id).default(null),
  /** What it uses of suppliers' goods is charged to it. */
  budget: orNone(Id).default(null),
  lines: z.array(Line).max(500, "At most 500 lines."),
  outputs: z.array(Line).max(100, "At most 100 lines."),
});
type Lines = z.output<typeof KeepJob>["lines"];

/** Makes a job or customer order, or changes one: its demand by line, and what it gives back to stock. */
export function keepJob(desk: Desk, raw: unknown): Done<{ job: JobId }> {
  const input = checked(KeepJob, raw);
  if (!input.ok) return input;
  const { job, code, name, vessel, kind, direct, address, told, budget, lines, outputs } = input.value;
  return once(desk, "keep jobs", (tx) => {
    const problems: Problem[] = [];
    const twin = sql<{ id: JobId }>(tx.db, "SELECT id FROM job WHERE code = ?").get(code);
    if (twin && twin.id !== job) problems.push({ field: "code", says: "Another job has this code." });
    if (job && !sql(tx.db, "SELECT 1 FROM job WHERE id = ? AND closed IS NULL").get(job))
      return refuse("", "This job is closed, or gone.");
    if (direct && !address) problems.push({ field: "address", says: "Say where it is to be delivered." });
    if (told !== null && !sql(tx.db, "SELECT 1 FROM person WHERE id = ? AND active = 1").get(told))
      problems.push({ field: "told", says: "Choose somebody who works here." });
    if (budget !== null && !sql(tx.db, "SELECT 1 FROM budget WHERE id = ?").get(budget))
      problems.push({ field: "budget", says: "There is no such budget." });
    if (problems.length) return refuseAll(problems);
    const id =
      job ??
      Number(
        sql(tx.db, "INSERT INTO job (code, name, vessel, kind) VALUES (?, ?, ?, ?)").run(code, name, vessel, kind)
          .lastInsertRowid,
      );
    if (job)
      sql(tx.db, "UPDATE job SET code = ?, name = ?, vessel = ?, kind = ? WHERE id = ?").run(
        code,
        name,
        vessel,
        kind,
        job,
      );
    sql(tx.db, "UPDATE job SET direct = ?, address = ?, told = ?, budget = ? WHERE id = ?").run(
      direct ? 1 : 0,
      address,
      told,
      budget,
      id,
    );
    keepLines(tx.db, id, lines, "job_demand", "issued", "lines", problems);
    keepLines(tx.db, id, outputs, "job_output", "given", "outputs", problems);
    if (problems.length) return refuseAll(problems);
    tieWhereSet(tx.db, desk, id);
    const orders = writeDirectOrders(tx.db, desk, id);
    tx.record(job ? "job.changed" : "job.made", `job ${id}`, {
      code,
      name,
      vessel,
      kind,
      direct,
      address,
      told,
      lines,
      outputs,
      orders,
    });
    return done({ job: id });
  });
}

function keepLines(
  db: Db,
  job: JobId,
  lines: Lines,
  table: "job_demand" | "job_output",
  taken: "issued" | "given",
  field: string,
  problems: Problem[],
): void {
  const known = new Map(
    sql<{ id: number; item: ItemId; taken: number; bound: number }>(
      db,
      `SELECT id, item, ${taken} AS taken, ${table === "job_demand" ? "(SELECT count(*) FROM need_tie t WHERE t.job_demand = job_demand.id)" : "0"} AS bound
       FROM ${table} WHERE job = ?`,
    )
      .all(job)
      .map((r) => [r.id, r]),
  );
  const kept = new Set(lines.map((l) => l.id));
  for (const [id, row] of known) {
    if (kept.has(id)) continue;
    if (row.taken > 0 || row.bound > 0)
      problems.push({
        field,
        says: "A line cannot go of which something was moved or ordered. Close the job instead.",
      });
    else sql(db, `DELETE FROM ${table} WHERE id = ?`).run(id);
  }
  const seen = new Set<string>();
  lines.forEach((l, i) => {
    const at = `${field}.${i}`;
    const item = l.item && sql<{ kind: string }>(db, "SELECT kind FROM item WHERE id = ? AND active = 1").get(l.item);
    if (!item) {
      problems.push({ field: `${at}.item`, says: "Choose an item." });
      return;
    }
    const why = notForJobs(item.kind);
    if (why) problems.push({ field: `${at}.item`, says: why });
    if (!sql(db, "SELECT 1 FROM store WHERE id = ?").get(l.store))
      problems.push({ field: `${at}.store`, says: "There is no such store." });
    const key = `${l.item}/${l.store}/${l.due}`;
    if (seen.has(key)) problems.push({ field: `${at}.due`, says: "This item stands here twice for the same day." });
    seen.add(key);
    const row = l.id === null ? undefined : known.get(l.id);
    if (l.id !== null && !row) problems.push({ field: `${at}.item`, says: "This line is gone. Load the page again." });
    if (row && (row.taken > 0 || row.bound > 0) && row.item !== l.item)
      problems.push({ field: `${at}.item`, says: "The item cannot change any more: something was moved or ordered." });
    if (row && l.quantity < row.taken)
      problems.push({ field: `${at}.quantity`, says: "More than this was moved already." });
    if (problems.length) return;
    if (row)
      sql(db, `UPDATE ${table} SET item = ?, store = ?, due = ?, quantity = ? WHERE id = ?`).run(
        l.item,
        l.store,
        l.due,
        l.quantity,
        row.id,
      );
    else
      sql(db, `INSERT INTO ${table} (job, item, store, due, quantity) VALUES (?, ?, ?, ?, ?)`).run(
        job,
        l.item,
        l.store,
        l.due,
        l.quantity,
      );
  });
}

/** Nothing more is wanted for a job: what it still demanded is no demand any more. Opens it again, too. */
export function closeJob(desk: Desk, raw: unknown): Done<{ closed: boolean }> {
  const input = checked(z.object({ job: Id, closed: z.enum(["yes", "no"]) }), raw);
  if (!input.ok) return input;
  const { job, closed } = input.value;
  return once(desk, "keep jobs", (tx) => {
    const changed = sql(tx.db, "UPDATE job SET closed = ? WHERE id = ? AND (closed IS NULL) = ?").run(
      closed === "yes" ? desk.now : null,
      job,
      closed === "yes" ? 1 : 0,
    ).changes;
    if (changed === 0)
      return refuse("", closed === "yes" ? "This job is closed already." : "This job is open already.");
    tx.record(closed === "yes" ? "job.closed" : "job.opened", `job ${job}`, {});
    return done({ closed: closed === "yes" });
  });
}
