import type { Day } from "../../../core/calendar/day";
import type { ItemId, OrderId, OrderLineId } from "../../../core/ids";
import {
  type BlanketLine,
  type Burn,
  burnOf,
  type Left,
  leftOf,
  type Warning,
  warningsOf,
} from "../../../core/orders/blanket";
import type { OrderState } from "../../../core/orders/status";
import { type Db, sql } from "../../db/open";
import { type CallPaper, readBlanketLine, readCalls } from "./calls";
import { orderName } from "./order";

export interface BlanketLineView {
  id: OrderLineId;
  position: number;
  item: ItemId | null;
  code: string | null;
  words: string;
  price: number | null;
  terms: BlanketLine;
  left: Left;
  burn: Burn;
  warnings: Warning[];
  calls: CallPaper[];
  planned: { id: number; quantity: number; due: Day; late: boolean }[];
}

export interface BlanketView {
  id: number;
  lines: BlanketLineView[];
}

interface LineRow {
  id: number;
  position: number;
  item: ItemId | null;
  code: string | null;
  words: string;
  price: number | null;
}

function viewOf(db: Db, row: LineRow, today: Day): BlanketLineView {
  const terms = readBlanketLine(db, row.id)!;
  const calls = readCalls(db, row.id);
  const left = leftOf(terms, calls);
  const burn = burnOf(terms, left, today);
  return {
    ...row,
    terms,
    left,
    burn,
    calls,
    warnings: warningsOf(terms, left, burn, today),
    planned: sql<{ id: number; quantity: number; due: Day }>(
      db,
      "SELECT id, quantity, due FROM planned_call WHERE line = ? AND made IS NULL ORDER BY due",
    )
      .all(row.id)
      .map((p) => ({ ...p, late: p.due < today })),
  };
}

const LINE = `
  SELECT l.id, l.position, l.item, i.code, l.words, l.price FROM order_line l LEFT JOIN item i ON i.id = l.item
  WHERE l.purchase_order = ? AND l.kind <> 'charge' ORDER BY l.position`;

/** A placed blanket order: each line with what is left, how fast it goes, and its call-offs. */
export const readBlanket = (db: Db, id: OrderId, today: Day): BlanketView => ({
  id,
  lines: sql<LineRow>(db, LINE)
    .all(id)
    .map((l) => viewOf(db, l, today)),
});

export interface BlanketRow {
  id: OrderId;
  name: string;
  title: string;
  supplierName: string;
  state: OrderState;
  currency: string;
  net: number;
  starts: Day;
  ends: Day;
  placed: string | null;
  lines: BlanketLineView[];
}

/** Every blanket order that is not over, those that stand out first. */
export function readBlankets(db: Db, today: Day): BlanketRow[] {
  const heads = sql<Omit<BlanketRow, "name" | "lines"> & { number: string | null }>(
    db,
    `SELECT b.id, b.number, b.title, s.name AS supplierName, b.state, b.currency, b.net, b.starts, b.ends, b.placed
     FROM purchase_order b JOIN supplier s ON s.id = b.supplier WHERE b.kind = 'blanket' AND b.stage NOT IN ('cancelled', 'closed') ORDER BY b.ends`,
  ).all();
  const rows = heads.map(({ number, ...h }) => ({
    ...h,
    name: orderName(h.id, number),
    lines: h.placed ? readBlanket(db, h.id, today).lines : [],
  }));
  return rows.sort((a, b) => grave(a) - grave(b) || (a.ends < b.ends ? -1 : 1));
}

const GRAVITY = ["runs out", "ended", "not used up", "ends soon", "nearly used"];
const grave = (r: BlanketRow) =>
  Math.min(GRAVITY.length, ...r.lines.flatMap((l) => l.warnings.map((w) => GRAVITY.indexOf(w.kind))));
