import { addDays, type Day } from "../../../core/calendar/day";
import { type Delivery, type Holidays, sentOn } from "../../../core/calendar/delivery";
import type { DemandId, ItemId, SourcingId, StoreId, SupplierId, TransferId } from "../../../core/ids";
import { expiries, type Lot } from "../../../core/needs/expiry";
import type { OrderedFrom, Stir } from "../../../core/needs/projection";
import type { Packing, Policy } from "../../../core/needs/reorder";
import type { Settings } from "../../../core/needs/run";
import { factorOf, purchase, type StockQty, stock, toStock } from "../../../core/numbers/quantity";
import type { OrderStage } from "../../../core/orders/status";
import { type Db, sql } from "../../db/open";
import { holidaysAround } from "../calendars";
import { readCompany } from "../company";

export interface Pair {
  item: ItemId;
  store: StoreId;
}
export const pairKey = (p: Pair) => `${p.item}/${p.store}`;

/** What planning knows of one item at one store. */
export interface Position extends Pair {
  code: string;
  name: string;
  category: string;
  stockUnit: string;
  storeName: string;
  receives: number;
  region: string;
  /** What may be used: expired and held lots are not counted; what suppliers have here is, where the company counts it. */
  onHand: StockQty;
  /** What suppliers have on our shelf of it that may be used, and whether it is counted. */
  theirs: { quantity: StockQty; counted: boolean } | null;
  /** A supplier refills it under an agreement that runs, so it is bought for what is lacking alone. */
  refilled: boolean;
  settings: Settings;
}

/** One way to buy an item. */
export interface Source {
  id: SourcingId;
  item: ItemId;
  supplier: SupplierId;
  supplierName: string;
  buyer: number | null;
  buyerName: string | null;
  currency: string;
  delivers: number;
  region: string;
  cutOff: number | null;
  packing: Packing;
  theirCode: string;
  leadDays: number;
  leadKind: "calendar" | "working";
  standing: number;
  rank: number;
}

interface PositionRow extends Pair {
  code: string;
  name: string;
  category: string;
  stockUnit: string;
  storeName: string;
  receives: number;
  region: string;
  policy: Policy["kind"];
  reorderPoint: number;
  lot: number;
  level: number;
  coverDays: number;
  maximum: number | null;
  reviewDays: number;
  onHand: number;
}

export const POSITIONS = `
  SELECT i.id AS item, i.code, i.name, i.category, u.name AS stockUnit, s.id AS store, s.name AS storeName, s.receives, s.region,
         p.policy, p.reorder_point AS reorderPoint, p.lot, p.level, p.cover_days AS coverDays, p.maximum, p.review_days AS reviewDays, p.on_hand AS onHand
  FROM (SELECT item, store, policy, reorder_point, lot, level, cover_days, maximum, review_days, on_hand FROM item_store
        -- What a job or a customer wants of a store that does not keep it is bought to order.
        UNION ALL SELECT DISTINCT d.item, d.store, 'to order', 0, 0, 0, 0, NULL, 7, 0 FROM job_demand d JOIN job j ON j.id = d.job
        WHERE d.issued < d.quantity AND j.closed IS NULL AND NOT EXISTS (SELECT 1 FROM item_store k WHERE k.item = d.item AND k.store = d.store)) p
  JOIN item i ON i.id = p.item JOIN store s ON s.id = p.store JOIN unit u ON u.code = i.unit
  WHERE i.active = 1`;

/** All sources, the preferred one of each item first. */
export const SOURCES = `
  SELECT c.id, c.item, c.supplier, s.name AS supplierName, s.buyer, b.name AS buyerName, s.currency, s.delivers, s.region, s.cut_off AS cutOff,
         s.lead_kind AS leadKind, u.name AS unit, c.factor, c.minimum, c.multiple, c.broken_packs AS broken, c.lead_days AS leadDays,
         c.standing_discount AS standing, c.their_code AS theirCode, c.rank
  FROM sourcing c JOIN supplier s ON s.id = c.supplier JOIN unit u ON u.code = c.unit LEFT JOIN person b ON b.id = s.buyer
  WHERE c.active = 1 AND s.active = 1 AND s.blocked = ''`;

export const DEMAND = `
  SELECT d.id, d.item, d.store, d.due AS day, d.quantity - d.issued AS quantity, j.id AS jobId, j.code AS job, j.vessel, j.kind
  FROM job_demand d JOIN job j ON j.id = d.job WHERE d.issued < d.quantity AND j.closed IS NULL`;

