import { type Day, daysBetween } from "../../../core/calendar/day";
import type { OrderId, PersonId, SupplierId } from "../../../core/ids";
import { type Chased, type ChaseRule, mayAskAgain, needsWord } from "../../../core/suppliers/chase";
import { type Db, sql } from "../../db/open";

/** An order that needs a word of its supplier. Lines of which they said something that waits for us need none. */
export interface ChaseRow {
  order: OrderId;
  number: string;
  supplier: SupplierId;
  supplierName: string;
  writer: PersonId;
  about: Chased;
  placed: string;
  /** When something of it is expected next. */
  due: Day;
  /** Days overdue; 0 where it is not. */
  late: number;
  /** Lines of which something is to come. */
  lines: number;
  /** What the order comes to at home, net of tax, minor units. */
  worth: number;
  /** Who waits for it, where somebody does. */
  waits: string | null;
  lastAsked: Day | null;
  /** Nobody was asked about it too lately. */
  ripe: boolean;
  /** The supplier has somebody who gets such letters. */
  reachable: boolean;
}

type Row = Omit<ChaseRow, "about" | "late" | "lastAsked" | "ripe" | "reachable"> & {
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
  return sql<Row>(db, OPEN)
    .all()
    .flatMap(({ silent, mails, confirmed, announced, overdue, ...r }): ChaseRow[] => {
      const rule = rules.of.get(r.supplier) ?? rules.house;
      const about = needsWord({ placed: r.placed, silent: silent === 1, due: r.due }, rule, now, today);
      if (!about) return [];
      const lastAsked = { confirm: confirmed, announce: announced, overdue }[about];
      return [
        {
          ...r,
          about,
          late: Math.max(0, daysBetween(r.due, today)),
          lastAsked,
          ripe: mayAskAgain(lastAsked, rule, today),
          reachable: mails > 0,
        },
      ];
    })
    .sort(costlier);
}

const WEIGHT: Record<Chased, number> = { overdue: 4, confirm: 2, announce: 1 };
const weight = (r: ChaseRow) => WEIGHT[r.about] + (r.waits === null ? 0 : r.about === "overdue" ? 4 : 1.5);
const costlier = (a: ChaseRow, b: ChaseRow) =>
  weight(b) - weight(a) || b.late - a.late || b.worth - a.worth || a.order - b.order;

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

/** What was asked of an order, and when, the last first. */
export const readAsks = (db: Db, order: OrderId): { about: Chased; day: Day; by: string | null; mail: number }[] =>
  sql<{ about: Chased; day: Day; by: string | null; mail: number }>(
    db,
    "SELECT c.about, c.day, p.name AS by, c.mail FROM chase c LEFT JOIN person p ON p.id = c.person WHERE c.purchase_order = ? ORDER BY c.id DESC",
  ).all(order);
