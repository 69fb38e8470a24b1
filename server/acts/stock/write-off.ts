import { z } from "zod";
import { quantityText } from "../../../core/numbers/quantity";
import { inBin } from "../../../core/stock/bins";
import { WRITE_OFF_REASONS } from "../../../core/stock/paper";
import { stockPostings } from "../../../core/stock/posting";
import { heldByJobs } from "../../queries/receiving/undo";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { Id, orNone, QuantityField, text } from "../fields";
import { BinField, ownStore } from "./bins";
import type { MovedGoods } from "./move-goods";
import { openEntry, post } from "./post";
import { heldAt, takeFrom } from "./stock";
import { lyingIn, openStockPaper, stockedItem } from "./stock-paper";

export const WriteOff = z.object({
  store: Id,
  item: Id,
  bin: BinField,
  lot: orNone(Id).default(null),
  quantity: QuantityField,
  why: z.enum(WRITE_OFF_REASONS, "Say why it is written off."),
  note: text(300).default(""),
});

/** Takes goods out of the stock that nobody can use any more: what they were worth is a stock difference. */
export function writeOff(desk: Desk, raw: unknown): Done<MovedGoods> {
  const input = checked(WriteOff, raw);
  if (!input.ok) return input;
  const { store, item, bin, lot, quantity, why, note } = input.value;
  return once(desk, "write off", (tx) => {
    const own = ownStore(desk, tx.db, store);
    if (!own.ok) return own;
    const of = stockedItem(tx.db, item);
    if (!of) return refuse("", "There is no such item in stock.");
    const there = lyingIn(tx.db, { item, store, bin, lot });
    if (quantity > there) return refuse("quantity", `Only ${quantityText(there)} ${of.unit} lie ${inBin(bin)}.`);
    const held = heldByJobs(tx.db, item, store, null);
    const holds = held.reduce((a, h) => a + h.quantity, 0);
    const left = heldAt(tx.db, item, store).quantity - quantity;
    if (left < holds)
      return refuse(
        "quantity",
        `${[...new Set(held.map((h) => h.name))].join(", ")} ${held.length === 1 ? "holds" : "hold"} ${quantityText(holds)} ${of.unit}. Free it first: then it is bought again for the job.`,
      );
    const reason = note ? `${why}: ${note}` : why;
    const { paper, number } = openStockPaper(tx.db, desk, { kind: "write-off", store, reason });
    const entry = openEntry(tx.db, desk, "write-off");
    const value = takeFrom(tx.db, desk, { item, store, quantity, kind: "write-off", entry, paper }, [
      { bin, lot, quantity },
    ]);
    post(tx.db, entry, stockPostings(value, "stock difference"));
    tx.record("goods.written-off", `store ${store}`, { number, item, bin, lot, quantity, reason });
    return done({ paper, number });
  });
}