/**
 * Open order lines, those still being written included: what is on a draft is not proposed again. A direct
 * delivery passes the store by: it counts where it meets a demand that is planned there.
 */
export const ON_ORDER = `
  SELECT l.item, l.store, l.due AS day, l.quantity, l.factor, o.id AS orderId, o.number, o.stage, o.supplier
  FROM open_schedule l JOIN purchase_order o ON o.id = l.purchase_order
  WHERE l.item IS NOT NULL AND (o.kind <> 'direct' OR EXISTS (SELECT 1 FROM need_tie t WHERE t.order_line = l.order_line AND t.job_demand IS NOT NULL))`;

/** What jobs give back to stock. */
export const OUTPUT = `
  SELECT t.item, t.store, t.due AS day, t.quantity - t.given AS quantity, j.id AS jobId, j.code AS job
  FROM job_output t JOIN job j ON j.id = t.job WHERE t.given < t.quantity AND j.closed IS NULL`;

/** Transfers that are planned: they leave one store and come to another. */
export const TRANSFERS = `
  SELECT l.item, t.from_store AS fromStore, t.to_store AS toStore, t.day, l.quantity, t.id, t.number
  FROM transfer t JOIN transfer_line l ON l.transfer = t.id WHERE t.state = 'Planned'`;

/** What is to be bought for a job alone and stands on no order yet; it is planned for already. */
export const TIED = `
  SELECT d.id, d.item, d.store, d.due AS day, j.id AS jobId, j.code AS job, j.vessel, j.kind,
         d.tied - (SELECT coalesce(sum(t.quantity), 0) FROM need_tie t WHERE t.job_demand = d.id) AS quantity
  FROM job_demand d JOIN job j ON j.id = d.job WHERE d.tied > 0 AND d.issued < d.quantity AND j.closed IS NULL`;

const UNUSABLE = `
  SELECT s.item, s.store, sum(s.on_hand) AS quantity FROM stock_lot s JOIN lot l ON l.id = s.lot
  WHERE s.on_hand > 0 AND s.owner = 0 AND (l.held <> '' OR l.expires < ?)`;

/** Lots that may be used today, and until when; those of suppliers where what they have here is counted. */
export const EXPIRING = `
  SELECT s.item, s.store, l.code AS lot, l.expires AS until, sum(s.on_hand) AS quantity FROM stock_lot s JOIN lot l ON l.id = s.lot
  WHERE s.on_hand > 0 AND (s.owner = 0 OR (SELECT counts_theirs FROM company)) AND l.held = '' AND l.expires >= ?`;

interface Moving extends Pair {
  day: Day;
  quantity: number;
}
export interface DemandRow extends Moving {
  id: DemandId;
  jobId: number;
  job: string;
  vessel: string;
  kind: "job" | "customer order";
}
interface OnOrderRow extends Moving {
  factor: number;
  orderId: number;
  number: string | null;
  stage: OrderStage;
  supplier: SupplierId;
}
export type TiedRow = DemandRow;
interface TransferRow {
  item: ItemId;
  fromStore: number;
  toStore: number;
  day: Day;
  quantity: number;
  id: TransferId;
  number: string;
}
interface SourceRow extends Omit<Source, "packing"> {
  unit: string;
  factor: number;
  minimum: number;
  multiple: number;
  broken: number;
}

/** Reads the pairs of a list, or of all: `used30` is what they used in the last 30 days, for policies that look at it. */
export function readPositions(
  db: Db,
  today: Day,
  used30: (pair: Pair) => StockQty,
  pair?: Pair,
  each: (p: Position) => void = () => {},
): void {
  const unusable = new Map<string, number>();
  const lots = pair
    ? sql<Omit<Moving, "day">>(db, `${UNUSABLE} AND s.item = ? AND s.store = ? GROUP BY s.item, s.store`).all(
        today,
        pair.item,
        pair.store,
      )
    : sql<Omit<Moving, "day">>(db, `${UNUSABLE} GROUP BY s.item, s.store`).all(today);
  for (const l of lots) unusable.set(pairKey(l), l.quantity);
  const theirs = readTheirs(db, today, pair);
  const rows = pair
    ? sql<PositionRow>(db, `${POSITIONS} AND p.item = ? AND p.store = ?`).iterate(pair.item, pair.store)
    : sql<PositionRow>(db, POSITIONS).iterate();
  for (const r of rows) {
    each({
      item: r.item,
      store: r.store,
      code: r.code,
      name: r.name,
      category: r.category,
      stockUnit: r.stockUnit,
      storeName: r.storeName,
      receives: r.receives,
      region: r.region,
      ...theirs(pairKey(r), r.onHand - (unusable.get(pairKey(r)) ?? 0)),
      settings: {
        policy: r.policy,
        reorderPoint: stock(r.reorderPoint),
        lot: stock(r.lot),
        level: stock(r.level),
        coverDays: r.coverDays,
        used30: r.policy === "days of cover" ? used30(r) : stock(0),
        maximum: r.maximum === null ? null : stock(r.maximum),
        reviewDays: r.reviewDays,
      },
    });
  }
}

