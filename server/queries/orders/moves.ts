import type { ItemId, OrderLineId, SupplierId } from "../../../core/ids";
import { isPlain } from "../../../core/orders/kinds";
import { type Db, sql } from "../../db/open";
import { type OrderHead, orderName } from "./order";

/** Where a line of a draft could go: another draft for the same store, or a new order to somebody who sells it. */
export interface MoveTarget {
  /** "order:12" or "supplier:3". */
  to: string;
  says: string;
}

interface SellerRow {
  line: OrderLineId;
  supplier: SupplierId;
  name: string;
}

/** Where each line could go, and, under 0, where all of them could go together. */
export function readMoves(db: Db, head: OrderHead): Record<number, MoveTarget[]> {
  if (!isPlain(head.kind)) return {};
  const lines = sql<{ id: number; item: ItemId | null }>(
    db,
    "SELECT id, item FROM order_line WHERE purchase_order = ? ORDER BY position",
  ).all(head.id);
  const sellers = sql<SellerRow>(
    db,
    `SELECT l.id AS line, s.id AS supplier, s.name FROM order_line l JOIN sourcing c ON c.item = l.item AND c.active = 1
     JOIN supplier s ON s.id = c.supplier AND s.active = 1 AND s.blocked = '' WHERE l.purchase_order = ? ORDER BY c.rank, s.name`,
  ).all(head.id);
  const drafts = sql<{ id: number; number: string | null; supplier: SupplierId; name: string }>(
    db,
    `SELECT o.id, o.number, o.supplier, s.name FROM purchase_order o JOIN supplier s ON s.id = o.supplier
     WHERE o.stage = 'draft' AND o.kind IN ('one-off', 'call-off') AND o.store = ? AND o.id <> ? ORDER BY o.id DESC`,
  ).all(head.store, head.id);
  const targets = (sold: { supplier: SupplierId; name: string }[], apart: boolean): MoveTarget[] => {
    const by = new Map([
      [head.supplier, head.supplierName],
      ...sold.map((s): [number, string] => [s.supplier, s.name]),
    ]);
    return [
      ...drafts
        .filter((d) => by.has(d.supplier))
        .map((d) => ({ to: `order:${d.id}`, says: `${d.name}, ${orderName(d.id, d.number)}` })),
      ...[...by]
        .filter(([id]) => id !== head.supplier || apart)
        .map(([id, name]) => ({ to: `supplier:${id}`, says: `${name}, a new order` })),
    ];
  };
  const moves: Record<number, MoveTarget[]> = {};
  for (const l of lines)
    moves[l.id] = targets(
      sellers.filter((s) => s.line === l.id),
      lines.length > 1,
    );
  const byAll = sellers.filter(
    (s, i) =>
      sellers.findIndex((o) => o.supplier === s.supplier) === i &&
      lines.every((l) => sellers.some((o) => o.line === l.id && o.supplier === s.supplier)),
  );
  moves[0] = targets(byAll, false);
  return moves;
}
