import type { Day } from "../../../core/calendar/day";
import type { PersonId, ReceiptId } from "../../../core/ids";
import { balances, type EntryKind, type Posting } from "../../../core/stock/posting";
import { type Db, sql } from "../../db/open";

/** Who does it, and when. */
export interface Doing {
  day: Day;
  now: string;
  person: { id: PersonId } | null;
}

/**
 * Opens an entry of the journal: movements name it, and its postings follow. What happened on a day of a closed period is
 * booked on the first day after it. Inside the act's transaction.
 */
export const openEntry = (
  db: Db,
  by: Doing,
  kind: EntryKind,
  receipt: ReceiptId | null = null,
  reverses: number | null = null,
): number =>
  Number(
    sql(
      db,
      "INSERT INTO posting_entry (day, kind, receipt, reverses, person, at) VALUES (max(?, coalesce((SELECT date(max(until), '+1 day') FROM book_close), '')), ?, ?, ?, ?, ?)",
    ).run(by.day, kind, receipt, reverses, by.person?.id ?? null, by.now).lastInsertRowid,
  );

/** Keeps both sides of an entry. Throws where they do not balance: no act may keep such. */
export function post(db: Db, entry: number, postings: readonly Posting[]): void {
  if (!balances(postings)) throw new Error(`Entry ${entry} does not balance.`);
  const add = sql(
    db,
    "INSERT INTO posting (entry, position, role, account, minor, order_line) VALUES (?, ?, ?, ?, ?, ?)",
  );
  postings.forEach((p, i) => {
    add.run(entry, i + 1, p.role, p.account, p.minor, p.line);
  });
}
