import { addDays, type Day, daysBetween } from "../../../core/calendar/day";
import type { ItemId, SupplierId } from "../../../core/ids";
import { type Measured, measured, spread, suggestPoint } from "../../../core/needs/safety";
import { Big } from "../../../core/numbers/decimal";
import { exponent } from "../../../core/numbers/money";
import { type StockQty, stock } from "../../../core/numbers/quantity";
import type { Sum } from "../../../core/sums/sum";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../company";
import { type Pair, pairKey, readPreferred, type Source } from "./positions";

/** Usage is looked at over half a year, lead times over a year and a half. */
const USAGE_DAYS = 182;
const LEAD_DAYS = 548;
/** With fewer receipts than this, the stated lead time is taken instead of the real ones. */
const LEAST_RECEIPTS = 3;

export interface ReviewRow extends Pair {
  key: string;
  code: string;
  name: string;
  category: string;
  unit: string;
  storeName: string;
  supplier: string;
  set: StockQty;
  suggested: StockQty;
  /** Per day in stock units, estimates in ordinary numbers. */
  daily: { mean: number; deviation: number };
  /** In days; `receipts` is from how many, 0 where the stated lead time stands in. */
  lead: { mean: number; deviation: number; receipts: number };
  /** Of running out before goods come, in hundredths of a percent. */
  chance: number;
  /** What the average stock would be worth more or less, home currency; null where no cost is known. */
  value: number | null;
}

interface Row extends Pair {
  code: string;
  name: string;
  category: string;
  unit: string;
  storeName: string;
  point: number;
  counted: number;
  referenceCost: number | null;
}

/** Units of measure in which a part of one makes sense; everything else is counted. */
const MEASURED = "'LTR', 'KGM', 'MTR', 'MTK', 'HUR', 'DAY', 'TNE'";
const PAIRS = `
  SELECT p.item, p.store, i.code, i.name, i.category, u.name AS unit, s.name AS storeName, p.reorder_point AS point, i.unit NOT IN (${MEASURED}) AS counted, i.reference_cost AS referenceCost
  FROM item_store p JOIN item i ON i.id = p.item JOIN unit u ON u.code = i.unit JOIN store s ON s.id = p.store
  WHERE i.active = 1 AND p.policy <> 'to order'`;

/** Statistics need no exactness: squares of ten-thousandths would not fit an integer. */
export const DAILY_USE = `
  SELECT item, store, sum(q) AS sum, sum(q * q) AS squares, min(day) AS first FROM (
    SELECT item, store, day, -sum(quantity) / 10000.0 AS q FROM movement
    WHERE kind = 'issue' AND day > @from AND day <= @today GROUP BY item, store, day
  ) GROUP BY item, store`;

/** Days from sent to the first receipt, for each line that came. */
const REAL_LEADS = `
  SELECT l.item, o.supplier, julianday(min(r.day)) - julianday(substr(o.placed, 1, 10)) AS days
  FROM order_line l JOIN purchase_order o ON o.id = l.purchase_order JOIN receipt_line_now rl ON rl.order_line = l.id AND rl.undone < rl.quantity JOIN receipt r ON r.id = rl.receipt
  WHERE o.placed >= @from AND l.item IS NOT NULL`;

export interface ReviewGround {
  today: Day;
  level: number;
  digits: number;
  preferred: (item: ItemId) => Source | null;
  usage: (pair: Pair) => { mean: number; deviation: number };
  leads: (item: ItemId, supplier: SupplierId) => Measured;
}

export function reviewGround(db: Db, today: Day, only?: Pair): ReviewGround {
  const { serviceLevel, currency } = theCompany(db);
  const from = addDays(today, -USAGE_DAYS);
  const usage = new Map<string, Measured>();
  const narrowed = only ? DAILY_USE.replace("WHERE kind", "WHERE item = @item AND store = @store AND kind") : DAILY_USE;
  const uses = sql<Pair & { sum: number; squares: number; first: Day }>(db, narrowed);
  for (const u of uses.iterate({ from, today, ...only })) {
    // An item that began to be used lately is looked at from then on.
    const count = Math.max(14, Math.min(USAGE_DAYS, daysBetween(u.first, today) + 1));
    usage.set(pairKey(u), { count: Math.max(count, 1), sum: u.sum, squares: u.squares });
  }
  const days = new Map<string, number[]>();
  const leads = sql<{ item: ItemId; supplier: SupplierId; days: number }>(
    db,
    `${REAL_LEADS} ${only ? "AND l.item = @item" : ""} GROUP BY l.id`,
  );
  for (const l of leads.iterate({ from: addDays(today, -LEAD_DAYS), ...only })) {
    const key = `${l.item}/${l.supplier}`;
    const list = days.get(key);
    if (list) list.push(l.days);
    else days.set(key, [l.days]);
  }
  const preferred = readPreferred(db);
  return {
    today,
    level: serviceLevel,
    digits: exponent(currency),
    preferred: (item) => preferred.get(item) ?? null,
    usage: (pair) => spread(usage.get(pairKey(pair)) ?? measured([])),
    leads: (item, supplier) => measured(days.get(`${item}/${supplier}`) ?? []),
  };
}

function reviewed(g: ReviewGround, r: Row): (ReviewRow & { sum: Sum }) | null {
  const source = g.preferred(r.item);
  const daily = g.usage(r);
  if (!source || daily.mean <= 0) return null;
  const real = g.leads(r.item, source.supplier);
  const known = real.count >= LEAST_RECEIPTS;
  const lead = known ? spread(real) : { mean: source.leadDays, deviation: 0 };
  const { point, chanceAtSet, sum } = suggestPoint(daily, lead, g.level, stock(r.point), r.unit, r.counted === 1);
  const cost =
    r.referenceCost === null
      ? null
      : new Big(point - r.point).div(10_000).times(r.referenceCost).div(1_000_000).times(new Big(10).pow(g.digits));
  return {
    key: `${r.item}:${r.store}`,
    item: r.item,
    store: r.store,
    code: r.code,
    name: r.name,
    category: r.category,
    unit: r.unit,
    storeName: r.storeName,
    supplier: source.supplierName,
    set: stock(r.point),
    suggested: point,
    daily,
    lead: { ...lead, receipts: known ? real.count : 0 },
    chance: chanceAtSet,
    value: cost === null ? null : Number(cost.round(0, Big.roundHalfUp).toFixed(0)),
    sum,
  };
}

/** Every item and store that uses anything, the one most likely to run out first. */
export function readReview(db: Db, today: Day, progress: (done: number) => void = () => {}): ReviewRow[] {
  const g = reviewGround(db, today);
  const rows: ReviewRow[] = [];
  let done = 0;
  for (const r of sql<Row>(db, PAIRS).iterate()) {
    const found = reviewed(g, r);
    if (found) {
      const { sum: _, ...row } = found;
      rows.push(row);
    }
    if (++done % 2_000 === 0) progress(done);
  }
  return rows.sort((a, b) => b.chance - a.chance || b.suggested - b.set - (a.suggested - a.set));
}

/** One of them with its sum; null where nothing can be said of it. */
export function readReviewOf(db: Db, today: Day, pair: Pair): (ReviewRow & { sum: Sum }) | null {
  const row = sql<Row>(db, `${PAIRS} AND p.item = ? AND p.store = ?`).get(pair.item, pair.store);
  return row ? reviewed(reviewGround(db, today, pair), row) : null;
}
