import { type Db, sql } from "../db/open";

/** So many readings are kept at most; those that were read first go first. */
const MOST = 200;
const kept = new WeakMap<Db, { at: string; readings: Map<string, unknown> }>();

/**
 * Keeps the result of a reading until anything in the file changes, by this connection or another; then all that is kept
 * goes. The rail asks for the same counts on every page; they are worked out once for each change.
 */
export function remember<T>(db: Db, name: string, read: () => T): T {
  const own = sql<{ n: number }>(db, "SELECT total_changes() AS n").get()!.n;
  const others = db.pragma("data_version", { simple: true });
  const at = `${own}/${others}`;
  let known = kept.get(db);
  if (known?.at !== at) kept.set(db, (known = { at, readings: new Map() }));
  const { readings } = known;
  if (readings.has(name)) return readings.get(name) as T;
  const value = read();
  readings.set(name, value);
  for (const first of readings.keys()) {
    if (readings.size <= MOST) break;
    readings.delete(first);
  }
  return value;
}
