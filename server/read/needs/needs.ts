import type { Day } from "../../../core/calendar/day";
import { arrival } from "../../../core/calendar/delivery";
import { availability, expect, type Stir } from "../../../core/needs/projection";
import { asAsked, type Packing, reorder } from "../../../core/needs/reorder";
import { exchanged, lineNet } from "../../../core/numbers/money";
import { factorOf, ONE, type PurchaseQty, purchase, type StockQty, stock } from "../../../core/numbers/quantity";
import { type PriceBreak, priceFor } from "../../../core/pricing/price";
import type { Sum } from "../../../core/sums/sum";
import { inOrder } from "../../../core/text";
import { type Db, sql } from "../../db/open";
import { rateOn, theCompany } from "../company";
import { priceRecords, readBreaks } from "../prices";
import { remember } from "../remember";
import { type Position, readPositions, readSources, readStirs, type Source, wayOf } from "./positions";

export type NeedSource = "requisition" | "reorder";

/** One line of demand from whatever source, with all that a buyer compares before deciding. */
export interface Need {
  /** "s:item:store" for stock, "r:line" for a requisition line. */
  key: string;
  source: NeedSource;
  item: number | null;
  code: string;
  name: string;
  category: string;
  store: number;
  storeName: string;
  stockUnit: string;
  /** Null for what is not kept in stock. Worked out up to the day of need. */
  stock: {
    onHand: StockQty;
    committed: StockQty;
    onOrder: StockQty;
    available: StockQty;
    reorderPoint: StockQty;
  } | null;
  neededOn: Day;
  orderBy: Day | null;
  arrives: Day | null;
  /** Days below the reorder point, or after the day asked for, if ordered today (domain §4). */
  lateBy: number;
  /** Days on which somebody goes without: stock has run out, or the day asked for has passed. */
  missesBy: number;
  runsOut: Day | null;
  /** The demand that it runs short of: a vessel waits. */
  forJob: string | null;
  wanted: StockQty;
  buy: PurchaseQty;
  unit: string;
  factor: number;
  sourcing: number | null;
  supplier: { id: number; name: string; currency: string } | null;
  /** Estimated net amount in the supplier's currency; null where no price is known. */
  amount: number | null;
  /** The same in home currency; null where no price or no rate is known. */
  homeAmount: number | null;
  requisition: { id: number; line: number; number: string; asker: string; estimate: number | null } | null;
  aboveMaximum: boolean;
  sum: Sum;
}

/** A need as a row of the sheet; its sum is read with the slip. */
export type NeedRow = Omit<Need, "sum">;

interface OpenRequisitionLine {
  line: number;
  requisition: number;
  number: string;
  asker: string;
  item: number | null;
  code: string | null;
  name: string | null;
  category: string | null;
  unit: string | null;
  words: string;
  quantity: number;
  estimate: number | null;
  store: number;
  storeName: string;
  receives: number;
  neededBy: Day;
  supplier: number | null;
  supplierName: string | null;
  currency: string | null;
}

const OPEN_REQUISITION_LINES = `
  SELECT l.id AS line, r.id AS requisition, r.number, a.name AS asker, l.item, i.code, i.name, i.category, u.name AS unit, l.words,
         coalesce(l.quantity, ${ONE}) AS quantity, l.estimate, r.store, s.name AS storeName, s.receives, r.needed_by AS neededBy,
         l.supplier, p.name AS supplierName, p.currency
  FROM requisition_line l
  JOIN requisition r ON r.id = l.requisition
  JOIN person a ON a.id = r.asker
  JOIN store s ON s.id = r.store
  LEFT JOIN item i ON i.id = l.item
  LEFT JOIN unit u ON u.code = i.unit
  LEFT JOIN supplier p ON p.id = l.supplier
  LEFT JOIN need_tie t ON t.requisition_line = l.id
  WHERE r.state IN ('Open', 'Part ordered') AND l.declined IS NULL AND t.order_line IS NULL
  ORDER BY r.needed_by, l.id`;

