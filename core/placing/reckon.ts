import type { Day } from "../calendar/day";
import { laterOf } from "../calendar/day";
import type { StoreId, SupplierId } from "../ids";
import { Big, roundToInteger } from "../numbers/decimal";
import { exchanged, exponent, money, type UnitPrice, unitPrice } from "../numbers/money";
import { ONE, type PurchaseQty, plus, purchase, type StockQty } from "../numbers/quantity";
import { holdingAhead } from "./ahead";
import {
  costAt,
  covers,
  type Joined,
  levelAt,
  type Offer,
  orderKey,
  type PlacedRow,
  type Placing,
  type PlacingProblem,
  type RowPart,
  type Terms,
  termsOf,
} from "./problem";

/** A part as it is charged. */
export interface ReckonedLine {
  row: PlacedRow;
  offer: Offer;
  buy: PurchaseQty;
  /** The break that all lines of the item on the order reach together; null where no price is known. */
  level: number | null;
  net: number | null;
  home: number | null;
  /** What holding costs of what is bought beyond the need, home currency: no part of what is paid. */
  holding: number;
}

export interface ReckonedOrder {
  key: string;
  supplier: SupplierId;
  store: StoreId;
  terms: Terms;
  lines: ReckonedLine[];
  joined: Joined | null;
  /** Lines that stood on it before and share their breaks with these. */
  before: ReckonedLine[];
  /** Everything on the order, what it held before included, in the supplier's currency. */
  goods: number;
  /** What these lines add, in home currency; null where a price or the rate is missing. */
  goodsHome: number | null;
  /** The same of those lines alone whose price and rate are known. */
  knownHome: number;
  /** What freight costs for the whole order, in the supplier's currency and at home. */
  freight: number;
  /** What these lines add to the freight, at home: below zero where joining makes it free. */
  freightHome: number | null;
  /** How much its goods lack to the supplier's minimum. */
  lacks: number;
  /** The last arrival of its lines. */
  arrives: Day | null;
  late: number;
}

export interface Reckoned {
  orders: ReckonedOrder[];
  /** How many of them are new: a draft that lines join is written already. */
  written: number;
  /** Landed cost in home currency of all that has a price: goods and freight. */
  cost: number;
  /** What holding costs of what is bought beyond the needs: a plan weighs it, and it is no part of the cost. */
  holding: number;
  /** Lines without a price or rate: they are not in the cost. */
  unpriced: ReckonedLine[];
  late: number;
  /** Lines that never arrive: supplier and store share no day. */
  never: ReckonedLine[];
  lateDays: number;
  /** Rows that are placed nowhere, or not wholly. */
  open: PlacedRow[];
}

/** What an order of so much goods pays for its freight, in the supplier's currency. */
export const freightOf = (terms: Pick<Terms, "freight" | "freeFrom">, goods: number): number =>
  terms.freight === 0 || (terms.freeFrom !== null && goods >= terms.freeFrom) ? 0 : terms.freight;

/** What a whole freight costs at home; 0 where the supplier charges none. */
export const freightHome = (terms: Terms, home: string): number =>
  terms.rate === null ? 0 : exchanged(money(terms.freight, terms.currency), terms.rate, home).minor;

/** What a draft's freight costs at home before anything joins it. */
export const freightBefore = (p: PlacingProblem, joined: Joined, terms: Terms): number =>
  freightOf(terms, joinedBefore(p, joined, terms).goods) === 0 ? 0 : freightHome(terms, p.home);

/** What a draft costs by itself, before anything joins it. */
export function joinedBefore(
  p: PlacingProblem,
  joined: Joined,
  terms: Terms,
): { lines: ReckonedLine[]; goods: number; home: number | null } {
  const lines = chargedLines(p, terms, partsOf(joined.rows));
  return {
    lines,
    goods: joined.goods + lines.reduce((a, l) => a + (l.net ?? 0), 0),
    home: lines.some((l) => l.home === null) ? null : lines.reduce((a, l) => a + (l.home ?? 0), 0),
  };
}

interface Placed {
  row: PlacedRow;
  offer: Offer;
  buy: PurchaseQty;
}
const partsOf = (rows: readonly PlacedRow[]): Placed[] =>
  rows.map((row) => ({ row, offer: row.offers[0]!, buy: row.locked![0]!.buy }));

