import { type Day, daysBetween, yearBefore } from "../../../core/calendar/day";
import type { ItemId, SupplierId } from "../../../core/ids";
import type { Past } from "../../../core/suppliers/chance";
import type { Db } from "../../db/open";
import { remember } from "../remember";
import { metReceipts } from "./met-receipts";

/** The receipts of a supplier in 24 months, each with the days between the promise and the goods. */
function receiptsOf(db: Db, supplier: SupplierId, today: Day): { item: ItemId | null; days: number }[] {
  const from = yearBefore(yearBefore(today));
  return metReceipts(db, supplier, today)
    .filter((r) => r.day > from)
    .map((r) => ({ item: r.item, days: daysBetween(r.promised ?? r.requested, r.day) }));
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