/** What suppliers have here that may be used, added where the company counts it; and what they refill. */
function readTheirs(
  db: Db,
  today: Day,
  pair?: Pair,
): (key: string, ours: number) => Pick<Position, "onHand" | "theirs" | "refilled"> {
  const of = { today, item: pair?.item ?? null, store: pair?.store ?? null };
  const here = new Map(
    sql<Pair & { quantity: number }>(
      db,
      `SELECT y.item, y.store, sum(y.rest) AS quantity FROM consigned_layer y LEFT JOIN lot l ON l.id = y.lot JOIN agreement_item x ON x.id = y.agreement_item
       JOIN agreement a ON a.id = x.agreement
       WHERE y.rest > 0 AND a.state = 'Running' AND (y.lot IS NULL OR (l.held = '' AND coalesce(l.expires, '9') >= @today)) AND (@item IS NULL OR (y.item = @item AND y.store = @store))
       GROUP BY y.item, y.store`,
    )
      .all(of)
      .map((t) => [pairKey(t), t.quantity]),
  );
  const refilled = new Set(
    sql<Pair>(
      db,
      `SELECT DISTINCT x.item, a.store FROM agreement_item x JOIN agreement a ON a.id = x.agreement
       WHERE a.state = 'Running' AND x.gone = 0 AND a.starts <= @today AND a.ends >= @today AND (@item IS NULL OR (x.item = @item AND a.store = @store))`,
    )
      .all(of)
      .map(pairKey),
  );
  const counted = readCompany(db)?.countsTheirs ?? true;
  return (key, ours) => {
    const quantity = here.get(key);
    return {
      onHand: stock(ours + (counted ? (quantity ?? 0) : 0)),
      theirs: quantity === undefined ? null : { quantity: stock(quantity), counted },
      refilled: counted && refilled.has(key),
    };
  };
}

const sourceOf = ({ unit, factor, minimum, multiple, broken, ...r }: SourceRow): Source => ({
  ...r,
  packing: {
    unit,
    factor: factorOf(factor),
    minimum: purchase(minimum),
    multiple: purchase(multiple),
    brokenPacks: broken === 1,
  },
});

/** Sources of an item, or of all by item; the preferred one first. */
export const readSources = (db: Db, item: ItemId): Source[] =>
  sql<SourceRow>(db, `${SOURCES} AND c.item = ? ORDER BY c.rank, c.id`).all(item).map(sourceOf);

/** Every source of the given items; the preferred one of each first. */
export const readSourcesOf = (db: Db, items: readonly number[]): Source[] =>
  sql<SourceRow>(db, `${SOURCES} AND c.item IN (SELECT value FROM json_each(?)) ORDER BY c.item, c.rank, c.id`)
    .all(JSON.stringify(items))
    .map(sourceOf);

/** The preferred source of each item. */
export function readPreferred(db: Db): Map<number, Source> {
  const by = new Map<number, Source>();
  for (const r of sql<SourceRow>(db, `${SOURCES} ORDER BY c.item, c.rank, c.id`).iterate()) {
    if (!by.has(r.item)) by.set(r.item, sourceOf(r));
  }
  return by;
}

export const readSource = (db: Db, id: SourcingId): Source | null => {
  const row = sql<SourceRow>(db, `${SOURCES} AND c.id = ?`).get(id);
  return row ? sourceOf(row) : null;
};

const calendars = new Map<string, Holidays>();
function holidays(region: string, day: Day): Holidays {
  const key = `${region}/${day.slice(0, 4)}`;
  let known = calendars.get(key);
  if (!known) calendars.set(key, (known = holidaysAround(region, day)));
  return known;
}

/** How goods come from a supplier to a store, for an order sent on a day at an hour. */
export const wayOf = (
  source: Pick<Source, "leadDays" | "leadKind" | "delivers" | "region" | "cutOff">,
  store: { receives: number; region: string },
  day: Day,
  hour: number,
): Delivery => ({
  leadDays: source.leadDays,
  leadKind: source.leadKind,
  delivers: source.delivers,
  receives: store.receives,
  closedThere: holidays(source.region, day),
  closedHere: holidays(store.region, day),
  earliest: sentOn(day, hour, source.cutOff),
});

