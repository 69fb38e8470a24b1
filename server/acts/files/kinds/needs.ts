import { purchase, quantityText, toStock } from "../../../../core/numbers/quantity";
import { unitCode } from "../../../../core/numbers/units";
import type { RowsOf } from "../../../../exchange/csv/kinds";
import { sql } from "../../../db/open";
import { itemsOfCode, unitMeant, unitsOf } from "../../../queries/needs/codes";
import { type Loader, NO_STORE } from "../loader";

/** Needs from a spreadsheet: they join the pool as they are. */
export function needs(l: Loader, rows: RowsOf<"needs">): void {
  const add = sql(
    l.db,
    "INSERT INTO noted_need (source, item, code, store, quantity, needed_by, note, person, at) VALUES ('file', ?, ?, ?, ?, ?, ?, ?, ?)",
  );
  for (const row of l.each(rows)) {
    const v = row.values;
    const store = v.store === null ? l.desk.person.store : l.find(row, "store", "store", NO_STORE);
    if (v.store === null && store === null) l.fault(row, "store", "Name a store: you have none of your own.");
    const found = itemsOfCode(l.db, v.item);
    if (found.length === 0) l.fault(row, "item", "No item has this code, neither ours nor a supplier’s nor a GTIN.");
    if (found.length > 1)
      l.fault(row, "item", `Several items have this code: ${found.map((f) => f.code).join(", ")}. Write ours.`);
    if (l.twice(row, "item", "store", "needed_by", "note") || store === null || found.length !== 1) continue;
    if (v.needed_by && v.needed_by < l.desk.day) {
      l.fault(row, "needed_by", "This day has passed.");
      continue;
    }
    const [item] = found;
    const { kind } = sql<{ kind: string }>(l.db, "SELECT kind FROM item WHERE id = ?").get(item!.id)!;
    if (kind === "charge") {
      l.fault(row, "item", "This is a charge, not something to be bought.");
      continue;
    }
    const units = unitsOf(l.db, item!.id);
    const wanted = v.unit.toLowerCase();
    const code = unitCode(v.unit);
    const named = units.filter((u) => u.name.toLowerCase() === wanted || u.code === code);
    const unit = wanted === "" ? units[0] : unitMeant(l.db, item!.id, named);
    if (!unit && named.length > 1) {
      l.fault(
        row,
        "unit",
        `“${v.unit}” is ${named.map((u) => quantityText(u.factor)).join(" or ")} ${units[0]!.name} of ${item!.name}, as one buys it. Write it in ${units[0]!.name}.`,
      );
      continue;
    }
    if (!unit) {
      l.fault(row, "unit", `${item!.name} is kept or sold in ${units.map((u) => u.name).join(", ")}.`);
      continue;
    }
    const quantity = toStock(purchase(v.quantity), unit.factor);
    if (quantity <= 0) {
      l.fault(row, "quantity", `${quantityText(v.quantity)} ${unit.name} is less than can be kept.`);
      continue;
    }
    add.run(item!.id, v.item, store, quantity, v.needed_by, v.note, l.desk.person.id, l.desk.now);
    l.mark(row, "added");
  }
}
