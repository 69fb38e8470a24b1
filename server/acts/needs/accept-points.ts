import { z } from "zod";
import type { ItemId, StoreId } from "../../../core/ids";
import { faultOf } from "../../../core/needs/run";
import { quantityText, stock } from "../../../core/numbers/quantity";
import { sql } from "../../db/open";
import { readReviewOf } from "../../queries/needs/review";
import { checked, type Desk, type Done, done, once, type Problem, refuseAll, stale } from "../desk";
import { Id } from "../fields";

export const AcceptPoints = z.object({
  points: z
    .array(z.object({ item: Id, store: Id, point: z.number().int().nonnegative() }))
    .min(1, "Tick at least one.")
    .max(5_000, "At most 5,000 at once."),
});

/**
 * Sets reorder points to the suggested ones. Each must still be what the person saw. A level that would come to lie
 * below its point rises with it, so that topping up still reaches it.
 */
export function acceptPoints(desk: Desk, raw: unknown): Done<{ changed: number }> {
  const input = checked(AcceptPoints, raw);
  if (!input.ok) return input;
  const { points } = input.value;
  return once(desk, "keep sourcing", (tx) => {
    const problems: Problem[] = [];
    const changes: { item: ItemId; store: StoreId; from: number; to: number }[] = [];
    for (const { item, store, point } of points) {
      const now = readReviewOf(tx.db, desk.day, { item, store });
      if (!now || now.suggested !== point)
        return stale(`What is suggested for ${now?.name ?? "one of them"} has changed meanwhile. Look at it again.`);
      const kept = sql<{
        policy: "top up";
        lot: number;
        level: number;
        coverDays: number;
        maximum: number | null;
        reviewDays: number;
      }>(
        tx.db,
        "SELECT policy, lot, level, cover_days AS coverDays, maximum, review_days AS reviewDays FROM item_store WHERE item = ? AND store = ?",
      ).get(item, store)!;
      const level = kept.level > 0 ? Math.max(kept.level, kept.level + point - now.set, point) : 0;
      const fault = faultOf({
        ...kept,
        reorderPoint: stock(point),
        lot: stock(kept.lot),
        level: stock(level),
        maximum: kept.maximum === null ? null : stock(kept.maximum),
      });
      if (fault) {
        problems.push({
          field: `${item}:${store}`,
          says: `${now.name} at ${now.storeName}, ${quantityText(point)}: ${fault[1]}`,
        });
        continue;
      }
      sql(tx.db, "UPDATE item_store SET reorder_point = ?, level = ? WHERE item = ? AND store = ?").run(
        point,
        level,
        item,
        store,
      );
      changes.push({ item, store, from: now.set, to: point });
    }
    if (problems.length) return refuseAll(problems);
    tx.record("reordering.points-accepted", `${changes.length} reorder points`, { changes });
    return done({ changed: changes.length });
  });
}
