import { z } from "zod";
import type { ItemId, SourcingId, StoreId } from "../../../core/ids";
import { factorOf, purchase, toStock } from "../../../core/numbers/quantity";
import { sql } from "../../db/open";
import { itemsOfCode, unitsOf } from "../../queries/needs/codes";
import { checked, type Desk, type Done, done, once, type Problem, refuse, refuseAll } from "../desk";
import { Id, OrderIdField, QuantityField, text } from "../fields";

const Line = z.object({
  key: z.string().min(8).max(60),
  code: text(60, 1, "Scan or type a code."),
  quantity: QuantityField,
  unit: text(20),
  /** Stock units in one, where two packs share a name. */
  factor: z.number().int().positive().optional(),
  note: text(200).optional().default(""),
});
export const NoteRound = z.object({
  store: Id,
  lines: z.array(Line).min(1, "Nothing was counted.").max(500, "At most 500 lines at once."),
});

/**
 * Takes in what somebody noted on a floor round. Each line carries a key of the handheld's own: sent twice, it is taken
 * in once. A code that nobody knows is kept to be sorted out; a line that cannot be read is named and holds up no other.
 */
export function noteRound(
  desk: Desk,
  raw: unknown,
): Done<{ taken: string[]; unknown: number; refused: { key: string; says: string }[] }> {
  const input = checked(NoteRound, raw);
  if (!input.ok) return input;
  const { store, lines } = input.value;
  return once(desk, "walk the floor", (tx) => {
    if (!sql(tx.db, "SELECT 1 FROM store WHERE id = ?").get(store)) return refuse("store", "There is no such store.");
    const add = sql(
      tx.db,
      `INSERT INTO noted_need (source, item, code, store, quantity, note, person, at, line_key) VALUES ('floor', ?, ?, ?, ?, ?, ?, ?, ?)
       ON CONFLICT (line_key) DO NOTHING`,
    );
    const taken: string[] = [];
    const refused: { key: string; says: string }[] = [];
    let unknown = 0;
    for (const l of lines) {
      const found = itemsOfCode(tx.db, l.code);
      const item = found.length === 1 ? found[0]! : null;
      const units = item ? unitsOf(tx.db, item.id) : [];
      const unit =
        l.unit === "" ? units[0] : units.find((u) => u.name === l.unit && (l.factor ?? u.factor) === u.factor);
      if (item && !unit) {
        refused.push({ key: l.key, says: `${item.name} is not kept or sold in ${l.unit}.` });
        continue;
      }
      const quantity = item ? toStock(purchase(l.quantity), unit!.factor) : l.quantity;
      const note = item
        ? l.note
        : [l.unit, found.length > 1 ? `could be ${found.map((f) => f.code).join(" or ")}` : "", l.note]
            .filter(Boolean)
            .join("; ");
      add.run(item?.id ?? null, l.code, store, quantity, note, desk.person.id, desk.now, `${desk.person.id}/${l.key}`);
      taken.push(l.key);
      if (!item) unknown++;
    }
    tx.record("round.noted", `store ${store}`, { lines, refused });
    return done({ taken, unknown, refused });
  });
}

/** Says which item an unknown code was. */
export function sortOut(desk: Desk, raw: unknown): Done<{ noted: number }> {
  const input = checked(z.object({ noted: Id, item: Id }), raw);
  if (!input.ok) return input;
  const { noted, item } = input.value;
  return once(desk, "plan", (tx) => {
    if (!sql(tx.db, "SELECT 1 FROM item WHERE id = ? AND active = 1 AND kind <> 'charge'").get(item))
      return refuse("item", "Choose an item.");
    const { changes } = sql(
      tx.db,
      "UPDATE noted_need SET item = ? WHERE id = ? AND item IS NULL AND dropped IS NULL",
    ).run(item, noted);
    if (changes === 0) return refuse("", "Somebody sorted this out already.");
    tx.record("round.sorted-out", `noted need ${noted}`, { item });
    return done({ noted });
  });
}

/** Puts a noted need aside, with why. */
export function dropNoted(desk: Desk, raw: unknown): Done<{ noted: number }> {
  const input = checked(z.object({ noted: Id, reason: text(200, 3, "Say why, in a word or two.") }), raw);
  if (!input.ok) return input;
  const { noted, reason } = input.value;
  return once(desk, "plan", (tx) => {
    const { changes } = sql(
      tx.db,
      `UPDATE noted_need SET dropped = ? WHERE id = ? AND dropped IS NULL
       AND NOT EXISTS (SELECT 1 FROM need_tie t WHERE t.noted_need = noted_need.id)
       AND NOT EXISTS (SELECT 1 FROM transfer_line l WHERE l.noted_need = noted_need.id)`,
    ).run(reason, noted);
    if (changes === 0) return refuse("", "This is ordered already, or was put aside by somebody else.");
    sql(tx.db, "DELETE FROM need_choice WHERE need = ?").run(`n:${noted}`);
    tx.record("need.put-aside", `noted need ${noted}`, { reason });
    return done({ noted });
  });
}

/** Puts what an earlier order brought into the pool again, line by line, with the supplier it went to. */
export function repeatOrder(desk: Desk, raw: unknown): Done<{ lines: number }> {
  const input = checked(z.object({ order: OrderIdField }), raw);
  if (!input.ok) return input;
  const { order } = input.value;
  return once(desk, "plan", (tx) => {
    const lines = sql<{
      item: ItemId | null;
      code: string | null;
      words: string;
      quantity: number;
      factor: number;
      store: StoreId;
      sourcing: SourcingId | null;
      number: string;
    }>(
      tx.db,
      `SELECT l.item, i.code, l.words, l.quantity, l.factor, l.store, l.sourcing, o.number FROM order_line l JOIN purchase_order o ON o.id = l.purchase_order
       LEFT JOIN item i ON i.id = l.item AND i.active = 1 AND i.kind <> 'charge' WHERE o.id = ? AND o.number IS NOT NULL ORDER BY l.position`,
    ).all(order);
    const problems: Problem[] = lines.length
      ? []
      : [{ field: "", says: "There is no such order, or it was never handed in." }];
    const known = lines.filter((l) => l.code !== null);
    if (lines.length > 0 && known.length === 0)
      problems.push({ field: "", says: "None of its lines is an item that can be ordered again." });
    if (problems.length) return refuseAll(problems);
    const add = sql(
      tx.db,
      "INSERT INTO noted_need (source, item, code, store, quantity, sourcing, note, person, at) VALUES ('repeat', ?, ?, ?, ?, ?, ?, ?, ?)",
    );
    for (const l of known)
      add.run(
        l.item,
        l.code,
        l.store,
        toStock(purchase(l.quantity), factorOf(l.factor)),
        l.sourcing,
        `again, as on ${l.number}`,
        desk.person.id,
        desk.now,
      );
    tx.record("order.repeated", `order ${order}`, { lines: known.length });
    return done({ lines: known.length });
  });
}
