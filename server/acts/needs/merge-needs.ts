import { z } from "zod";
import type { ItemId } from "../../../core/ids";
import { sql } from "../../db/open";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { Id } from "../fields";

const Pair = z.object({ item: Id, store: Id });

/** Lets every need of an item at a store stand as one row, rounded to packs once; each source is kept. */
export function mergeNeeds(desk: Desk, raw: unknown): Done<{ key: string }> {
  const input = checked(Pair, raw);
  if (!input.ok) return input;
  const { item, store } = input.value;
  return once(desk, "plan", (tx) => {
    if (!sql(tx.db, "SELECT 1 FROM item, store WHERE item.id = ? AND store.id = ?").get(item, store))
      return refuse("", "There is no such item or store.");
    if (
      sql(tx.db, "INSERT INTO merged_need (item, store) VALUES (?, ?) ON CONFLICT DO NOTHING").run(item, store)
        .changes === 0
    )
      return refuse("", "These needs stand merged already.");
    tx.record("needs.merged", `item ${item} at store ${store}`, {});
    return done({ key: `m:${item}:${store}` });
  });
}

/** Lets them stand apart again. */
export function partNeeds(desk: Desk, raw: unknown): Done<{ item: ItemId }> {
  const input = checked(Pair, raw);
  if (!input.ok) return input;
  const { item, store } = input.value;
  return once(desk, "plan", (tx) => {
    if (sql(tx.db, "DELETE FROM merged_need WHERE item = ? AND store = ?").run(item, store).changes === 0)
      return refuse("", "These needs stand apart already.");
    sql(tx.db, "DELETE FROM need_choice WHERE need = ?").run(`m:${item}:${store}`);
    tx.record("needs.parted", `item ${item} at store ${store}`, {});
    return done({ item });
  });
}
