import type { ItemId } from "../../../core/ids";
import { type Db, sql } from "../../db/open";
import type { AgreementItem } from "../../queries/consigned/agreement";

/** What came meets what was asked for, the earliest asked first; what came beyond it meets nothing. Stock units. */
export function fillRefills(
  db: Db,
  items: ReadonlyMap<ItemId, Pick<AgreementItem, "id">>,
  rows: readonly { item: ItemId; quantity: number }[],
): void {
  const set = sql(db, "UPDATE refill_line SET came = came + @part, open = came + @part < quantity WHERE id = @id");
  for (const r of rows) {
    let left = r.quantity;
    for (const line of sql<{ id: number; open: number }>(
      db,
      "SELECT l.id, l.quantity - l.came AS open FROM refill_line l JOIN refill f ON f.id = l.refill WHERE l.agreement_item = ? AND l.open = 1 ORDER BY f.wanted, f.id",
    ).all(items.get(r.item)!.id)) {
      const part = Math.min(left, line.open);
      if (part <= 0) break;
      set.run({ part, id: line.id });
      left -= part;
    }
  }
}
