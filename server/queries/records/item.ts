import { addDays, type Day } from "../../../core/calendar/day";
import type { ItemId, JobId, OrderId, ReceiptId, SourcingId, StoreId, SupplierId, TransferId } from "../../../core/ids";
import { availability, expect, type Level, project, type Stir } from "../../../core/needs/projection";
import type { Policy } from "../../../core/needs/reorder";
import type { PriceBreak } from "../../../core/pricing/price";
import { type Db, sql } from "../../db/open";
import type { PlanFor } from "../needs/need";
import { groundOf, readPair } from "../needs/plan";
import { readAlternatives } from "../needs/slip";
import { daysOfCover, readUsage, type Usage } from "../needs/usage";
import { priceRecords } from "../prices";

export interface ItemHead {
  id: ItemId;
  code: string;
  name: string;
  kind: "stocked" | "not stocked" | "service" | "charge";
  category: string;
  unit: string;
  unitName: string;
  gtin: string | null;
  tax: number;
  referenceCost: number | null;
  account: string | null;
  byLot: number;
  bySerial: number;
  /** Its weight is taken when it comes. */
  byWeight: number;
  /** Days for which it keeps, and how many of them must be left when it comes. */
  shelfDays: number | null;
  leastDays: number | null;
  /** Kilograms of one stock unit, in ten-thousandths; null where nobody has weighed it. */
  weight: number | null;
  used: number;
}

export interface KeptAt {
  store: StoreId;
  name: string;
  onHand: number;
  /** What suppliers have here besides, and whether it counts as available. */
  theirs: number;
  theirsCounted: boolean;
  /** Of it, what may not be used: expired or held. */
  unusable: number;
  committed: number;
  onOrder: number;
  available: number;
  policy: Policy["kind"];
  reorderPoint: number;
  lot: number;
  level: number;
  coverDays: number;
  maximum: number | null;
  reviewDays: number;
  bin: string;
  usage: Usage;
  cover: number | null;
  levels: Level[];
  stirs: Stir[];
  lots: { lot: string; bin: string; onHand: number; expires: Day | null; held: string }[];
}

export interface SourcingRecord {
  id: SourcingId;
  supplier: SupplierId;
  supplierName: string;
  currency: string;
  theirCode: string;
  theirName: string;
  unit: string;
  unitName: string;
  factor: number;
  minimum: number;
  multiple: number;
  brokenPacks: number;
  leadDays: number;
  leadKind: string;
  standing: number;
  preferred: boolean;
  breaks: PriceBreak[] | null;
  lastPaid: { price: number; order: string; day: Day } | null;
}

export interface ItemSheet {
  head: ItemHead;
  kept: KeptAt[];
  sources: SourcingRecord[];
  alternatives: { item: ItemId; code: string; name: string; note: string }[];
  /** The last prices paid, to anybody. */
  paid:
    | {
        order: OrderId;
        number: string;
        day: Day;
        supplier: string;
        quantity: number;
        unit: string;
        price: number;
        currency: string;
      }[]
    | null;
  last: Day;
}

const HORIZON = 90;

/**
 * Everything about an item, its availability counted up to a day; prices only where the role shows them. Null where there
 * is none.
 */
export function readItem(db: Db, id: ItemId, plan: PlanFor, prices: boolean, upTo?: Day): ItemSheet | null {
  const head = sql<ItemHead>(
    db,
    `SELECT i.id, i.code, i.name, i.kind, i.category, i.unit, u.name AS unitName, i.gtin, i.tax_rate AS tax, i.reference_cost AS referenceCost, i.account, i.weight,
            i.by_lot AS byLot, i.by_serial AS bySerial, i.by_weight AS byWeight, i.shelf_days AS shelfDays, i.least_days AS leastDays, EXISTS (SELECT 1 FROM movement m WHERE m.item = i.id) AS used
     FROM item i JOIN unit u ON u.code = i.unit WHERE i.id = ?`,
  ).get(id);
  if (!head) return null;
  const last = upTo && upTo >= plan.asOf ? upTo : addDays(plan.asOf, HORIZON);
  return {
    head: prices ? head : { ...head, referenceCost: null },
    kept: readKept(db, id, plan, last),
    sources: readSourcing(db, id, plan.asOf, prices),
    alternatives: readAlternatives(db, id).map(({ item, code, name, note }) => ({ item, code, name, note })),
    paid: prices ? readPaid(db, id) : null,
    last,
  };
}

function readKept(db: Db, item: ItemId, plan: PlanFor, last: Day): KeptAt[] {
  const g = groundOf(db, plan, false);
  const stores = sql<{ store: StoreId; name: string; onHand: number; bin: string; theirs: number }>(
    db,
    "SELECT p.store, s.name, p.on_hand AS onHand, p.bin, (SELECT coalesce(sum(y.rest), 0) FROM consigned_layer y WHERE y.item = p.item AND y.store = p.store AND y.rest > 0) AS theirs FROM item_store p JOIN store s ON s.id = p.store WHERE p.item = ? ORDER BY s.id",
  ).all(item);
  return stores.flatMap((s) => {
    const read = readPair(g, { item, store: s.store });
    if (!read) return [];
    const { position } = read;
    const stirs = expect(read.stirs, plan.asOf, plan.today);
    const usage = readUsage(db, { item, store: s.store }, plan.today);
    const { committed, onOrder, available } = availability(position.onHand, stirs, last, g.countOnOrder);
    const { used30: _, ...settings } = position.settings;
    return [
      {
        ...s,
        unusable: s.onHand - position.onHand + (position.theirs?.counted ? position.theirs.quantity : 0),
        theirsCounted: position.theirs?.counted ?? false,
        committed,
        onOrder,
        available,
        ...settings,
        usage,
        cover: daysOfCover(position.onHand, usage),
        levels: project(position.onHand, stirs, plan.asOf, last, g.countOnOrder),
        stirs: stirs.filter((x) => x.day <= last),
        lots: sql<KeptAt["lots"][number]>(
          db,
          `SELECT t.code AS lot, l.bin, l.on_hand AS onHand, t.expires, t.held FROM stock_lot l JOIN lot t ON t.id = l.lot
           WHERE l.item = ? AND l.store = ? AND l.on_hand > 0 ORDER BY t.expires IS NULL, t.expires, t.code`,
        ).all(item, s.store),
      },
    ];
  });
}

