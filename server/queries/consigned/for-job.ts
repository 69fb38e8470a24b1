import type { Day } from "../../../core/calendar/day";
import type { ItemId, JobId, StoreId } from "../../../core/ids";
import { type Db, sql } from "../../db/open";

/** What suppliers have on a shelf that a job may use: what it wants first. Stock units; it holds no price. */
export interface ForJob {
  item: ItemId;
  store: StoreId;
  name: string;
  unit: string;
  storeName: string;
  here: number;
  /** What the job still wants of it. */
  wanted: number;
}

export const theirsForJob = (db: Db, job: JobId, day: Day): ForJob[] =>
  sql<ForJob>(
    db,
    `SELECT y.item, y.store, i.name, u.name AS unit, t.name AS storeName, sum(y.rest) AS here,
            coalesce((SELECT sum(d.quantity - d.issued) FROM job_demand d WHERE d.job = @job AND d.item = y.item AND d.issued < d.quantity), 0) AS wanted
     FROM consigned_layer y JOIN agreement_item x ON x.id = y.agreement_item JOIN agreement a ON a.id = x.agreement
     JOIN item i ON i.id = y.item JOIN unit u ON u.code = i.unit JOIN store t ON t.id = y.store LEFT JOIN lot l ON l.id = y.lot
     WHERE y.rest > 0 AND a.state = 'Running' AND a.starts <= @day AND a.ends >= @day AND (y.lot IS NULL OR (l.held = '' AND coalesce(l.expires, '9') >= @day))
     GROUP BY y.item, y.store ORDER BY wanted = 0, i.name, t.name LIMIT 200`,
  ).all({ job, day });
