import { z } from "zod";
import type { ItemId } from "../../../core/ids";
import { faultOf } from "../../../core/needs/run";
import { checkDigit } from "../../../core/numbers/check-digit";
import { stock } from "../../../core/numbers/quantity";
import { sql } from "../../db/open";
import { checked, type Desk, type Done, done, once, type Problem, refuse, refuseAll } from "../desk";
import { code, Id, orNone, Percent, PriceOrNone, QuantityOrNone, TickBox, text, Whole } from "../fields";
import { retotalUnplaced } from "../orders/price-order";
import { ringThrough } from "./alternatives";

export const KeepItem = z.object({
  item: orNone(Id),
  code: code("An item needs a code."),
  name: text(120, 1, "An item needs a name."),
  kind: z.enum(["stocked", "not stocked", "service", "charge"], "Choose a kind."),
  category: text(60),
  unit: text(3, 1, "Choose a unit."),
  gtin: text(14).refine(
    (g) => g === "" || (/^\d{8}$|^\d{12,14}$/.test(g) && checkDigit(g)),
    "A GTIN has 8, 12, 13 or 14 digits, and its last digit must fit.",
  ),
  tax: Percent,
  referenceCost: PriceOrNone,
  account: text(40),
  byLot: TickBox,
  /** Each piece has a number of its own. */
  bySerial: TickBox,
  byWeight: TickBox,
  /** Days for which it keeps, and how many of them must be left when it comes. */
  shelfDays: orNone(Whole(1, 7_300)).default(null),
  leastDays: orNone(Whole(1, 7_300)).default(null),
  /** Kilograms of one stock unit. */
  weight: QuantityOrNone,
});

/** Makes an item or changes one. Its stock unit stays once goods were moved in it. */
export function keepItem(desk: Desk, raw: unknown): Done<{ item: ItemId }> {
  const input = checked(KeepItem, raw);
  if (!input.ok) return input;
  const v = input.value;
  return once(desk, "keep items", (tx) => {
    const { db } = tx;
    const problems: Problem[] = [];
    const before = v.item
      ? sql<{ unit: string; kind: string; used: number; kept: number }>(
          db,
          `SELECT unit, kind, EXISTS (SELECT 1 FROM movement m WHERE m.item = item.id) AS used,
                  EXISTS (SELECT 1 FROM item_store s WHERE s.item = item.id) AS kept FROM item WHERE id = ?`,
        ).get(v.item)
      : undefined;
    if (v.item && !before) return refuse("", "There is no such item.");
    if (sql(db, "SELECT 1 FROM item WHERE code = ? AND id <> ?").get(v.code, v.item ?? 0))
      problems.push({ field: "code", says: "Another item has this code." });
    if (v.gtin && sql(db, "SELECT 1 FROM item WHERE gtin = ? AND id <> ?").get(v.gtin, v.item ?? 0))
      problems.push({ field: "gtin", says: "Another item has this GTIN." });
    if (!sql(db, "SELECT 1 FROM unit WHERE code = ?").get(v.unit))
      problems.push({ field: "unit", says: "There is no such unit." });
    if (v.account && !sql(db, "SELECT 1 FROM account WHERE code = ?").get(v.account))
      problems.push({ field: "account", says: "There is no such account." });
    if (before?.used && before.unit !== v.unit)
      problems.push({ field: "unit", says: "The stock unit cannot change: goods were moved in the old one." });
    if (before?.kept && v.kind !== "stocked")
      problems.push({ field: "kind", says: "A store keeps this item, so it stays stocked." });
    if (v.shelfDays !== null && v.leastDays !== null && v.leastDays > v.shelfDays)
      problems.push({ field: "leastDays", says: "More cannot be left of it than it keeps at all." });
    if (problems.length) return refuseAll(problems);
    const values = {
      ...v,
      bySerial: v.bySerial ? 1 : 0,
      byWeight: v.byWeight ? 1 : 0,
      gtin: v.gtin || null,
      account: v.account || null,
      byLot: v.byLot ? 1 : 0,
    };
    const item =
      v.item ??
      Number(
        sql(
          db,
          `INSERT INTO item (code, name, kind, category, unit, gtin, tax_rate, reference_cost, account, by_lot, by_serial, by_weight, shelf_days, least_days, weight)
           VALUES (@code, @name, @kind, @category, @unit, @gtin, @tax, @referenceCost, @account, @byLot, @bySerial, @byWeight, @shelfDays, @leastDays, @weight)`,
        ).run(values).lastInsertRowid,
      );
    if (v.item) {
      sql(
        db,
        `UPDATE item SET code = @code, name = @name, kind = @kind, category = @category, unit = @unit, gtin = @gtin, tax_rate = @tax,
           reference_cost = @referenceCost, account = @account, by_lot = @byLot, by_serial = @bySerial, by_weight = @byWeight, shelf_days = @shelfDays, least_days = @leastDays, weight = @weight WHERE id = @item`,
      ).run(values);
      retotalUnplaced(db, desk.day);
    }
    tx.record(v.item ? "item.changed" : "item.made", `item ${item}`, v);
    return done({ item });
  });
}

