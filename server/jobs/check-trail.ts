import { FROM_THE_START } from "../db/audit";
import { patiently } from "../db/busy";
import { type Db, sql } from "../db/open";
import { readTrailCheck } from "../queries/trail";
import { inWorker } from "./crew";

/** So often all of the trail is followed again, and not what came since the last time alone. */
const WHOLE_EVERY = 24 * 3_600_000;

/**
 * Follows the audit trail's chain in a worker and keeps how far: from where it was followed to, or once a day from its
 * start. Returns the first row that does not follow, or null.
 */
export async function checkTrail(db: Db, now: Date): Promise<number | null> {
  const last = readTrailCheck(db);
  const whole = !last || last.broken !== null || now.getTime() - Date.parse(last.whole) >= WHOLE_EVERY;
  const from = whole ? FROM_THE_START : { upto: last.upto, hash: last.hash, broken: null };
  const found = await inWorker("trail", { file: db.name, from });
  const at = now.toISOString();
  await patiently(() =>
    sql(
      db,
      `INSERT INTO trail_check (id, upto, hash, at, whole, broken) VALUES (1, @upto, @hash, @at, @whole, @broken)
       ON CONFLICT (id) DO UPDATE SET upto = @upto, hash = @hash, at = @at, whole = @whole, broken = @broken`,
    ).run({ ...found, at, whole: whole ? at : last.whole }),
  );
  return found.broken;
}
