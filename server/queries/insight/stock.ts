import { z } from "zod";
import { addDays, type Day, daysBetween, parseDay, yearBefore } from "../../../core/calendar/day";
import { STOCK_BY, type StockAsked, type StockBy, type StockFigures } from "../../../core/insight/stock";
import { Big, decimalText, roundToInteger } from "../../../core/numbers/decimal";
import { exponent } from "../../../core/numbers/money";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../company";
import type { FileColumn } from "../file-columns";
import { reviewOf } from "../needs/review-pool";

/** So many days without use, and what lies there lies still; so many before its last day, and it expires soon. */
export const STILL_DAYS = 180;
export const SOON_DAYS = 90;
/** More items than these are not read one by one on a page: those worth most are shown. */
const MOST = 500;

export const daysOf = (a: Pick<StockAsked, "from" | "on">): number => daysBetween(a.from, a.on) + 1;

const Asked = z.object({
  by: z.enum(STOCK_BY).catch("store"),
  on: z.string().nullable(),
  known: z.literal("then").nullable().catch(null),
  store: z.coerce.number().int().positive().nullable().catch(null),
  category: z.string().max(120).nullable().catch(null),
});
/** What an address asks for; what is missing or not understood is as usual: by store, today, as it is known now. */
export function stockAsked(search: URLSearchParams, today: Day): StockAsked {
  const asked = Asked.parse({
    by: search.get("by"),
    on: search.get("on"),
    known: search.get("known"),
    store: search.get("is-store"),
    category: search.get("is-category"),
  });
  const given = parseDay(asked.on ?? "");
  const on = given && given < today ? given : today;
  return { ...asked, on, from: addDays(yearBefore(on), 1), knownThen: asked.known === "then" };
}

/** Stock of one store, category or item. */
export interface StockRow extends StockFigures {
  key: string;
  label: string;
  code: string;
  /** Items and stores with stock of ours. */
  places: number;
  /** What of it was not used for so long. */
  still: number;
  /** What of it has its last day soon, or behind it. */
  soon: number;
  /** Items of suppliers that lie there. */
  theirs: number;
}

const KEY: Record<StockBy, string> = {
  store: "CAST(x.store AS TEXT)",
  category: "coalesce(i.category, '')",
  item: "CAST(x.item AS TEXT)",
};
/** Ours, each item at each store, by the end of the day. */
const PLACES = `
  SELECT m.item, m.store, sum(m.quantity) AS quantity, sum(m.value) AS value,
         sum(m.value * iif(m.day < @from, @days, CAST(julianday(@on) - julianday(m.day) AS INTEGER) + 1)) AS dayValues,
         -sum(iif(m.kind = 'issue' AND m.day >= @from, m.value, 0)) AS used,
         min(m.day) AS since, max(iif(m.kind = 'issue' AND m.quantity < 0, m.day, NULL)) AS lastUsed
  FROM movement m WHERE m.owner IS NULL AND m.day <= @on AND (@knownThen = 0 OR m.at < date(@on, '+1 day')) GROUP BY m.item, m.store`;
const NARROWED = "(@store IS NULL OR x.store = @store) AND (@category IS NULL OR coalesce(i.category, '') = @category)";
const LIES_STILL = "x.quantity > 0 AND x.since <= @still AND (x.lastUsed IS NULL OR x.lastUsed <= @still)";

const bound = (a: StockAsked) => ({
  from: a.from,
  on: a.on,
  days: daysOf(a),
  knownThen: a.knownThen ? 1 : 0,
  still: addDays(a.on, -STILL_DAYS),
  store: a.store,
  category: a.category,
});

/** What lots come to that have their last day by `@soon`, of each item and store. */
const SOON = `
  SELECT m.item, m.store, sum(m.quantity) AS quantity FROM movement m JOIN lot t ON t.id = m.lot
  WHERE m.owner IS NULL AND m.day <= @on AND (@knownThen = 0 OR m.at < date(@on, '+1 day')) AND t.expires <= @soon
  GROUP BY m.item, m.store HAVING sum(m.quantity) > 0`;