const Kept = z.object({
  item: Id,
  store: Id,
  policy: z.enum(["top up", "fixed lot", "larger of", "shortfall", "days of cover", "to order"], "Choose a policy."),
  reorderPoint: QuantityOrNone,
  lot: QuantityOrNone,
  level: QuantityOrNone,
  coverDays: z.union([z.literal("").transform(() => 0), Whole(0, 730)]),
  maximum: QuantityOrNone,
  reviewDays: Whole(0, 365),
  bin: text(20),
});

/** When and how much of an item a store reorders. A store that never kept it begins to. */
export function keepReordering(desk: Desk, raw: unknown): Done<{ item: ItemId }> {
  const input = checked(Kept, raw);
  if (!input.ok) return input;
  const v = input.value;
  return once(desk, "keep sourcing", (tx) => {
    const item = sql<{ kind: string }>(tx.db, "SELECT kind FROM item WHERE id = ? AND active = 1").get(v.item);
    if (!item || !sql(tx.db, "SELECT 1 FROM store WHERE id = ?").get(v.store))
      return refuse("", "There is no such item or store.");
    if (item.kind !== "stocked") return refuse("", "Only a stocked item is kept in a store.");
    const settings = {
      policy: v.policy,
      reorderPoint: stock(v.reorderPoint ?? 0),
      lot: stock(v.lot ?? 0),
      level: stock(v.level ?? 0),
      coverDays: v.coverDays,
      maximum: v.maximum === null ? null : stock(v.maximum),
      reviewDays: v.reviewDays,
    };
    const fault = faultOf(settings);
    if (fault) return refuse(fault[0] === "cover_days" ? "coverDays" : fault[0], fault[1]);
    const before = sql(tx.db, "SELECT * FROM item_store WHERE item = ? AND store = ?").get(v.item, v.store);
    sql(
      tx.db,
      `INSERT INTO item_store (item, store, policy, reorder_point, lot, level, cover_days, maximum, review_days, bin)
       VALUES (@item, @store, @policy, @reorderPoint, @lot, @level, @coverDays, @maximum, @reviewDays, @bin)
       ON CONFLICT (item, store) DO UPDATE SET policy = @policy, reorder_point = @reorderPoint, lot = @lot, level = @level, cover_days = @coverDays,
         maximum = @maximum, review_days = @reviewDays, bin = @bin`,
    ).run({ ...settings, item: v.item, store: v.store, bin: v.bin });
    tx.record("reordering.changed", `item ${v.item}`, { before, after: { ...settings, store: v.store, bin: v.bin } });
    return done({ item: v.item });
  });
}

/** Says what may stand in for an item. A ring of one-way rows would lead from an item back to itself. */
export function keepAlternative(desk: Desk, raw: unknown): Done<{ item: ItemId }> {
  const input = checked(z.object({ item: Id, other: Id, bothWays: TickBox, note: text(200) }), raw);
  if (!input.ok) return input;
  const { item, other, bothWays, note } = input.value;
  return once(desk, "keep sourcing", (tx) => {
    if (item === other) return refuse("other", "An item cannot stand in for itself.");
    if (!sql(tx.db, "SELECT 1 FROM item WHERE id = ? AND active = 1").get(other))
      return refuse("other", "Choose an item.");
    sql(
      tx.db,
      `INSERT INTO alternative (item, other, both_ways, note) VALUES (@item, @other, @both, @note)
       ON CONFLICT (item, other) DO UPDATE SET both_ways = @both, note = @note`,
    ).run({ item, other, both: bothWays ? 1 : 0, note });
    const ring = ringThrough(tx.db, item);
    if (ring)
      return refuse(
        "other",
        `This leads back to itself: ${ring.join(", ")}. Let one of them stand in both ways instead.`,
      );
    tx.record("alternative.kept", `item ${item}`, { other, bothWays, note });
    return done({ item });
  });
}

export function dropAlternative(desk: Desk, raw: unknown): Done<{ item: ItemId }> {
  const input = checked(z.object({ item: Id, other: Id }), raw);
  if (!input.ok) return input;
  const { item, other } = input.value;
  return once(desk, "keep sourcing", (tx) => {
    const { changes } = sql(
      tx.db,
      "DELETE FROM alternative WHERE (item = @item AND other = @other) OR (item = @other AND other = @item AND both_ways = 1)",
    ).run({ item, other });
    if (changes === 0) return refuse("", "This was taken away already.");
    tx.record("alternative.dropped", `item ${item}`, { other });
    return done({ item });
  });
}
