import type { Day } from "../../../core/calendar/day";
import type { ItemId, SourcingId, SupplierId } from "../../../core/ids";
import {
  addMove,
  boughtAtBoth,
  type ListedTwice,
  type ListMove,
  listedTwice,
  riseOf,
} from "../../../core/insight/lists";
import { Big, roundToInteger } from "../../../core/numbers/decimal";
import { exchanged, money, type UnitPrice } from "../../../core/numbers/money";
import { ONE, type PurchaseQty, purchase } from "../../../core/numbers/quantity";
import { type Db, sql } from "../../db/open";
import { rateOn, theCompany } from "../company";
import { readBreaks } from "../prices";
import type { DaySpan } from "./record-facts";

/** A supplier's list on the first day and on the last. */
export interface SupplierList extends ListMove {
  supplier: SupplierId;
  name: string;
  currency: string;
  /** By how much, weighed by what was bought in these days; null where nothing of it was bought. */
  moved: number | null;
  /** What more, or less, the same costs now than at the list of before, at home; null where the currency has no rate. */
  more: number | null;
}

/** A price of a list that moved. */
export interface MovedPrice extends ListedTwice {
  item: ItemId;
  code: string;
  name: string;
  unit: string;
  bought: PurchaseQty;
  moved: number | null;
  /** Currency of the list, minor units. */
  more: number;
}

interface SourcedRow {
  sourcing: SourcingId;
  supplier: SupplierId;
  name: string;
  currency: string;
  item: ItemId;
  code: string;
  itemName: string;
  unit: string;
  factor: number;
  standing: number;
}
const SOURCED = `
  SELECT c.id AS sourcing, c.supplier, s.name, s.currency, c.item, i.code, i.name AS itemName, u.name AS unit, c.factor, c.standing_discount AS standing
  FROM sourcing c JOIN supplier s ON s.id = c.supplier JOIN item i ON i.id = c.item JOIN unit u ON u.code = c.unit
  WHERE c.active = 1 AND (@supplier IS NULL OR c.supplier = @supplier) ORDER BY s.name, i.name`;
/** What came of each item from each supplier, and in how many loads. */
const CAME = `
  SELECT o.supplier, l.item, sum(x.stock_quantity - coalesce((SELECT sum(u.stock_quantity) FROM receipt_undo_line u WHERE u.receipt_line = x.id), 0)) AS quantity, count(*) AS loads
  FROM receipt r JOIN receipt_line x ON x.receipt = r.id JOIN order_line l ON l.id = x.order_line JOIN purchase_order o ON o.id = l.purchase_order
  WHERE r.day BETWEEN @from AND @until AND l.item IS NOT NULL AND (@supplier IS NULL OR o.supplier = @supplier) GROUP BY 1, 2`;

/** Prices that a list had on both days, each with what was bought of it. */
function* listed(
  db: Db,
  span: DaySpan,
  supplier: SupplierId | null,
): Generator<{ row: SourcedRow; list: ListedTwice; bought: PurchaseQty }> {
  const breaks = readBreaks(db);
  const came = new Map(
    sql<{ supplier: number; item: number; quantity: number; loads: number }>(db, CAME)
      .all({ ...span, supplier })
      .map((c) => [`${c.supplier}/${c.item}`, c]),
  );
  for (const row of sql<SourcedRow>(db, SOURCED).all({ supplier })) {
    const known = breaks.get(row.sourcing);
    if (!known) continue;
    const c = came.get(`${row.supplier}/${row.item}`);
    const stockUnits = Math.max(0, c?.quantity ?? 0);
    const inUnits = (quantity: number) => purchase(roundToInteger(new Big(quantity).times(ONE).div(row.factor)));
    const bought = inUnits(stockUnits);
    // The quantity of a load is what breaks go by; where nothing came, the least that the list has a price for.
    const usual =
      c && stockUnits > 0
        ? inUnits(roundToInteger(new Big(stockUnits).div(c.loads)))
        : purchase(known.reduce((n, b) => Math.min(n, b.from), Number.MAX_SAFE_INTEGER));
    const list = listedTwice(known, usual, span.from, span.until);
    if (list) yield { row, list, bought };
  }
}

