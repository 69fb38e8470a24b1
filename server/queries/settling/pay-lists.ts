import type { Day } from "../../../core/calendar/day";
import type { SupplierId } from "../../../core/ids";
import type { Owed, PayLineState, PayListState } from "../../../core/settling/pay-list";
import { type Db, sql } from "../../db/open";
import { readPayables } from "./payables";

export interface PayListHead {
  id: number;
  number: string;
  day: Day;
  state: PayListState;
  /** Home currency, at the rates of the day it was written. */
  home: number;
  iban: string;
  bic: string;
  writer: number;
  writerName: string;
  releasedBy: string | null;
  released: string | null;
  sent: string | null;
  handed: string | null;
  version: number;
  at: string;
  transfers: number;
}
const HEAD = `
  SELECT q.id, q.number, q.day, q.state, q.home, q.iban, q.bic, q.person AS writer, p.name AS writerName, r.name AS releasedBy, q.released, q.sent, q.handed, q.version, q.at,
         (SELECT count(*) FROM pay_line n WHERE n.list = q.id AND n.state <> 'Left out') AS transfers
  FROM pay_list q JOIN person p ON p.id = q.person LEFT JOIN person r ON r.id = q.released_by`;

/** Pay lists, what is on its way first, then the latest. */
export const readPayLists = (db: Db): PayListHead[] =>
  sql<PayListHead>(db, `${HEAD} ORDER BY q.state IN ('Answered', 'Dropped'), q.id DESC LIMIT 200`).all();

export interface PayLinePart {
  line: number;
  payable: number;
  invoice: number | null;
  statement: number | null;
  number: string;
  due: Day;
  minor: number;
  discount: number;
}
export interface PayLine {
  id: number;
  position: number;
  supplier: SupplierId;
  supplierName: string;
  currency: string;
  total: number;
  name: string;
  iban: string;
  bic: string;
  state: PayLineState;
  why: string;
  payment: string | null;
  parts: PayLinePart[];
}
export interface PayListSheet {
  head: PayListHead;
  lines: PayLine[];
}

function sheetOf(db: Db, head: PayListHead | undefined): PayListSheet | null {
  if (!head) return null;
  const lines = sql<Omit<PayLine, "parts">>(
    db,
    `SELECT n.id, n.position, n.supplier, s.name AS supplierName, n.currency, n.total, n.name, n.iban, n.bic, n.state, n.why, m.number AS payment
     FROM pay_line n JOIN supplier s ON s.id = n.supplier LEFT JOIN payment m ON m.id = n.payment WHERE n.list = ? ORDER BY n.position`,
  ).all(head.id);
  const parts = sql<PayLinePart>(
    db,
    `SELECT g.line, g.payable, y.invoice, y.statement, coalesce(v.number, u.number) AS number, y.due, g.minor, g.discount
     FROM pay_line n JOIN pay_line_part g ON g.line = n.id JOIN payable y ON y.id = g.payable
     LEFT JOIN invoice v ON v.id = y.invoice LEFT JOIN use_statement u ON u.id = y.statement WHERE n.list = ? ORDER BY n.position, y.due, y.id`,
  ).all(head.id);
  return { head, lines: lines.map((l) => ({ ...l, parts: parts.filter((p) => p.line === l.id) })) };
}
export const readPayList = (db: Db, id: number): PayListSheet | null =>
  sheetOf(db, sql<PayListHead>(db, `${HEAD} WHERE q.id = ?`).get(id));
export const readPayListByNumber = (db: Db, number: string): PayListSheet | null =>
  sheetOf(db, sql<PayListHead>(db, `${HEAD} WHERE q.number = ?`).get(number));

/** The pay list that pays an invoice, where one is on its way; empty: none. */
export const payListOf = (db: Db, invoice: number): string =>
  sql<{ number: string }>(
    db,
    `SELECT q.number FROM payable y JOIN pay_line_part g ON g.payable = y.id JOIN pay_line n ON n.id = g.line AND n.state = 'Listed' JOIN pay_list q ON q.id = n.list WHERE y.invoice = ?`,
  ).get(invoice)?.number ?? "";

/** The account of one supplier, empty where none is on record. */
export const readAccount = (db: Db, supplier: SupplierId): { iban: string; bic: string } =>
  sql<{ iban: string; bic: string }>(db, "SELECT iban, bic FROM supplier WHERE id = ?").get(supplier)!;

/** Accounts that money goes to, by supplier. */
export const readAccounts = (db: Db): Map<SupplierId, { iban: string; bic: string; name: string }> =>
  new Map(
    sql<{ id: SupplierId; iban: string; bic: string; name: string }>(
      db,
      "SELECT id, iban, bic, name FROM supplier WHERE iban <> ''",
    )
      .all()
      .map(({ id, ...account }) => [id, account]),
  );

/** What is owed, as a proposal looks at it, with the papers themselves. */
export function readOwed(db: Db, on: Day): { owed: Owed[]; papers: ReturnType<typeof readPayables> } {
  const papers = readPayables(db, on);
  const accounts = readAccounts(db);
  return { papers, owed: papers.map((p) => ({ ...p, account: accounts.has(p.supplier) })) };
}

/** What is owed by invoices that are held: nobody pays them yet. */
export const readHeldTotals = (db: Db): { currency: string; invoices: number; total: number }[] =>
  sql<{ currency: string; invoices: number; total: number }>(
    db,
    "SELECT currency, count(*) AS invoices, sum(total) AS total FROM invoice WHERE state = 'Held' AND kind = 'invoice' GROUP BY currency ORDER BY currency",
  ).all();

/** What the company pays from, and from which sum on somebody else releases. */
export const readPayFrom = (db: Db): { name: string; iban: string; bic: string; releaseFrom: number } =>
  sql<{ name: string; iban: string; bic: string; releaseFrom: number }>(
    db,
    "SELECT name, iban, bic, release_from AS releaseFrom FROM company",
  ).get()!;
