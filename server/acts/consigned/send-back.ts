import { z } from "zod";
import { byLot, type LayerPart, takeOldest } from "../../../core/consigned/layers";
import { quantityText } from "../../../core/numbers/quantity";
import type { Picked } from "../../../core/stock/pick";
import { type Db, sql } from "../../db/open";
import { type BoundItem, boundItem, layersOf } from "../../queries/consigned/agreement";
import { checked, type Desk, type Done, done, once, refuse, type Tx } from "../desk";
import { Id, orNone, QuantityField, text } from "../fields";
import { ownStore } from "../stock/bins";
import { move } from "../stock/stock";
import { openStockPaper, stockedItem } from "../stock/stock-paper";
import { bringTheirs, takeLayers } from "./bring";
import { binsOf, pickTheirs } from "./pick-theirs";
import { setBack } from "./register";
import { ripenTheirs } from "./ripen";

export const SendTheirsBack = z.object({
  agreementItem: Id,
  quantity: QuantityField,
  /** One delivery alone; empty: the oldest first. */
  layer: orNone(Id).default(null),
  reason: text(300, 3, "Say why it goes back."),
});

/** Sends goods of a supplier back to them: their stock falls, our books do not. What is held or expired may go, too. */
export function sendTheirsBack(desk: Desk, raw: unknown): Done<{ paper: number; number: string }> {
  const input = checked(SendTheirsBack, raw);
  if (!input.ok) return input;
  const { quantity, layer, reason } = input.value;
  ripenTheirs(desk);
  return once(desk, "move stock", (tx) => {
    const bound = boundItem(tx.db, input.value.agreementItem);
    if (!bound) return refuse("", "There is no such item on a shelf of a supplier’s.");
    const { agreement } = bound;
    const own = ownStore(desk, tx.db, agreement.store);
    if (!own.ok) return own;
    const past = setBack(tx.db, agreement, desk.day);
    if (past) return refuse("", past);
    const layers = layersOf(tx.db, bound.id, desk.day, { usable: false }).filter(
      (l) => layer === null || l.id === layer,
    );
    const taken = takeOldest(layers, quantity);
    if (!taken)
      return refuse(
        "quantity",
        notThere(
          tx.db,
          bound,
          layers.reduce((a, l) => a + l.left, 0),
        ),
      );
    const { paper, number } = openStockPaper(tx.db, desk, {
      kind: "theirs out",
      store: agreement.store,
      reason,
      supplier: agreement.supplier,
    });
    takeTheirsOut(tx, desk, bound, taken, { what: "sent back", paper });
    tx.record("theirs.sent-back", `agreement ${agreement.id}`, { number, item: bound.item, quantity, layer, reason });
    return done({ paper, number });
  });
}

export const notThere = (db: Db, bound: BoundItem, there: number): string => {
  const item = stockedItem(db, bound.item)!;
  return `Only ${quantityText(there)} ${item.unit} of ${item.name} of ${bound.agreement.supplierName} lie here.`;
};

/** Their goods leave without becoming ours: what came first, from wherever its lot lies. Inside the act's transaction. */
export function takeTheirsOut(
  tx: Pick<Tx, "db">,
  desk: Desk,
  bound: BoundItem,
  taken: readonly LayerPart[],
  of: {
    what: string;
    paper: number /** From these bins; left out: from wherever their lots lie. */;
    from?: readonly Picked[];
  },
): void {
  const { agreement, item } = bound;
  const at = { item, store: agreement.store, owner: agreement.supplier };
  for (const l of byLot(taken))
    for (const p of of.from ?? binsOf(tx.db, { ...at, lot: l.lot }, l.quantity)!)
      move(
        tx.db,
        desk,
        {
          ...at,
          bin: p.bin,
          lot: p.lot,
          quantity: p.quantity,
          kind: "consigned",
          paper: of.paper,
        },
        -p.quantity,
        0,
      );
  takeLayers(tx.db, desk.day, taken, of);
}

export const BuyRest = z.object({ agreement: Id });

/** At the end of an agreement, what is left of their goods is bought at the last agreed price: order and receipt. */
export function buyTheRest(desk: Desk, raw: unknown): Done<{ number: string }> {
  const input = checked(BuyRest, raw);
  if (!input.ok) return input;
  ripenTheirs(desk);
  return once(desk, "write orders", (tx) => {
    const items = sql<{ id: number; left: number }>(
      tx.db,
      `SELECT x.id, sum(y.rest) AS "left" FROM agreement_item x JOIN consigned_layer y ON y.agreement_item = x.id WHERE x.agreement = ? AND y.rest > 0 GROUP BY x.id`,
    ).all(input.value.agreement);
    if (items.length === 0) return refuse("", "Nothing of theirs is left.");
    const rows = [];
    let agreement: BoundItem["agreement"] | null = null;
    for (const i of items) {
      const bound = boundItem(tx.db, i.id)!;
      agreement = bound.agreement;
      const past = setBack(tx.db, agreement, desk.day);
      if (past) return refuse("", past);
      const picked = pickTheirs(tx.db, { bound, quantity: i.left, usable: false, ends: true }, desk.day);
      if (!picked.ok) return picked;
      rows.push(...picked.value);
    }
    const { number } = bringTheirs(tx.db, desk, {
      agreement: agreement!,
      what: "bought at the end",
      job: null,
      paper: null,
      note: "",
      rows,
    });
    tx.record("theirs.bought", `agreement ${agreement!.id}`, { number, items });
    return done({ number });
  });
}
