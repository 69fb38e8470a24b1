import type { Day } from "../../../core/calendar/day";
import type { OrderId, PersonId } from "../../../core/ids";
import type { OrderKind } from "../../../core/orders/kinds";
import type { OrderStage, OrderState } from "../../../core/orders/status";
import { type Db, sql } from "../../db/open";
import { remember } from "../remember";
import { orderName } from "./order";

export interface OrderRow {
  id: OrderId;
  number: string | null;
  name: string;
  kind: OrderKind;
  title: string;
  held: string;
  state: OrderState;
  supplierName: string;
  storeName: string;
  writerName: string;
  currency: string;
  net: number;
  homeNet: number;
  required: Day;
  written: string;
  placed: string | null;
  sentBack: string | null;
  lines: number;
  linesIn: number;
  /** Lines still open whose day has passed. */
  linesLate: number;
  /** The next day on which something should come. */
  nextDue: Day | null;
}

const HEADS = `
  SELECT o.id, o.number, o.kind, o.title, o.held, o.state, s.name AS supplierName, t.name AS storeName, w.name AS writerName, o.currency, o.net, o.home_net AS homeNet,
         o.required, o.written, o.placed, o.sent_back AS sentBack,
         coalesce(l.lines, 0) AS lines, coalesce(l.linesIn, 0) AS linesIn, coalesce(l.linesLate, 0) AS linesLate, l.nextDue
  FROM purchase_order o JOIN supplier s ON s.id = o.supplier JOIN store t ON t.id = o.store JOIN person w ON w.id = o.writer`;
const LINES_OF = `
  LEFT JOIN (SELECT purchase_order, count(*) AS lines, sum(open = 0) AS linesIn,
                    sum(open = 1 AND due < @today) AS linesLate,
                    min(CASE WHEN open = 1 THEN due END) AS nextDue
             FROM order_line WHERE purchase_order IN (ORDERS) GROUP BY purchase_order) l ON l.purchase_order = o.id`;
const ROWS = `${HEADS} ${LINES_OF.replace("ORDERS", "SELECT id FROM purchase_order WHERE stage IN (STAGES)")}
  WHERE o.stage IN (STAGES) AND KINDS ORDER BY o.id DESC`;
const BY_ID = `${HEADS} ${LINES_OF.replace("ORDERS", "SELECT value FROM json_each(@ids)")} WHERE o.id IN (SELECT value FROM json_each(@ids))`;

/** Orders by their ids, as lists show them; in no particular order. */
export const orderRows = (db: Db, ids: readonly number[], today: Day): OrderRow[] =>
  named(sql<Omit<OrderRow, "name">>(db, BY_ID).all({ today, ids: JSON.stringify(ids) }));

const named = (rows: Omit<OrderRow, "name">[]): OrderRow[] =>
  rows.map((r) => ({ ...r, name: orderName(r.id, r.number) }));
const stages = (...list: OrderStage[]) => list.map((s) => `'${s}'`).join(", ");

const WRITING = ROWS.replaceAll("STAGES", stages("draft")).replace("KINDS", "o.kind <> 'standing'");
const STANDING = ROWS.replaceAll("STAGES", stages("draft")).replace("KINDS", "o.kind = 'standing'");
// A blanket order that the supplier has waits for nothing: it stands with the blanket orders.
const WITH_SUPPLIERS = ROWS.replaceAll("STAGES", stages("cleared", "placed")).replace(
  "KINDS",
  "(o.kind <> 'blanket' OR o.stage = 'cleared')",
);

/** Orders being written: the Bench. */
export const readDrafts = (db: Db, today: Day) => named(sql<Omit<OrderRow, "name">>(db, WRITING).all({ today }));

/** Lists that are kept to make orders from. */
export const readStanding = (db: Db, today: Day) => named(sql<Omit<OrderRow, "name">>(db, STANDING).all({ today }));

/** Orders cleared to be placed and all after, until all is in. */
export const readWithSuppliers = (db: Db, today: Day): OrderRow[] =>
  remember(db, `with suppliers/${today}`, () => named(sql<Omit<OrderRow, "name">>(db, WITH_SUPPLIERS).all({ today })));

/** May this person see the order because it serves what they asked for? */
export const servesAsker = (db: Db, order: OrderId, person: PersonId) =>
  sql(
    db,
    `SELECT 1 FROM order_line l JOIN need_tie t ON t.order_line = l.id JOIN requisition_line q ON q.id = t.requisition_line
     JOIN requisition r ON r.id = q.requisition WHERE l.purchase_order = ? AND r.asker = ? LIMIT 1`,
  ).get(order, person) !== undefined;
