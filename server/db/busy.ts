import { setTimeout as wait } from "node:timers/promises";
import Database from "better-sqlite3";

/** The longest that a write waits for another one, such as the loading of a very large file. */
const LONGEST = 120_000;
const STEP = 25;

/** Another connection writes at this moment. */
export const isBusy = (e: unknown): boolean => e instanceof Database.SqliteError && e.code.startsWith("SQLITE_BUSY");

/**
 * Runs what writes, and runs it again from its start while another connection writes: SQLite itself would hold up the
 * whole server meanwhile. What was done before the fault must do nothing more the second time, as acts do by their key.
 */
export async function patiently<T>(run: () => T | Promise<T>): Promise<T> {
  const until = Date.now() + LONGEST;
  for (;;) {
    try {
      return await run();
    } catch (e) {
      if (!isBusy(e) || Date.now() > until) throw e;
      await wait(STEP);
    }
  }
}
