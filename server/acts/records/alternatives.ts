import type { ItemId } from "../../../core/ids";
import { type Db, sql } from "../../db/open";

/** The codes along a ring of one-way alternatives through an item, from it back to itself; null where there is none. */
export function ringThrough(db: Db, item: ItemId): string[] | null {
  const next = sql<{ other: number }>(
    db,
    "SELECT other FROM alternative WHERE item = ? AND both_ways = 0 ORDER BY other",
  );
  const codeOf = (id: number) => sql<{ code: string }>(db, "SELECT code FROM item WHERE id = ?").get(id)!.code;
  const seen = new Set<number>();
  const path: number[] = [];
  const walk = (at: number): boolean => {
    path.push(at);
    for (const { other } of next.all(at)) {
      if (other === item) return true;
      if (seen.has(other)) continue;
      seen.add(other);
      if (walk(other)) return true;
    }
    path.pop();
    return false;
  };
  return walk(item) ? [...path, item].map(codeOf) : null;
}
