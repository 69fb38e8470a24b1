import type { Day } from "../calendar/day";
import type { StoreId, SupplierId } from "../ids";
import type { Packing } from "../needs/reorder";
import { toBuy } from "../needs/reorder";
import { Big } from "../numbers/decimal";
import { type BasisPoints, exchanged, lineNet, type UnitPrice } from "../numbers/money";
import {
  multipleUp,
  ONE,
  type PurchaseQty,
  purchase,
  type StockQty,
  stock,
  toPurchaseDown,
  toStock,
  wholeUp,
} from "../numbers/quantity";
import type { PriceSource } from "../pricing/price";

/** The price from a quantity on. */
export interface PriceLevel {
  from: PurchaseQty;
  price: UnitPrice;
  source: PriceSource;
  warning: boolean;
  /** Of a blanket order: its line, and what may still be called off from it in all orders together; null: any quantity. */
  blanket?: { line: number; left: PurchaseQty | null };
}

/** One supplier's way of meeting a need. */
export interface Offer {
  supplier: SupplierId;
  packing: Packing;
  /**
   * First those that go by the quantity alone, sorted by `from` (below the first no price is known); then blanket orders,
   * in the order in which they are drawn. A blanket order goes before all others, where enough is left of it.
   */
  levels: readonly PriceLevel[];
  standing: BasisPoints;
  /** A discount on the line, for lines that stand on a draft. */
  discount?: BasisPoints;
  /** Of a line that stands on a draft: its price was typed or called off before, and stays whatever is reached. */
  fixed?: boolean;
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
  store: StoreId;
  wanted: StockQty;
  stockUnit: string;
  /** May a plan divide it over suppliers? */
  maySplit: boolean;
  /** What no plan may change. */
  locked: readonly RowPart[] | null;
  preferred: number | null;
  /** How much of its item was used in how many days at its store; null where nobody knows. */
  use: { used: StockQty; days: number } | null;
  offers: readonly Offer[];
}

/** What one supplier sells of one row. */
export interface RowPart {
  supplier: SupplierId;
  buy: PurchaseQty;
}

/** How a supplier charges an order as a whole, in its own currency. */
export interface Terms {
  id: SupplierId;
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
  supplier: SupplierId;
  store: StoreId;
  /** Lines whose price does not follow its breaks, in the supplier's currency. */
  goods: number;
  /** Lines that share their breaks with what joins: rows with one locked part. */
  rows: readonly PlacedRow[];
}

/** Needs and offers to be placed (domain §6). Money in minor units; quantities exact. */
export interface PlacingProblem {
  home: string;
  /** Names of the stores, for sentences. */
  stores: Readonly<Record<number, string>>;
  rows: readonly PlacedRow[];
  suppliers: readonly Terms[];
  joined: readonly Joined[];
  /** So many days of use may be bought beyond what is needed, and holding costs so much of the goods a year. */
  ahead: { days: number; rate: BasisPoints };
}

/** For each row of the problem by its id, what is bought where; a row that is missing or empty is not placed. */
export type Placing = Readonly<Record<string, readonly RowPart[]>>;

export const orderKey = (supplier: SupplierId, store: StoreId) => `${supplier}/${store}`;
/** Whose order a key is of, and for which store. */
export const ofOrderKey = (key: string) => {
  const [supplier = 0, store = 0] = key.split("/").map(Number);
  return { supplier, store };
};

/** How much other orders draw from each blanket line. */
export type Drawn = ReadonlyMap<number, number>;
const NONE: Drawn = new Map();

/** Is a blanket order's price for so much, with what other orders draw from it? */
const isLeft = ({ blanket }: PriceLevel, quantity: number, drawn: Drawn) =>
  blanket!.left === null || quantity + (drawn.get(blanket!.line) ?? 0) <= blanket!.left;

