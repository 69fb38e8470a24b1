import { type Day, daysBetween } from "../../../core/calendar/day";
import type { OrderId, PersonId, QuoteId, SupplierId } from "../../../core/ids";
import { type ChaseAbout, type Chased, type ChaseRule, mayAskAgain, needsWord } from "../../../core/suppliers/chase";
import { type Db, sql } from "../../db/open";

/**
 * An order that needs a word of its supplier, or prices that they were asked for and have not named. Lines of which they
 * said something that waits for us need none.
 */
export interface ChaseRow {
  /** "o12" an order, "q5" one supplier's part of a request for prices. */
  key: string;
  /** Its page. */
  href: string;
  number: string;
  supplier: SupplierId;
  supplierName: string;
  writer: PersonId;
  about: ChaseAbout;
  /** When it went out. */
  placed: string;
  /** When something of it is expected next; of prices, by when they were to be named. */
  due: Day;
  /** Days overdue; 0 where it is not. */
  late: number;
  /** Lines of which something is to come. */
  lines: number;
  /** What the order comes to at home, net of tax, minor units; null of prices. */
  worth: number | null;
  /** Who waits for it, where somebody does. */
  waits: string | null;
  lastAsked: Day | null;
  /** Nobody was asked about it too lately. */
  ripe: boolean;
  /** The supplier has somebody who gets such letters. */
  reachable: boolean;
}

type Row = Omit<ChaseRow, "key" | "href" | "about" | "late" | "lastAsked" | "ripe" | "reachable"> & {
  order: OrderId;
  silent: 0 | 1;
  mails: number;
  confirmed: Day | null;
  announced: Day | null;
  overdue: Day | null;
};

const OPEN = `
  SELECT o.id AS "order", o.number, o.supplier, s.name AS supplierName, o.writer, o.placed, min(l.due) AS due, count(*) AS lines, max(l.answered IS NULL) AS silent,
         o.home_net AS worth,
         (SELECT group_concat(DISTINCT coalesce(j.kind || ' ' || j.code || iif(j.vessel = '', '', ', ' || j.vessel), r.number)) FROM order_line k JOIN need_tie n ON n.order_line = k.id
            LEFT JOIN job_demand d ON d.id = n.job_demand LEFT JOIN job j ON j.id = d.job LEFT JOIN requisition_line q ON q.id = n.requisition_line LEFT JOIN requisition r ON r.id = q.requisition
            WHERE k.purchase_order = o.id AND k.open = 1 AND n.quantity > 0 AND (j.id IS NOT NULL OR r.id IS NOT NULL)) AS waits,
         (SELECT count(*) FROM supplier_contact c WHERE c.supplier = s.id AND c.mail <> '' AND c.for_orders = 1) AS mails,
         (SELECT max(c.day) FROM chase c WHERE c.purchase_order = o.id AND c.about = 'confirm') AS confirmed,
         (SELECT max(c.day) FROM chase c WHERE c.purchase_order = o.id AND c.about = 'announce') AS announced,
         (SELECT max(c.day) FROM chase c WHERE c.purchase_order = o.id AND c.about = 'overdue') AS overdue
  FROM purchase_order o JOIN supplier s ON s.id = o.supplier JOIN order_line l ON l.purchase_order = o.id AND l.open = 1 AND l.kind <> 'charge'
    AND NOT EXISTS (SELECT 1 FROM answer_line w WHERE w.order_line = l.id AND w.state = 'waits')
  WHERE o.stage = 'placed' AND o.kind NOT IN ('blanket', 'standing') GROUP BY o.id`;

/** The house's rule, and those of suppliers that have their own. */
export function readChaseRules(db: Db): { house: ChaseRule; of: ReadonlyMap<number, ChaseRule> } {
  const rows = sql<Omit<ChaseRule, "byClock"> & { byClock: 0 | 1; supplier: SupplierId | null }>(
    db,
    "SELECT supplier, confirm_hours AS confirmHours, announce_days AS announceDays, again_days AS againDays, by_clock AS byClock FROM chase_rule",
  ).all();
  const ruleOf = ({ supplier: _, ...r }: (typeof rows)[number]): ChaseRule => ({ ...r, byClock: r.byClock === 1 });
  return {
    house: ruleOf(rows.find((r) => r.supplier === null)!),
    of: new Map(rows.flatMap((r) => (r.supplier === null ? [] : [[r.supplier, ruleOf(r)] as const]))),
  };
}

/** All orders that need a word, what waiting costs most first: who waits for overdue goods, what is overdue, then the others. */
export function readChase(db: Db, now: string, today: Day): ChaseRow[] {
  const rules = readChaseRules(db);
  const ruleOf = (supplier: SupplierId) => rules.of.get(supplier) ?? rules.house;
  return [...ordersToChase(db, ruleOf, now, today), ...pricesToChase(db, ruleOf, today)].sort(costlier);
}