/** The pool: what has to be bought, for every store. Kept until the file or the day changes. */
export function readNeeds(db: Db, today: Day): Need[] {
  return remember(db, `needs/${today}`, () => computeNeeds(db, today));
}

/** The pool as the sheet shows it: the most urgent supplier first, and within a supplier the most urgent need. */
export function readNeedRows(db: Db, today: Day): NeedRow[] {
  return remember(db, `need rows/${today}`, () => {
    const urgency = (n: NeedRow) => (n.missesBy > 0 ? `0${9999 - n.missesBy}` : `1${n.orderBy ?? "9"}`);
    const most = new Map<string, string>();
    const rows = readNeeds(db, today).map(({ sum: _sum, ...row }) => {
      const group = row.supplier?.name ?? "";
      const known = most.get(group);
      if (!known || urgency(row) < known) most.set(group, urgency(row));
      return { row, group, urgency: urgency(row) };
    });
    // What nobody supplies yet stands last.
    const place = (group: string) => (group === "" ? "9" : most.get(group)!);
    return rows
      .sort(
        (a, b) =>
          inOrder(place(a.group), place(b.group)) ||
          inOrder(a.group, b.group) ||
          inOrder(a.urgency, b.urgency) ||
          inOrder(a.row.name, b.row.name),
      )
      .map(({ row }) => row);
  });
}

/** Works the pool out anew. */
export function computeNeeds(db: Db, today: Day): Need[] {
  const { countOnOrder, currency: home } = theCompany(db);
  const rates = new Map<string, number | null>();
  const rate = (currency: string) => {
    if (!rates.has(currency)) rates.set(currency, rateOn(db, currency, home, today));
    return rates.get(currency) ?? null;
  };
  const withPrice = (need: Need, source: Source | null) => priced(db, need, source, breaks, today, home, rate);
  const sources = new Map<number, Source>();
  for (const s of readSources(db)) if (!sources.has(s.item)) sources.set(s.item, s);
  const stirs = readStirs(db);
  const breaks = readBreaks(db);
  const needs: Need[] = [];
  const positions = new Map<string, Position>();
  for (const position of readPositions(db)) {
    const key = `${position.item}/${position.store}`;
    positions.set(key, position);
    const need = stockNeed(position, sources.get(position.item) ?? null, stirs.get(key) ?? [], today, countOnOrder);
    if (need) needs.push(withPrice(need, sources.get(position.item) ?? null));
  }
  for (const row of sql<OpenRequisitionLine>(db, OPEN_REQUISITION_LINES).iterate()) {
    const key = `${row.item}/${row.store}`;
    const source = row.item === null ? null : (sources.get(row.item) ?? null);
    const need = askedNeed(row, positions.get(key) ?? null, source, stirs.get(key) ?? [], today, countOnOrder);
    needs.push(row.item === null ? need : withPrice(need, source));
  }
  return needs;
}

const NO_SOURCE = { leadDays: 0, leadKind: "calendar", delivers: 127 } as const;

