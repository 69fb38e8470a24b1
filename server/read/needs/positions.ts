import type { Day } from "../../../core/calendar/day";
import type { Delivery } from "../../../core/calendar/delivery";
import type { Stir } from "../../../core/needs/projection";
import type { Packing, Policy, Reordering } from "../../../core/needs/reorder";
import { type Factor, type PurchaseQty, type StockQty, stock } from "../../../core/numbers/quantity";
import { type Db, sql } from "../../db/open";

/** What planning knows of one item at one store. */
export interface Position {
  item: number;
  code: string;
  name: string;
  kind: string;
  category: string;
  stockUnit: string;
  store: number;
  storeName: string;
  receives: number;
  onHand: StockQty;
  policy: Policy;
  reordering: Reordering;
}

/** The preferred way to buy an item. */
export interface Source {
  id: number;
  item: number;
  supplier: number;
  supplierName: string;
  currency: string;
  delivers: number;
  packing: Packing;
  theirCode: string;
  leadDays: number;
  leadKind: "calendar" | "working";
  standing: number;
}

interface PositionRow {
  item: number;
  code: string;
  name: string;
  kind: string;
  category: string;
  stockUnit: string;
  store: number;
  storeName: string;
  receives: number;
  policy: Policy["kind"];
  reorderPoint: number;
  lot: number;
  maximum: number | null;
  reviewDays: number;
  onHand: number;
}

export const POSITIONS = `
  SELECT i.id AS item, i.code, i.name, i.kind, i.category, u.name AS stockUnit, s.id AS store, s.name AS storeName, s.receives,
         p.policy, p.reorder_point AS reorderPoint, p.lot, p.maximum, p.review_days AS reviewDays, p.on_hand AS onHand
  FROM item_store p JOIN item i ON i.id = p.item JOIN store s ON s.id = p.store JOIN unit u ON u.code = i.unit
  WHERE i.active = 1`;

/** All sources, the preferred one of each item first. */
export const SOURCES = `
  SELECT c.id, c.item, c.supplier, s.name AS supplierName, s.currency, s.delivers, s.lead_kind AS leadKind, u.name AS unit,
         c.factor, c.minimum, c.multiple, c.broken_packs AS broken, c.lead_days AS leadDays, c.standing_discount AS standing, c.their_code AS theirCode
  FROM sourcing c JOIN supplier s ON s.id = c.supplier JOIN unit u ON u.code = c.unit
  WHERE c.active = 1 AND s.active = 1 AND s.delivers > 0`;

export const DEMAND = `
  SELECT d.item, d.store, d.due AS day, d.quantity - d.issued AS quantity, j.code AS job, j.vessel
  FROM job_demand d JOIN job j ON j.id = d.job WHERE d.issued < d.quantity`;

/** Open order lines, those still being written included: what is on a draft is not proposed again. */
export const ON_ORDER = `
  SELECT l.item, l.store, coalesce(l.promised, l.required) AS day, l.quantity - l.received AS quantity, l.factor,
         o.id AS orderId, o.number, o.state
  FROM order_line l JOIN purchase_order o ON o.id = l.purchase_order
  WHERE l.open = 1 AND l.item IS NOT NULL`;

export interface DemandRow {
  item: number;
  store: number;
  day: Day;
  quantity: number;
  job: string;
  vessel: string;
}
export interface OnOrderRow {
  item: number;
  store: number;
  day: Day;
  quantity: number;
  factor: number;
  orderId: number;
  number: string | null;
  state: string;
}
export interface SourceRow {
  id: number;
  item: number;
  supplier: number;
  supplierName: string;
  currency: string;
  delivers: number;
  leadKind: "calendar" | "working";
  unit: string;
  factor: number;
  minimum: number;
  multiple: number;
  broken: number;
  leadDays: number;
  standing: number;
  theirCode: string;
}

export function policyOf(kind: Policy["kind"], lot: number): Policy {
  switch (kind) {
    case "top up":
      return { kind, level: stock(lot) };
    case "fixed lot":
    case "larger of":
      return { kind, lot: stock(lot) };
    case "days of cover":
      return { kind, days: lot / 10_000, dailyUsage: stock(0) };
    case "shortfall":
    case "to order":
      return { kind };
  }
}