function readSourcing(db: Db, item: ItemId, day: Day, prices: boolean): SourcingRecord[] {
  return sql<Omit<SourcingRecord, "breaks" | "lastPaid" | "preferred">>(
    db,
    `SELECT c.id, c.supplier, s.name AS supplierName, s.currency, c.their_code AS theirCode, c.their_name AS theirName, c.unit, u.name AS unitName, c.factor,
            c.minimum, c.multiple, c.broken_packs AS brokenPacks, c.lead_days AS leadDays, s.lead_kind AS leadKind, c.standing_discount AS standing
     FROM sourcing c JOIN supplier s ON s.id = c.supplier JOIN unit u ON u.code = c.unit WHERE c.item = ? AND c.active = 1 AND s.active = 1 ORDER BY c.rank, c.id`,
  )
    .all(item)
    .map((c, i) => {
      const records = prices ? priceRecords(db, c.id, day) : null;
      return {
        ...c,
        standing: prices ? c.standing : 0,
        preferred: i === 0,
        breaks: records ? [...records.breaks] : null,
        lastPaid: records?.lastPaid ?? null,
      };
    });
}

const readPaid = (db: Db, item: ItemId) =>
  sql<NonNullable<ItemSheet["paid"]>[number]>(
    db,
    `SELECT o.id AS "order", o.number, substr(o.placed, 1, 10) AS day, s.name AS supplier, l.quantity, u.name AS unit, l.price, o.currency
     FROM order_line l JOIN purchase_order o ON o.id = l.purchase_order JOIN supplier s ON s.id = o.supplier JOIN unit u ON u.code = l.unit
     WHERE l.item = ? AND o.placed IS NOT NULL AND l.price IS NOT NULL ORDER BY l.id DESC LIMIT 10`,
  ).all(item);

export interface MovementRow {
  id: number;
  day: Day;
  kind: string;
  store: string;
  bin: string;
  lot: string | null;
  quantity: number;
  /** On hand at that store after it. */
  after: number;
  note: string;
  person: string | null;
  receipt: ReceiptId | null;
  receiptNumber: string | null;
  transfer: TransferId | null;
  transferNumber: string | null;
  job: JobId | null;
  jobCode: string | null;
}

const PAGE = 500;

/** Movements of an item, the newest first, at one store or all; `before` goes on from an earlier page. */
export function readMovements(
  db: Db,
  item: ItemId,
  store: StoreId | null,
  before: number | null,
): { rows: MovementRow[]; more: boolean } {
  const rows = sql<MovementRow & { n: number }>(
    db,
    `SELECT * FROM (
       SELECT m.id, m.day, m.kind, s.name AS store, m.bin, t.code AS lot, m.quantity,
              sum(m.quantity) OVER (PARTITION BY m.store ORDER BY m.day, m.id) AS after,
              m.note, p.name AS person, rl.receipt, r.number AS receiptNumber, tl.transfer, x.number AS transferNumber, m.job, j.code AS jobCode,
              row_number() OVER (ORDER BY m.day DESC, m.id DESC) AS n
       FROM movement m JOIN store s ON s.id = m.store LEFT JOIN lot t ON t.id = m.lot LEFT JOIN person p ON p.id = m.person
       LEFT JOIN receipt_line rl ON rl.id = m.receipt_line LEFT JOIN receipt r ON r.id = rl.receipt
       LEFT JOIN transfer_line tl ON tl.id = m.transfer_line LEFT JOIN transfer x ON x.id = tl.transfer LEFT JOIN job j ON j.id = m.job
       WHERE m.item = @item AND (@store IS NULL OR m.store = @store)
     ) WHERE n > @before ORDER BY n LIMIT @most`,
  ).all({ item, store, before: before ?? 0, most: PAGE + 1 });
  return { rows: rows.slice(0, PAGE), more: rows.length > PAGE };
}

/** Whom an item could still be bought from, and in which units. */
export const readSuppliersToAdd = (db: Db, item: ItemId) => ({
  suppliers: sql<{ id: number; name: string; currency: string }>(
    db,
    `SELECT id, name, currency FROM supplier WHERE active = 1 AND id NOT IN (SELECT supplier FROM sourcing WHERE item = ? AND active = 1) ORDER BY name`,
  ).all(item),
  units: readUnits(db),
  stockUnit: sql<{ unit: string }>(db, "SELECT unit FROM item WHERE id = ?").get(item)?.unit ?? "C62",
});

export const readUnits = (db: Db) =>
  sql<{ code: string; name: string }>(db, "SELECT code, name FROM unit ORDER BY name").all();
