import type { Day } from "../../../core/calendar/day";
import { daysBetween } from "../../../core/calendar/day";
import { arrival } from "../../../core/calendar/delivery";
import type { SourcingId, StoreId, SupplierId } from "../../../core/ids";
import { Big, roundToInteger } from "../../../core/numbers/decimal";
import { exponent, unitPrice } from "../../../core/numbers/money";
import { ONE, type PurchaseQty, purchase, stock } from "../../../core/numbers/quantity";
import type { Offer, PlacedRow, PriceLevel, Terms } from "../../../core/placing/problem";
import { type PriceRecords, priceFor } from "../../../core/pricing/price";
import { type Db, sql } from "../../db/open";
import { rateOn, theCompany } from "../company";
import type { Need, PlanFor } from "../needs/need";
import { unpacked } from "../needs/plan";
import { readSourcesOf, type Source, wayOf } from "../needs/positions";
import { priceRecords } from "../prices";

/** A record of what could be bought where, read once for all needs of a bench. */
export interface Market {
  offersFor(need: Need): { offer: Offer; sourcing: SourcingId | null }[];
  terms(supplier: SupplierId): Terms;
}

/**
 * Prices from a quantity on, as domain §5 finds them: where the price or its source changes, a new level begins. Blanket
 * orders stand after them: what is left of one is a price for so much and no more, in all orders together.
 */
export function levelsOf(records: PriceRecords, day: Day): PriceLevel[] {
  const starts = new Set<number>([0, ...[...records.quotes, ...records.breaks].map((b) => b.from)]);
  const levels: PriceLevel[] = [];
  for (const from of [...starts].sort((a, b) => a - b)) {
    const found = priceFor({ ...records, blankets: [] }, purchase(from), day);
    const last = levels.at(-1);
    if (!found || (last && last.price === found.price && last.source.kind === found.source.kind)) continue;
    levels.push({ from: purchase(from), price: found.price, source: found.source, warning: found.warning });
  }
  for (const { order, line, price, starts: first, ends: until, least, left } of records.blankets)
    if (first <= day && day <= until)
      levels.push({
        from: least,
        price,
        source: { kind: "blanket", order, line, until },
        warning: false,
        blanket: { line, left },
      });
  return levels;
}

export function readMarket(db: Db, needs: readonly Need[], plan: PlanFor): Market {
  const home = theCompany(db).currency;
  const items = [...new Set(needs.map((n) => n.item).filter((i) => i !== null))];
  const sources = new Map<number, Source[]>();
  for (const s of readSourcesOf(db, items)) sources.set(s.item, [...(sources.get(s.item) ?? []), s]);
  const levels = new Map<number, PriceLevel[]>();
  const stores = new Map(
    sql<{ id: StoreId; receives: number; region: string }>(db, "SELECT id, receives, region FROM store")
      .all()
      .map((s) => [s.id, s]),
  );
  const arrivals = new Map<string, Day | null>();
  const arrives = (s: Source, store: StoreId): Day | null => {
    const key = `${s.id}/${store}`;
    if (!arrivals.has(key))
      arrivals.set(
        key,
        arrival(plan.asOf, wayOf(s, stores.get(store)!, plan.asOf, plan.asOf > plan.today ? 0 : plan.hour)),
      );
    return arrivals.get(key)!;
  };
  const terms = new Map<number, Terms>();
  return {
    terms(supplier) {
      let known = terms.get(supplier);
      if (!known) {
        const row = sql<Omit<Terms, "rate">>(
          db,
          "SELECT id, name, currency, order_minimum AS minimum, freight, freight_free_from AS freeFrom FROM supplier WHERE id = ?",
        ).get(supplier)!;
        terms.set(supplier, (known = { ...row, rate: rateOn(db, row.currency, home, plan.today) }));
      }
      return known;
    },
    offersFor(need) {
      if (need.item === null) {
        const offer = serviceOffer(need, home);
        return offer ? [{ offer, sourcing: null }] : [];
      }
      return (sources.get(need.item) ?? []).map((s) => {
        if (!levels.has(s.id)) levels.set(s.id, levelsOf(priceRecords(db, s.id, plan.today), plan.today));
        const day = arrives(s, need.store);
        return {
          sourcing: s.id,
          offer: {
            supplier: s.supplier,
            packing: s.packing,
            levels: levels.get(s.id)!,
            standing: s.standing,
            arrives: day,
            lateBy: lateFor(need, day),
          },
        };
      });
    },
  };
}

/**
 * The day on which somebody goes without: what was asked for by a day is missed on it, stock where it runs out. Null
 * where the stock lasts: falling below a reorder point is a warning, and harms nobody yet.
 */
export const dueOfNeed = (need: Need): Day | null =>
  need.parts.length === 0 && (need.source === "reorder" || need.source === "job") ? need.runsOut : need.neededOn;

/** What its item was used lately at its store, else in the same weeks last year; null where nobody knows. */
export const usedLately = ({ usage }: Pick<Need, "usage">): PlacedRow["use"] =>
  usage.last30 > 0
    ? { used: stock(usage.last30), days: 30 }
    : usage.before + usage.after > 0
      ? { used: stock(usage.before + usage.after), days: 60 }
      : null;

const lateFor = (need: Need, arrives: Day | null): number => {
  const due = dueOfNeed(need);
  return due && arrives && arrives > due ? daysBetween(due, arrives) : 0;
};

/** A service in free words: whoever the buyer said does it, at what the asker was told. */
function serviceOffer(need: Need, home: string): Offer | null {
  if (!need.supplier) return null;
  const told = need.supplier.currency === home ? (need.requisition?.estimate ?? null) : null;
  return {
    supplier: need.supplier.id,
    packing: unpacked(need.stockUnit),
    levels:
      told === null
        ? []
        : [
            {
              from: purchase(0),
              price: perUnit(told, need.buy, home),
              source: { kind: "reference cost" },
              warning: true,
            },
          ],
    standing: 0,
    arrives: need.arrives,
    lateBy: lateFor(need, need.arrives),
  };
}

/** An amount for a whole line as a price per unit, at the sixth place. */
export const perUnit = (minor: number, quantity: PurchaseQty, currency: string) =>
  unitPrice(
    roundToInteger(
      new Big(minor)
        .div(new Big(10).pow(exponent(currency)))
        .div(quantity)
        .times(ONE)
        .times(1_000_000),
    ),
  );
