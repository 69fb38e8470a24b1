import { addDays, type Day, laterOf } from "../../../core/calendar/day";
import { arrival } from "../../../core/calendar/delivery";
import type { BenchId, ItemId, PersonId, SourcingId, StoreId, SupplierId } from "../../../core/ids";
import { expect, type Level, project, type Stir } from "../../../core/needs/projection";
import { toBuy } from "../../../core/needs/reorder";
import { Big, roundToInteger } from "../../../core/numbers/decimal";
import { type StockQty, stock } from "../../../core/numbers/quantity";
import { priceFor, sourceWords } from "../../../core/pricing/price";
import type { Sum } from "../../../core/sums/sum";
import { type Db, sql } from "../../db/open";
import { priceRecords } from "../prices";
import { type LineChance, lineChance, lineChances } from "../suppliers/chances";
import type { Need, Part, PlanFor } from "./need";
import { readChoices } from "./needs";
import { needNow, sumOf } from "./one";
import { comingBy, type Ground, groundOf, readPair, withSource } from "./plan";
import { readNeeds } from "./pool";
import { readSource, readSources } from "./positions";

export interface SlipOffer {
  sourcing: SourcingId;
  supplier: string;
  currency: string;
  /** Per stock unit, after the standing discount, millionths. */
  perStockUnit: number | null;
  from: string;
  arrives: Day | null;
  /** How likely it is here by the day on which it is needed; null where too little is known. */
  chance: LineChance["chance"];
  late: boolean;
  preferred: boolean;
  chosen: boolean;
}

/** Where else it lies free, and what could stand in for it. */
export interface Elsewhere {
  item: ItemId;
  code: string;
  name: string;
  /** Null for the item itself. */
  note: string | null;
  store: StoreId;
  storeName: string;
  /** What no one there needs within the horizon, in stock units. */
  free: StockQty;
  unit: string;
}

export interface NeedSlip {
  key: string;
  sum: Sum;
  parts: Part[];
  levels: Level[];
  /** What moves the stock within the drawing, by day: for marks on the line and a list. */
  stirs: Stir[];
  last: Day;
  today: Day;
  reorderPoint: number | null;
  neededOn: Day;
  arrives: Day | null;
  /** Stock units in one purchase unit: the drawing follows the quantity as it is typed. */
  factor: number;
  offers: SlipOffer[];
  elsewhere: Elsewhere[];
  /** The bench on which it is laid out. */
  bench: { id: BenchId; name: string } | null;
  /** Suppliers to choose from for what was asked for in free words: no record could name one. */
  suppliers: { id: SupplierId; name: string }[];
  /** More needs for the same item and store, which could stand as one row. */
  twins: number;
  merged: boolean;
  /** How likely it is here by its day if it is ordered today; null where nobody sends it. */
  chance: LineChance | null;
}

/** What stands beside a need, for one person's choices. Null where the need is not there any more. */
export function readNeedSlip(db: Db, plan: PlanFor, key: string, person: PersonId): NeedSlip | null {
  const found = needNow(db, plan, key);
  if (!found) return null;
  const g = groundOf(db, plan, false);
  const chosen = readChoices(db, person).get(key)?.sourcing ?? null;
  const source = chosen === null ? null : readSource(db, chosen);
  const need = source && source.item === found.item ? withSource(g, found, source) : found;
  const read = need.item === null ? null : readPair(g, { item: need.item, store: need.store });
  const last = addDays(need.arrives ? laterOf(need.arrives, need.neededOn) : need.neededOn, 10);
  const stirs = read ? expect(read.stirs, plan.asOf, plan.today) : [];
  const inWords = need.item === null;
  return {
    key,
    sum: sumOf(db, plan, need),
    parts: need.parts,
    levels: read ? project(read.position.onHand, stirs, plan.asOf, last, g.countOnOrder) : [],
    stirs: stirs.filter((s) => s.day <= last),
    last,
    today: plan.asOf,
    reorderPoint: need.stock?.reorderPoint ?? null,
    neededOn: need.neededOn,
    arrives: need.arrives,
    factor: need.factor,
    offers: offersFor(g, need),
    elsewhere: elsewhereFor(g, need),
    bench:
      sql<{ id: number; name: string }>(
        db,
        "SELECT b.id, b.name FROM bench_row r JOIN bench b ON b.id = r.bench WHERE r.need = ?",
      ).get(key) ?? null,
    suppliers: inWords
      ? sql<{ id: SupplierId; name: string }>(db, "SELECT id, name FROM supplier WHERE active = 1 ORDER BY name").all()
      : [],
    twins: need.item === null || need.parts.length > 0 ? 0 : twinsOf(db, plan, need),
    merged: need.parts.length > 0,
    chance:
      need.supplier && need.arrives && need.item !== null
        ? lineChance(
            db,
            need.supplier.id,
            need.item,
            { promised: need.arrives, asked: need.neededOn, by: laterOf(need.neededOn, plan.today) },
            plan.today,
          )
        : null,
  };
}

