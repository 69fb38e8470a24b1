import { type Day, laterOf } from "../../../core/calendar/day";
import { arrival } from "../../../core/calendar/delivery";
import type { ItemId, RequisitionId, SourcingId, StoreId, SupplierId } from "../../../core/ids";
import { expect } from "../../../core/needs/projection";
import { ONE, purchase, type StockQty, stock } from "../../../core/numbers/quantity";
import { sql } from "../../db/open";
import type { Need, NeedSource } from "./need";
import { comingBy, type Ground, NO_PRICE, readPair, soldBy, stockOf, unpacked, withSource } from "./plan";
import { jobLabel, readSource, type Source, TIED, type TiedRow } from "./positions";
import { daysOfCover, NO_USAGE } from "./usage";

interface AskedRow {
  line: number;
  requisition: RequisitionId;
  number: string;
  asker: string;
  item: ItemId | null;
  kind: "goods" | "service";
  words: string;
  quantity: number;
  estimate: number | null;
  store: StoreId;
  neededBy: Day;
  supplier: SupplierId | null;
  supplierName: string | null;
  currency: string | null;
}

/** Lines of open requisitions as the buyer decided them, with what stands on no order and no transfer yet. */
const ASKED = `
  SELECT l.id AS line, r.id AS requisition, r.number, a.name AS asker, coalesce(l.offered, l.item) AS item, l.kind, l.words,
         coalesce(l.decided, l.quantity, ${ONE}) - (SELECT coalesce(sum(t.quantity), 0) FROM need_tie t WHERE t.requisition_line = l.id) AS quantity, l.estimate, r.store, r.needed_by AS neededBy,
         l.supplier, p.name AS supplierName, p.currency
  FROM requisition_line l
  JOIN requisition r ON r.id = l.requisition
  JOIN person a ON a.id = r.asker
  LEFT JOIN supplier p ON p.id = l.supplier
  LEFT JOIN transfer_line m ON m.requisition_line = l.id
  WHERE r.state IN ('Open', 'Part ordered') AND l.declined IS NULL AND m.id IS NULL
    AND coalesce(l.decided, l.quantity, ${ONE}) > (SELECT coalesce(sum(t.quantity), 0) FROM need_tie t WHERE t.requisition_line = l.id)`;

interface NotedRow {
  id: number;
  source: "floor" | "file" | "repeat" | "ahead";
  item: ItemId;
  store: StoreId;
  quantity: number;
  neededBy: Day | null;
  sourcing: SourcingId | null;
  note: string;
  by: string;
}

/** Noted needs of items that we know, with what stands on no order and no transfer yet. */
const NOTED = `
  SELECT n.id, iif(n.ahead, 'ahead', n.source) AS source, n.item, n.store, n.quantity - (SELECT coalesce(sum(t.quantity), 0) FROM need_tie t WHERE t.noted_need = n.id) AS quantity, n.needed_by AS neededBy, n.sourcing, n.note, p.name AS by
  FROM noted_need n JOIN person p ON p.id = n.person
  LEFT JOIN transfer_line m ON m.noted_need = n.id
  WHERE n.dropped IS NULL AND n.item IS NOT NULL AND m.id IS NULL
    AND n.quantity > (SELECT coalesce(sum(t.quantity), 0) FROM need_tie t WHERE t.noted_need = n.id)`;

/** Needs worked out before, by their key, with what they were worked out from. */
export type KnownPapers = Map<string, { from: string; need: Need }>;

/**
 * Needs that stand on papers: requisitions, what is to be bought for a job, what somebody noted down. One that is known
 * is worked out anew only where its paper changed or its item was touched.
 */
export function paperNeeds(
  g: Ground,
  known: KnownPapers = new Map(),
  touched: ReadonlySet<number> = new Set(),
): Need[] {
  const needs: Need[] = [];
  const seen = new Set<string>();
  const put = <R extends { item: ItemId | null }>(key: string, row: R, make: (g: Ground, row: R) => Need) => {
    const from = JSON.stringify(row);
    const before = known.get(key);
    const stays = before?.from === from && (row.item === null || !touched.has(row.item));
    const need = stays ? before.need : make(g, row);
    if (!stays) known.set(key, { from, need });
    seen.add(key);
    needs.push(need);
  };
  for (const r of sql<AskedRow>(g.db, `${ASKED} ORDER BY r.needed_by, l.id`).all()) put(`r:${r.line}`, r, askedNeed);
  for (const d of sql<TiedRow>(g.db, `${TIED} ORDER BY d.due, d.id`).all())
    if (d.quantity > 0) put(`j:${d.id}`, d, tiedNeed);
  for (const n of sql<NotedRow>(g.db, `${NOTED} ORDER BY n.id`).all()) put(`n:${n.id}`, n, notedNeed);
  for (const key of known.keys()) if (!seen.has(key)) known.delete(key);
  return needs;
}

/** One of them by its key; null where it is not open any more. */
export function paperNeed(g: Ground, key: string): Need | null {
  const id = Number(key.slice(2));
  if (!Number.isSafeInteger(id)) return null;
  if (key.startsWith("r:")) {
    const row = sql<AskedRow>(g.db, `${ASKED} AND l.id = ?`).get(id);
    return row ? askedNeed(g, row) : null;
  }
  if (key.startsWith("j:")) {
    const row = sql<TiedRow>(g.db, `${TIED} AND d.id = ?`).get(id);
    return row && row.quantity > 0 ? tiedNeed(g, row) : null;
  }
  if (key.startsWith("n:")) {
    const row = sql<NotedRow>(g.db, `${NOTED} AND n.id = ?`).get(id);
    return row ? notedNeed(g, row) : null;
  }
  return null;
}