function stockNeed(p: Position, source: Source | null, raw: Stir[], today: Day, countOnOrder: boolean): Need | null {
  // Most pairs have plenty and nothing planned: leave them before anything is sorted or drawn.
  if (raw.length === 0 && p.onHand >= p.reordering.reorderPoint) return null;
  const stirs = expect(raw, today);
  const packing: Packing = source?.packing ?? {
    unit: p.stockUnit,
    factor: factorOf(ONE),
    minimum: purchase(0),
    multiple: purchase(0),
    brokenPacks: true,
  };
  const way = source ? wayOf(source, p.receives) : { ...NO_SOURCE, receives: p.receives };
  const found = reorder(
    { onHand: p.onHand, stirs, stockUnit: p.stockUnit, store: p.storeName },
    p.reordering,
    packing,
    way,
    today,
    countOnOrder,
  );
  if (!found) return null;
  const upTo = found.arrives && found.arrives > found.neededOn ? found.arrives : found.neededOn;
  return {
    key: `s:${p.item}:${p.store}`,
    source: "reorder",
    item: p.item,
    code: p.code,
    name: p.name,
    category: p.category,
    store: p.store,
    storeName: p.storeName,
    stockUnit: p.stockUnit,
    stock: { ...availability(p.onHand, stirs, upTo, countOnOrder), reorderPoint: p.reordering.reorderPoint },
    neededOn: found.neededOn,
    orderBy: found.orderBy,
    arrives: found.arrives,
    lateBy: found.lateBy,
    missesBy: found.missesBy,
    runsOut: found.runsOut,
    forJob: found.runsOut ? (stirs.findLast((s) => s.quantity < 0 && s.day <= found.runsOut!)?.label ?? null) : null,
    wanted: found.wanted,
    buy: found.buy,
    unit: packing.unit,
    factor: packing.factor,
    sourcing: source?.id ?? null,
    supplier: source ? { id: source.supplier, name: source.supplierName, currency: source.currency } : null,
    amount: null,
    homeAmount: null,
    requisition: null,
    aboveMaximum: found.aboveMaximum,
    sum: found.sum,
  };
}

function askedNeed(
  r: OpenRequisitionLine,
  p: Position | null,
  source: Source | null,
  raw: Stir[],
  today: Day,
  countOnOrder: boolean,
): Need {
  const unit = r.unit ?? "each";
  const packing: Packing = source?.packing ?? {
    unit,
    factor: factorOf(ONE),
    minimum: purchase(0),
    multiple: purchase(0),
    brokenPacks: true,
  };
  const way = source ? wayOf(source, r.receives) : { ...NO_SOURCE, receives: r.receives };
  const asked = asAsked(
    stock(r.quantity),
    packing,
    unit,
    r.neededBy,
    today,
    way,
    r.asker,
    `/requisitions/${r.requisition}`,
  );
  const upTo = r.neededBy < today ? today : r.neededBy;
  const chosen = r.supplier !== null ? { id: r.supplier, name: r.supplierName!, currency: r.currency! } : null;
  return {
    key: `r:${r.line}`,
    source: "requisition",
    item: r.item,
    code: r.code ?? "service",
    name: r.name ?? r.words,
    category: r.category ?? "Services",
    store: r.store,
    storeName: r.storeName,
    stockUnit: unit,
    stock: p
      ? { ...availability(p.onHand, expect(raw, today), upTo, countOnOrder), reorderPoint: p.reordering.reorderPoint }
      : null,
    neededOn: r.neededBy,
    orderBy: asked.orderBy,
    arrives: source || r.item === null ? asked.arrives : arrival(today, way),
    lateBy: asked.lateBy,
    missesBy: asked.lateBy,
    runsOut: null,
    forJob: null,
    wanted: asked.wanted,
    buy: asked.buy,
    unit: packing.unit,
    factor: packing.factor,
    sourcing: source?.id ?? null,
    supplier: source ? { id: source.supplier, name: source.supplierName, currency: source.currency } : chosen,
    amount: r.item === null ? r.estimate : null,
    homeAmount: r.item === null ? r.estimate : null,
    requisition: { id: r.requisition, line: r.line, number: r.number, asker: r.asker, estimate: r.estimate },
    aboveMaximum: false,
    sum: asked.sum,
  };
}

/** Adds what it would cost: the price list's break, else what was last paid or the reference cost. */
function priced(
  db: Db,
  need: Need,
  source: Source | null,
  breaks: Map<number, PriceBreak[]>,
  today: Day,
  home: string,
  rate: (currency: string) => number | null,
): Need {
  if (!source) return need;
  const listed = priceFor({ breaks: breaks.get(source.id) ?? [], lastPaid: null, reference: null }, need.buy, today);
  const found = listed ?? priceFor(priceRecords(db, source.id, today), need.buy, today);
  if (!found) return need;
  const net = lineNet(need.buy, found.price, source.standing, 0, source.currency);
  const at = rate(source.currency);
  return { ...need, amount: net.minor, homeAmount: at === null ? null : exchanged(net, at, home).minor };
}