function offersFor(g: Ground, need: Need): SlipOffer[] {
  if (need.item === null) return [];
  const store = sql<{ receives: number; region: string }>(g.db, "SELECT receives, region FROM store WHERE id = ?").get(
    need.store,
  )!;
  // Late is who would leave somebody without: below the reorder point alone is not.
  const by = need.key.startsWith("s:") ? need.runsOut : need.neededOn;
  const chanceOfOffer = lineChances(g.db, g.plan.today);
  return readSources(g.db, need.item).map((s, i): SlipOffer => {
    const { buy } = toBuy(need.wanted, s.packing, need.stockUnit);
    const priced = priceFor(priceRecords(g.db, s.id, g.plan.asOf), buy, g.plan.asOf);
    const arrives = arrival(g.plan.asOf, comingBy(g, s, store));
    return {
      sourcing: s.id,
      supplier: s.supplierName,
      currency: s.currency,
      perStockUnit: priced ? pricePerStockUnit(priced.price, s.packing.factor, s.standing) : null,
      from: priced ? sourceWords(priced.source) : "no price known",
      arrives,
      chance:
        arrives &&
        chanceOfOffer(s.supplier, s.item, {
          promised: arrives,
          asked: need.neededOn,
          by: laterOf(need.neededOn, g.plan.today),
        }).chance,
      late: arrives === null || (by !== null && arrives > by),
      preferred: i === 0,
      chosen: s.id === need.sourcing,
    };
  });
}

export const pricePerStockUnit = (price: number, factor: number, standing: number) =>
  roundToInteger(
    new Big(price)
      .times(10_000)
      .div(factor)
      .times(10_000 - standing)
      .div(10_000),
  );

/** Free at a store is what stays above its reorder point on every day that can be seen. */
export function freeAt(g: Ground, item: ItemId, store: StoreId): StockQty {
  const read = readPair(g, { item, store });
  if (!read) return stock(0);
  const stirs = expect(read.stirs, g.plan.asOf, g.plan.today);
  const last = stirs.at(-1)?.day ?? g.plan.asOf;
  // What is still to come may not come: only the shelf can be given away.
  const levels = project(
    read.position.onHand,
    stirs.filter((s) => s.quantity < 0),
    g.plan.asOf,
    last,
  );
  const lowest = Math.min(...levels.map((l) => l.available));
  return stock(Math.max(0, lowest - read.position.settings.reorderPoint));
}

interface Standing {
  item: ItemId;
  code: string;
  name: string;
  note: string;
  unit: string;
}

/** What may stand in for an item, either way where that is said. */
export const readAlternatives = (db: Db, item: ItemId) =>
  sql<Standing>(
    db,
    `SELECT i.id AS item, i.code, i.name, a.note, u.name AS unit
     FROM (SELECT other, note FROM alternative WHERE item = @item
           UNION SELECT item, note FROM alternative WHERE other = @item AND both_ways = 1) a
     JOIN item i ON i.id = a.other AND i.active = 1 JOIN unit u ON u.code = i.unit ORDER BY i.name`,
  ).all({ item });

function elsewhereFor(g: Ground, need: Need): Elsewhere[] {
  if (need.item === null) return [];
  const stores = sql<{ id: StoreId; name: string }>(g.db, "SELECT id, name FROM store ORDER BY id").all();
  const own: Standing & { self: boolean } = {
    item: need.item,
    code: need.code,
    name: need.name,
    note: "",
    unit: need.stockUnit,
    self: true,
  };
  const others = readAlternatives(g.db, need.item).map((a) => ({ ...a, self: false }));
  return [own, ...others].flatMap((a) =>
    stores
      .filter((s) => !(a.self && s.id === need.store))
      .map((s) => ({
        item: a.item,
        code: a.code,
        name: a.name,
        note: a.self ? null : a.note,
        store: s.id,
        storeName: s.name,
        free: freeAt(g, a.item, s.id),
        unit: a.unit,
      }))
      .filter((e) => e.free > 0),
  );
}

/** How many other needs stand for the same item and store. */
const twinsOf = (db: Db, plan: PlanFor, need: Need): number =>
  readNeeds(db, plan).filter((n) => n.item === need.item && n.store === need.store && n.key !== need.key).length;
