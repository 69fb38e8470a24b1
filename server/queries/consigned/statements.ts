import type { Day } from "../../../core/calendar/day";
import type { StatementState } from "../../../core/consigned/statement";
import type { UsedAs } from "../../../core/consigned/use";
import type { OrderId, PersonId, SupplierId } from "../../../core/ids";
import { type Db, sql } from "../../db/open";

export interface StatementHead {
  id: number;
  number: string;
  agreement: number;
  agreementName: string;
  supplier: SupplierId;
  supplierName: string;
  writer: PersonId;
  currency: string;
  since: Day;
  until: Day;
  net: number;
  tax: number;
  total: number;
  homeNet: number;
  state: StatementState;
  said: string;
  agreedBy: string;
  agreed: string | null;
  sent: string | null;
  version: number;
  day: Day;
  uses: number;
  /** The day by which it is paid; null before it is agreed. */
  due: Day | null;
}

const HEAD = `
  SELECT s.id, s.number, s.agreement, 'Agreement ' || a.number AS agreementName, a.supplier, p.name AS supplierName, a.writer, a.currency, s.since, s.until, s.net, s.tax, s.total,
         s.home_net AS homeNet, s.state, s.said, s.agreed_by AS agreedBy, s.agreed, s.sent, s.version, s.day,
         (SELECT count(*) FROM consigned_use u WHERE u.statement = s.id) AS uses, y.due
  FROM use_statement s JOIN agreement a ON a.id = s.agreement JOIN supplier p ON p.id = a.supplier LEFT JOIN payable y ON y.statement = s.id`;

/** Use statements, those that wait first, then the last first. */
export const readStatements = (db: Db, agreement: number | null = null): StatementHead[] =>
  sql<StatementHead>(
    db,
    `SELECT * FROM (${HEAD}) x WHERE (@agreement IS NULL OR x.agreement = @agreement)
     ORDER BY CASE x.state WHEN 'Questioned' THEN 0 WHEN 'Made' THEN 1 WHEN 'Sent' THEN 2 ELSE 3 END, x.id DESC LIMIT 300`,
  ).all({ agreement });

export const readStatement = (db: Db, id: number): StatementHead | null =>
  sql<StatementHead>(db, `${HEAD} WHERE s.id = ?`).get(id) ?? null;

/** A use as a list shows it; money in minor units of the agreement's currency. */
export interface UseRow {
  id: number;
  agreementItem: number;
  day: Day;
  what: UsedAs;
  item: number;
  code: string;
  name: string;
  unit: string;
  unitCode: string;
  theirCode: string;
  job: string | null;
  jobId: number | null;
  order: string;
  orderId: OrderId;
  quantity: number;
  /** What of it was not taken back. */
  open: number;
  price: number;
  net: number;
  homeNet: number;
  taxRate: number;
  reverses: number | null;
  note: string;
  statement: number | null;
}

const USES = `
  SELECT u.id, u.agreement_item AS agreementItem, u.day, u.what, x.item, i.code, i.name, n.name AS unit, i.unit AS unitCode, coalesce(c.their_code, '') AS theirCode,
         j.kind || ' ' || j.code || iif(j.vessel = '', '', ', ' || j.vessel) AS job, u.job AS jobId, o.number AS "order", o.id AS orderId, u.quantity,
         iif(u.reverses IS NULL, u.quantity + coalesce((SELECT sum(b.quantity) FROM consigned_use b WHERE b.reverses = u.id), 0), 0) AS open,
         u.price, u.net, u.home_net AS homeNet, u.tax_rate AS taxRate, u.reverses, u.note, u.statement
  FROM consigned_use u JOIN agreement_item x ON x.id = u.agreement_item JOIN agreement a ON a.id = x.agreement JOIN item i ON i.id = x.item JOIN unit n ON n.code = i.unit
  JOIN order_line l ON l.id = u.order_line JOIN purchase_order o ON o.id = l.purchase_order LEFT JOIN job j ON j.id = u.job
  LEFT JOIN sourcing c ON c.item = x.item AND c.supplier = a.supplier`;

/** What is on no statement yet, up to a day. */
export const unsettledUses = (db: Db, agreement: number, until: Day): UseRow[] =>
  sql<UseRow>(
    db,
    `${USES} WHERE x.agreement = @agreement AND u.statement IS NULL AND u.day <= @until ORDER BY u.day, u.id`,
  ).all({ agreement, until });

export const usesOfStatement = (db: Db, statement: number): UseRow[] =>
  sql<UseRow>(db, `${USES} WHERE u.statement = ? ORDER BY u.day, u.id`).all(statement);

/** What was used of an item of an agreement since a day, the last first. */
export const usesOfItem = (db: Db, agreementItem: number, since: Day): UseRow[] =>
  sql<UseRow>(
    db,
    `${USES} WHERE u.agreement_item = @agreementItem AND u.day >= @since ORDER BY u.day DESC, u.id DESC LIMIT 200`,
  ).all({ agreementItem, since });
