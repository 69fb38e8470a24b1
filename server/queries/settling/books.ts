import { addDays, type Day, laterOf } from "../../../core/calendar/day";
import type { OrderLineId } from "../../../core/ids";
import { exchanged, money } from "../../../core/numbers/money";
import { closable, type Unbilled } from "../../../core/settling/books";
import { orderedNet } from "../../../core/settling/match";
import type { EntryKind, PostingRole } from "../../../core/stock/posting";
import { type Db, sql } from "../../db/open";
import { rateOn, theCompany } from "../company";
import { billableLines } from "./ordered";

/** A period that is closed. */
export interface BookClose {
  id: number;
  number: string;
  starts: Day;
  until: Day;
  entries: number;
  debit: number;
  /** What was accrued at its end, home currency. */
  accrued: number;
  person: string;
  at: string;
}
export const readCloses = (db: Db): BookClose[] =>
  sql<BookClose>(
    db,
    `SELECT c.id, c.number, c.starts, c.until, c.entries, c.debit, p.name AS person, c.at,
            coalesce((SELECT sum(max(g.minor, 0)) FROM posting g WHERE g.entry = c.accrual), 0) AS accrued
     FROM book_close c JOIN person p ON p.id = c.person ORDER BY c.until DESC`,
  ).all();

/** The last day that is closed; null while none is. */
export const closedUntil = (db: Db): Day | null =>
  sql<{ until: Day | null }>(db, "SELECT max(until) AS until FROM book_close").get()!.until;

/** The first day from a day on that can be booked on. */
export function firstOpen(db: Db, day: Day): Day {
  const until = closedUntil(db);
  return until === null ? day : laterOf(day, addDays(until, 1));
}

/** The ends of months that can be closed now, and the day from which on entries are open; null where there are none. */
export function readClosable(db: Db, today: Day): { from: Day | null; ends: Day[] } {
  const until = closedUntil(db);
  const from = until
    ? addDays(until, 1)
    : sql<{ day: Day | null }>(db, "SELECT min(day) AS day FROM posting_entry").get()!.day;
  return { from, ends: closable(from, today) };
}

/** What the journal holds of some days, home currency. */
export const journalSums = (db: Db, from: Day, until: Day): { entries: number; debit: number } =>
  sql<{ entries: number; debit: number }>(
    db,
    `SELECT count(DISTINCT e.id) AS entries, coalesce(sum(max(p.minor, 0)), 0) AS debit
     FROM posting_entry e JOIN posting p ON p.entry = e.id WHERE e.day BETWEEN ? AND ?`,
  ).get(from, until)!;

/** A charge that is to be accrued, with what it is of. */
export interface UnbilledCharge extends Unbilled {
  order: string;
  supplier: string;
  words: string;
}

/**
 * Charges that are an expense, of orders of which something came by a day, and of which nothing was billed by then: at what
 * was ordered, net, at the order's rate. Goods need none of it: they stand on *received, not invoiced* since they came.
 */
export function readUnbilled(db: Db, until: Day): UnbilledCharge[] {
  const rows = sql<{
    line: OrderLineId;
    account: string | null;
    order: string;
    supplier: string;
    words: string;
    quantity: number;
    currency: string;
    rate: number | null;
  }>(
    db,
    `SELECT l.id AS line, l.account, o.number AS "order", s.name AS supplier, l.words, l.quantity, o.currency, o.rate
     FROM order_line l JOIN purchase_order o ON o.id = l.purchase_order JOIN supplier s ON s.id = o.supplier
     WHERE l.kind = 'charge' AND l.spread = 'expense' AND o.stage IN ('placed', 'closed') AND o.agreement IS NULL
       AND EXISTS (SELECT 1 FROM receipt r JOIN posting_entry e ON e.receipt = r.id WHERE r.purchase_order = o.id AND e.day <= @until)
       AND NOT EXISTS (SELECT 1 FROM posting p JOIN posting_entry e ON e.id = p.entry WHERE p.order_line = l.id AND p.role = 'expense' AND e.kind = 'invoice' AND e.day <= @until)
     ORDER BY o.id, l.id`,
  ).all({ until });
  const home = theCompany(db).currency;
  const ordered = billableLines(
    db,
    rows.map((r) => r.line),
  );
  return rows.flatMap(({ quantity, currency, rate, ...r }) => {
    const o = ordered.get(r.line);
    const at = rate ?? rateOn(db, currency, home, until);
    if (!o || at === null) return [];
    const minor = exchanged(money(orderedNet(o, quantity, currency), currency), at, home).minor;
    return minor === 0 ? [] : [{ ...r, minor }];
  });
}

/** A side of an entry as it leaves the house. */
export interface JournalLine {
  entry: number;
  day: Day;
  kind: EntryKind;
  role: PostingRole;
  account: string | null;
  accountName: string | null;
  minor: number;
  order: string | null;
  supplier: string | null;
  supplierName: string | null;
  about: string | null;
  receipt: string | null;
  person: string | null;
  at: string;
}

/** The journal of some days in its order, as many lines at a time as fit: for files. */
export function* journalLines(db: Db, from: Day, until: Day): Generator<JournalLine[]> {
  const query = sql<JournalLine>(
    db,
    `SELECT e.id AS entry, e.day, e.kind, p.role, p.account, a.name AS accountName, p.minor, o.number AS "order", s.code AS supplier, s.name AS supplierName,
            l.words AS about, r.number AS receipt, w.name AS person, e.at
     FROM posting_entry e JOIN posting p ON p.entry = e.id LEFT JOIN account a ON a.code = p.account LEFT JOIN order_line l ON l.id = p.order_line
     LEFT JOIN purchase_order o ON o.id = l.purchase_order LEFT JOIN supplier s ON s.id = o.supplier LEFT JOIN receipt r ON r.id = e.receipt LEFT JOIN person w ON w.id = e.person
     WHERE e.day BETWEEN ? AND ? ORDER BY e.day, e.id, p.position`,
  );
  let part: JournalLine[] = [];
  for (const line of query.iterate(from, until)) {
    part.push(line);
    if (part.length === 5_000) {
      yield part;
      part = [];
    }
  }
  if (part.length) yield part;
}
