import type { ItemId, JobId, StoreId, SupplierId } from "../../../core/ids";
import type { StockPaper } from "../../../core/stock/paper";
import { type Db, madeId, sql } from "../../db/open";
import { nextNumber } from "../../db/series";
import type { Desk } from "../desk";

/** Opens a paper of the stock: movements name it. Inside the act's transaction. */
export function openStockPaper(
  db: Db,
  desk: Desk,
  of: { kind: StockPaper; store: StoreId; job?: JobId | null; reason: string; supplier?: SupplierId | null },
): { paper: number; number: string } {
  const number = nextNumber(db, "stock paper", desk.day);
  const paper = Number(
    madeId(
      sql(
        db,
        "INSERT INTO stock_paper (number, kind, store, job, reason, day, person, at, supplier) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)",
      ).run(
        number,
        of.kind,
        of.store,
        of.job ?? null,
        of.reason,
        desk.day,
        desk.person.id,
        desk.now,
        of.supplier ?? null,
      ),
    ),
  );
  return { paper, number };
}

/** What lies of an item in one bin, of one lot or of none: ours, or a supplier's where one is named. Stock units. */
export const lyingIn = (
  db: Db,
  of: { item: ItemId; store: StoreId; bin: string; lot: number | null; owner?: SupplierId | null },
): number =>
  sql<{ quantity: number }>(
    db,
    "SELECT quantity FROM stock_balance WHERE item = ? AND store = ? AND bin = ? AND lot = ? AND owner = ?",
  ).get(of.item, of.store, of.bin, of.lot ?? 0, of.owner ?? 0)?.quantity ?? 0;

/** An item by name, with its unit; null where it is none that stock is kept of. */
export const stockedItem = (db: Db, item: ItemId): { name: string; unit: string; unitCode: string } | null =>
  sql<{ name: string; unit: string; unitCode: string }>(
    db,
    "SELECT i.name, u.name AS unit, i.unit AS unitCode FROM item i JOIN unit u ON u.code = i.unit WHERE i.id = ? AND i.kind = 'stocked'",
  ).get(item) ?? null;
