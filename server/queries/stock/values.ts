import type { Day } from "../../../core/calendar/day";
import type { ItemId, OrderId, StoreId, SupplierId } from "../../../core/ids";
import type { EntryKind, PostingRole } from "../../../core/stock/posting";
import { type Db, sql } from "../../db/open";
import { escaped } from "../find";
import { remember } from "../remember";

/** So many rows are shown at once: what is worth most, or what was posted last. */
const MOST = 200;

/** An item's stock in a store and what it is worth, in home currency. */
export interface StockValue {
  item: ItemId;
  code: string;
  name: string;
  unit: string;
  store: StoreId;
  storeName: string;
  quantity: number;
  value: number;
}

/** What the stock is worth: the dearest first, as far as a text is found in code or name; with what each store comes to. */
export function readStockValues(
  db: Db,
  store: number | null,
  find: string,
): { rows: StockValue[]; found: number; value: number } {
  const where = `FROM item_store p JOIN item i ON i.id = p.item JOIN store s ON s.id = p.store JOIN unit u ON u.code = i.unit
     WHERE (p.on_hand <> 0 OR p.value <> 0) AND (@store IS NULL OR p.store = @store) AND (i.code LIKE @find ESCAPE '\\' OR i.name LIKE @find ESCAPE '\\')`;
  const of = { store, find: `%${escaped(find)}%` };
  const { found, value } = sql<{ found: number; value: number }>(
    db,
    `SELECT count(*) AS found, coalesce(sum(p.value), 0) AS value ${where}`,
  ).get(of)!;
  const rows = sql<StockValue>(
    db,
    `SELECT p.item, i.code, i.name, u.name AS unit, p.store, s.name AS storeName, p.on_hand AS quantity, p.value ${where} ORDER BY p.value DESC, i.code, p.store LIMIT ${MOST}`,
  ).all(of);
  return { rows, found, value };
}

/** What each store’s stock is worth. */
export const valueByStore = (db: Db): { store: StoreId; name: string; value: number }[] =>
  remember(db, "values/stores", () =>
    sql<{ store: StoreId; name: string; value: number }>(
      db,
      "SELECT s.id AS store, s.name, coalesce(sum(p.value), 0) AS value FROM store s LEFT JOIN item_store p ON p.store = s.id GROUP BY s.id ORDER BY s.id",
    ).all(),
  );

/** What moved the value of an item in a store, the latest first. */
export interface ValueMove {
  id: number;
  day: Day;
  kind: string;
  quantity: number;
  value: number;
  receipt: number | null;
  receiptNumber: string | null;
}

export const readValueMoves = (db: Db, item: ItemId, store: StoreId): ValueMove[] =>
  sql<ValueMove>(
    db,
    `SELECT m.id, m.day, m.kind, m.quantity, m.value, r.id AS receipt, r.number AS receiptNumber FROM movement m
     LEFT JOIN receipt_line x ON x.id = m.receipt_line LEFT JOIN receipt r ON r.id = x.receipt
     WHERE m.item = ? AND m.store = ? AND m.owner IS NULL ORDER BY m.day DESC, m.id DESC LIMIT 40`,
  ).all(item, store);

/** What was received of an order and not invoiced yet, in home currency. */
export interface NotInvoiced {
  order: OrderId;
  number: string;
  supplier: SupplierId;
  supplierName: string;
  /** A use of a supplier's goods wrote it: a use statement settles it. */
  byStatement: 0 | 1;
  /** When the first of it came. */
  since: Day;
  lines: number;
  value: number;
}

/** What was received and not invoiced by the end of a day, by order; of today, whatever is booked. */
export const readNotInvoiced = (
  db: Db,
  on: Day | null = null,
): { rows: NotInvoiced[]; suppliers: { name: string; value: number }[]; found: number; value: number } =>
  remember(db, `values/not invoiced/${on ?? ""}`, () => {
    const all = sql<NotInvoiced>(
      db,
      `SELECT o.id AS "order", o.number, o.supplier, o.agreement IS NOT NULL AS byStatement, s.name AS supplierName, min(l.since) AS since, count(*) AS lines, sum(l.value) AS value FROM (
         SELECT p.order_line, -sum(p.minor) AS value, min(e.day) AS since FROM posting p JOIN posting_entry e ON e.id = p.entry
         WHERE p.role = 'received not invoiced' AND (@on IS NULL OR e.day <= @on) GROUP BY p.order_line HAVING sum(p.minor) <> 0) l
       JOIN order_line n ON n.id = l.order_line JOIN purchase_order o ON o.id = n.purchase_order JOIN supplier s ON s.id = o.supplier
       GROUP BY o.id ORDER BY since, o.id`,
    ).all({ on });
    const suppliers = new Map<string, number>();
    for (const r of all) suppliers.set(r.supplierName, (suppliers.get(r.supplierName) ?? 0) + r.value);
    return {
      rows: all.slice(0, MOST),
      suppliers: [...suppliers].map(([name, value]) => ({ name, value })).sort((a, b) => b.value - a.value),
      found: all.length,
      value: all.reduce((a, r) => a + r.value, 0),
    };
  });

/** A side of an entry as it stands in the journal. */
export interface JournalPosting {
  role: PostingRole;
  account: string | null;
  minor: number;
  about: string | null;
}
export interface JournalEntry {
  id: number;
  day: Day;
  kind: EntryKind;
  receipt: number | null;
  receiptNumber: string | null;
  person: string | null;
  postings: JournalPosting[];
}

/** Entries of the journal, the latest first; `before` an entry, for what is further back. */
export function readJournal(db: Db, before: number | null): { entries: JournalEntry[]; more: boolean } {
  const heads = sql<Omit<JournalEntry, "postings">>(
    db,
    `SELECT e.id, e.day, e.kind, e.receipt, r.number AS receiptNumber, p.name AS person FROM posting_entry e
     LEFT JOIN receipt r ON r.id = e.receipt LEFT JOIN person p ON p.id = e.person
     WHERE @before IS NULL OR e.id < @before ORDER BY e.id DESC LIMIT ${MOST / 4 + 1}`,
  ).all({ before });
  const shown = heads.slice(0, MOST / 4);
  const postings = sql<JournalPosting & { entry: number }>(
    db,
    `SELECT g.entry, g.role, g.account, g.minor, l.words AS about FROM posting g LEFT JOIN order_line l ON l.id = g.order_line
     WHERE g.entry IN (SELECT value FROM json_each(?)) ORDER BY g.entry, g.position`,
  ).all(JSON.stringify(shown.map((e) => e.id)));
  return {
    entries: shown.map((e) => ({
      ...e,
      postings: postings.filter((p) => p.entry === e.id).map(({ entry: _, ...p }) => p),
    })),
    more: heads.length > shown.length,
  };
}

/** What each account stands at: debit above nought. All of them come to nothing. */
export interface TrialRow {
  role: PostingRole;
  account: string | null;
  accountName: string | null;
  debit: number;
  credit: number;
}

/** By the end of a day; null: with all that is booked. */
export const readTrialBalance = (db: Db, on: Day | null = null): TrialRow[] =>
  remember(db, `values/trial/${on ?? ""}`, () =>
    sql<TrialRow>(
      db,
      `SELECT p.role, p.account, a.name AS accountName, sum(max(p.minor, 0)) AS debit, -sum(min(p.minor, 0)) AS credit
       FROM posting p JOIN posting_entry e ON e.id = p.entry LEFT JOIN account a ON a.code = p.account
       WHERE @on IS NULL OR e.day <= @on GROUP BY p.role, p.account ORDER BY p.role, p.account`,
    ).all({ on }),
  );