/** Of each group, what of its value expires soon: so much of each place as its lots are of all that lies there. */
function soonByKey(db: Db, a: StockAsked): Map<string, number> {
  const by = new Map<string, number>();
  const rows = sql<{ key: string; quantity: number; held: number; value: number }>(
    db,
    `SELECT ${KEY[a.by]} AS key, e.quantity, x.quantity AS held, x.value
     FROM (${SOON}) e JOIN (${PLACES.replace("GROUP BY", "AND m.item IN (SELECT t.item FROM lot t WHERE t.expires <= @soon) GROUP BY")}) x ON x.item = e.item AND x.store = e.store
     JOIN item i ON i.id = x.item WHERE x.quantity > 0 AND ${NARROWED}`,
  ).all({ ...bound(a), soon: addDays(a.on, SOON_DAYS) });
  for (const r of rows)
    by.set(r.key, (by.get(r.key) ?? 0) + roundToInteger(new Big(r.value).times(r.quantity).div(r.held)));
  return by;
}

const theirsByKey = (db: Db, a: StockAsked): Map<string, number> =>
  new Map(
    sql<{ key: string; n: number }>(
      db,
      `SELECT ${KEY[a.by]} AS key, count(*) AS n
       FROM (SELECT m.item, m.store, m.owner FROM movement m WHERE m.owner IS NOT NULL AND m.day <= @on AND (@knownThen = 0 OR m.at < date(@on, '+1 day'))
             GROUP BY m.item, m.store, m.owner HAVING sum(m.quantity) > 0) x
       JOIN item i ON i.id = x.item WHERE ${NARROWED} GROUP BY 1`,
    )
      .all(bound(a))
      .map((r) => [r.key, r.n]),
  );

/** The statement alone, for whoever measures it. */
export const stockStatement = (by: StockBy): string => `
  SELECT ${KEY[by]} AS key, ${by === "store" ? "s.name" : by === "item" ? "i.name" : "i.category"} AS label, ${by === "item" ? "i.code" : "''"} AS code,
         sum(x.value) AS value, sum(x.dayValues) AS dayValues, sum(x.used) AS used, sum(x.quantity > 0) AS places, sum(iif(${LIES_STILL}, x.value, 0)) AS still
  FROM (${PLACES}) x JOIN item i ON i.id = x.item JOIN store s ON s.id = x.store
  WHERE ${NARROWED} GROUP BY 1 HAVING places > 0 OR used <> 0 OR value <> 0 ORDER BY value DESC, label, key`;

/** What our stock was worth at the end of a day, what was used of it in a year, and what of it lies still. */
export function readStock(
  db: Db,
  a: StockAsked,
  most = MOST,
): { rows: StockRow[]; found: number; total: Omit<StockRow, "key" | "label" | "code"> } {
  const soon = soonByKey(db, a);
  const theirs = theirsByKey(db, a);
  const rows = sql<Omit<StockRow, "soon" | "theirs">>(db, stockStatement(a.by))
    .all(bound(a))
    .map((r) => ({
      ...r,
      label: r.label || "no category",
      soon: soon.get(r.key) ?? 0,
      theirs: theirs.get(r.key) ?? 0,
    }));
  const all = (f: "value" | "dayValues" | "used" | "places" | "still" | "soon" | "theirs") =>
    rows.reduce((n, r) => n + r[f], 0);
  return {
    rows: rows.slice(0, most),
    found: rows.length,
    total: {
      value: all("value"),
      dayValues: all("dayValues"),
      used: all("used"),
      places: all("places"),
      still: all("still"),
      soon: all("soon"),
      theirs: all("theirs"),
    },
  };
}

/** What it was worth at the end of a month, the last of them by the day that is asked for. */
export interface StockMonth {
  month: string;
  value: number;
  used: number;
}
/** An item at a store that lies still. */
export interface LyingStill {
  item: number;
  code: string;
  name: string;
  store: string;
  value: number;
  /** Null: never. */
  lastUsed: Day | null;
}
export interface StockBeside {
  months: StockMonth[];
  still: LyingStill[];
  /** What the suggested reorder points would do to it, on average; null on a day that is past. */
  points: { places: number; value: number; unknown: number } | null;
}

