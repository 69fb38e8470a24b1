import { sql } from "../../db/open";
import type { TestHouse } from "../../testing";
import type { Done } from "../desk";

/** What lies of an item at the quay, by bin, in stock units; lots together. */
export const lying = (h: TestHouse, item: string): Record<string, number> =>
  Object.fromEntries(
    sql<{ bin: string; quantity: number }>(
      h.db,
      "SELECT bin, sum(quantity) / 10000.0 AS quantity FROM stock_balance WHERE item = ? AND store = ? AND owner = 0 GROUP BY bin HAVING sum(quantity) <> 0",
    )
      .all(h.id("item", item), h.id("store", "TQ"))
      .map((r) => [r.bin, r.quantity]),
  );

/** The first sentence with which an act was refused; null where it was done. */
export const says = (answer: Done<unknown>): string | null => (answer.ok ? null : answer.problems[0]!.says);
