import type { Day } from "../calendar/day";
import type { Packing } from "../needs/reorder";
import { toBuy } from "../needs/reorder";
import { type BasisPoints, exchanged, lineNet, type UnitPrice } from "../numbers/money";
import { multipleUp, ONE, type PurchaseQty, purchase, type StockQty, toStock, wholeUp } from "../numbers/quantity";
import type { PriceSource } from "../pricing/price";

/** The price from a quantity on. Sorted by `from`; below the first one no price is known. */
export interface Level {
  from: PurchaseQty;
  price: UnitPrice;
  source: PriceSource;
  warning: boolean;
}

/** One supplier's way of meeting a need. */
export interface Offer {
  supplier: number;
  packing: Packing;
  levels: readonly Level[];
  standing: BasisPoints;
  /** A discount on the line, for lines that stand on a draft. */
  discount?: BasisPoints;
  /** Null where supplier and store share no day. */
  arrives: Day | null;
  /** Days after the day of need. */
  lateBy: number;
}

/** A need laid out, or a line that stands on a draft already and only counts along. */
export interface PlacedRow {
  id: string;
  name: string;
  /** Rows of one item on one order share its price breaks. */
  item: string;
  store: number;
  wanted: StockQty;
  stockUnit: string;
  /** May a plan divide it over suppliers? */
  maySplit: boolean;
  /** What no plan may change. */
  locked: readonly Part[] | null;
  preferred: number | null;
  offers: readonly Offer[];
}

/** What one supplier sells of one row. */
export interface Part {
  supplier: number;
  buy: PurchaseQty;
}

/** How a supplier charges an order as a whole, in its own currency. */
export interface Terms {
  id: number;
  name: string;
  currency: string;
  /** Home currency for one unit, in millionths; null where no rate is known. */
  rate: number | null;
  minimum: number;
  freight: number;
  /** Goods from this amount on are carried free; null where they never are. */
  freeFrom: number | null;
}

/** An order still in draft that new lines join: what it holds counts along, and was decided before. */
export interface Joined {
  supplier: number;
  store: number;
  /** Lines whose price does not follow its breaks, in the supplier's currency. */
  goods: number;
  /** Lines that share their breaks with what joins: rows with one locked part. */
  rows: readonly PlacedRow[];
}

/** Needs and offers to be placed (domain §6). Money in minor units; quantities exact. */
export interface Problem {
  home: string;
  /** Names of the stores, for sentences. */
  stores: Readonly<Record<number, string>>;
  rows: readonly PlacedRow[];
  suppliers: readonly Terms[];
  joined: readonly Joined[];
}

/** For each row of the problem by its id, what is bought where; a row that is missing or empty is not placed. */
export type Placing = Readonly<Record<string, readonly Part[]>>;

export const orderKey = (supplier: number, store: number) => `${supplier}/${store}`;

/** The level in force for a quantity; null where no price is known for so little. */
export function levelAt(offer: Pick<Offer, "levels">, quantity: PurchaseQty): number | null {
  let found: number | null = null;
  offer.levels.forEach((l, i) => {
    if (l.from <= quantity) found = i;
  });
  return found;
}

export interface Cost {
  /** In the supplier's currency. */
  net: number;
  /** In home currency; null where no rate is known. */
  home: number | null;
}

const priced = new WeakMap<Offer, Map<string, Cost>>();

/** Line net at a level, rounded as domain §1 says, and the same in home currency. */
export function costAt(offer: Offer, terms: Terms, home: string, buy: PurchaseQty, level: number): Cost {
  let known = priced.get(offer);
  if (!known) priced.set(offer, (known = new Map()));
  const name = `${buy}/${level}/${terms.rate}`;
  let cost = known.get(name);
  if (!cost) {
    const net = lineNet(buy, offer.levels[level]!.price, offer.standing, offer.discount ?? 0, terms.currency);
    cost = { net: net.minor, home: terms.rate === null ? null : exchanged(net, terms.rate, home).minor };
    known.set(name, cost);
  }
  return cost;
}

