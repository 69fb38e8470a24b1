import type { Day } from "../core/calendar/day";
import type { OrderId, OrderLineId } from "../core/ids";
import type { Desk, Done } from "../server/acts/desk";
import { keepTolerance } from "../server/acts/receiving/keep-tolerance";
import { receiveGoods } from "../server/acts/receiving/receive-goods";
import { handInCount, startCount } from "../server/acts/stock/count-stock";
import { type Db, sql } from "../server/db/open";

interface Tools {
  db: Db;
  desk: (login: string, day: Day, time?: string) => Desk;
  must: <T>(answer: Done<T>) => T;
}

/** What may be kept of deliveries that are not as ordered, as the lead set it. */
export function setTolerances({ desk, must }: Tools, day: Day): void {
  const set = (tolerance: Record<string, string>) => must(keepTolerance(desk("sunniva", day, "11:30"), tolerance));
  set({
    scope: "house",
    overPercent: "2",
    overQuantity: "2",
    underPercent: "1",
    lateDays: "2",
    pricePercent: "2",
    priceAmount: "25",
    beyond: "hold",
  });
  set({ scope: "supplier", supplier: "BAW", overPercent: "5", overQuantity: "3", underPercent: "3" });
  set({ scope: "supplier", supplier: "PUF", earlyDays: "10", early: "ask" });
  set({ scope: "category", category: "Steel", overPercent: "4", overQuantity: "100", underPercent: "4" });
  set({ scope: "item at supplier", item: "GLV-NIT", supplier: "PUF", beyond: "keep" });
}

/** A load of which two are more than may be kept, and three are not good. */
export function setSomeAside({ db, desk, must }: Tools, order: OrderId, day: Day): void {
  const [first, second] = sql<{ id: OrderLineId; quantity: number }>(
    db,
    "SELECT id, quantity FROM order_line WHERE purchase_order = ? ORDER BY position",
  ).all(order);
  const { version } = sql<{ version: number }>(db, "SELECT version FROM purchase_order WHERE id = ?").get(order)!;
  const each = (l: { quantity: number }) => l.quantity / 10_000;
  must(
    receiveGoods(desk("tobias", day, "11:20"), {
      order,
      version,
      deliveryNote: "BA-D 5521",
      said: { lines: "2", pieces: String(each(first!) + 4 + each(second!)), weight: "" },
      lines: [
        { line: first!.id, counted: String(each(first!) + 4) },
        {
          line: second!.id,
          counted: String(each(second!) - 3),
          faulty: "3",
          fault: "damaged",
          note: "Studs bent, the case was dropped.",
        },
      ],
    }),
  );
}

/** Two bins are counted blind: two places differ, and wait for whoever judges them. */
export function countSomeBins({ db, desk, must }: Tools, day: Day): void {
  const { store } = sql<{ store: number }>(db, "SELECT id AS store FROM store WHERE code = 'TQ'").get()!;
  const { count } = must(startCount(desk("tobias", day, "07:05"), { store, from: "B1", to: "B24", blind: true }));
  const lines = sql<{ id: number; expected: number }>(
    db,
    "SELECT id, expected FROM stock_count_line WHERE stock_count = ? ORDER BY id",
  ).all(count);
  const off = new Map([
    [1, -2],
    [4, 3],
  ]);
  must(
    handInCount(desk("tobias", day, "08:20"), {
      count,
      rows: lines.map((l, i) => ({
        line: l.id,
        counted: String(Math.max(0, l.expected / 10_000 + (off.get(i) ?? 0))),
      })),
    }),
  );
}
