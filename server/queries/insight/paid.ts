import type { Day } from "../../../core/calendar/day";
import { aboveLeast, leastPaid, type PaidOnce, unitPaid } from "../../../core/insight/paid";
import { exponent } from "../../../core/numbers/money";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../company";
import type { DaySpan } from "./record-facts";

/** What came of an item with one receipt. */
export interface PaidWith extends PaidOnce {
  item: number;
  receipt: number;
  number: string;
  day: Day;
  supplier: string;
  /** Of the order: what a stock unit cost in it is `foreign` ÷ `quantity`. */
  currency: string;
  foreign: number;
  /** Home currency for a stock unit, in millionths. */
  unit: number;
}

/** An item that was bought, with what it cost above the least that was paid for it in these days. */
export interface PaidItem {
  item: number;
  code: string;
  name: string;
  stockUnit: string;
  suppliers: number;
  home: number;
  above: number;
  least: Pick<PaidWith, "unit" | "supplier" | "day">;
  last: Pick<PaidWith, "unit" | "supplier" | "day">;
}

const BOUGHT_AT = `
  SELECT l.item, r.id AS receipt, r.number, r.day, s.name AS supplier, o.currency,
         x.stock_quantity - coalesce(u.stock_quantity, 0) AS quantity, x.value - coalesce(u.value, 0) AS "foreign", x.home_value - coalesce(u.home_value, 0) AS home
  FROM receipt r JOIN receipt_line x ON x.receipt = r.id JOIN order_line l ON l.id = x.order_line JOIN purchase_order o ON o.id = l.purchase_order JOIN supplier s ON s.id = o.supplier
  LEFT JOIN (SELECT receipt_line, sum(stock_quantity) AS stock_quantity, sum(value) AS value, sum(home_value) AS home_value FROM receipt_undo_line GROUP BY receipt_line) u ON u.receipt_line = x.id
  WHERE r.day BETWEEN @from AND @until AND l.item IS NOT NULL`;

const purchases = (db: Db, text: string, bound: Record<string, unknown>): PaidWith[] => {
  const places = exponent(theCompany(db).currency);
  return sql<Omit<PaidWith, "unit">>(db, text)
    .all(bound)
    .filter((p) => p.quantity > 0)
    .map((p) => ({ ...p, unit: unitPaid(p, places) }));
};

/** What was paid for one item in some days, the first first. */
export const readPaidOf = (db: Db, item: number, span: DaySpan): PaidWith[] =>
  purchases(db, `${BOUGHT_AT} AND l.item = @item ORDER BY r.day, r.id, x.id`, { ...span, item });

/** Items that were bought in some days, what cost most above its least first. */
export function readPaidItems(db: Db, span: DaySpan): PaidItem[] {
  const by = new Map<number, PaidWith[]>();
  for (const p of purchases(db, `${BOUGHT_AT} ORDER BY l.item, r.day, r.id, x.id`, { ...span })) {
    const of = by.get(p.item);
    if (of) of.push(p);
    else by.set(p.item, [p]);
  }
  const names = new Map(
    sql<{ id: number; code: string; name: string; stockUnit: string }>(
      db,
      "SELECT i.id, i.code, i.name, u.name AS stockUnit FROM item i JOIN unit u ON u.code = i.unit WHERE i.id IN (SELECT value FROM json_each(?))",
    )
      .all(JSON.stringify([...by.keys()]))
      .map(({ id, ...n }) => [id, n]),
  );
  return [...by]
    .map(([item, all]): PaidItem => {
      const short = ({ unit, supplier, day }: PaidWith) => ({ unit, supplier, day });
      return {
        item,
        ...names.get(item)!,
        suppliers: new Set(all.map((p) => p.supplier)).size,
        home: all.reduce((a, p) => a + p.home, 0),
        above: aboveLeast(all),
        least: short(leastPaid(all)!),
        last: short(all.at(-1)!),
      };
    })
    .sort((a, b) => b.above - a.above || b.home - a.home);
}
