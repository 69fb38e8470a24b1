import type { Day } from "../../../core/calendar/day";
import type { ItemId, JobId } from "../../../core/ids";
import { chanceOfJob } from "../../../core/suppliers/chance";
import { type Db, sql } from "../../db/open";
import type { PlanFor } from "../needs/need";
import { chanceOfCover } from "../suppliers/wait-chances";
import { readCovers } from "./jobs";

/** An open job or customer order by what of it is at risk. */
export interface JobRisk {
  id: JobId;
  label: string;
  vessel: string;
  firstDue: Day;
  /** Lines that still want goods, and those of them that will lack them on their day. */
  open: number;
  short: number;
  /** That all that is awaited is here on its day, with the line that decides it; null where nothing is awaited. */
  chance: { basisPoints: number | null; decides: string } | null;
}

/** Jobs that still want goods: those with most lines short first. */
export function readJobRisks(db: Db, plan: PlanFor): JobRisk[] {
  const covers = readCovers(db, plan, null);
  const lines = sql<{
    id: number;
    job: JobId;
    label: string;
    vessel: string;
    item: ItemId;
    name: string;
    due: Day;
  }>(
    db,
    `SELECT d.id, j.id AS job, j.code || ' ' || j.name AS label, j.vessel, d.item, i.name, d.due
     FROM job_demand d JOIN job j ON j.id = d.job JOIN item i ON i.id = d.item WHERE d.issued < d.quantity AND j.closed IS NULL ORDER BY d.due, d.id`,
  ).all();
  const by = new Map<JobId, typeof lines>();
  for (const l of lines) {
    const known = by.get(l.job);
    if (known) known.push(l);
    else by.set(l.job, [l]);
  }
  return [...by]
    .map(([id, own]) => {
      const { label, vessel, due } = own[0]!;
      const at = own.map((l) => {
        const cover = covers.get(l.id) ?? null;
        return { ...l, cover, chance: chanceOfCover(db, { id: l.item, name: l.name }, cover, l.due, plan.today) };
      });
      const all = chanceOfJob(at);
      return {
        id,
        label,
        vessel,
        firstDue: due,
        open: own.length,
        short: at.filter((l) => l.cover !== null && (l.cover.lacking > 0 || l.cover.late > 0)).length,
        chance: all && { basisPoints: all.basisPoints, decides: all.decides.name },
      };
    })
    .sort((a, b) => b.short - a.short || a.firstDue.localeCompare(b.firstDue) || a.label.localeCompare(b.label));
}
