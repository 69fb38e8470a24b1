import { addDays, type Day } from "../../../core/calendar/day";
import { arrival } from "../../../core/calendar/delivery";
import { expect, type Level, project } from "../../../core/needs/projection";
import { toBuy } from "../../../core/needs/reorder";
import { Big, roundToInteger } from "../../../core/numbers/decimal";
import { priceFor, sourceWords } from "../../../core/pricing/price";
import type { Sum } from "../../../core/sums/sum";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../company";
import { priceRecords } from "../prices";
import { type Need, readNeeds } from "./needs";
import { readPositions, readSources, readStirs, wayOf } from "./positions";

export interface Offer {
  supplier: string;
  currency: string;
  /** Per stock unit, after the standing discount, millionths. */
  perStockUnit: number | null;
  from: string;
  arrives: Day | null;
  late: boolean;
  preferred: boolean;
}

export interface NeedSlip {
  key: string;
  sum: Sum;
  levels: Level[];
  last: Day;
  reorderPoint: number | null;
  arrives: Day | null;
  /** What the proposal adds, in stock units. */
  adds: number;
  offers: Offer[];
  usage: Usage | null;
  requisition: Need["requisition"];
  /** Suppliers to choose from, where the need has none and no record could give one. */
  suppliers: { id: number; name: string }[];
}

export interface Usage {
  last30: number;
  before: number;
  after: number;
  /** On hand ÷ (usage ÷ 30), in days and tenths; null where nothing was used. */
  daysOfCover: number | null;
}

/** What the slip shows beside a need; null where the need is gone. */
export function readNeedSlip(db: Db, key: string, today: Day): NeedSlip | null {
  const need = readNeeds(db, today).find((n) => n.key === key);
  if (!need) return null;
  const { countOnOrder } = theCompany(db);
  const pair = need.item === null ? null : { item: need.item, store: need.store };
  const position = pair ? readPositions(db, pair)[0] : undefined;
  const last = addDays(need.arrives && need.arrives > need.neededOn ? need.arrives : need.neededOn, 10);
  const stirs = pair ? expect(readStirs(db, pair).get(`${pair.item}/${pair.store}`) ?? [], today) : [];
  const receives = sql<{ receives: number }>(db, "SELECT receives FROM store WHERE id = ?").get(need.store)!.receives;
  // Late is who would leave somebody without: below the reorder point alone is not.
  const by = need.source === "requisition" ? need.neededOn : need.runsOut;
  const offers = (need.item === null ? [] : readSources(db, need.item)).map((s, i): Offer => {
    const { buy } = toBuy(need.wanted, s.packing, need.stockUnit);
    const priced = priceFor(priceRecords(db, s.id, today), buy, today);
    const arrives = arrival(today, wayOf(s, receives));
    return {
      supplier: s.supplierName,
      currency: s.currency,
      perStockUnit: priced ? perStockUnit(priced.price, s.packing.factor, s.standing) : null,
      from: priced ? sourceWords(priced.source) : "no price known",
      arrives,
      late: arrives === null || (by !== null && arrives > by),
      preferred: i === 0,
    };
  });
  const unsourced = need.item === null && need.supplier === null;
  return {
    key,
    sum: need.sum,
    levels: position ? project(position.onHand, stirs, today, last, countOnOrder) : [],
    last,
    reorderPoint: need.stock?.reorderPoint ?? null,
    arrives: need.arrives,
    adds: roundToInteger(new Big(need.buy).times(need.factor).div(10_000)),
    offers,
    usage: pair && position ? readUsage(db, pair, position.onHand, today) : null,
    requisition: need.requisition,
    suppliers: unsourced
      ? sql<{ id: number; name: string }>(db, "SELECT id, name FROM supplier WHERE active = 1 ORDER BY name").all()
      : [],
  };
}

const perStockUnit = (price: number, factor: number, standing: number) =>
  roundToInteger(
    new Big(price)
      .times(10_000)
      .div(factor)
      .times(10_000 - standing)
      .div(10_000),
  );

/** Issues of the last 30 days, and of the same weeks last year: 30 days before and 30 after this day (domain §3). */
export function readUsage(db: Db, pair: { item: number; store: number }, onHand: number, today: Day): Usage {
  const used = (from: Day, to: Day) =>
    sql<{ n: number }>(
      db,
      "SELECT -coalesce(sum(quantity), 0) AS n FROM movement WHERE item = ? AND store = ? AND day > ? AND day <= ? AND kind = 'issue'",
    ).get(pair.item, pair.store, from, to)!.n;
  const last30 = used(addDays(today, -30), today);
  const yearAgo = addDays(today, -365);
  return {
    last30,
    before: used(addDays(yearAgo, -30), yearAgo),
    after: used(yearAgo, addDays(yearAgo, 30)),
    daysOfCover: last30 > 0 ? roundToInteger(new Big(onHand).times(30).times(10).div(last30)) : null,
  };
}