/** Whose list went up between two days, what costs most first. */
export function readLists(db: Db, span: DaySpan): SupplierList[] {
  const home = theCompany(db).currency;
  const by = new Map<SupplierId, ListMove & Pick<SupplierList, "name" | "currency">>();
  for (const { row, list, bought } of listed(db, span, null)) {
    const m = by.get(row.supplier) ?? {
      name: row.name,
      currency: row.currency,
      prices: 0,
      up: 0,
      down: 0,
      before: 0,
      now: 0,
    };
    by.set(row.supplier, { ...m, ...addMove(m, list, boughtAtBoth(list, bought, row.standing, row.currency)) });
  }
  return [...by]
    .map(([supplier, m]) => {
      const rate = rateOn(db, m.currency, home, span.until);
      return {
        ...m,
        supplier,
        moved: riseOf(m.before, m.now),
        more: rate === null ? null : exchanged(money(m.now - m.before, m.currency), rate, home).minor,
      };
    })
    .sort((a, b) => (b.more ?? 0) - (a.more ?? 0) || b.up - a.up || a.name.localeCompare(b.name));
}

const MOST = 60;
/** Prices of one supplier's list that moved, what costs most first, as many as one reads; with how many there are. */
export function readMovedPrices(db: Db, supplier: SupplierId, span: DaySpan): { prices: MovedPrice[]; found: number } {
  const prices = [...listed(db, span, supplier)]
    .filter(({ list }) => list.now !== list.before)
    .map(({ row, list, bought }) => {
      const { before, now } = boughtAtBoth(list, bought, row.standing, row.currency);
      return {
        ...list,
        item: row.item,
        code: row.code,
        name: row.itemName,
        unit: row.unit,
        bought,
        moved: riseOf(list.before, list.now),
        more: now - before,
      };
    })
    .sort((a, b) => b.more - a.more || (b.moved ?? 0) - (a.moved ?? 0) || a.code.localeCompare(b.code));
  return { prices: prices.slice(0, MOST), found: prices.length };
}

/** What somebody asked for an item, whether or not it was taken: per their unit, in their currency. */
export interface AskedPrice {
  supplier: string;
  kind: "list" | "quote" | "said" | "agreement";
  /** The paper, where there is one. */
  number: string;
  from: Day | null;
  until: Day | null;
  currency: string;
  price: UnitPrice;
  unit: string;
  /** Stock units in one of theirs, in ten-thousandths. */
  factor: number;
  /** From so many of their units. */
  least: number;
  /** A quote that was accepted, or a price that was taken over. */
  taken: boolean;
}
const ASKED = `
  SELECT s.name AS supplier, 'list' AS kind, '' AS number, b.valid_from AS "from", b.valid_to AS until, s.currency, b.price, u.name AS unit, c.factor, b.from_quantity AS least, 0 AS taken
  FROM sourcing c JOIN price_break b ON b.sourcing = c.id JOIN supplier s ON s.id = c.supplier JOIN unit u ON u.code = c.unit WHERE c.item = @item
  UNION ALL
  SELECT s.name, 'quote', q.number, a.valid_from, a.valid_to, k.currency, a.price, u.name, a.factor, a.from_quantity, a.accepted IS NOT NULL
  FROM quote_line l JOIN quote_answer a ON a.line = l.id JOIN quote_asked k ON k.id = a.asked JOIN quote q ON q.id = l.quote JOIN supplier s ON s.id = k.supplier JOIN unit u ON u.code = a.unit
  WHERE l.item = @item
  UNION ALL
  SELECT s.name, 'said', '', t.day, t.valid_to, t.currency, t.price, u.name, t.factor, t.quantity, EXISTS (SELECT 1 FROM said_price p WHERE p.said = t.id)
  FROM sourcing c JOIN said_stock t ON t.sourcing = c.id JOIN supplier s ON s.id = c.supplier JOIN unit u ON u.code = t.unit WHERE c.item = @item AND t.price IS NOT NULL
  UNION ALL
  SELECT s.name, 'agreement', g.number, p.day, g.ends, g.currency, p.price, u.name, 10000, 0, 1
  FROM agreement_item n JOIN agreement g ON g.id = n.agreement JOIN agreement_price p ON p.agreement_item = n.id JOIN supplier s ON s.id = g.supplier
  JOIN item i ON i.id = n.item JOIN unit u ON u.code = i.unit WHERE n.item = @item AND g.number IS NOT NULL
  ORDER BY 1, 4 DESC, 10`;

/** Lists, quotes, prices that were said and agreements of an item, by supplier, the last first. */
export const readAskedPrices = (db: Db, item: ItemId): AskedPrice[] =>
  sql<Omit<AskedPrice, "taken"> & { taken: 0 | 1 }>(db, ASKED)
    .all({ item })
    .map((a) => ({ ...a, taken: a.taken === 1 }));
