import type { ItemId, OrderId, StoreId, SupplierId } from "../../../../core/ids";
import { ONE } from "../../../../core/numbers/quantity";
import type { RowOf, RowsOf } from "../../../../exchange/csv/kinds";
import type { CheckedRow } from "../../../../exchange/csv/table";
import { madeId, sql } from "../../../db/open";
import { nextNumber } from "../../../db/series";
import { documentOf } from "../../../queries/orders/document";
import { readOrder } from "../../../queries/orders/order";
import { bindRevision } from "../../orders/bind-revision";
import { keepSchedule, promiseAll } from "../../orders/keep-schedule";
import { priceOrder } from "../../orders/price-order";
import { settleOrder } from "../../orders/settle-order";
import { type Loader, NO_ITEM, NO_STORE, NO_SUPPLIER } from "../loader";

/** An order that the file brings, with the rows of its lines. */
interface Made {
  id: OrderId;
  supplier: SupplierId;
  store: StoreId;
  lines: CheckedRow[];
}

/**
 * Orders that are with suppliers already, from the system before: each becomes one of ours, as placed, with its former
 * number beside ours. One that is known already only takes new promised days.
 */
export function orders(l: Loader, rows: RowsOf<"orders">): void {
  const made = new Map<string, Made>();
  for (const row of l.each(rows)) {
    const supplier = l.find(row, "supplier", "supplier", NO_SUPPLIER);
    const store = l.find(row, "store", "store", NO_STORE);
    const item = l.find(row, "item", "item", NO_ITEM);
    if (l.twice(row, "order", "item", "required") || supplier === null || store === null || item === null) continue;
    const v = row.values;
    const known = sql<{ id: number; line: number | null }>(
      l.db,
      `SELECT o.id, (SELECT l.id FROM order_line l JOIN order_schedule s ON s.order_line = l.id WHERE l.purchase_order = o.id AND l.item = ? AND s.requested = ?) AS line
       FROM purchase_order o WHERE o.brought = ?`,
    ).get(item, v.required, v.order);
    if (known && !made.has(v.order)) {
      if (known.line === null) l.fault(row, "order", "This order was loaded before, without this line.");
      else l.keep(row, "order_schedule", { order_line: known.line }, { promised: ["promised", v.promised] });
      continue;
    }
    const order = made.get(v.order) ?? begin(l, v, supplier, store);
    made.set(v.order, order);
    if (order.supplier !== supplier || order.store !== store) {
      l.fault(row, "order", "Another row of this order names another supplier or store.");
      continue;
    }
    addLine(l, row, v, order, item);
    order.lines.push(row);
    l.mark(row, "added");
  }
  if (l.faults.length > 0) return;
  for (const { id, lines } of made.values()) {
    const priced = priceOrder(l.db, id, l.desk.day);
    for (const [i, line] of priced.lines.entries()) {
      if (line.price === null)
        l.fault(
          lines[i]!,
          "price",
          "Nothing says what this costs, no price list and no reference cost. Write the price.",
        );
    }
    if (l.faults.length > 0) continue;
    sql(
      l.db,
      "UPDATE purchase_order SET number = ?, taxed = (SELECT taxed FROM supplier s WHERE s.id = purchase_order.supplier), submitted = written, cleared = written, placed = written WHERE id = ?",
    ).run(nextNumber(l.db, "order", l.desk.day), id);
    settleOrder(l.db, id, "placed");
    bindRevision(l.db, l.desk, id, documentOf(l.db, readOrder(l.db, id)!, l.desk.day));
  }
}

function begin(l: Loader, v: RowOf<"orders">, supplier: SupplierId, store: StoreId): Made {
  const { currency } = sql<{ currency: string }>(l.db, "SELECT currency FROM supplier WHERE id = ?").get(supplier)!;
  const id = madeId<"order">(
    sql(
      l.db,
      "INSERT INTO purchase_order (supplier, store, currency, writer, required, written, brought) VALUES (?, ?, ?, ?, ?, ?, ?)",
    ).run(supplier, store, currency, l.desk.person.id, v.required, l.desk.now, v.order),
  );
  return { id, supplier, store, lines: [] };
}

function addLine(l: Loader, row: CheckedRow, v: RowOf<"orders">, order: Made, item: ItemId) {
  const source = sql<{
    id: number;
    unit: string;
    factor: number;
    theirCode: string;
    standing: number;
    tax: number;
    name: string;
  }>(
    l.db,
    `SELECT c.id, c.unit, c.factor, c.their_code AS theirCode, c.standing_discount AS standing, i.tax_rate * s.taxed AS tax, i.name
     FROM sourcing c JOIN item i ON i.id = c.item JOIN supplier s ON s.id = c.supplier WHERE c.item = ? AND c.supplier = ?`,
  ).get(item, order.supplier);
  if (!source) {
    l.fault(row, "item", "This supplier is not set up for this item. Load the sourcing records first.");
    return;
  }
  if (v.quantity * source.factor < ONE) l.fault(row, "quantity", "This is less than a ten-thousandth of a stock unit.");
  const { lastInsertRowid } = sql(
    l.db,
    `INSERT INTO order_line (purchase_order, position, item, sourcing, words, their_code, unit, factor, quantity, price, price_source, standing_discount, tax_rate, store)
     VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
  ).run(
    order.id,
    order.lines.length + 1,
    item,
    source.id,
    source.name,
    source.theirCode,
    source.unit,
    source.factor,
    v.quantity,
    v.price,
    JSON.stringify({ kind: v.price === null ? "reference cost" : "typed" }),
    source.standing,
    source.tax,
    order.store,
  );
  const line = Number(lastInsertRowid);
  keepSchedule(l.db, line, { quantity: v.quantity, required: v.required });
  promiseAll(l.db, line, v.promised);
}
