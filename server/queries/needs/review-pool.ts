import type { Day } from "../../../core/calendar/day";
import { type Db, sql } from "../../db/open";
import { inWorker } from "../../jobs/crew";
import { remember } from "../remember";
import { type ReviewRow, readReview } from "./review";

const ON_THE_SPOT = 3_000;

/** The review of every pair, kept until anything changes; a large company's is worked out in a worker. */
export function reviewOf(db: Db, today: Day): Promise<readonly ReviewRow[]> {
  return remember(db, `review/${today}`, async () => {
    const { n } = sql<{ n: number }>(db, "SELECT count(*) AS n FROM item_store").get()!;
    if (n <= ON_THE_SPOT || db.memory) return readReview(db, today);
    const rows: ReviewRow[] = [];
    try {
      await inWorker(
        "review",
        { file: db.name, today },
        {
          onPart: (part) => {
            rows.push(...part);
          },
        },
      );
      return rows;
    } catch {
      return readReview(db, today); // without a worker it takes longer, but it is said
    }
  });
}
