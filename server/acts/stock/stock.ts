import type { ItemId, JobId, StoreId, SupplierId } from "../../../core/ids";
import type { UnitPrice } from "../../../core/numbers/money";
import type { MovementKind } from "../../../core/stock/movement";
import type { Picked } from "../../../core/stock/pick";
import { stockPostings } from "../../../core/stock/posting";
import { type Held, valueFound, valueOut } from "../../../core/stock/value";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../../queries/company";
import { ownBin } from "../../queries/stock/bins";
import { pickAt } from "./pick";
import { type Doing, openEntry, post } from "./post";

/** What moves: stock units of an item at a store, above zero; and where it comes from. */
export interface Moving {
  item: ItemId;
  store: StoreId;
  quantity: number;
  kind: MovementKind;
  bin?: string;
  lot?: number | null;
  /** Whose goods they are; left out: ours. */
  owner?: SupplierId | null;
  note?: string;
  entry?: number;
  job?: JobId;
  transferLine?: number;
  receiptLine?: number | bigint;
  /** The movement that it takes back. */
  reverses?: number;
  /** The paper of the stock by which it moves. */
  paper?: number;
}

const MOVE = `
  INSERT INTO movement (item, store, bin, lot, owner, day, kind, quantity, value, entry, reverses, receipt_line, transfer_line, job, paper, note, person, at)
  VALUES (@item, @store, @bin, @lot, @owner, @day, @kind, @quantity, @value, @entry, @reverses, @receiptLine, @transferLine, @job, @paper, @note, @person, @at)`;

/** One movement, signed. The file keeps what lies where, and what it is worth, from it. */
export function move(db: Db, by: Doing, m: Moving, quantity: number, value: number): void {
  // What leaves lay there already.
  if (quantity > 0)
    sql(
      db,
      "INSERT INTO item_store (item, store, policy) VALUES (?, ?, 'to order') ON CONFLICT (item, store) DO NOTHING",
    ).run(m.item, m.store);
  sql(db, MOVE).run({
    item: m.item,
    store: m.store,
    bin: m.bin ?? "",
    lot: m.lot ?? null,
    owner: m.owner ?? null,
    day: by.day,
    kind: m.kind,
    quantity,
    value,
    entry: m.entry ?? null,
    receiptLine: m.receiptLine ?? null,
    reverses: m.reverses ?? null,
    transferLine: m.transferLine ?? null,
    job: m.job ?? null,
    paper: m.paper ?? null,
    note: m.note ?? "",
    person: by.person?.id ?? null,
    at: by.now,
  });
}

/** Our stock of an item at a store. */
export const heldAt = (db: Db, item: ItemId, store: StoreId): Held =>
  sql<Held>(db, "SELECT on_hand AS quantity, value FROM item_store WHERE item = ? AND store = ?").get(item, store) ?? {
    quantity: 0,
    value: 0,
  };

/** Takes goods into a store's stock at what they are worth. Call inside the act's transaction. */
export const takeIn = (db: Db, by: Doing, m: Moving, value: number): void => move(db, by, m, m.quantity, value);

/**
 * Takes goods off a shelf for use, at what they are worth, first expired, first out; what is held or expired only where
 * nothing else is left. There must be enough.
 */
export function takeOut(db: Db, by: Doing, m: Omit<Moving, "kind" | "entry" | "bin" | "lot">): void {
  const entry = openEntry(db, by, "issue");
  const value = takeFrom(db, by, { ...m, kind: "issue", entry }, pickAt(db, m, by.day, "any"));
  post(db, entry, stockPostings(value, "used"));
}

/** Takes so much from each bin and lot, at what it is worth; the value that went, below zero. */
export function takeFrom(db: Db, by: Doing, m: Moving, picked: readonly Picked[] | null): number {
  if (!picked) throw new Error(`There is not enough of item ${m.item} at store ${m.store}.`);
  let value = 0;
  for (const p of picked) {
    const worth = valueOut(heldAt(db, m.item, m.store), p.quantity);
    move(db, by, { ...m, bin: p.bin, lot: p.lot }, -p.quantity, -worth);
    value -= worth;
  }
  return value;
}

/** What is found on a shelf is worth what lies there already, else what the item usually costs. */
export function valueOfFound(db: Db, item: ItemId, store: StoreId, quantity: number): number {
  const { reference } = sql<{ reference: UnitPrice | null }>(
    db,
    "SELECT reference_cost AS reference FROM item WHERE id = ?",
  ).get(item)!;
  return valueFound(heldAt(db, item, store), quantity, reference, theCompany(db).currency);
}

/** A job gives something back to the shelf: worth what lies there, against the stock difference. */
export function returnToShelf(db: Db, by: Doing, m: Moving): void {
  const value = valueOfFound(db, m.item, m.store, m.quantity);
  const entry = openEntry(db, by, "output");
  takeIn(db, by, { ...m, entry }, value);
  post(db, entry, stockPostings(value, "stock difference"));
}

/**
 * Sets what is on hand to what was counted, by so much: what is found lies in the item's own bin, or in the one that is
 * named. Returns what the value changed by, which the caller posts with the whole count.
 */
export function adjust(db: Db, by: Doing, m: Omit<Moving, "quantity">, difference: number): number {
  const quantity = Math.abs(difference);
  if (difference < 0)
    return takeFrom(db, by, { ...m, quantity }, pickAt(db, { ...m, quantity }, by.day, "no lot first"));
  const value = valueOfFound(db, m.item, m.store, difference);
  move(db, by, { ...m, bin: m.bin ?? ownBin(db, m.item, m.store), quantity }, difference, value);
  return value;
}

/** Sets what lies in one bin, of one lot or of none, to what was counted; returns what the value changed by. */
export function adjustAt(
  db: Db,
  by: Doing,
  m: Omit<Moving, "quantity"> & { bin: string; lot: number | null },
  difference: number,
): number {
  const quantity = Math.abs(difference);
  return difference < 0
    ? takeFrom(db, by, { ...m, quantity }, [{ bin: m.bin, lot: m.lot, quantity }])
    : adjust(db, by, m, difference);
}

/**
 * Takes goods from one store to another at what they are worth: what expires first goes first, then what has no lot; held
 * and expired lots stay. False, and nothing moved, where there is not enough. Call inside the act's transaction.
 */
export function moveAcross(db: Db, by: Doing, m: Moving & { to: StoreId }): boolean {
  const from = pickAt(db, m, by.day);
  if (!from) return false;
  for (const l of from) {
    const value = valueOut(heldAt(db, m.item, m.store), l.quantity);
    move(db, by, { ...m, bin: l.bin, lot: l.lot }, -l.quantity, -value);
    move(db, by, { ...m, store: m.to, lot: l.lot }, l.quantity, value);
  }
  return true;
}
