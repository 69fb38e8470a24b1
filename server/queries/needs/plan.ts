import { type Day, laterOf } from "../../../core/calendar/day";
import { type Delivery, EVERY_DAY } from "../../../core/calendar/delivery";
import type { ItemId, SourcingId } from "../../../core/ids";
import { availability, expect, type Stir } from "../../../core/needs/projection";
import { type Packing, pointOf, reckon, reorder, timing, toBuy } from "../../../core/needs/reorder";
import { reorderingFor } from "../../../core/needs/run";
import { unlessTooLarge } from "../../../core/numbers/decimal";
import { exchanged, lineNet } from "../../../core/numbers/money";
import { factorOf, ONE, purchase, stock } from "../../../core/numbers/quantity";
import { type BlanketPrice, type PriceBreak, priceFor, type QuotedPrice } from "../../../core/pricing/price";
import { type Db, sql } from "../../db/open";
import { holidaysAround } from "../calendars";
import { rateOn, theCompany } from "../company";
import { readAllBlanketPrices, readBlanketPrices } from "../orders/calls";
import { priceRecords, readAllQuotes, readBreaks, readLastPaid, readQuotes } from "../prices";
import type { Need, PlanFor } from "./need";
import {
  type Pair,
  type Position,
  pairKey,
  readPositions,
  readPreferred,
  readSources,
  readStirs,
  type Source,
  wayOf,
} from "./positions";
import { daysOfCover, NO_USAGE, readAllUsage, readUsage, type Usage } from "./usage";

/** What every need of one plan is worked out from. Read whole for a whole plan, or pair by pair for what changed. */
export interface Ground {
  db: Db;
  plan: PlanFor;
  home: string;
  countOnOrder: boolean;
  countOutput: boolean;
  /** The day from which one looks. */
  from: Day;
  rate(currency: string): number | null;
  usage(pair: Pair): Usage;
  preferred(item: ItemId): Source | null;
  breaks(sourcing: SourcingId): readonly PriceBreak[];
  quotes(sourcing: SourcingId): readonly QuotedPrice[];
  blankets(sourcing: SourcingId): readonly BlanketPrice[];
}

const byName = <K, V>(read: (key: K) => V) => {
  const known = new Map<K, V>();
  return (key: K): V => {
    if (!known.has(key)) known.set(key, read(key));
    return known.get(key)!;
  };
};

export function groundOf(db: Db, plan: PlanFor, whole: boolean): Ground {
  const { countOnOrder, countOutput, currency: home } = theCompany(db);
  const rate = byName((currency: string) => rateOn(db, currency, home, plan.today));
  const common = { db, plan, home, countOnOrder, countOutput, from: plan.asOf, rate };
  if (!whole) {
    return {
      ...common,
      usage: (pair) => readUsage(db, pair, plan.asOf),
      preferred: byName((item: ItemId) => readSources(db, item)[0] ?? null),
      quotes: byName((sourcing: SourcingId) => readQuotes(db, sourcing)),
      blankets: byName((sourcing: SourcingId) => readBlanketPrices(db, sourcing)),
      breaks: byName((sourcing: SourcingId) =>
        sql<PriceBreak>(
          db,
          `SELECT from_quantity AS "from", price, valid_from AS validFrom, valid_to AS validTo FROM price_break WHERE sourcing = ?`,
        ).all(sourcing),
      ),
    };
  }
  const usage = readAllUsage(db, plan.asOf);
  const preferred = readPreferred(db);
  const breaks = readBreaks(db);
  const quotes = readAllQuotes(db);
  const blankets = readAllBlanketPrices(db);
  return {
    ...common,
    usage: (pair) => usage.get(pairKey(pair)) ?? NO_USAGE,
    preferred: (item) => preferred.get(item) ?? null,
    breaks: (sourcing) => breaks.get(sourcing) ?? [],
    quotes: (sourcing) => quotes.get(sourcing) ?? [],
    blankets: (sourcing) => blankets.get(sourcing) ?? [],
  };
}

/** What is bought in its own stock unit, as long as nobody is chosen to sell it. */
export const unpacked = (unit: string): Packing => ({
  unit,
  factor: factorOf(ONE),
  minimum: purchase(0),
  multiple: purchase(0),
  brokenPacks: true,
});