export function positionOf(r: PositionRow): Position {
  const policy = policyOf(r.policy, r.lot);
  return {
    item: r.item,
    code: r.code,
    name: r.name,
    kind: r.kind,
    category: r.category,
    stockUnit: r.stockUnit,
    store: r.store,
    storeName: r.storeName,
    receives: r.receives,
    onHand: stock(r.onHand),
    policy,
    reordering: {
      policy,
      reorderPoint: stock(r.reorderPoint),
      maximum: r.maximum === null ? null : stock(r.maximum),
      reviewDays: r.reviewDays,
    },
  };
}

export function sourceOf(r: SourceRow): Source {
  return {
    id: r.id,
    item: r.item,
    supplier: r.supplier,
    supplierName: r.supplierName,
    currency: r.currency,
    delivers: r.delivers,
    packing: {
      unit: r.unit,
      factor: r.factor as Factor,
      minimum: r.minimum as PurchaseQty,
      multiple: r.multiple as PurchaseQty,
      brokenPacks: r.broken === 1,
    },
    theirCode: r.theirCode,
    leadDays: r.leadDays,
    leadKind: r.leadKind,
    standing: r.standing,
  };
}

export const wayOf = (source: Source, receives: number): Delivery => ({
  leadDays: source.leadDays,
  leadKind: source.leadKind,
  delivers: source.delivers,
  receives,
});

/** The part of an open order line in stock units. */
const inStock = (quantity: number, factor: number) => {
  const product = quantity * factor;
  return Number.isSafeInteger(product) ? Math.round(product / 10_000) : Math.round((quantity / 10_000) * factor);
};

export const demandStir = (d: DemandRow): Stir => ({
  day: d.day,
  quantity: stock(-d.quantity),
  kind: "demand",
  label: d.vessel ? `job ${d.job}, ${d.vessel}` : `job ${d.job}`,
  doubtful: false,
});

export const orderStir = (o: OnOrderRow): Stir => ({
  day: o.day,
  quantity: stock(inStock(o.quantity, o.factor)),
  kind: o.state === "With supplier" || o.state === "Part in" ? "order" : "being written",
  label: o.number ? `order ${o.number}` : "on a draft order",
  href: `/orders/${o.orderId}`,
  doubtful: false,
});

/** Everything that moves the stock of the given pair, or of all pairs, by "item/store". */
export function readStirs(db: Db, pair?: { item: number; store: number }): Map<string, Stir[]> {
  const by = new Map<string, Stir[]>();
  const put = (item: number, store: number, stir: Stir) => {
    const key = `${item}/${store}`;
    const list = by.get(key);
    if (list) list.push(stir);
    else by.set(key, [stir]);
  };
  const [narrowDemand, narrowOrder, args] = pair
    ? [" AND d.item = ? AND d.store = ?", " AND l.item = ? AND l.store = ?", [pair.item, pair.store]]
    : ["", "", []];
  for (const d of sql<DemandRow>(db, DEMAND + narrowDemand).iterate(...args)) put(d.item, d.store, demandStir(d));
  for (const o of sql<OnOrderRow>(db, ON_ORDER + narrowOrder).iterate(...args)) put(o.item, o.store, orderStir(o));
  return by;
}

/** Rows of a pair, or of all. */
export function readPositions(db: Db, pair?: { item: number; store: number }): Position[] {
  const rows = pair
    ? sql<PositionRow>(db, `${POSITIONS} AND p.item = ? AND p.store = ?`).all(pair.item, pair.store)
    : sql<PositionRow>(db, POSITIONS).all();
  return rows.map(positionOf);
}

/** Sources of an item, or of all, the preferred one first. */
export function readSources(db: Db, item?: number): Source[] {
  const rows =
    item === undefined
      ? sql<SourceRow>(db, `${SOURCES} ORDER BY c.item, c.rank, c.id`).all()
      : sql<SourceRow>(db, `${SOURCES} AND c.item = ? ORDER BY c.rank, c.id`).all(item);
  return rows.map(sourceOf);
}
