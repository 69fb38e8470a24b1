import { type Day, toDay } from "../../../core/calendar/day";
import { moneyText } from "../../../core/numbers/money";
import { minutesBetween } from "../../../core/signoff/hours";
import { csvText } from "../../../exchange/csv/write";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../company";
import { readRoster } from "./staff";

export const DECISION_COLUMNS = [
  "paper",
  "number",
  "round",
  "amount",
  "currency",
  "rules",
  "ladder",
  "rung",
  "person",
  "stood_in_for",
  "decision",
  "reason",
  "asked",
  "decided",
  "working_minutes",
] as const;

/** Every signature and every sending back of a period, in the order in which they were given. */
export function* decisionsFile(db: Db, from: Day, to: Day): Generator<string> {
  const { currency } = theCompany(db);
  yield csvText([DECISION_COLUMNS]);
  const rows = sql<{
    paper: string;
    number: string;
    round: number;
    amount: number;
    rules: number | null;
    ladder: string;
    rung: string;
    person: string;
    by: number;
    forWhom: string | null;
    what: string;
    reason: string;
    asked: string;
    at: string;
  }>(
    db,
    `SELECT s.paper, coalesce(o.number, r.number) AS number, s.round, s.amount, s.rulebook AS rules, s.ladder, t.name AS rung,
            p.login AS person, p.id AS "by", f.login AS forWhom, g.what, iif(g.what = 'sent back', s.reason, '') AS reason, t.asked, g.at
     FROM signature g JOIN seat t ON t.id = g.seat JOIN signing s ON s.id = t.signing JOIN person p ON p.id = g.person
     LEFT JOIN person f ON f.id = g.for_whom LEFT JOIN purchase_order o ON o.id = s.purchase_order LEFT JOIN requisition r ON r.id = s.requisition
     WHERE g.at >= ? AND g.at < date(?, '+1 day') ORDER BY g.at, g.id`,
  ).all(from, to);
  for (const r of rows) {
    const took = minutesBetween(r.asked, r.at, readRoster(db, toDay(r.at.slice(0, 10))).worksAt(r.by));
    yield csvText([
      [
        r.paper,
        r.number,
        r.round,
        moneyText({ minor: r.amount, currency }),
        currency,
        r.rules ?? "",
        r.ladder,
        r.rung,
        r.person,
        r.forWhom ?? "",
        r.what,
        r.reason,
        r.asked,
        r.at,
        took,
      ],
    ]);
  }
}
