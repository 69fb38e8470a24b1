import { quantityText } from "../../../core/numbers/quantity";
import type { Db } from "../../db/open";
import { sql } from "../../db/open";
import { recordsFile } from "../records-file";
import type { Need } from "./need";

/** The columns of /needs.csv, in their order. Quantities are exact decimal text with a point. */
export const NEED_FILE_COLUMNS = [
  "item",
  "store",
  "source",
  "on_hand",
  "committed",
  "on_order",
  "available",
  "reorder_point",
  "policy",
  "raw_stock_qty",
  "purchase_unit",
  "buy_qty",
  "needed_by",
  "order_by",
  "late_days",
  "supplier",
  "arrives",
] as const;
export type NeedRecord = Record<(typeof NEED_FILE_COLUMNS)[number], string>;

/** Needs as other programs read them: by our codes, with units by their UN/ECE code. */
export function needRecords(db: Db): (n: Need) => NeedRecord {
  const stores = codesOf(db, "store");
  const suppliers = codesOf(db, "supplier");
  const units = new Map(
    sql<{ code: string; name: string }>(db, "SELECT code, name FROM unit")
      .all()
      .map((u) => [u.name, u.code]),
  );
  const q = (n: number | undefined) => (n === undefined ? "" : quantityText(n));
  return (n) => ({
    item: n.item === null ? "" : n.code,
    store: stores.get(n.store)!,
    source: n.source,
    on_hand: q(n.stock?.onHand),
    committed: q(n.stock?.committed),
    on_order: q(n.stock?.onOrder),
    available: q(n.stock?.available),
    reorder_point: q(n.stock?.reorderPoint),
    policy: n.policy,
    raw_stock_qty: quantityText(n.wanted),
    purchase_unit: units.get(n.unit) ?? n.unit,
    buy_qty: quantityText(n.buy),
    needed_by: n.neededOn,
    order_by: n.orderBy ?? "",
    late_days: n.arrives === null ? "" : String(n.lateBy),
    supplier: n.supplier ? suppliers.get(n.supplier.id)! : "",
    arrives: n.arrives ?? "never",
  });
}

const codesOf = (db: Db, table: "store" | "supplier") =>
  new Map(
    sql<{ id: number; code: string }>(db, `SELECT id, code FROM ${table}`)
      .all()
      .map((r) => [r.id, r.code]),
  );

/** The needs as a file. */
export const needFile = (db: Db, needs: readonly Need[], kind: "csv" | "json"): AsyncGenerator<string> =>
  recordsFile(needs, NEED_FILE_COLUMNS, needRecords(db), kind);
