import { multipleUp, purchase, quantityText } from "../../../../core/numbers/quantity";
import type { CheckedRow } from "../../../../exchange/csv/table";
import { sql } from "../../../db/open";
import { ringThrough } from "../../records/alternatives";
import { type Loader, NO_ITEM, NO_SUPPLIER } from "../loader";

export function sourcing(l: Loader, rows: CheckedRow[]): void {
  for (const row of rows) {
    const item = l.find(row, "item", "item", NO_ITEM);
    const supplier = l.find(row, "supplier", "supplier", NO_SUPPLIER);
    const unit = l.unit(row, "unit");
    if (l.twice(row, "item", "supplier") || item === null || supplier === null || unit === null) continue;
    const there = sql(l.db, "SELECT 1 FROM sourcing WHERE item = ? AND supplier = ?").get(item, supplier) !== undefined;
    l.put(
      there,
      `INSERT INTO sourcing (item, supplier, their_code, their_name, unit, factor, minimum, multiple, broken_packs, lead_days, standing_discount, rank)
       VALUES (@itemId, @supplierId, @their_code, @their_name, @unitCode, @factor, @minimum, @multiple, @broken_packs, @lead_days, @discount, @rank)`,
      `UPDATE sourcing SET their_code = @their_code, their_name = @their_name, unit = @unitCode, factor = @factor, minimum = @minimum, multiple = @multiple,
       broken_packs = @broken_packs, lead_days = @lead_days, standing_discount = @discount, rank = @rank WHERE item = @itemId AND supplier = @supplierId`,
      { ...row.values, itemId: item, supplierId: supplier, unitCode: unit },
    );
    const { minimum, multiple } = row.values as { minimum: number; multiple: number };
    if (multiple > 0 && minimum % multiple !== 0) {
      l.note(
        row,
        "minimum",
        `The least is no multiple of ${quantityText(multiple)}: orders begin at ${quantityText(multipleUp(purchase(minimum), purchase(multiple)))}.`,
      );
    }
  }
}

export function prices(l: Loader, rows: CheckedRow[]): void {
  for (const row of rows) {
    const item = l.find(row, "item", "item", NO_ITEM);
    const supplier = l.find(row, "supplier", "supplier", NO_SUPPLIER);
    if (l.twice(row, "item", "supplier", "from", "valid_from") || item === null || supplier === null) continue;
    const { from, price, valid_from, valid_to } = row.values as {
      from: number;
      price: number;
      valid_from: string | null;
      valid_to: string | null;
    };
    if (valid_from && valid_to && valid_to < valid_from) {
      l.fault(row, "valid_to", "The last day lies before the first.");
      continue;
    }
    const record = sql<{ id: number }>(l.db, "SELECT id FROM sourcing WHERE item = ? AND supplier = ?").get(
      item,
      supplier,
    );
    if (!record) {
      l.fault(row, "item", "This supplier is not set up for this item. Load the sourcing records first.");
      continue;
    }
    const key = { sourcing: record.id, from, valid_from };
    const there =
      sql(
        l.db,
        "SELECT 1 FROM price_break WHERE sourcing = @sourcing AND from_quantity = @from AND valid_from IS @valid_from",
      ).get(key) !== undefined;
    l.put(
      there,
      "INSERT INTO price_break (sourcing, from_quantity, price, valid_from, valid_to) VALUES (@sourcing, @from, @price, @valid_from, @valid_to)",
      "UPDATE price_break SET price = @price, valid_to = @valid_to WHERE sourcing = @sourcing AND from_quantity = @from AND valid_from IS @valid_from",
      { ...key, price, valid_to },
    );
  }
}

/** What may stand in for what. A ring of one-way rows would lead from an item back to itself, so it is refused. */
export function alternatives(l: Loader, rows: CheckedRow[]): void {
  const read: [CheckedRow, number, number][] = [];
  for (const row of rows) {
    const item = l.find(row, "item", "item", NO_ITEM);
    const other = l.find(row, "other", "item", NO_ITEM);
    if (l.twice(row, "item", "other") || item === null || other === null) continue;
    if (item === other) {
      l.fault(row, "other", "An item cannot stand in for itself.");
      continue;
    }
    const there = sql(l.db, "SELECT 1 FROM alternative WHERE item = ? AND other = ?").get(item, other) !== undefined;
    l.put(
      there,
      "INSERT INTO alternative (item, other, both_ways, note) VALUES (@itemId, @otherId, @both_ways, @note)",
      "UPDATE alternative SET both_ways = @both_ways, note = @note WHERE item = @itemId AND other = @otherId",
      { ...row.values, itemId: item, otherId: other },
    );
    read.push([row, item, other]);
  }
  for (const [row, item] of read) {
    const ring = ringThrough(l.db, item);
    if (ring)
      l.fault(row, "other", `This leads back to itself: ${ring.join(", ")}. Mark one of them both_ways instead.`);
  }
}
