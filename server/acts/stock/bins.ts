import { z } from "zod";
import type { StoreId } from "../../../core/ids";
import { binRange, DOCK } from "../../../core/stock/bins";
import { type Db, sql } from "../../db/open";
import { storeName } from "../../queries/choices";
import { keptForOthers } from "../../queries/consigned/agreement";
import { binOf, othersIn } from "../../queries/stock/bins";
import { checked, type Desk, type Done, done, forbid, once, refuse } from "../desk";
import { code, Id, orNone, TickBox, text, Whole } from "../fields";

/** A bin as it is typed; empty is the dock. */
export const BinField = text(20).default("");

/** The bin into which goods are put, as the store knows it; or why they are not. */
export function binToPut(db: Db, store: StoreId, typed: string, field: string): Done<string> {
  if (typed === DOCK) return done(DOCK);
  const bin = binOf(db, store, typed);
  if (!bin) return refuse(field, `${storeName(db, store)} has no bin ${typed}.`);
  if (bin.closed) return refuse(field, `Nothing more is put into bin ${bin.code}: ${bin.closed}`);
  const kept = keptForOthers(db, store, bin.code, null);
  if (kept) return refuse(field, kept);
  const others = othersIn(db, store, bin.code);
  if (others) return refuse(field, `Goods of ${others} lie in bin ${bin.code}: ours go into another.`);
  return done(bin.code);
}

/** Somebody of one store does nothing in another. */
export const ownStore = (desk: Desk, db: Db, store: StoreId): Done<null> =>
  desk.person.store !== null && desk.person.store !== store
    ? forbid(`This is at ${storeName(db, store)}, not in your store.`)
    : done(null);

const isStore = (db: Db, store: StoreId) => sql(db, "SELECT 1 FROM store WHERE id = ?").get(store) !== undefined;

export const AddBins = z.object({
  store: Id,
  from: code("Say what the bin is called.").pipe(z.string().max(20, "At most 20 characters.")),
  /** The last of a range; empty: one bin. */
  to: text(20).default(""),
  note: text(80).default(""),
});

/** Makes one bin, or those of a range that the store does not have yet. */
export function addBins(desk: Desk, raw: unknown): Done<{ made: number }> {
  const input = checked(AddBins, raw);
  if (!input.ok) return input;
  const { store, from, to, note } = input.value;
  return once(desk, "keep bins", (tx) => {
    if (!isStore(tx.db, store)) return refuse("", "There is no such store.");
    const own = ownStore(desk, tx.db, store);
    if (!own.ok) return own;
    const codes = binRange(from, to);
    if (!codes) return refuse("to", "A range goes from one number to a higher one, A1 to A12, with at most 500 bins.");
    const add = sql(tx.db, "INSERT OR IGNORE INTO store_bin (store, code, note) VALUES (?, ?, ?)");
    const made = codes.filter((c) => add.run(store, c, note).changes > 0);
    if (made.length === 0)
      return refuse("from", to ? "All of them are there already." : `Bin ${from} is there already.`);
    tx.record("bins.added", `store ${store}`, { bins: made, note });
    return done({ made: made.length });
  });
}

export const KeepBin = z.object({
  store: Id,
  bin: text(20, 1, "Say which bin."),
  walk: orNone(Whole(1, 1_000_000)).default(null),
  note: text(80).default(""),
  /** Why nothing more is put there. */
  closed: text(80).default(""),
});

/** Says where on the walk a bin stands, and whether goods are put there. */
export function keepBin(desk: Desk, raw: unknown): Done<{ bin: string }> {
  const input = checked(KeepBin, raw);
  if (!input.ok) return input;
  const { store, bin: typed, walk, note, closed } = input.value;
  return once(desk, "keep bins", (tx) => {
    const own = ownStore(desk, tx.db, store);
    if (!own.ok) return own;
    const before = sql<{ code: string; walk: number | null; note: string; closed: string }>(
      tx.db,
      "SELECT code, walk, note, closed FROM store_bin WHERE store = ? AND code = ?",
    ).get(store, typed);
    if (!before) return refuse("", "There is no such bin.");
    sql(tx.db, "UPDATE store_bin SET walk = ?, note = ?, closed = ? WHERE store = ? AND code = ?").run(
      walk,
      note,
      closed,
      store,
      typed,
    );
    tx.record("bin.kept", `store ${store}`, { before, after: { walk, note, closed } });
    return done({ bin: before.code });
  });
}

export const RemoveBin = z.object({ store: Id, bin: text(20, 1, "Say which bin.") });

/** Takes a bin away in which nothing lies and which no item has as its own. Papers that name it stay. */
export function removeBin(desk: Desk, raw: unknown): Done<{ bin: string }> {
  const input = checked(RemoveBin, raw);
  if (!input.ok) return input;
  const { store, bin: typed } = input.value;
  return once(desk, "keep bins", (tx) => {
    const own = ownStore(desk, tx.db, store);
    if (!own.ok) return own;
    const bin = binOf(tx.db, store, typed);
    if (!bin) return refuse("", "There is no such bin.");
    if (sql(tx.db, "SELECT 1 FROM stock_balance WHERE store = ? AND bin = ? AND quantity <> 0").get(store, bin.code))
      return refuse("", `Goods lie in bin ${bin.code}. Move them first.`);
    const item = sql<{ name: string }>(
      tx.db,
      "SELECT i.name FROM item_store p JOIN item i ON i.id = p.item WHERE p.store = ? AND p.bin = ? COLLATE NOCASE LIMIT 1",
    ).get(store, bin.code);
    if (item) return refuse("", `Bin ${bin.code} is the own bin of ${item.name}. Give that another one first.`);
    sql(tx.db, "DELETE FROM store_bin WHERE store = ? AND code = ?").run(store, bin.code);
    tx.record("bin.removed", `store ${store}`, { bin: bin.code });
    return done({ bin: bin.code });
  });
}

/** Says whether what is counted in waits for the stow list, or lies in its bin at once. */
export function keepStowing(desk: Desk, raw: unknown): Done<{ stows: boolean }> {
  const input = checked(z.object({ store: Id, stows: TickBox }), raw);
  if (!input.ok) return input;
  const { store, stows } = input.value;
  return once(desk, "keep bins", (tx) => {
    if (!isStore(tx.db, store)) return refuse("", "There is no such store.");
    const own = ownStore(desk, tx.db, store);
    if (!own.ok) return own;
    sql(tx.db, "UPDATE store SET stows = ? WHERE id = ?").run(stows ? 1 : 0, store);
    tx.record("stowing.kept", `store ${store}`, { stows });
    return done({ stows });
  });
}
