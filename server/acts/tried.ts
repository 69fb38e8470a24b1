import type { Db } from "../db/open";
import { forget } from "../queries/remember";

/**
 * What `work` finds after it has changed the file, without anything having been changed: all of it is taken back. Nothing
 * that is read meanwhile is remembered. What can be done for good is tried in the same words, so that what is said to
 * follow is what follows.
 */
export function tried<T>(db: Db, work: () => T): T {
  let found: { value: T } | null = null;
  const TAKEN_BACK = new Error("taken back");
  const run = db.transaction(() => {
    found = { value: work() };
    throw TAKEN_BACK;
  });
  try {
    run.immediate();
  } catch (e) {
    if (e !== TAKEN_BACK) throw e;
  } finally {
    forget(db);
  }
  return found!.value;
}