interface ItemRow {
  code: string;
  name: string;
  kind: string;
  category: string;
  unit: string;
}
const itemOf = (g: Ground, id: ItemId) =>
  sql<ItemRow>(
    g.db,
    "SELECT i.code, i.name, i.kind, i.category, u.name AS unit FROM item i JOIN unit u ON u.code = i.unit WHERE i.id = ?",
  ).get(id)!;
const storeOf = (g: Ground, id: number) =>
  sql<{ name: string; receives: number; region: string }>(
    g.db,
    "SELECT name, receives, region FROM store WHERE id = ?",
  ).get(id)!;

/** What all of them share: an item at a store, so much of it by a day. */
function demanded(
  g: Ground,
  of: { key: string; source: NeedSource; item: ItemId; store: StoreId; wanted: StockQty; neededOn: Day },
): Need {
  const item = itemOf(g, of.item);
  const pair = { item: of.item, store: of.store };
  const read = readPair(g, pair);
  const usage = g.usage(pair);
  return {
    ...of,
    parts: [],
    code: item.code,
    name: item.name,
    kind: item.kind,
    category: item.category,
    storeName: storeOf(g, of.store).name,
    stockUnit: item.unit,
    stock: null,
    policy: "",
    usage,
    cover: read ? daysOfCover(read.position.onHand, usage) : null,
    orderBy: null,
    arrives: null,
    lateBy: 0,
    dueNow: false,
    missesBy: 0,
    runsOut: null,
    forJob: null,
    buy: purchase(0),
    unit: item.unit,
    factor: ONE,
    ...soldBy(null),
    ...NO_PRICE,
    requisition: null,
    noted: null,
    aboveMaximum: false,
  };
}

/** Its stock is counted up to the day asked for, or to the arrival where that is later. */
function upToArrival(g: Ground, need: Need): Need {
  const read = readPair(g, { item: need.item!, store: need.store });
  if (!read) return need;
  const wished = laterOf(need.neededOn, g.plan.asOf);
  const upTo = need.arrives ? laterOf(wished, need.arrives) : wished;
  return { ...need, stock: stockOf(g, read.position, expect(read.stirs, g.plan.asOf, g.plan.today), upTo) };
}

function askedNeed(g: Ground, r: AskedRow): Need {
  const requisition = { id: r.requisition, line: r.line, number: r.number, asker: r.asker, estimate: r.estimate };
  const key = `r:${r.line}`;
  if (r.item !== null) {
    const need = demanded(g, {
      key,
      source: "requisition",
      item: r.item,
      store: r.store,
      wanted: stock(r.quantity),
      neededOn: r.neededBy,
    });
    return upToArrival(g, { ...withSource(g, { ...need, requisition }, g.preferred(r.item)), requisition });
  }
  const store = storeOf(g, r.store);
  const packing = unpacked("each");
  return {
    key,
    source: "requisition",
    parts: [],
    item: null,
    code: r.kind,
    name: r.words,
    kind: r.kind === "service" ? "service" : "not stocked",
    category: r.kind === "service" ? "Services" : "Not in the catalogue",
    store: r.store,
    storeName: store.name,
    stockUnit: "each",
    stock: null,
    policy: "",
    usage: NO_USAGE,
    cover: null,
    neededOn: r.neededBy,
    orderBy: r.neededBy,
    arrives: arrival(g.plan.asOf, comingBy(g, null, store)),
    lateBy: 0,
    dueNow: false,
    missesBy: 0,
    runsOut: null,
    forJob: null,
    wanted: stock(r.quantity),
    buy: purchase(r.quantity),
    unit: packing.unit,
    factor: packing.factor,
    sourcing: null,
    supplier:
      r.supplier === null ? null : { id: r.supplier, name: r.supplierName!, currency: r.currency!, buyer: null },
    ...NO_PRICE,
    amount: r.estimate,
    homeAmount: r.estimate,
    requisition,
    noted: null,
    aboveMaximum: false,
  };
}

function tiedNeed(g: Ground, d: TiedRow): Need {
  const need = demanded(g, {
    key: `j:${d.id}`,
    source: "job",
    item: d.item,
    store: d.store,
    wanted: stock(d.quantity),
    neededOn: d.day,
  });
  return upToArrival(g, withSource(g, { ...need, runsOut: d.day, forJob: jobLabel(d) }, g.preferred(d.item)));
}

function notedNeed(g: Ground, n: NotedRow): Need {
  const preferred = g.preferred(n.item);
  // Whoever walks the shelves does not care who supplies it: the buyer chooses.
  const source: Source | null =
    n.source === "floor" ? null : n.sourcing === null ? preferred : (readSource(g.db, n.sourcing) ?? preferred);
  const usual = arrival(g.plan.asOf, comingBy(g, preferred, storeOf(g, n.store))) ?? g.plan.asOf;
  const need = demanded(g, {
    key: `n:${n.id}`,
    source: n.source,
    item: n.item,
    store: n.store,
    wanted: stock(n.quantity),
    neededOn: n.neededBy ?? usual,
  });
  return upToArrival(g, withSource(g, { ...need, noted: { id: n.id, by: n.by, note: n.note } }, source));
}
