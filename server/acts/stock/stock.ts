import { type Db, sql } from "../../db/open";
import type { Desk } from "../desk";

interface Moving {
  item: number;
  store: number;
  quantity: number;
  kind: "output" | "transfer" | "receipt";
  job?: number;
  transferLine?: number;
  receiptLine?: number | bigint;
}

const MOVE = `
  INSERT INTO movement (item, store, bin, lot, day, kind, quantity, receipt_line, transfer_line, job, person, at)
  VALUES (@item, @store, @bin, @lot, @day, @kind, @quantity, @receiptLine, @transferLine, @job, @person, @at)`;

function move(db: Db, desk: Desk, m: Moving, quantity: number, bin: string, lot: number | null): void {
  sql(
    db,
    "INSERT INTO item_store (item, store, policy) VALUES (?, ?, 'to order') ON CONFLICT (item, store) DO NOTHING",
  ).run(m.item, m.store);
  sql(db, "UPDATE item_store SET on_hand = on_hand + ? WHERE item = ? AND store = ?").run(quantity, m.item, m.store);
  sql(db, MOVE).run({
    item: m.item,
    store: m.store,
    bin,
    lot,
    day: desk.day,
    kind: m.kind,
    quantity,
    receiptLine: m.receiptLine ?? null,
    transferLine: m.transferLine ?? null,
    job: m.job ?? null,
    person: desk.person.id,
    at: desk.now,
  });
}

/** Takes goods into a store's stock with their movement. Call inside the act's transaction. */
export const moveIn = (db: Db, desk: Desk, m: Moving): void => move(db, desk, m, m.quantity, "", null);

/**
 * Takes goods from one store to another: what expires first goes first, then what has no lot; held and expired lots
 * stay. False, and nothing moved, where there is not enough. Call inside the act's transaction.
 */
export function moveAcross(db: Db, desk: Desk, m: Moving & { to: number }): boolean {
  const lots = sql<{ bin: string; lot: number; onHand: number; usable: number }>(
    db,
    `SELECT s.bin, s.lot, s.on_hand AS onHand, l.held = '' AND coalesce(l.expires, '9') >= @day AS usable
     FROM stock_lot s JOIN lot l ON l.id = s.lot WHERE s.item = @item AND s.store = @store AND s.on_hand > 0
     ORDER BY l.expires IS NULL, l.expires, s.lot`,
  ).all({ item: m.item, store: m.store, day: desk.day });
  const there =
    sql<{ n: number }>(db, "SELECT on_hand AS n FROM item_store WHERE item = ? AND store = ?").get(m.item, m.store)
      ?.n ?? 0;
  const loose = there - lots.reduce((a, l) => a + l.onHand, 0);
  const from = [...lots.filter((l) => l.usable), { bin: "", lot: null, onHand: loose }];
  if (from.reduce((a, l) => a + l.onHand, 0) < m.quantity) return false;
  let left = m.quantity;
  for (const l of from) {
    const part = Math.min(left, l.onHand);
    if (part <= 0) continue;
    move(db, desk, m, -part, l.bin, l.lot);
    move(db, desk, { ...m, store: m.to }, part, "", l.lot);
    left -= part;
  }
  return true;
}