/** What stands beside a row of stock: what it was worth month by month, what lies still, what other reorder points would do. */
export async function readStockBeside(db: Db, a: StockAsked, key: string, today: Day): Promise<StockBeside> {
  const values = { ...bound(a), key };
  const moved = sql<{ month: string; value: number; used: number }>(
    db,
    `SELECT substr(x.day, 1, 7) AS month, sum(x.value) AS value, -sum(iif(x.kind = 'issue', x.value, 0)) AS used
     FROM movement x JOIN item i ON i.id = x.item WHERE x.owner IS NULL AND x.day <= @on AND (@knownThen = 0 OR x.at < date(@on, '+1 day')) AND ${NARROWED} AND ${KEY[a.by]} = @key
     GROUP BY 1 ORDER BY 1`,
  ).all(values);
  let value = 0;
  const kept = moved.map((m) => {
    value += m.value;
    return { ...m, value };
  });
  const still = sql<LyingStill>(
    db,
    `SELECT x.item, i.code, i.name, s.name AS store, x.value, x.lastUsed FROM (${PLACES}) x JOIN item i ON i.id = x.item JOIN store s ON s.id = x.store
     WHERE ${LIES_STILL} AND x.value > 0 AND ${NARROWED} AND ${KEY[a.by]} = @key ORDER BY x.value DESC LIMIT 20`,
  ).all(values);
  return { months: everyMonth(kept, a), still, points: a.on === today ? await pointsOf(db, a, key, today) : null };
}

/** Thirteen months up to the day, those in which nothing moved, too. */
function everyMonth(kept: readonly StockMonth[], a: StockAsked): StockMonth[] {
  const months: StockMonth[] = [];
  let [year, month] = a.from.slice(0, 7).split("-").map(Number) as [number, number]; // a day has both
  for (let at = a.from.slice(0, 7); at <= a.on.slice(0, 7); at = `${year}-${String(month).padStart(2, "0")}`) {
    const before = kept.findLast((k) => k.month <= at);
    months.push({ month: at, value: before?.value ?? 0, used: before?.month === at ? before.used : 0 });
    [year, month] = month === 12 ? [year + 1, 1] : [year, month + 1];
  }
  return months;
}

async function pointsOf(db: Db, a: StockAsked, key: string, today: Day): Promise<NonNullable<StockBeside["points"]>> {
  const rows = (await reviewOf(db, today)).filter(
    (r) =>
      (a.store === null || r.store === a.store) &&
      (a.category === null || r.category === a.category) &&
      { store: String(r.store), category: r.category, item: String(r.item) }[a.by] === key,
  );
  return {
    places: rows.length,
    value: rows.reduce((n, r) => n + (r.value ?? 0), 0),
    unknown: rows.filter((r) => r.value === null).length,
  };
}

/** The columns of /insight/stock.csv, as docs/exchange.md says. */
export function stockColumns(db: Db, by: StockBy): FileColumn<StockRow>[] {
  const { currency } = theCompany(db);
  const places = exponent(currency);
  const home = currency.toLowerCase();
  const money = (name: string, of: (r: StockRow) => number): FileColumn<StockRow> => ({
    name: `${name}_${home}`,
    width: 16,
    as: "money",
    currency: () => currency,
    cell: (r) => decimalText(of(r), places, places),
  });
  return [
    { name: by, width: 32, cell: (r) => r.label },
    { name: `${by}_key`, width: 12, cell: (r) => (by === "item" ? r.code : r.key) },
    money("value", (r) => r.value),
    money("used", (r) => r.used),
    money("day_values", (r) => r.dayValues),
    money("unused", (r) => r.still),
    money("expiring", (r) => r.soon),
    { name: "places", width: 9, as: "number", cell: (r) => r.places },
    { name: "consigned", width: 9, as: "number", cell: (r) => r.theirs },
  ];
}