export const jobLabel = (d: { job: string; vessel: string; kind: string }) =>
  `${d.kind} ${d.job}${d.vessel ? `, ${d.vessel}` : ""}`;

/** What a company counts as supply (domain §3). */
export interface Counting {
  countOutput: boolean;
  /** The day from which one looks: what is left of a lot after its last day is lost. Left out, lots are not looked at. */
  from?: Day;
}

/** Everything that moves the stock of the given pair, or of all pairs, by "item/store". */
export function readStirs(db: Db, { countOutput, from }: Counting, pair?: Pair): Map<string, Stir[]> {
  const by = new Map<string, Stir[]>();
  const put = (
    at: Pair,
    day: Day,
    quantity: number,
    kind: Stir["kind"],
    label: string,
    href: string,
    from?: OrderedFrom,
  ) => {
    const stir: Stir = { day, quantity: stock(quantity), kind, label, href, doubtful: false };
    if (from) stir.from = from;
    const key = pairKey(at);
    const list = by.get(key);
    if (list) list.push(stir);
    else by.set(key, [stir]);
  };
  const rows = <R>(text: string, alias: string) =>
    pair
      ? sql<R>(db, `${text} AND ${alias}.item = ? AND ${alias}.store = ?`).iterate(pair.item, pair.store)
      : sql<R>(db, text).iterate();
  // What is to be bought for a job alone is not taken from stock: it comes, and goes, on its own.
  const tied = new Map<number, number>();
  for (const d of rows<TiedRow>(TIED, "d")) if (d.quantity > 0) tied.set(d.id, d.quantity);
  for (const d of rows<DemandRow>(DEMAND, "d")) {
    const apart = Math.min(d.quantity, tied.get(d.id) ?? 0);
    if (apart === d.quantity) continue;
    const label = apart > 0 ? `${jobLabel(d)}, less what is bought for it` : jobLabel(d);
    put(d, d.day, apart - d.quantity, "demand", label, `/jobs/${d.jobId}`);
  }
  for (const o of rows<OnOrderRow>(ON_ORDER, "l")) {
    const placed = o.stage === "placed";
    const quantity = toStock(purchase(o.quantity), factorOf(o.factor));
    const label = o.number ? `order ${o.number}` : "on a draft order";
    const from = placed ? { supplier: o.supplier, promised: o.day } : undefined;
    put(o, o.day, quantity, placed ? "order" : "being written", label, `/orders/${o.orderId}`, from);
  }
  if (countOutput) {
    for (const t of rows<DemandRow>(OUTPUT, "t"))
      put(t, t.day, t.quantity, "output", `from job ${t.job}`, `/jobs/${t.jobId}`);
  }
  const transfers = pair
    ? sql<TransferRow>(db, `${TRANSFERS} AND l.item = ? AND ? IN (t.from_store, t.to_store)`).iterate(
        pair.item,
        pair.store,
      )
    : sql<TransferRow>(db, TRANSFERS).iterate();
  for (const t of transfers) {
    const href = `/transfers/${t.id}`;
    for (const [store, quantity] of [
      [t.fromStore, -t.quantity],
      [t.toStore, t.quantity],
    ] as const) {
      if (!pair || pair.store === store)
        put({ item: t.item, store }, t.day, quantity, "transfer", `transfer ${t.number}`, href);
    }
  }
  if (from) {
    const lots = new Map<string, { pair: Pair; lots: Lot[] }>();
    const expiring = pair
      ? sql<Pair & Lot>(db, `${EXPIRING} AND s.item = ? AND s.store = ? GROUP BY s.item, s.store, l.id`).all(
          from,
          pair.item,
          pair.store,
        )
      : sql<Pair & Lot>(db, `${EXPIRING} GROUP BY s.item, s.store, l.id`).all(from);
    for (const { item, store, ...lot } of expiring) {
      const key = pairKey({ item, store });
      const known = lots.get(key);
      if (known) known.lots.push(lot);
      else lots.set(key, { pair: { item, store }, lots: [lot] });
    }
    for (const [key, of] of lots)
      for (const { lot, until, lost } of expiries(of.lots, by.get(key) ?? [], from))
        put(
          of.pair,
          addDays(until, 1),
          -lost,
          "expiry",
          `lot ${lot} may be used until ${until}`,
          `/items/${of.pair.item}`,
        );
  }
  return by;
}