/** Lines of one order: a break counts all lines of its item together (domain §5). */
function chargedLines(
  p: PlacingProblem,
  terms: Terms,
  picks: readonly Placed[],
  drawn: Map<number, number> = new Map(),
): ReckonedLine[] {
  const together = new Map<string, PurchaseQty>();
  for (const { row, buy } of picks) together.set(row.item, plus(together.get(row.item) ?? purchase(0), buy));
  const calls: [line: number, quantity: number][] = [];
  const lines = picks.map(({ row, offer, buy }) => {
    const level = levelAt(offer, together.get(row.item)!, drawn);
    const cost = level === null ? null : costAt(offer, terms, p.home, buy, level);
    const blanket = level === null ? undefined : offer.levels[level]!.blanket;
    if (blanket && !offer.fixed) calls.push([blanket.line, buy]);
    const home = cost?.home ?? null;
    const holding = home === null || row.locked !== null ? 0 : holdingAhead(row, offer, buy, home, p.ahead);
    return { row, offer, buy, level, net: cost?.net ?? null, home, holding };
  });
  for (const [line, quantity] of calls) drawn.set(line, (drawn.get(line) ?? 0) + quantity);
  return lines;
}

/** The orders that a placing comes to, each as it will be charged. Exact: what is written later costs the same. */
export function reckonPlacing(p: PlacingProblem, placing: Placing): Reckoned {
  const terms = termsOf(p);
  const byOrder = new Map<string, Placed[]>();
  const open: PlacedRow[] = [];
  for (const row of p.rows) {
    let covered = 0;
    for (const part of placing[row.id] ?? []) {
      const offer = row.offers.find((o) => o.supplier === part.supplier);
      if (!offer || part.buy <= 0) continue;
      covered += covers(offer, part.buy);
      const key = orderKey(part.supplier, row.store);
      const picks = byOrder.get(key);
      if (picks) picks.push({ row, offer, buy: part.buy });
      else byOrder.set(key, [{ row, offer, buy: part.buy }]);
    }
    if (covered < row.wanted) open.push(row);
  }
  const joined = new Map(p.joined.map((j) => [orderKey(j.supplier, j.store), j]));
  // What is left of a blanket order is given out once: to the stores in their order, in which the orders are written.
  const drawn = new Map<number, number>();
  const reckoned = new Map(
    [...byOrder]
      .sort(([, a], [, b]) => a[0]!.row.store - b[0]!.row.store)
      .map(([key, picks]) => {
        const by = terms.get(picks[0]!.offer.supplier)!;
        return [key, reckonOrder(p, by, key, picks, joined.get(key) ?? null, drawn)];
      }),
  );
  const orders = [...byOrder.keys()].map((key) => reckoned.get(key)!);
  return {
    orders,
    written: orders.filter((o) => !o.joined).length,
    holding: orders.reduce((a, o) => a + o.lines.reduce((b, l) => b + l.holding, 0), 0),
    never: orders.flatMap((o) => o.lines.filter((l) => l.offer.arrives === null)),
    cost: orders.reduce((a, o) => a + o.knownHome + (o.freightHome ?? 0), 0),
    unpriced: orders.flatMap((o) => o.lines.filter((l) => l.home === null)),
    late: orders.reduce((a, o) => a + o.late, 0),
    lateDays: orders.reduce((a, o) => a + o.lines.reduce((b, l) => b + l.offer.lateBy, 0), 0),
    open,
  };
}

function reckonOrder(
  p: PlacingProblem,
  terms: Terms,
  key: string,
  picks: Placed[],
  joined: Joined | null,
  drawn: Map<number, number>,
): ReckonedOrder {
  const all = chargedLines(p, terms, [...(joined ? partsOf(joined.rows) : []), ...picks], drawn);
  const lines = all.slice(all.length - picks.length);
  const was = joined ? joinedBefore(p, joined, terms) : null;
  const goods = (joined?.goods ?? 0) + all.reduce((a, l) => a + (l.net ?? 0), 0);
  const freight = freightOf(terms, goods);
  const adds = (freight === 0 ? 0 : freightHome(terms, p.home)) - (joined ? freightBefore(p, joined, terms) : 0);
  const priced = all.every((l) => l.home !== null);
  return {
    key,
    supplier: terms.id,
    store: picks[0]!.row.store,
    terms,
    lines,
    joined,
    before: all.slice(0, all.length - picks.length),
    goods,
    goodsHome: priced && (!was || was.home !== null) ? all.reduce((a, l) => a + l.home!, 0) - (was?.home ?? 0) : null,
    knownHome: all.reduce((a, l) => a + (l.home ?? 0), 0) - (was?.lines.reduce((a, l) => a + (l.home ?? 0), 0) ?? 0),
    freight,
    freightHome: terms.rate === null ? null : adds,
    lacks: Math.max(0, terms.minimum - goods),
    arrives: lines.reduce<Day | null>(
      (a, l) => (l.offer.arrives && a ? laterOf(a, l.offer.arrives) : (a ?? l.offer.arrives)),
      null,
    ),
    late: lines.filter((l) => l.offer.lateBy > 0).length,
  };
}

