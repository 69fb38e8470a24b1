import { z } from "zod";
import type { DemandId, JobId } from "../../../core/ids";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../../queries/company";
import { readCovers } from "../../queries/jobs/jobs";
import { usualPlan } from "../../queries/needs/need";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { Id } from "../fields";

interface Tieable {
  id: DemandId;
  job: JobId;
  open: number;
  tied: number;
  ordered: number;
}
const TIEABLE = `
  SELECT d.id, d.job, d.quantity - d.issued AS open, d.tied,
         (SELECT coalesce(sum(t.quantity), 0) FROM need_tie t WHERE t.job_demand = d.id) AS ordered
  FROM job_demand d JOIN job j ON j.id = d.job WHERE d.issued < d.quantity AND j.closed IS NULL`;

/** What every line of a job lacks is to be bought for it alone. Returns how many lines that touched. Call inside the act. */
export function tieAll(db: Db, desk: Pick<Desk, "day" | "hour">, job: JobId): number {
  const covers = readCovers(db, usualPlan(desk.day, desk.hour), job);
  let lines = 0;
  for (const d of sql<Tieable>(db, `${TIEABLE} AND d.job = ?`).all(job)) {
    const cover = covers.get(d.id);
    const lacking = cover ? cover.lacking + cover.late : 0;
    const tied = Math.max(d.ordered, Math.min(d.ordered + lacking, d.ordered + d.open));
    if (tied === d.tied || lacking === 0) continue;
    sql(db, "UPDATE job_demand SET tied = ? WHERE id = ?").run(tied, d.id);
    lines++;
  }
  return lines;
}

/** Where the company wants it so, what a job lacks is tied to it the moment the job is saved. Call inside the act. */
export function tieWhereSet(db: Db, desk: Pick<Desk, "day" | "hour">, job: JobId): void {
  if (theCompany(db).tieJobs) tieAll(db, desk, job);
}

/** Ties what a job lacks to it: it is bought for this job alone, and the tie stays through order and receipt. */
export function tieJob(desk: Desk, raw: unknown): Done<{ lines: number }> {
  const input = checked(z.object({ job: Id }), raw);
  if (!input.ok) return input;
  const { job } = input.value;
  return once(desk, "keep jobs", (tx) => {
    const lines = tieAll(tx.db, desk, job);
    if (lines === 0) return refuse("", "This job lacks nothing that is not tied to it already.");
    tx.record("job.tied", `job ${job}`, { lines });
    return done({ lines });
  });
}

/** Ties one line, or takes the tie back as far as nothing was ordered by it. */
export function tieDemand(desk: Desk, raw: unknown): Done<{ tied: number }> {
  const input = checked(z.object({ demand: Id, tie: z.enum(["yes", "no"]) }), raw);
  if (!input.ok) return input;
  const { demand, tie } = input.value;
  return once(desk, "keep jobs", (tx) => {
    const line = sql<Tieable>(tx.db, `${TIEABLE} AND d.id = ?`).get(demand);
    if (!line) return refuse("", "This line wants nothing any more.");
    const cover = readCovers(tx.db, usualPlan(desk.day, desk.hour), line.job).get(demand);
    const lacking = cover ? cover.lacking + cover.late : 0;
    if (tie === "yes" && lacking === 0)
      return refuse("", "This line lacks nothing: what it wants is here or comes in time.");
    const tied = tie === "no" ? line.ordered : line.ordered + lacking;
    if (tied === line.tied)
      return refuse("", tie === "no" ? "Nothing is tied beyond what is ordered." : "It is tied already.");
    sql(tx.db, "UPDATE job_demand SET tied = ? WHERE id = ?").run(tied, demand);
    tx.record(tie === "yes" ? "demand.tied" : "demand.untied", `job ${line.job}`, {
      demand,
      from: line.tied,
      to: tied,
    });
    return done({ tied });
  });
}
