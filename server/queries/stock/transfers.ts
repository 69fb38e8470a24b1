import type { Day } from "../../../core/calendar/day";
import type { ItemId, RequisitionId, TransferId } from "../../../core/ids";
import { type Db, sql } from "../../db/open";

export interface TransferRow {
  id: TransferId;
  number: string;
  state: "Planned" | "Moved" | "Cancelled";
  version: number;
  from: number;
  fromName: string;
  to: number;
  toName: string;
  day: Day;
  at: string;
  planner: string;
  moved: string | null;
  mover: string | null;
  what: string;
}
export interface TransferLine {
  id: number;
  item: ItemId;
  code: string;
  name: string;
  unit: string;
  quantity: number;
  /** On hand at either end now. */
  here: number;
  there: number;
  bin: string;
  requisition: { id: RequisitionId; number: string } | null;
}

const ROWS = `
  SELECT t.id, t.number, t.state, t.version, t.from_store AS "from", f.name AS fromName, t.to_store AS "to", o.name AS toName, t.day, t.at,
         p.name AS planner, t.moved, m.name AS mover,
         (SELECT group_concat(i.name, ', ') FROM transfer_line l JOIN item i ON i.id = l.item WHERE l.transfer = t.id) AS what
  FROM transfer t JOIN store f ON f.id = t.from_store JOIN store o ON o.id = t.to_store JOIN person p ON p.id = t.person
  LEFT JOIN person m ON m.id = t.moved_by`;

/** Transfers, those still to be moved first. */
export const readTransfers = (db: Db): TransferRow[] =>
  sql<TransferRow>(
    db,
    `${ROWS} ORDER BY t.state <> 'Planned', iif(t.state = 'Planned', t.day, ''), t.id DESC LIMIT 2000`,
  ).all();

export function readTransfer(db: Db, id: TransferId): { head: TransferRow; lines: TransferLine[] } | null {
  const head = sql<TransferRow>(db, `${ROWS} WHERE t.id = ?`).get(id);
  if (!head) return null;
  const lines = sql<Omit<TransferLine, "requisition"> & { requisition: RequisitionId | null; number: string }>(
    db,
    `SELECT l.id, l.item, i.code, i.name, u.name AS unit, l.quantity, coalesce(a.on_hand, 0) AS here, coalesce(b.on_hand, 0) AS there,
            coalesce(a.bin, '') AS bin, r.id AS requisition, r.number
     FROM transfer_line l JOIN transfer t ON t.id = l.transfer JOIN item i ON i.id = l.item JOIN unit u ON u.code = i.unit
     LEFT JOIN item_store a ON a.item = l.item AND a.store = t.from_store LEFT JOIN item_store b ON b.item = l.item AND b.store = t.to_store
     LEFT JOIN requisition_line q ON q.id = l.requisition_line LEFT JOIN requisition r ON r.id = q.requisition
     WHERE l.transfer = ? ORDER BY l.id`,
  ).all(id);
  return {
    head,
    lines: lines.map(({ requisition, number, ...l }) => ({
      ...l,
      requisition: requisition === null ? null : { id: requisition, number },
    })),
  };
}