/** How it would come: by its source, or at once where there is none, because nothing is known against it. */
export function comingBy(g: Ground, source: Source | null, store: { receives: number; region: string }): Delivery {
  const later = g.plan.asOf > g.plan.today;
  return source
    ? wayOf(source, store, g.plan.asOf, later ? 0 : g.plan.hour)
    : {
        leadDays: 0,
        leadKind: "calendar",
        delivers: EVERY_DAY,
        receives: store.receives,
        closedHere: holidaysAround(store.region, g.plan.asOf),
      };
}

export function stockOf(g: Ground, p: Position, stirs: readonly Stir[], upTo: Day): Need["stock"] {
  return { ...availability(p.onHand, stirs, upTo, g.countOnOrder), reorderPoint: p.settings.reorderPoint };
}

/** How it is reordered: what its supplier refills is bought for what is lacking alone. */
const reorderingOf = (g: Ground, p: Position) =>
  reorderingFor(g.plan.run, p.refilled ? { ...p.settings, policy: "to order" } : p.settings);

/** The need of one pair, if it falls below its reorder point in time for ordering to matter. */
export function stockNeed(g: Ground, p: Position, source: Source | null, raw: readonly Stir[]): Need | null {
  // Most pairs have plenty: leave them before anything is sorted or drawn.
  const reordering = reorderingOf(g, p);
  const point = pointOf(reordering);
  let least: number = p.onHand;
  for (const s of raw) if (s.quantity < 0) least += s.quantity;
  if (least >= point) return null;
  const stirs = expect(raw, g.plan.asOf, g.plan.today);
  const packing = source?.packing ?? unpacked(p.stockUnit);
  const position = { onHand: p.onHand, stirs, stockUnit: p.stockUnit, store: p.storeName, theirs: p.theirs };
  const found = reckon(position, reordering, packing, comingBy(g, source, p), g.plan.asOf, g.countOnOrder);
  if (!found) return null;
  const usage = g.usage(p);
  const job = found.runsOut
    ? (stirs.findLast((s) => s.kind === "demand" && s.day <= found.runsOut!)?.label ?? null)
    : null;
  // Such a run is of jobs alone: what is short for another reason is not theirs.
  if (g.plan.run === "jobs" && (!job || found.lowest >= 0)) return null;
  return priced(g, source, {
    key: `s:${p.item}:${p.store}`,
    source: job && found.lowest < 0 ? "job" : "reorder",
    parts: [],
    item: p.item,
    code: p.code,
    name: p.name,
    kind: "stocked",
    category: p.category,
    store: p.store,
    storeName: p.storeName,
    stockUnit: p.stockUnit,
    stock: stockOf(g, p, stirs, found.arrives ? laterOf(found.arrives, found.neededOn) : found.neededOn),
    policy: reordering.policy.kind,
    usage,
    cover: daysOfCover(p.onHand, usage),
    neededOn: found.neededOn,
    orderBy: found.orderBy,
    arrives: found.arrives,
    lateBy: found.lateBy,
    dueNow: found.orderBy !== null && found.orderBy <= g.plan.asOf,
    missesBy: found.missesBy,
    runsOut: found.runsOut,
    forJob: job,
    wanted: found.wanted,
    buy: found.buy,
    unit: packing.unit,
    factor: packing.factor,
    ...soldBy(source),
    ...NO_PRICE,
    requisition: null,
    noted: null,
    aboveMaximum: found.aboveMaximum,
  });
}

export const soldBy = (source: Source | null): Pick<Need, "sourcing" | "supplier"> => ({
  sourcing: source?.id ?? null,
  supplier: source
    ? { id: source.supplier, name: source.supplierName, currency: source.currency, buyer: source.buyerName }
    : null,
});
export const NO_PRICE = { price: null, lastPrice: null, amount: null, homeAmount: null } as const;

