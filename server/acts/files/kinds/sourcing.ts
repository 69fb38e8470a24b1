import type { SourcingId } from "../../../../core/ids";
import { multipleUp, purchase, quantityText } from "../../../../core/numbers/quantity";
import type { RowsOf } from "../../../../exchange/csv/kinds";
import type { CheckedRow } from "../../../../exchange/csv/table";
import { sql } from "../../../db/open";
import { ringThrough } from "../../records/alternatives";
import { type Loader, NO_ITEM, NO_SUPPLIER } from "../loader";

export function sourcing(l: Loader, rows: RowsOf<"sourcing">): void {
  for (const row of l.each(rows)) {
    const item = l.find(row, "item", "item", NO_ITEM);
    const supplier = l.find(row, "supplier", "supplier", NO_SUPPLIER);
    const unit = l.unit(row, "unit");
    if (l.twice(row, "item", "supplier") || item === null || supplier === null || unit === null) continue;
    const v = row.values;
    const known = sql<{ minimum: number; multiple: number }>(
      l.db,
      "SELECT minimum, multiple FROM sourcing WHERE item = ? AND supplier = ?",
    ).get(item, supplier);
    l.keep(
      row,
      "sourcing",
      { item, supplier },
      {
        their_code: ["their_code", v.their_code],
        their_name: ["their_name", v.their_name],
        unit: ["unit", unit],
        factor: ["factor", v.factor],
        minimum: ["minimum", v.minimum],
        multiple: ["multiple", v.multiple],
        broken_packs: ["broken_packs", v.broken_packs],
        lead_days: ["lead_days", v.lead_days],
        standing_discount: ["discount", v.discount],
        rank: ["rank", v.rank],
      },
    );
    const minimum = l.holds("minimum", v.minimum, known?.minimum);
    const multiple = l.holds("multiple", v.multiple, known?.multiple);
    if (multiple > 0 && minimum % multiple !== 0) {
      l.note(
        row,
        "minimum",
        `The least is no multiple of ${quantityText(multiple)}: orders begin at ${quantityText(multipleUp(purchase(minimum), purchase(multiple)))}.`,
      );
    }
  }
}

export function prices(l: Loader, rows: RowsOf<"prices">): void {
  for (const row of l.each(rows)) {
    const item = l.find(row, "item", "item", NO_ITEM);
    const supplier = l.find(row, "supplier", "supplier", NO_SUPPLIER);
    if (l.twice(row, "item", "supplier", "from", "valid_from") || item === null || supplier === null) continue;
    const { from, price, valid_from, valid_to } = row.values;
    if (valid_from && valid_to && valid_to < valid_from) {
      l.fault(row, "valid_to", "The last day lies before the first.");
      continue;
    }
    const record = sql<{ id: SourcingId }>(l.db, "SELECT id FROM sourcing WHERE item = ? AND supplier = ?").get(
      item,
      supplier,
    );
    if (!record) {
      l.fault(row, "item", "This supplier is not set up for this item. Load the sourcing records first.");
      continue;
    }
    const key = { sourcing: record.id, from_quantity: from, valid_from };
    l.keep(row, "price_break", key, { price: ["price", price], valid_to: ["valid_to", valid_to] });
  }
}

/** What may stand in for what. A ring of one-way rows would lead from an item back to itself, so it is refused. */
export function alternatives(l: Loader, rows: RowsOf<"alternatives">): void {
  const read: [CheckedRow, number, number][] = [];
  for (const row of l.each(rows)) {
    const item = l.find(row, "item", "item", NO_ITEM);
    const other = l.find(row, "other", "item", NO_ITEM);
    if (l.twice(row, "item", "other") || item === null || other === null) continue;
    if (item === other) {
      l.fault(row, "other", "An item cannot stand in for itself.");
      continue;
    }
    const { both_ways, note } = row.values;
    l.keep(row, "alternative", { item, other }, { both_ways: ["both_ways", both_ways], note: ["note", note] });
    read.push([row, item, other]);
  }
  for (const [row, item] of read) {
    const ring = ringThrough(l.db, item);
    if (ring)
      l.fault(row, "other", `This leads back to itself: ${ring.join(", ")}. Mark one of them both_ways instead.`);
  }
}
