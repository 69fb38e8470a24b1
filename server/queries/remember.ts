import { type Db, sql } from "../db/open";

/** So many readings are kept at most; those that were read first go first. */
const MOST = 200;
interface Kept {
  at: string;
  readings: Map<string, unknown>;
}
const kept = new WeakMap<Db, Kept>();
const settled = new WeakMap<Db, Kept>();

/**
 * Keeps the result of a reading until anything in the file changes, by this connection or another; then all that is kept
 * goes. The rail asks for the same counts on every page; they are worked out once for each change.
 */
export function remember<T>(db: Db, name: string, read: () => T): T {
  const own = sql<{ n: number }>(db, "SELECT total_changes() AS n").get()!.n;
  const others = db.pragma("data_version", { simple: true });
  return keptAt(kept, db, `${own}/${others}`, name, read);
}

/**
 * Keeps what is worked out of settings alone (company, people, ladders, budget lines, rates, standing texts) until one of
 * them changes, whatever else does. Inside a transaction that changes them it is read anew each time: it may be undone.
 */
export function rememberSettings<T>(db: Db, name: string, read: () => T): T {
  const { n } = sql<{ n: number }>(db, "SELECT n FROM settings_clock").get()!;
  if (db.inTransaction && settled.get(db)?.at !== String(n)) return read();
  return keptAt(settled, db, String(n), name, read);
}

function keptAt<T>(all: WeakMap<Db, Kept>, db: Db, at: string, name: string, read: () => T): T {
  let known = all.get(db);
  if (known?.at !== at) all.set(db, (known = { at, readings: new Map() }));
  const { readings } = known;
  if (readings.has(name)) return readings.get(name) as T; // each name is of one reading
  const value = read();
  readings.set(name, value);
  for (const first of readings.keys()) {
    if (readings.size <= MOST) break;
    readings.delete(first);
  }
  return value;
}

/** Keeps nothing of what was read until now: for what was read while something was only tried. */
export function forget(db: Db): void {
  kept.delete(db);
  settled.delete(db);
}