/** Adds what it would cost: the first price of domain §5 that applies. */
export function priced(g: Ground, source: Source | null, need: Need): Need {
  if (!source) return need;
  const lastPaid = readLastPaid(g.db, source.id);
  const day = g.plan.asOf;
  const found =
    priceFor(
      {
        blankets: g.blankets(source.id),
        quotes: g.quotes(source.id),
        breaks: g.breaks(source.id),
        lastPaid,
        reference: null,
      },
      need.buy,
      day,
    ) ?? priceFor(priceRecords(g.db, source.id, day), need.buy, day);
  const lastPrice = lastPaid?.price ?? null;
  if (!found) return { ...need, lastPrice };
  // One pair with a quantity or a price beyond reason does not take the whole plan with it.
  const net = unlessTooLarge(() => lineNet(need.buy, found.price, source.standing, 0, source.currency));
  const at = g.rate(source.currency);
  return {
    ...need,
    price: found.price,
    lastPrice,
    amount: net?.minor ?? null,
    homeAmount: net === null || at === null ? null : unlessTooLarge(() => exchanged(net, at, g.home).minor),
  };
}

/** The same need, met by another supplier: what is wanted stays; how much to buy, when it comes and its price follow. */
export function withSource(g: Ground, need: Need, source: Source | null): Need {
  const store = sql<{ receives: number; region: string }>(g.db, "SELECT receives, region FROM store WHERE id = ?").get(
    need.store,
  )!;
  const packing = source?.packing ?? unpacked(need.stockUnit);
  const times = timing(need.neededOn, g.plan.asOf, comingBy(g, source, store));
  const due = need.source === "reorder" || need.source === "job" ? need.runsOut : need.neededOn;
  return priced(g, source, {
    ...need,
    ...times,
    dueNow: times.orderBy !== null && times.orderBy <= g.plan.asOf,
    missesBy: due ? timing(due, g.plan.asOf, comingBy(g, source, store)).lateBy : 0,
    buy: toBuy(need.wanted, packing, need.stockUnit).buy,
    unit: packing.unit,
    factor: packing.factor,
    ...soldBy(source),
    ...NO_PRICE,
  });
}

/** Works out every pair; `progress` hears now and then how many are done. */
export function planStock(db: Db, plan: PlanFor, progress: (done: number) => void = () => {}): Need[] {
  const g = groundOf(db, plan, true);
  const stirs = readStirs(db, g);
  const needs: Need[] = [];
  let done = 0;
  readPositions(
    db,
    plan.asOf,
    (pair) => stock(g.usage(pair).last30),
    undefined,
    (p) => {
      const need = stockNeed(g, p, g.preferred(p.item), stirs.get(pairKey(p)) ?? NOTHING);
      if (need) needs.push(need);
      if (++done % 2_000 === 0) progress(done);
    },
  );
  return needs;
}
const NOTHING: readonly Stir[] = [];

/** A pair with all that its need is worked out from; null where the store does not keep the item. */
export function readPair(g: Ground, pair: Pair): { position: Position; stirs: Stir[]; source: Source | null } | null {
  let position: Position | null = null;
  readPositions(
    g.db,
    g.plan.asOf,
    (p) => stock(g.usage(p).last30),
    pair,
    (p) => {
      position = p;
    },
  );
  return position
    ? {
        position,
        stirs: readStirs(g.db, g, pair).get(pairKey(pair)) ?? [],
        source: g.preferred(pair.item),
      }
    : null;
}

/** Works out one pair. */
export function planPair(g: Ground, pair: Pair): Need | null {
  const read = readPair(g, pair);
  return read ? stockNeed(g, read.position, read.source, read.stirs) : null;
}

/** The need of one pair with its sum, for the source that is chosen or else the preferred one. */
export function stockSum(g: Ground, pair: Pair, chosen: Source | null) {
  const read = readPair(g, pair);
  if (!read) return null;
  const p = read.position;
  const source = chosen ?? read.source;
  const stirs = expect(read.stirs, g.plan.asOf, g.plan.today);
  return reorder(
    {
      onHand: p.onHand,
      stirs,
      stockUnit: p.stockUnit,
      store: p.storeName,
      theirs: p.theirs,
      href: `/items/${p.item}/movements?store=${p.store}`,
    },
    reorderingOf(g, p),
    source?.packing ?? unpacked(p.stockUnit),
    comingBy(g, source, p),
    g.plan.asOf,
    g.countOnOrder,
  );
}