/** The least they sell that covers what is wanted. */
export const leastBuy = (offer: Pick<Offer, "packing">, wanted: StockQty, stockUnit: string): PurchaseQty =>
  toBuy(wanted, offer.packing, stockUnit).buy;

/** The least they sell from a quantity on. */
function legalFrom(quantity: PurchaseQty, packing: Packing): PurchaseQty {
  const whole = packing.brokenPacks ? quantity : wholeUp(quantity);
  return multipleUp(purchase(Math.max(whole, packing.minimum)), packing.multiple);
}

/** A need that may be split is cut into at most so many steps at each supplier. */
export const MOST_STEPS = 40;

/**
 * The quantities that a plan weighs at one offer: the least that covers the need; more, where that reaches a break and
 * the whole line then costs less; and, where the need may be split, whole packs up to the least.
 */
export function quantitiesOf(row: PlacedRow, offer: Offer, terms: Terms, home: string): PurchaseQty[] {
  const least = leastBuy(offer, row.wanted, row.stockUnit);
  const found = new Set<PurchaseQty>([least]);
  const at = levelAt(offer, least);
  const cost = at === null ? Number.POSITIVE_INFINITY : costAt(offer, terms, home, least, at).net;
  offer.levels.forEach((level, i) => {
    if (level.from <= least) return;
    const more = legalFrom(level.from, offer.packing);
    if (levelAt(offer, more) === i && costAt(offer, terms, home, more, i).net < cost) found.add(more);
  });
  if (row.maySplit) {
    const pack = offer.packing.multiple > 0 ? offer.packing.multiple : ONE;
    const first = legalFrom(purchase(pack), offer.packing);
    const steps = Math.ceil((least - first) / pack);
    const stride = pack * Math.max(1, Math.ceil(steps / MOST_STEPS));
    for (let q = first; q < least; q = purchase(q + stride)) found.add(q);
  }
  return [...found].sort((a, b) => a - b);
}

/** What a part covers of its row, in stock units. */
export const covers = (offer: Offer, buy: PurchaseQty): StockQty => toStock(buy, offer.packing.factor);

/** Why a row can go nowhere, or null where some offer stands. */
export function hindrance(row: PlacedRow, terms: ReadonlyMap<number, Terms>): string | null {
  if (row.offers.length === 0) return `${row.name} has no supplier.`;
  const usable = row.offers.filter((o) => isUsable(o, terms));
  if (usable.length > 0) return null;
  const names = row.offers.map((o) => terms.get(o.supplier)?.name ?? "?").join(", ");
  if (row.offers.every((o) => o.levels.length === 0)) return `${row.name} has no price at ${names}.`;
  if (row.offers.every((o) => o.arrives === null))
    return `${row.name} never arrives from ${names}: no day is shared with the store.`;
  const currencies = [
    ...new Set(
      row.offers
        .map((o) => terms.get(o.supplier))
        .filter((t) => t?.rate === null)
        .map((t) => t!.currency),
    ),
  ];
  if (currencies.length) return `${row.name} is only sold in ${currencies.join(" and ")}, and no rate is known.`;
  return `${row.name} has no price or no day of arrival at ${names}.`;
}

/** Can a plan use this offer at all? */
export const isUsable = (o: Offer, terms: ReadonlyMap<number, Terms>) =>
  o.levels.length > 0 && o.arrives !== null && (terms.get(o.supplier)?.rate ?? null) !== null;

export const termsOf = (p: Problem): Map<number, Terms> => new Map(p.suppliers.map((t) => [t.id, t]));

/** Each need at its preferred supplier, in the least quantity that covers it; locked choices stay (domain §6). */
export function preferredPlacing(p: Problem): Placing {
  const terms = termsOf(p);
  const placing: Record<string, Part[]> = {};
  for (const row of p.rows) {
    if (row.locked) {
      placing[row.id] = [...row.locked];
      continue;
    }
    const usable = row.offers.filter((o) => isUsable(o, terms));
    const offer = usable.find((o) => o.supplier === row.preferred) ?? usable[0];
    if (offer) placing[row.id] = [{ supplier: offer.supplier, buy: leastBuy(offer, row.wanted, row.stockUnit) }];
  }
  return placing;
}
