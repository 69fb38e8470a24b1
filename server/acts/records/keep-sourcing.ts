import { z } from "zod";
import type { ItemId, SourcingId } from "../../../core/ids";
import { parsePrice } from "../../../core/numbers/money";
import { ONE } from "../../../core/numbers/quantity";
import { type Db, sql } from "../../db/open";
import { checked, type Desk, type Done, done, once, type Problem, refuse, refuseAll } from "../desk";
import { DayOrNone, Id, orNone, Percent, QuantityField, QuantityOrNone, TickBox, text, Whole } from "../fields";

const Price = z
  .string("A price is missing.")
  .max(60)
  .transform((s, ctx): number => {
    const parsed = parsePrice(s);
    if (parsed.ok) return parsed.value;
    ctx.addIssue({ code: "custom", message: s.trim() ? parsed.says : "A price is missing." });
    return z.NEVER;
  });

const Break = z.object({ from: QuantityField, price: Price, validFrom: DayOrNone, validTo: DayOrNone });
export const KeepSourcing = z.object({
  sourcing: orNone(Id),
  item: Id,
  supplier: Id,
  theirCode: text(60),
  theirName: text(120),
  unit: text(3, 1, "Choose a unit."),
  factor: QuantityField,
  minimum: QuantityOrNone,
  multiple: QuantityOrNone,
  brokenPacks: TickBox,
  leadDays: Whole(0, 730),
  standing: Percent,
  preferred: TickBox,
  /** Left out where the prices are not to change. */
  breaks: z.array(Break).max(60, "At most 60 prices.").optional(),
});

/** Sets a supplier up for an item, or changes how they sell it; with its price list where one is sent. */
export function keepSourcing(desk: Desk, raw: unknown): Done<{ sourcing: SourcingId }> {
  const input = checked(KeepSourcing, raw);
  if (!input.ok) return input;
  const v = input.value;
  return once(desk, "keep sourcing", (tx) => {
    const problems: Problem[] = [];
    const { db } = tx;
    const item = sql<{ unit: string; kind: string }>(db, "SELECT unit, kind FROM item WHERE id = ? AND active = 1").get(
      v.item,
    );
    if (!item) return refuse("item", "There is no such item.");
    if (!sql(db, "SELECT 1 FROM supplier WHERE id = ? AND active = 1").get(v.supplier))
      problems.push({ field: "supplier", says: "Choose a supplier." });
    if (!sql(db, "SELECT 1 FROM unit WHERE code = ?").get(v.unit))
      problems.push({ field: "unit", says: "There is no such unit." });
    if (v.unit === item.unit && v.factor !== ONE)
      problems.push({ field: "factor", says: "It is sold in its own stock unit, so one is one." });
    const twin = sql<{ id: SourcingId; active: number }>(
      db,
      "SELECT id, active FROM sourcing WHERE item = ? AND supplier = ?",
    ).get(v.item, v.supplier);
    if (twin && twin.active === 1 && twin.id !== v.sourcing)
      problems.push({ field: "supplier", says: "This supplier is set up for this item already." });
    v.breaks?.forEach((b, i) => {
      if (b.validFrom && b.validTo && b.validTo < b.validFrom)
        problems.push({ field: `breaks.${i}.validTo`, says: "The last day lies before the first." });
      if (v.breaks!.some((o, n) => n < i && o.from === b.from && o.validFrom === b.validFrom))
        problems.push({ field: `breaks.${i}.from`, says: "This quantity stands here twice from the same day." });
    });
    if (problems.length) return refuseAll(problems);
    const values = {
      id: v.sourcing ?? twin?.id ?? null,
      item: v.item,
      supplier: v.supplier,
      theirCode: v.theirCode,
      theirName: v.theirName,
      unit: v.unit,
      factor: v.factor,
      minimum: v.minimum ?? 0,
      multiple: v.multiple ?? 0,
      broken: v.brokenPacks ? 1 : 0,
      lead: v.leadDays,
      standing: v.standing,
      rank: rankFor(db, v.item, v.sourcing ?? twin?.id ?? 0, v.preferred),
    };
    const sourcing =
      values.id ??
      Number(
        sql(
          db,
          `INSERT INTO sourcing (item, supplier, their_code, their_name, unit, factor, minimum, multiple, broken_packs, lead_days, standing_discount, rank)
           VALUES (@item, @supplier, @theirCode, @theirName, @unit, @factor, @minimum, @multiple, @broken, @lead, @standing, @rank)`,
        ).run(values).lastInsertRowid,
      );
    if (values.id !== null) {
      const { changes } = sql(
        db,
        `UPDATE sourcing SET their_code = @theirCode, their_name = @theirName, unit = @unit, factor = @factor, minimum = @minimum, multiple = @multiple,
           broken_packs = @broken, lead_days = @lead, standing_discount = @standing, rank = @rank, active = 1 WHERE id = @id AND item = @item`,
      ).run(values);
      if (changes === 0) return refuse("", "This record is gone. Load the page again.");
    }
    if (v.breaks) keepBreaks(db, sourcing, v.breaks);
    tx.record(values.id === null ? "sourcing.added" : "sourcing.changed", `item ${v.item}`, { ...v, sourcing });
    return done({ sourcing });
  });
}

/** The preferred supplier stands first; the others keep their order behind. */
function rankFor(db: Db, item: ItemId, own: number, preferred: boolean): number {
  const others = sql<{ id: SourcingId; rank: number }>(
    db,
    "SELECT id, rank FROM sourcing WHERE item = ? AND id <> ? AND active = 1 ORDER BY rank, id",
  ).all(item, own);
  if (others.length === 0) return 1;
  if (!preferred) {
    const mine = sql<{ rank: number }>(db, "SELECT rank FROM sourcing WHERE id = ? AND active = 1").get(own)?.rank;
    return Math.max(mine ?? others.at(-1)!.rank + 1, others[0]!.rank + 1);
  }
  others.forEach((o, i) => {
    sql(db, "UPDATE sourcing SET rank = ? WHERE id = ?").run(i + 2, o.id);
  });
  return 1;
}

function keepBreaks(db: Db, sourcing: SourcingId, breaks: readonly z.output<typeof Break>[]): void {
  sql(db, "DELETE FROM price_break WHERE sourcing = ?").run(sourcing);
  const add = sql(
    db,
    "INSERT INTO price_break (sourcing, from_quantity, price, valid_from, valid_to) VALUES (?, ?, ?, ?, ?)",
  );
  for (const b of breaks) add.run(sourcing, b.from, b.price, b.validFrom, b.validTo);
}

/** This supplier no longer sells the item; papers keep their record. */
export function dropSourcing(desk: Desk, raw: unknown): Done<{ sourcing: SourcingId }> {
  const input = checked(z.object({ sourcing: Id }), raw);
  if (!input.ok) return input;
  const { sourcing } = input.value;
  return once(desk, "keep sourcing", (tx) => {
    const row = sql<{ item: ItemId }>(
      tx.db,
      "UPDATE sourcing SET active = 0 WHERE id = ? AND active = 1 RETURNING item",
    ).get(sourcing);
    if (!row) return refuse("", "This record is gone already.");
    sql(tx.db, "UPDATE need_choice SET sourcing = NULL WHERE sourcing = ?").run(sourcing);
    tx.record("sourcing.dropped", `item ${row.item}`, { sourcing });
    return done({ sourcing });
  });
}
