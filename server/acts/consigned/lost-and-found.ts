import { z } from "zod";
import { takeOldest } from "../../../core/consigned/layers";
import type { ItemId, StoreId, SupplierId } from "../../../core/ids";
import { quantityText } from "../../../core/numbers/quantity";
import { inBin } from "../../../core/stock/bins";
import { WRITE_OFF_REASONS } from "../../../core/stock/paper";
import { stockPostings } from "../../../core/stock/posting";
import type { Db } from "../../db/open";
import { type BoundItem, boundItems, layersOf } from "../../queries/consigned/agreement";
import { checked, type Desk, type Done, done, once, refuse, type Tx } from "../desk";
import { Id, orNone, QuantityField, text } from "../fields";
import { BinField, ownStore } from "../stock/bins";
import type { MovedGoods } from "../stock/move-goods";
import { openEntry, post } from "../stock/post";
import { openStockPaper, stockedItem } from "../stock/stock-paper";
import { bringTheirs, leaveAtOnce } from "./bring";
import { pickTheirs, theirsIn } from "./pick-theirs";
import { addLayer, setBack } from "./register";
import { ripenTheirs } from "./ripen";
import { takeTheirsOut } from "./send-back";

/** The agreement under which a supplier's goods of an item and lot lie in a store; else the last that they had for it. */
export function boundTo(
  db: Db,
  of: { item: ItemId; store: StoreId; owner: SupplierId; lot: number | null },
): BoundItem | null {
  const all = boundItems(db, of.item, of.store, of.owner);
  return all.find((b) => layersOf(db, b.id, "", { usable: false, lot: of.lot }).length > 0) ?? all[0] ?? null;
}

interface Lost {
  bound: BoundItem;
  quantity: number;
  bin: string;
  lot: number | null;
  paper: number;
  note: string;
}

/**
 * Goods of a supplier are gone, from one bin: where we bear it they become ours at the price of the day and are a stock
 * difference at once; where the supplier bears it, their stock is that much less (domain-goods §13). Inside the act's
 * transaction.
 */
export function loseTheirs(tx: Pick<Tx, "db">, desk: Desk, of: Lost): Done<null> {
  const { db } = tx;
  const { bound, quantity, bin, lot, paper } = of;
  const { agreement, item } = bound;
  const past = setBack(db, agreement, desk.day);
  if (past) return refuse("", past);
  const lies = theirsIn(db, { item, store: agreement.store, owner: agreement.supplier, lot }).find(
    (b) => b.bin === bin,
  );
  if ((lies?.quantity ?? 0) < quantity) {
    const { name, unit } = stockedItem(db, item)!;
    return refuse(
      "quantity",
      `Only ${quantityText(lies?.quantity ?? 0)} ${unit} of ${name} of ${agreement.supplierName} lie ${inBin(bin)}.`,
    );
  }
  const from = [{ bin, lot, quantity }];
  if (agreement.bears === "them") {
    const taken = takeOldest(layersOf(db, bound.id, desk.day, { usable: false, lot }), quantity)!;
    takeTheirsOut(tx, desk, bound, taken, { what: "lost", paper, from });
    return done(null);
  }
  const picked = pickTheirs(db, { bound, quantity, named: { bin, lot }, usable: false, ends: true }, desk.day);
  if (!picked.ok) return picked;
  const { ours } = bringTheirs(db, desk, {
    agreement,
    what: "lost",
    job: null,
    paper,
    note: of.note,
    rows: picked.value,
  });
  const entry = openEntry(db, desk, "write-off");
  const value = ours.reduce(
    (a, one) => a + leaveAtOnce(db, desk, one, { store: agreement.store, paper, entry, kind: "write-off" }),
    0,
  );
  post(db, entry, stockPostings(value, "stock difference"));
  return done(null);
}

/** Goods of a supplier were found: they are theirs, and as old as today. Inside the act's transaction. */
export function findTheirs(
  tx: Pick<Tx, "db">,
  desk: Desk,
  of: { bound: BoundItem; quantity: number; bin: string; lot: number | null; paper: number },
): Done<null> {
  const { bound, quantity, bin, lot, paper } = of;
  const past = setBack(tx.db, bound.agreement, desk.day);
  if (past) return refuse("", past);
  addLayer(tx, desk, bound.agreement, { item: bound, delivery: null, lot, bin, quantity, paper });
  return done(null);
}

export const TheirsLost = z.object({
  store: Id,
  item: Id,
  owner: Id,
  bin: BinField,
  lot: orNone(Id).default(null),
  quantity: QuantityField,
  why: z.enum(WRITE_OFF_REASONS, "Say why it is gone."),
  note: text(300).default(""),
});

/** Goods of a supplier are lost or broken: who pays for them is as the agreement says. */
export function theirsLost(desk: Desk, raw: unknown): Done<MovedGoods> {
  const input = checked(TheirsLost, raw);
  if (!input.ok) return input;
  const { store, why, note, bin, lot, quantity } = input.value;
  ripenTheirs(desk);
  return once(desk, "write off", (tx) => {
    const own = ownStore(desk, tx.db, store);
    if (!own.ok) return own;
    const bound = boundTo(tx.db, input.value);
    if (!bound) return refuse("", "Nothing of theirs lies here.");
    const reason = note ? `${why}: ${note}` : why;
    const { paper, number } = openStockPaper(tx.db, desk, {
      kind: "theirs lost",
      store,
      reason,
      supplier: bound.agreement.supplier,
    });
    const lost = loseTheirs(tx, desk, { bound, quantity, bin, lot, paper, note: reason });
    if (!lost.ok) return lost;
    tx.record("theirs.lost", `agreement ${bound.agreement.id}`, {
      number,
      item: bound.item,
      bin,
      lot,
      quantity,
      reason,
      bears: bound.agreement.bears,
    });
    return done({ paper, number });
  });
}
