import type { Day } from "../../../core/calendar/day";
import type { ItemId, RequisitionId } from "../../../core/ids";
import { type Db, sql } from "../../db/open";

export interface UnknownCode {
  id: number;
  code: string;
  store: string;
  quantity: number;
  note: string;
  by: string;
  at: string;
}

/** Codes from floor rounds that nobody knew, waiting to be sorted out. */
export const readUnknown = (db: Db): UnknownCode[] =>
  sql<UnknownCode>(
    db,
    `SELECT n.id, n.code, s.name AS store, n.quantity, n.note, p.name AS by, n.at FROM noted_need n JOIN store s ON s.id = n.store JOIN person p ON p.id = n.person
     WHERE n.item IS NULL AND n.dropped IS NULL ORDER BY n.id`,
  ).all();

export interface OpenAsked {
  line: number;
  requisition: RequisitionId;
  number: string;
  state: string;
  asker: string;
  submitted: string;
  neededBy: Day;
  store: string;
  item: ItemId | null;
  code: string;
  what: string;
  quantity: number;
  unit: string;
  supplier: string;
  order: string;
  orderId: number | null;
  due: Day | null;
  budget: string;
  account: string;
}

/** Lines of requisitions that are not met yet: the report of what is open, by date, asker and supplier. */
export const readOpenAsked = (db: Db, asker: number | null): OpenAsked[] =>
  sql<OpenAsked>(
    db,
    `SELECT q.id AS line, r.id AS requisition, r.number, r.state, a.name AS asker, substr(r.submitted, 1, 10) AS submitted, r.needed_by AS neededBy, s.name AS store,
            coalesce(q.offered, q.item) AS item, coalesce(i.code, q.kind) AS code, coalesce(i.name, q.words) AS what,
            coalesce(q.decided, q.quantity, 10000) AS quantity, coalesce(u.name, 'each') AS unit,
            coalesce(ps.name, qs.name, fs.name, '') AS supplier, coalesce(o.number, iif(o.id IS NULL, '', 'draft'), '') AS "order", o.id AS orderId,
            l.due, coalesce(b.code, '') AS budget, coalesce(q.account, i.account, '') AS account
     FROM requisition_line q JOIN requisition r ON r.id = q.requisition JOIN person a ON a.id = r.asker JOIN store s ON s.id = r.store
     LEFT JOIN item i ON i.id = coalesce(q.offered, q.item) LEFT JOIN unit u ON u.code = i.unit LEFT JOIN budget b ON b.id = q.budget
     LEFT JOIN need_tie t ON t.requisition_line = q.id LEFT JOIN order_line l ON l.id = t.order_line LEFT JOIN purchase_order o ON o.id = l.purchase_order
     LEFT JOIN supplier ps ON ps.id = o.supplier LEFT JOIN supplier qs ON qs.id = q.supplier
     LEFT JOIN supplier fs ON fs.id = (SELECT c.supplier FROM sourcing c WHERE c.item = i.id AND c.active = 1 ORDER BY c.rank, c.id LIMIT 1)
     LEFT JOIN transfer_line tl ON tl.requisition_line = q.id LEFT JOIN transfer x ON x.id = tl.transfer
     WHERE r.state IN ('In sign-off', 'Open', 'Part ordered', 'Ordered') AND q.declined IS NULL AND coalesce(x.state, '') <> 'Moved'
       AND (l.id IS NULL OR l.received + l.closed_short < l.quantity) AND (@asker IS NULL OR r.asker = @asker)
     ORDER BY r.needed_by, r.id, q.position LIMIT 5000`,
  ).all({ asker });
