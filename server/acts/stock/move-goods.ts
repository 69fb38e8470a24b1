import { z } from "zod";
import type { StoreId } from "../../../core/ids";
import { quantityText } from "../../../core/numbers/quantity";
import { DOCK, inBin } from "../../../core/stock/bins";
import { type Db, sql } from "../../db/open";
import { binForTheirs } from "../consigned/their-bins";
import { checked, type Desk, type Done, done, once, type Problem, refuse, refuseAll } from "../desk";
import { Id, orNone, QuantityField, text } from "../fields";
import { BinField, binToPut, ownStore } from "./bins";
import { move } from "./stock";
import { lyingIn, openStockPaper, stockedItem } from "./stock-paper";

const Rows = z
  .array(
    z.object({
      item: Id,
      lot: orNone(Id).default(null),
      /** Whose goods; empty: ours. */
      owner: orNone(Id).default(null),
      from: BinField,
      to: BinField,
      quantity: QuantityField,
    }),
  )
  .min(1, "Choose what is moved.")
  .max(2_000, "At most 2,000 at once.");
type Row = z.output<typeof Rows>[number];

export const MoveGoods = z.object({ store: Id, rows: Rows, reason: text(300).default("") });

export interface MovedGoods {
  paper: number;
  number: string;
}

/** Puts goods of the dock into their bins: all of what is sent, or nothing (domain-goods §12). */
export const stowGoods = (desk: Desk, raw: unknown): Done<MovedGoods> => moveRows(desk, raw, "stow");

/** Moves goods from bin to bin of a store: what they are worth stays. */
export const moveGoods = (desk: Desk, raw: unknown): Done<MovedGoods> => moveRows(desk, raw, "move");

function moveRows(desk: Desk, raw: unknown, kind: "stow" | "move"): Done<MovedGoods> {
  const input = checked(MoveGoods, raw);
  if (!input.ok) return input;
  const { store, rows, reason } = input.value;
  return once(desk, "move stock", (tx) => {
    const own = ownStore(desk, tx.db, store);
    if (!own.ok) return own;
    if (!sql(tx.db, "SELECT 1 FROM store WHERE id = ?").get(store)) return refuse("", "There is no such store.");
    const moved = checkedRows(tx.db, store, rows);
    if (!moved.ok) return moved;
    const { paper, number } = openStockPaper(tx.db, desk, { kind, store, reason });
    for (const r of moved.value) {
      const of = {
        item: r.item,
        store,
        lot: r.lot,
        owner: r.owner,
        quantity: r.quantity,
        kind: "stow" as const,
        paper,
      };
      move(tx.db, desk, { ...of, bin: r.from }, -r.quantity, 0);
      move(tx.db, desk, { ...of, bin: r.to }, r.quantity, 0);
    }
    tx.record(`goods.${kind === "stow" ? "stowed" : "moved"}`, `store ${store}`, { number, reason, rows: moved.value });
    return done({ paper, number });
  });
}

/** The rows with their bins as the store knows them; or what is wrong with each. What is asked of one place is added up. */
function checkedRows(db: Db, store: StoreId, rows: readonly Row[]): Done<Row[]> {
  const problems: Problem[] = [];
  const asked = new Map<string, number>();
  const moved = rows.flatMap((r, i): Row[] => {
    const at = (field: string, says: string) => {
      problems.push({ field: `rows.${i}.${field}`, says });
      return [];
    };
    const item = stockedItem(db, r.item);
    if (!item) return at("item", "There is no such item in stock.");
    const to =
      r.owner === null || r.to === DOCK
        ? binToPut(db, store, r.to, `rows.${i}.to`)
        : binForTheirs(db, { store, supplier: r.owner }, r, r.to, `rows.${i}.to`);
    if (!to.ok) {
      problems.push(...to.problems);
      return [];
    }
    if (to.value.toLowerCase() === r.from.toLowerCase()) return at("to", `It lies ${inBin(r.from)} already.`);
    const place = `${r.item}/${r.lot ?? 0}/${r.owner ?? 0}/${r.from}`;
    const sum = (asked.get(place) ?? 0) + r.quantity;
    asked.set(place, sum);
    const there = lyingIn(db, { item: r.item, store, bin: r.from, lot: r.lot, owner: r.owner });
    if (sum > there)
      return at("quantity", `Only ${quantityText(there)} ${item.unit} of ${item.name} lie ${inBin(r.from)}.`);
    return [{ ...r, to: to.value }];
  });
  return problems.length ? refuseAll(problems) : done(moved);
}
