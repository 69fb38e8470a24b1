import { type Day, daysBetween, yearBefore } from "../../../core/calendar/day";
import type { ItemId, SupplierId } from "../../../core/ids";
import type { Past } from "../../../core/suppliers/chance";
import { type Db, sql } from "../../db/open";
import { remember } from "../remember";

const RECEIPTS = `
  SELECT l.id AS line, l.item, r.day, x.quantity - x.undone AS quantity
  FROM purchase_order o JOIN order_line l ON l.purchase_order = o.id JOIN receipt_line_now x ON x.order_line = l.id JOIN receipt r ON r.id = x.receipt
  WHERE o.supplier = @supplier AND l.kind <> 'charge' AND r.day <= @today AND x.undone < x.quantity ORDER BY l.id, r.day, x.id`;
const SCHEDULES = `
  SELECT s.order_line AS line, s.quantity, coalesce(s.promised, s.requested) AS expected
  FROM purchase_order o JOIN order_line l ON l.purchase_order = o.id JOIN order_schedule s ON s.order_line = l.id
  WHERE o.supplier = @supplier AND l.received > 0 ORDER BY s.order_line, expected, s.position`;

/** The receipts of a supplier in 24 months, each with the days between the promise and the goods. */
function receiptsOf(db: Db, supplier: SupplierId, today: Day): { item: ItemId | null; days: number }[] {
  const from = yearBefore(yearBefore(today));
  const rows = new Map<number, { quantity: number; expected: Day }[]>();
  for (const { line, ...row } of sql<{ line: number; quantity: number; expected: Day }>(db, SCHEDULES).iterate({
    supplier,
  }))
    rows.set(line, [...(rows.get(line) ?? []), row]);
  const came = new Map<number, number>();
  const found: { item: ItemId | null; days: number }[] = [];
  for (const r of sql<{ line: number; item: ItemId | null; day: Day; quantity: number }>(db, RECEIPTS).iterate({
    supplier,
    today,
  })) {
    const before = came.get(r.line) ?? 0;
    came.set(r.line, before + r.quantity);
    // What came fills the earliest expected first: this receipt meets the row at which the ones before it end.
    let upTo = 0;
    const schedule = rows.get(r.line)!;
    const met = schedule.find((s) => (upTo += s.quantity) > before) ?? schedule.at(-1)!;
    if (r.day > from) found.push({ item: r.item, days: daysBetween(met.expected, r.day) });
  }
  return found;
}

/** The same by item, and of all of them. */
function missedBy(db: Db, supplier: SupplierId, today: Day): { all: number[]; of: ReadonlyMap<number, number[]> } {
  const all: number[] = [];
  const of = new Map<number, number[]>();
  for (const { item, days } of receiptsOf(db, supplier, today)) {
    all.push(days);
    if (item === null) continue;
    const known = of.get(item);
    if (known) known.push(days);
    else of.set(item, [days]);
  }
  return { all, of };
}

/** By how many days a supplier's goods missed what was said, of an item and of all of them; before the day is below nought. */
export const pastDays = (db: Db, supplier: SupplierId, item: ItemId | null, today: Day): Past =>
  pastDaysOf(db, supplier, today)(item);

/** The same for many items of one supplier, looked up once. */
export function pastDaysOf(db: Db, supplier: SupplierId, today: Day): (item: ItemId | null) => Past {
  const { all, of } = remember(db, `past days/${supplier}/${today}`, () => missedBy(db, supplier, today));
  return (item) => ({ item: (item === null ? undefined : of.get(item)) ?? [], all });
}
