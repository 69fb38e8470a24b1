import { type Db, sql } from "../../db/open";
import type { Pair } from "./positions";

/** Ticks whenever something changes that a plan depends on; triggers in the file see to it. */
export const clockOf = (db: Db): number => sql<{ n: number }>(db, "SELECT n FROM plan_clock").get()!.n;

export interface Touched {
  everything: boolean;
  papers: boolean;
  pairs: Pair[];
  /** Every item of which something was touched, kept in a store or not. */
  items: Set<number>;
}

/** Every store that keeps an item, or of which a job or a customer wants it. */
const STORES_OF = `
  SELECT item, store FROM item_store WHERE item = @item
  UNION SELECT item, store FROM job_demand WHERE item = @item AND issued < quantity`;

/** What was touched after a tick. An item that was touched as such stands for each store where it may be needed. */
export function touchedSince(db: Db, at: number): Touched {
  const touched: Touched = { everything: false, papers: false, pairs: [], items: new Set() };
  for (const t of sql<Pair>(db, "SELECT item, store FROM plan_touch WHERE n > ?").all(at)) {
    if (t.item > 0) touched.items.add(t.item);
    if (t.item === 0) touched.everything = true;
    else if (t.item < 0) touched.papers = true;
    else if (t.store > 0) touched.pairs.push(t);
    else touched.pairs.push(...sql<Pair>(db, STORES_OF).all({ item: t.item }));
  }
  return touched;
}
