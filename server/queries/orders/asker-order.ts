import type { Day } from "../../../core/calendar/day";
import type { OrderId, OrderLineId, ReceiptId, RequisitionId } from "../../../core/ids";
import type { OrderState } from "../../../core/orders/status";
import { type Db, sql } from "../../db/open";
import { readOrder } from "./order";

/**
 * What somebody may see of an order that serves them and whose role shows no orders: their lines and how far they have
 * come. No price, no condition of the supplier's and no note of the buyers' is in it: each field is named here.
 */
export interface AskerOrder {
  id: OrderId;
  name: string;
  state: OrderState;
  supplierName: string;
  storeName: string;
  writerName: string;
  written: string;
  required: Day;
  cleared: string | null;
  placed: string | null;
  /** Nobody may go on with it for now; why is the buyers' own. */
  held: boolean;
  closed: string | null;
  lines: AskerLine[];
  receipts: { id: ReceiptId; number: string; day: Day }[];
}

export interface AskerLine {
  id: OrderLineId;
  position: number;
  words: string;
  code: string | null;
  unit: string;
  quantity: number;
  received: number;
  closedShort: number;
  due: Day;
  promised: boolean;
  /** The askers’ own requisitions that it serves, and how much of it is for each. */
  serves: { requisition: RequisitionId; number: string; quantity: number }[];
}

/** The order as one asker sees it. Null where there is none, or where nothing on it is theirs. */
export function readAskerOrder(db: Db, id: OrderId, asker: number): AskerOrder | null {
  const sheet = readOrder(db, id);
  if (!sheet) return null;
  const { head } = sheet;
  const lines = sheet.lines.filter((l) => l.serves.some((s) => s.askerId === asker));
  if (lines.length === 0) return null;
  return {
    id: head.id,
    name: head.name,
    state: head.state,
    supplierName: head.supplierName,
    storeName: head.storeName,
    writerName: head.writerName,
    written: head.written,
    required: head.required,
    cleared: head.cleared,
    placed: head.placed,
    held: head.held !== "",
    closed: head.closed,
    lines: lines.map((l) => ({
      id: l.id,
      position: l.position,
      words: l.words,
      code: l.code,
      unit: l.unit,
      quantity: l.quantity,
      received: l.received,
      closedShort: l.closedShort,
      due: l.due,
      promised: l.promised !== null,
      serves: l.serves
        .filter((s) => s.askerId === asker)
        .map((s) => ({ requisition: s.requisition!, number: s.number!, quantity: s.quantity })),
    })),
    receipts: receiptsOfAsker(db, id, asker),
  };
}

/** Only the receipts that something of theirs came with. */
const receiptsOfAsker = (db: Db, order: OrderId, asker: number): AskerOrder["receipts"] =>
  sql<AskerOrder["receipts"][number]>(
    db,
    `SELECT DISTINCT r.id, r.number, r.day FROM receipt r JOIN receipt_line x ON x.receipt = r.id
     JOIN need_tie t ON t.order_line = x.order_line JOIN requisition_line q ON q.id = t.requisition_line
     JOIN requisition n ON n.id = q.requisition WHERE r.purchase_order = ? AND n.asker = ? ORDER BY r.id`,
  ).all(order, asker);
