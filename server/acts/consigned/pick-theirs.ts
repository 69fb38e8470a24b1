import type { Day } from "../../../core/calendar/day";
import { byLot, takeOldest } from "../../../core/consigned/layers";
import type { ItemId, StoreId, SupplierId } from "../../../core/ids";
import { showDay } from "../../../core/numbers/format";
import type { UnitPrice } from "../../../core/numbers/money";
import { quantityText } from "../../../core/numbers/quantity";
import { inBin } from "../../../core/stock/bins";
import { type Picked, pickFrom } from "../../../core/stock/pick";
import { type Db, sql } from "../../db/open";
import { rateOn, theCompany } from "../../queries/company";
import { agreedPrice, type BoundItem, layersOf, notOnDay } from "../../queries/consigned/agreement";
import { type Done, done, refuse } from "../desk";
import { stockedItem } from "../stock/stock-paper";
import type { TheirGoods } from "./bring";

/** A bin and lot that a person named, where they did. */
export interface NamedPlace {
  bin: string;
  lot: number | null;
}

/** What of a supplier's lies of an item, by bin; of one lot or of none. */
export const theirsIn = (
  db: Db,
  of: { item: ItemId; store: StoreId; owner: SupplierId; lot: number | null },
): { bin: string; quantity: number }[] =>
  sql<{ bin: string; quantity: number }>(
    db,
    "SELECT bin, quantity FROM stock_balance WHERE item = @item AND store = @store AND owner = @owner AND lot = coalesce(@lot, 0) AND quantity > 0 ORDER BY bin",
  ).all(of);

/** From which bins so much of one lot of theirs is taken; null where there is not enough. */
export const binsOf = (
  db: Db,
  of: { item: ItemId; store: StoreId; owner: SupplierId; lot: number | null },
  quantity: number,
): Picked[] | null =>
  pickFrom(
    theirsIn(db, of).map((b) => ({ ...b, lot: of.lot, expires: null, usable: true })),
    quantity,
  );

/** What becomes ours of one lot, as an order is written of it. */
export const theirGoods = (
  bound: BoundItem,
  item: { name: string; unitCode: string },
  price: UnitPrice,
  of: ReturnType<typeof byLot>[number],
  from: readonly Picked[],
): TheirGoods => ({
  agreementItem: bound.id,
  item: bound.item,
  name: item.name,
  unit: item.unitCode,
  lot: of.lot,
  quantity: of.quantity,
  price,
  taken: of.taken,
  from,
});

/**
 * What of a supplier's goods becomes ours, the oldest first, at the price of the day: one row for each lot. Or why it
 * cannot: beyond what is there, without a price that day, before the agreement begins or after it ended.
 */
export function pickTheirs(
  db: Db,
  of: { bound: BoundItem; quantity: number; named?: NamedPlace | null; usable?: boolean; ends?: boolean },
  day: Day,
): Done<TheirGoods[]> {
  const { bound, quantity, named = null, usable = true } = of;
  const { agreement } = bound;
  const item = stockedItem(db, bound.item)!;
  const no = of.ends ? null : notOnDay(agreement, day);
  if (no) return refuse("quantity", no);
  const price = agreedPrice(db, bound.id, day);
  if (price === null)
    return refuse(
      "quantity",
      `No price of ${item.name} is agreed with ${agreement.supplierName} for ${showDay(day, day)}.`,
    );
  if (rateOn(db, agreement.currency, theCompany(db).currency, day) === null)
    return refuse("quantity", `No rate for ${agreement.currency} is known: nobody can say what it is worth.`);
  const layers = layersOf(db, bound.id, day, { usable, ...(named ? { lot: named.lot } : {}) });
  const taken = takeOldest(layers, quantity);
  const there = layers.reduce((a, l) => a + l.left, 0);
  const at = { item: bound.item, store: agreement.store, owner: agreement.supplier };
  const lots = taken === null ? [] : byLot(taken);
  const rows: TheirGoods[] = [];
  for (const l of lots) {
    const from = named
      ? theirsIn(db, { ...at, lot: l.lot }).some((b) => b.bin === named.bin && b.quantity >= l.quantity)
        ? [{ bin: named.bin, lot: l.lot, quantity: l.quantity }]
        : null
      : binsOf(db, { ...at, lot: l.lot }, l.quantity);
    if (!from) break;
    rows.push(theirGoods(bound, item, price, l, from));
  }
  if (taken === null || rows.length < lots.length) {
    const here = named
      ? Math.min(there, theirsIn(db, { ...at, lot: named.lot }).find((b) => b.bin === named.bin)?.quantity ?? 0)
      : there;
    return refuse(
      "quantity",
      `Only ${quantityText(here)} ${item.unit} of ${item.name} that ${usable ? "may be used" : "are theirs"} lie ${named ? inBin(named.bin) : "here"}: ${agreement.supplierName} owns them.`,
    );
  }
  return done(rows);
}