/** The level in force for a quantity of all lines of the item on the order; null where no price is known for so little. */
export function levelAt(offer: Pick<Offer, "levels">, quantity: PurchaseQty, drawn: Drawn = NONE): number | null {
  let found: number | null = null;
  for (const [i, l] of offer.levels.entries()) {
    if (l.from > quantity) continue;
    if (!l.blanket) found = i;
    else if (isLeft(l, quantity, drawn)) return i;
  }
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

const leasts = new WeakMap<Packing, Map<StockQty, PurchaseQty>>();

/** The least they sell that covers what is wanted. A grid asks for it again and again, so it is kept. */
export function leastBuy({ packing }: Pick<Offer, "packing">, wanted: StockQty, stockUnit: string): PurchaseQty {
  let known = leasts.get(packing);
  if (!known) leasts.set(packing, (known = new Map()));
  let least = known.get(wanted);
  if (least === undefined) known.set(wanted, (least = toBuy(wanted, packing, stockUnit).buy));
  return least;
}

/** The least they sell from a quantity on. */
function legalFrom(quantity: PurchaseQty, packing: Packing): PurchaseQty {
  const whole = packing.brokenPacks ? quantity : wholeUp(quantity);
  return multipleUp(purchase(Math.max(whole, packing.minimum)), packing.multiple);
}

/** A need that may be split is cut into at most so many steps at each supplier, and one that is bought ahead into so many. */
export const MOST_STEPS = 40;
export const MOST_AHEAD = 40;

/** So much of a row's item may be bought beyond what is needed: the days of use that the buyer allows. Null: its use is not known. */
export const mostAhead = (row: Pick<PlacedRow, "use">, ahead: PlacingProblem["ahead"]): StockQty | null =>
  row.use === null
    ? null
    : stock(Number(new Big(row.use.used).times(ahead.days).div(row.use.days).round(0, Big.roundDown).toFixed(0)));

/**
 * The quantities that a plan weighs at one offer: the least that covers the need; more, within the days of use that may be
 * bought ahead, where that can reach a break, an order minimum or free freight; and, where the need may be split, whole
 * packs up to the least. `shared`: other lines of the item may stand on the order, and reach its breaks with this one.
 */
export function quantitiesOf(
  row: PlacedRow,
  offer: Offer,
  terms: Terms,
  p: Pick<PlacingProblem, "home" | "ahead">,
  shared = false,
): PurchaseQty[] {
  const least = leastBuy(offer, row.wanted, row.stockUnit);
  const found = new Set<PurchaseQty>([least]);
  const most = mostAhead(row, p.ahead);
  const limit = most === null ? null : covers(offer, least) + most;
  const at = levelAt(offer, least);
  const cost = at === null ? Number.POSITIVE_INFINITY : costAt(offer, terms, p.home, least, at).net;
  const above = offer.levels.filter((l) => l.from > least);
  for (const level of above) {
    const more = legalFrom(level.from, offer.packing);
    const i = levelAt(offer, more);
    if (i === null || (limit !== null && covers(offer, more) > limit)) continue;
    if (offer.levels[i] === level && costAt(offer, terms, p.home, more, i).net < cost) found.add(more);
  }
  const pack = offer.packing.multiple > 0 ? offer.packing.multiple : ONE;
  if (row.maySplit) {
    const first = legalFrom(purchase(pack), offer.packing);
    const steps = Math.ceil((least - first) / pack);
    const stride = pack * Math.max(1, Math.ceil(steps / MOST_STEPS));
    for (let q = first; q < least; q = purchase(q + stride)) found.add(q);
  } else for (const q of aheadSteps(offer, terms, { least, pack, limit, shared })) found.add(q);
  return [...found].sort((a, b) => a - b);
}

/** Whole packs beyond the least, as far as they can be of use: to a shared break, an order minimum or free freight. */
function aheadSteps(
  offer: Offer,
  terms: Terms,
  { least, pack, limit, shared }: { least: PurchaseQty; pack: number; limit: number | null; shared: boolean },
): PurchaseQty[] {
  const top = Math.max(least, ...offer.levels.map((l) => l.from));
  const toBreak = shared && top > least ? legalFrom(purchase(top), offer.packing) : least;
  const filled = Math.max(terms.minimum, terms.freight > 0 ? (terms.freeFrom ?? 0) : 0);
  // What nobody is known to use is bought ahead for a break alone.
  const last =
    limit === null
      ? toBreak
      : Math.min(filled > 0 ? Number.POSITIVE_INFINITY : toBreak, toPurchaseDown(limit, offer.packing.factor));
  const steps = Math.floor((last - least) / pack);
  if (steps < 1) return [];
  const stride = pack * Math.ceil(steps / MOST_AHEAD);
  const found: PurchaseQty[] = [];
  const netOf = (q: number): number => {
    const i = levelAt(offer, purchase(q));
    return i === null ? 0 : lineNet(q, offer.levels[i]!.price, offer.standing, 0, terms.currency).minor;
  };
  for (let q = least + stride; q <= last; q += stride) {
    const net = netOf(q);
    // Freight alone is never saved by what costs more than it.
    const pays = q <= toBreak || terms.minimum > 0 || net - netOf(least) <= terms.freight;
    if (pays) found.push(purchase(q));
    // Beyond what fills an order by itself there is no more to win.
    if (q > toBreak && net >= filled) break;
  }
  return found;
}

/** May other lines of a row's item stand on the order to a supplier, and reach its breaks with it? */
export function sharingOf(p: PlacingProblem): (row: PlacedRow, supplier: SupplierId) => boolean {
  const lines = new Map<string, number>();
  const name = (row: PlacedRow, supplier: SupplierId) => `${row.item}|${orderKey(supplier, row.store)}`;
  for (const row of [...p.rows, ...p.joined.flatMap((j) => j.rows)])
    for (const { supplier } of row.offers) lines.set(name(row, supplier), (lines.get(name(row, supplier)) ?? 0) + 1);
  return (row, supplier) => lines.get(name(row, supplier))! > 1;
}

/** What a part covers of its row, in stock units. */
export const covers = (offer: Offer, buy: PurchaseQty): StockQty => toStock(buy, offer.packing.factor);

/** Why a row can go nowhere, or null where some offer stands; of a locked one, why its choice cannot be kept by a plan. */
export function hindrance(row: PlacedRow, terms: ReadonlyMap<number, Terms>): string | null {
  if (row.locked) {
    const offers = row.offers.filter((o) =>
      row.locked!.some((l) => l.supplier === o.supplier && !canBuy(o, terms, l.buy)),
    );
    const says = hindrance({ ...row, locked: null, offers }, terms);
    return offers.length === 0 || says === null ? null : `${says} It is locked there.`;
  }
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

/** Can a plan buy so much there? */
const canBuy = (o: Offer, terms: ReadonlyMap<number, Terms>, buy: PurchaseQty) =>
  isUsable(o, terms) && levelAt(o, buy) !== null;

/** Can a plan use this offer at all? */
export const isUsable = (o: Offer, terms: ReadonlyMap<number, Terms>) =>
  o.levels.length > 0 && o.arrives !== null && (terms.get(o.supplier)?.rate ?? null) !== null;

export const termsOf = (p: PlacingProblem): Map<number, Terms> => new Map(p.suppliers.map((t) => [t.id, t]));

/** Each need at its preferred supplier, in the least quantity that covers it; locked choices stay (domain §6). */
export function preferredPlacing(p: PlacingProblem): Placing {
  const terms = termsOf(p);
  const placing: Record<string, RowPart[]> = {};
  for (const row of p.rows) {
    if (hindrance(row, terms) !== null) continue;
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