type RuleOf = (supplier: SupplierId) => ChaseRule;

function ordersToChase(db: Db, ruleOf: RuleOf, now: string, today: Day): ChaseRow[] {
  return sql<Row>(db, OPEN)
    .all()
    .flatMap(({ order, silent, mails, confirmed, announced, overdue, ...r }): ChaseRow[] => {
      const rule = ruleOf(r.supplier);
      const about = needsWord({ placed: r.placed, silent: silent === 1, due: r.due }, rule, now, today);
      if (!about) return [];
      const lastAsked = { confirm: confirmed, announce: announced, overdue }[about];
      return [
        {
          ...r,
          key: `o${order}`,
          href: `/orders/${order}`,
          about,
          late: Math.max(0, daysBetween(r.due, today)),
          lastAsked,
          ripe: mayAskAgain(lastAsked, rule, today),
          reachable: mails > 0,
        },
      ];
    });
}

/** Prices that were to be named by a day that has passed, of requests whose needs are still to be bought. */
function pricesToChase(db: Db, ruleOf: RuleOf, today: Day): ChaseRow[] {
  const rows = sql<
    Omit<ChaseRow, "key" | "href" | "about" | "late" | "ripe" | "reachable" | "worth"> & {
      asked: number;
      quote: QuoteId;
      mails: number;
    }
  >(
    db,
    `SELECT a.id AS asked, q.id AS quote, q.number, a.supplier, s.name AS supplierName, q.person AS writer, q.at AS placed, q.answer_by AS due,
            (SELECT count(*) FROM quote_line l WHERE l.quote = q.id) AS lines, NULL AS waits, (SELECT max(c.day) FROM quote_chase c WHERE c.asked = a.id) AS lastAsked,
            (SELECT count(*) FROM supplier_contact c WHERE c.supplier = s.id AND c.mail <> '' AND (c.for_quotes = 1 OR c.for_orders = 1)) AS mails
     FROM quote_asked a JOIN quote q ON q.id = a.quote JOIN supplier s ON s.id = a.supplier
     WHERE a.answered IS NULL AND a.ended IS NULL AND q.ended IS NULL AND q.answer_by < ?`,
  ).all(today);
  return rows.map(({ asked, quote, mails, ...r }) => ({
    ...r,
    key: `q${asked}`,
    href: `/quotes/${quote}`,
    about: "prices",
    worth: null,
    late: daysBetween(r.due, today),
    ripe: mayAskAgain(r.lastAsked, ruleOf(r.supplier), today),
    reachable: mails > 0,
  }));
}

const WEIGHT: Record<ChaseAbout, number> = { overdue: 4, confirm: 2, prices: 1.5, announce: 1 };
const weight = (r: ChaseRow) => WEIGHT[r.about] + (r.waits === null ? 0 : r.about === "overdue" ? 4 : 1.5);
const costlier = (a: ChaseRow, b: ChaseRow) =>
  weight(b) - weight(a) || b.late - a.late || (b.worth ?? 0) - (a.worth ?? 0) || (a.key < b.key ? -1 : 1);

/** An open line of an order, as a letter says it. */
export interface ChasedLine {
  words: string;
  quantity: number;
  unit: string;
  due: Day;
}

/** What is still to come of an order, by its days. */
export const readChasedLines = (db: Db, order: OrderId): ChasedLine[] =>
  sql<ChasedLine>(
    db,
    `SELECT l.words, s.quantity, u.name AS unit, s.due FROM open_schedule s JOIN order_line l ON l.id = s.order_line JOIN unit u ON u.code = l.unit
     WHERE s.purchase_order = ? AND l.kind <> 'charge' ORDER BY s.due, l.position`,
  ).all(order);

/** The lines of a request for prices, as a letter says them. */
export const readAskedLines = (db: Db, asked: number): ChasedLine[] =>
  sql<ChasedLine>(
    db,
    `SELECT i.name AS words, l.quantity, u.name AS unit, l.needed_on AS due FROM quote_asked a JOIN quote_line l ON l.quote = a.quote JOIN item i ON i.id = l.item
     JOIN unit u ON u.code = i.unit WHERE a.id = ? ORDER BY l.position`,
  ).all(asked);

/** What was asked of an order, and when, the last first. */
export const readAsks = (db: Db, order: OrderId): { about: Chased; day: Day; by: string | null; mail: number }[] =>
  sql<{ about: Chased; day: Day; by: string | null; mail: number }>(
    db,
    "SELECT c.about, c.day, p.name AS by, c.mail FROM chase c LEFT JOIN person p ON p.id = c.person WHERE c.purchase_order = ? ORDER BY c.id DESC",
  ).all(order);
