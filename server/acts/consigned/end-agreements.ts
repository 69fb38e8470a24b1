import type { Day } from "../../../core/calendar/day";
import { showDay } from "../../../core/numbers/format";
import { recordAudit } from "../../db/audit";
import { type Db, sql } from "../../db/open";
import { readAgreementHead } from "../../queries/consigned/agreement";
import { tell } from "../notices";
import { closeRefills } from "./keep-agreement";

/** What only time does: an agreement whose last day has passed is ended, and its writer is told what is left. Returns how many. */
export function endAgreements(db: Db, now: string, day: Day): number {
  const over = sql<{ id: number }>(db, "SELECT id FROM agreement WHERE state = 'Running' AND ends < ?").all(day);
  for (const { id } of over)
    db.transaction(() => {
      const a = readAgreementHead(db, id)!;
      sql(db, "UPDATE agreement SET state = 'Ended', version = version + 1 WHERE id = ?").run(id);
      closeRefills(db, id, day);
      const { n } = sql<{ n: number }>(
        db,
        "SELECT count(*) AS n FROM consigned_layer y JOIN agreement_item x ON x.id = y.agreement_item WHERE x.agreement = ? AND y.rest > 0",
      ).get(id)!;
      tell(
        db,
        now,
        a.writer,
        `${a.name} with ${a.supplierName} ended on ${showDay(a.ends, day)}`,
        n > 0 ? "what is left on the shelf is bought or sent back" : "nothing is left on the shelf",
        `/agreements/${id}`,
      );
      recordAudit(db, now, null, "agreement.ended", `agreement ${id}`, { lastDay: a.ends, deliveriesLeft: n });
    }).immediate();
  return over.length;
}
