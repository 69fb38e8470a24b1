import type { Day } from "../../../core/calendar/day";
import type { SupplierId } from "../../../core/ids";
import { type Db, sql } from "../../db/open";

/** What is owed for one paper: an invoice, a credit note (below zero) or an agreed use statement. */
export interface PayableRow {
  id: number;
  supplier: SupplierId;
  supplierName: string;
  /** Their number, or the statement's. */
  number: string;
  invoice: number | null;
  statement: number | null;
  currency: string;
  total: number;
  /** Home currency, as it was booked. */
  homeTotal: number;
  /** What was left of it, and what that was booked at. */
  left: number;
  homeLeft: number;
  earlyPercent: number;
  earlyBy: Day | null;
  due: Day;
  day: Day;
  /** The pay list that pays it, where one is on its way. */
  onList: string | null;
}

/** What was settled of a payable `y` by a day. */
const SETTLED = (what: "p.minor + p.discount" | "p.booked") =>
  `coalesce((SELECT sum(${what}) FROM payment_part p JOIN payment m ON m.id = p.payment WHERE p.payable = y.id AND m.day <= @on AND (m.taken_back IS NULL OR m.taken_back > @on)), 0)`;

const OPEN = `
  SELECT * FROM (
    SELECT y.id, y.supplier, s.name AS supplierName, coalesce(v.number, u.number) AS number, y.invoice, y.statement, y.currency, y.total, y.home_total AS homeTotal,
           y.total - ${SETTLED("p.minor + p.discount")} AS "left", y.home_total - ${SETTLED("p.booked")} AS homeLeft,
           coalesce(v.early_percent, 0) AS earlyPercent, v.early_by AS earlyBy, y.due, y.day,
           (SELECT q.number FROM pay_line_part g JOIN pay_line n ON n.id = g.line JOIN pay_list q ON q.id = n.list WHERE g.payable = y.id AND n.state = 'Listed') AS onList
    FROM payable y JOIN supplier s ON s.id = y.supplier LEFT JOIN invoice v ON v.id = y.invoice LEFT JOIN use_statement u ON u.id = y.statement
    WHERE y.day <= @on AND (y.ended IS NULL OR y.ended > @on)) x`;

/** What was owed on a day, the earliest due first: booked by then, not ended by then, and what was left of it. */
export const readPayables = (db: Db, on: Day): PayableRow[] =>
  sql<PayableRow>(db, `${OPEN} WHERE x."left" <> 0 ORDER BY x.due, x.id LIMIT 2000`).all({ on });

/** What was owed on a day of one due day, supplier and currency: papers, and what is left of them as booked. */
export interface PayableSum {
  due: Day;
  supplierId: SupplierId;
  supplier: string;
  currency: string;
  papers: number;
  homeLeft: number;
}

/** The same as sums, however many papers there are. */
export const SUMS = `
  WITH paid AS (
    SELECT p.payable, sum(p.booked) AS booked FROM payment_part p JOIN payment m ON m.id = p.payment
    WHERE m.day <= @on AND (m.taken_back IS NULL OR m.taken_back > @on) GROUP BY p.payable)
  SELECT y.due, y.supplier AS supplierId, s.name AS supplier, y.currency, sum(y.home_total <> coalesce(q.booked, 0)) AS papers, sum(y.home_total - coalesce(q.booked, 0)) AS homeLeft
  FROM payable y JOIN supplier s ON s.id = y.supplier LEFT JOIN paid q ON q.payable = y.id
  WHERE y.day <= @on AND (y.ended IS NULL OR y.ended > @on) GROUP BY y.due, y.supplier, y.currency HAVING papers > 0`;
export const readPayableSums = (db: Db, on: Day): PayableSum[] => sql<PayableSum>(db, SUMS).all({ on });

/** Sums by one of their parts: papers, and home currency as booked; in the order in which they come. */
export function summed<K extends string>(
  sums: readonly PayableSum[],
  of: (s: PayableSum) => K,
): { name: K; papers: number; homeLeft: number }[] {
  const by = new Map<K, { name: K; papers: number; homeLeft: number }>();
  for (const s of sums) {
    const name = of(s);
    const at = by.get(name) ?? { name, papers: 0, homeLeft: 0 };
    by.set(name, { name, papers: at.papers + s.papers, homeLeft: at.homeLeft + s.homeLeft });
  }
  return [...by.values()];
}

export type OpenPayable = PayableRow;
/** What is left of a payable, whatever was paid of it and whenever; null where it is not owed. */
export const readOpenPayable = (db: Db, id: number): OpenPayable | null =>
  sql<OpenPayable>(db, `${OPEN} WHERE x.id = @id`).get({ on: "9999-12-31", id }) ?? null;

export interface PaymentRow {
  id: number;
  number: string;
  supplier: SupplierId;
  supplierName: string;
  day: Day;
  currency: string;
  total: number;
  home: number;
  entry: number;
  takenBack: Day | null;
  why: string;
  version: number;
  person: string;
  /** Numbers of what it paid, by commas. */
  papers: string;
}
const PAYMENT = `
  SELECT m.id, m.number, m.supplier, s.name AS supplierName, m.day, m.currency, m.total, m.home, m.entry, m.taken_back AS takenBack, m.why, m.version, p.name AS person,
         (SELECT group_concat(coalesce(v.number, u.number), ', ') FROM payment_part x JOIN payable y ON y.id = x.payable LEFT JOIN invoice v ON v.id = y.invoice
          LEFT JOIN use_statement u ON u.id = y.statement WHERE x.payment = m.id) AS papers
  FROM payment m JOIN supplier s ON s.id = m.supplier JOIN person p ON p.id = m.person`;
export const readPayment = (db: Db, id: number): PaymentRow | null =>
  sql<PaymentRow>(db, `${PAYMENT} WHERE m.id = ?`).get(id) ?? null;
/** The last payments. */
export const readPayments = (db: Db): PaymentRow[] =>
  sql<PaymentRow>(db, `${PAYMENT} ORDER BY m.id DESC LIMIT 12`).all();

/** The payments, not taken back, that paid something of an invoice, by commas. */
export const paymentsOf = (db: Db, invoice: number): string =>
  sql<{ numbers: string | null }>(
    db,
    `SELECT group_concat(m.number, ', ') AS numbers FROM payment m JOIN payment_part p ON p.payment = m.id JOIN payable y ON y.id = p.payable
     WHERE y.invoice = ? AND m.taken_back IS NULL`,
  ).get(invoice)?.numbers ?? "";
