import { type Db, sql } from "../db/open";

const kept = new WeakMap<Db, Map<string, { at: string; value: unknown }>>();

/**
 * Keeps the result of a reading until anything in the file changes, by this connection or another. The rail asks for
 * the same counts on every page; they are worked out once for each change.
 */
export function remember<T>(db: Db, name: string, read: () => T): T {
  const own = sql<{ n: number }>(db, "SELECT total_changes() AS n").get()!.n;
  const others = db.pragma("data_version", { simple: true });
  const at = `${own}/${others}`;
  let all = kept.get(db);
  if (!all) kept.set(db, (all = new Map()));
  const known = all.get(name);
  if (known?.at === at) return known.value as T;
  const value = read();
  all.set(name, { at, value });
  return value;
}