/** What a choice would cost here, landed, if the row were placed at this offer alone beside all other choices. */
export interface Landed {
  buy: PurchaseQty;
  covers: StockQty;
  level: number | null;
  line: ReckonedLine;
  order: ReckonedOrder;
  /** The line's part of the order's freight, by its part of the goods, in home currency. */
  freightHome: number;
  /** Line and freight in home currency; null where no price or rate is known. */
  landed: number | null;
}

/** Which rows a placing puts on each order: asked once for a whole grid. */
export function rowsByOrder(p: PlacingProblem, placing: Placing): Map<string, PlacedRow[]> {
  const by = new Map<string, PlacedRow[]>();
  for (const row of p.rows) {
    for (const { supplier } of placing[row.id] ?? []) {
      const key = orderKey(supplier, row.store);
      const rows = by.get(key);
      if (rows) rows.push(row);
      else by.set(key, [row]);
    }
  }
  return by;
}

/** What a row would cost at one supplier, beside everything else that goes there. Null where they do not sell it. */
export function landedAt(
  p: PlacingProblem,
  placing: Placing,
  there: ReadonlyMap<string, PlacedRow[]>,
  row: PlacedRow,
  part: RowPart,
): Landed | null {
  const offer = row.offers.find((o) => o.supplier === part.supplier);
  if (!offer) return null;
  const key = orderKey(part.supplier, row.store);
  // What other stores draw of a blanket order is not left for this one.
  const keys = offer.levels.some((l) => l.blanket)
    ? Object.keys(p.stores).map((store) => orderKey(part.supplier, Number(store)))
    : [key];
  const beside = keys.flatMap((k) => there.get(k) ?? []).filter((r) => r.id !== row.id);
  const parts: Record<string, readonly RowPart[]> = { [row.id]: [part] };
  for (const r of beside) parts[r.id] = placing[r.id]!.filter((q) => q.supplier === part.supplier);
  const { orders } = reckonPlacing({ ...p, rows: [...beside, row] }, parts);
  return landedOf(orders.find((o) => o.key === key)!, row, p.home);
}

/** The same for a line that stands in an order already. */
export function landedOf(order: ReckonedOrder, row: PlacedRow, home: string): Landed | null {
  const line = order.lines.find((l) => l.row.id === row.id);
  if (!line) return null;
  const freight = shareOf(order, line, home);
  return {
    buy: line.buy,
    covers: covers(line.offer, line.buy),
    level: line.level,
    line,
    order,
    freightHome: freight,
    landed: line.home === null ? null : line.home + freight,
  };
}

/** Landed home currency for one stock unit, to the cent from one on and to the hundredth of a cent below; null without a price. */
export function perStockUnit(l: Landed, home: string): UnitPrice | null {
  if (l.landed === null || l.covers <= 0) return null;
  const exact = new Big(l.landed)
    .div(new Big(10).pow(exponent(home)))
    .times(ONE)
    .div(l.covers);
  const places = exact.lt(1) ? 4 : 2;
  return unitPrice(roundToInteger(exact.round(places, Big.roundHalfUp).times(1_000_000)));
}

/** A line's part of the freight in home currency, in proportion to what is charged for it. */
function shareOf(order: ReckonedOrder, line: ReckonedLine, home: string): number {
  if (order.goods === 0 || order.freight === 0 || order.terms.rate === null) return 0;
  return roundToInteger(new Big(freightHome(order.terms, home)).times(line.net ?? 0).div(order.goods));
}
