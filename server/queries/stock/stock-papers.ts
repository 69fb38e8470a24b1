import type { Day } from "../../../core/calendar/day";
import type { ItemId, JobId, StoreId } from "../../../core/ids";
import type { StockPaper } from "../../../core/stock/paper";
import { type Db, sql } from "../../db/open";

export interface StockPaperHead {
  id: number;
  number: string;
  kind: StockPaper;
  store: StoreId;
  storeName: string;
  job: JobId | null;
  jobName: string | null;
  reason: string;
  day: Day;
  person: string;
  at: string;
}

/** What one paper moved: of an item and lot, from a bin, into one, or both. Stock units; no value. */
export interface StockPaperLine {
  item: ItemId;
  code: string;
  name: string;
  unit: string;
  unitCode: string;
  lot: string | null;
  expires: Day | null;
  from: string | null;
  to: string | null;
  quantity: number;
}

const HEAD = `
  SELECT p.id, p.number, p.kind, p.store, s.name AS storeName, p.job, j.kind || ' ' || j.code AS jobName, p.reason, p.day, q.name AS person, p.at
  FROM stock_paper p JOIN store s ON s.id = p.store JOIN person q ON q.id = p.person LEFT JOIN job j ON j.id = p.job`;

/** The papers of a store's stock, or of all, the last first. */
export const readStockPapers = (db: Db, store: StoreId | null): (StockPaperHead & { lines: number })[] =>
  sql<StockPaperHead & { lines: number }>(
    db,
    `SELECT x.*, (SELECT count(*) FROM movement m WHERE m.paper = x.id) AS lines FROM (${HEAD} WHERE (@store IS NULL OR p.store = @store) ORDER BY p.id DESC LIMIT 300) x ORDER BY x.id DESC`,
  ).all({ store });

/** A paper with what it moved; null where there is none. */
export function readStockPaper(db: Db, id: number): { head: StockPaperHead; lines: StockPaperLine[] } | null {
  const head = sql<StockPaperHead>(db, `${HEAD} WHERE p.id = ?`).get(id);
  if (!head) return null;
  const moves = sql<Omit<StockPaperLine, "from" | "to"> & { bin: string }>(
    db,
    `SELECT m.item, i.code, i.name, u.name AS unit, i.unit AS unitCode, k.code AS lot, k.expires, m.bin, m.quantity
     FROM movement m JOIN item i ON i.id = m.item JOIN unit u ON u.code = i.unit LEFT JOIN lot k ON k.id = m.lot WHERE m.paper = ? ORDER BY m.id`,
  ).all(id);
  const within = head.kind === "stow" || head.kind === "move";
  const lines: StockPaperLine[] = [];
  for (const [i, { bin, ...m }] of moves.entries()) {
    if (!within) lines.push({ ...m, from: m.quantity < 0 ? bin : null, to: m.quantity < 0 ? null : bin });
    // Within a store each movement out is followed by its movement in.
    else if (m.quantity > 0) lines.push({ ...m, from: moves[i - 1]!.bin, to: bin });
  }
  return { head, lines };
}
