import { toDay } from "../calendar/day";
import { unitPrice } from "../numbers/money";
import { factorOf, ONE, purchase, stock } from "../numbers/quantity";
import {
  type Joined,
  leastBuy,
  type Offer,
  type PlacedRow,
  type PlacingProblem,
  type PriceLevel,
  type Terms,
} from "./problem";

/** How a made-up problem is drawn: the same seed gives the same problem. */
export interface MadeUp {
  seed: number;
  rows: number;
  suppliers: number;
  stores?: number;
  /** How many suppliers sell each item. */
  offers: [least: number, most: number];
  /** How many distinct items; fewer than rows makes rows that share their breaks. */
  items?: number;
  minimums?: boolean;
  splits?: number;
  locks?: number;
  joins?: boolean;
  foreign?: boolean;
  /** Items on blanket orders of which so much is left, shared by all stores. */
  blankets?: boolean;
  /** Days of use that may be bought ahead; left out, nobody knows what is used, and nothing is. */
  ahead?: number;
}

/** A small generator, so that tests and benchmarks draw the same problems on every machine. */
export function drawer(seed: number): (below: number) => number {
  let state = seed >>> 0 || 1;
  return (below) => {
    state ^= state << 13;
    state ^= state >>> 17;
    state ^= state << 5;
    state >>>= 0;
    return state % below;
  };
}

const DAY = toDay("2026-12-01");

/** A problem of suppliers with breaks, packs, minimums, freight, dates and currencies: for tests and benchmarks. */
export function madeUp(how: MadeUp): PlacingProblem {
  const draw = drawer(how.seed * 2654435761);
  const between = (a: number, b: number) => a + draw(b - a + 1);
  const suppliers: Terms[] = Array.from({ length: how.suppliers }, (_, i) => ({
    id: i + 1,
    name: `Supplier ${i + 1}`,
    currency: how.foreign && draw(3) === 0 ? (draw(2) ? "JPY" : "NOK") : "EUR",
    rate: 1_000_000,
    minimum: 0,
    freight: draw(3) === 0 ? 0 : between(2, 12) * 1_000,
    freeFrom: draw(2) ? null : between(5, 40) * 10_000,
  }));
  for (const s of suppliers) {
    if (s.currency !== "EUR") s.rate = s.currency === "JPY" ? 6_137 : 87_310;
    if (s.currency === "JPY") s.freight = Math.round(s.freight / 100) * 150;
    if (how.minimums && draw(2)) s.minimum = between(2, 20) * 5_000;
  }
  const sold = Array.from({ length: how.items ?? how.rows }, (_, item) => {
    const cost = between(100, 9_000) * 1_000; // millionths
    const factor = [1, 1, 5, 20][draw(4)]!;
    const by = new Set<number>();
    const many = between(...how.offers);
    while (by.size < Math.min(many, suppliers.length)) by.add(draw(suppliers.length));
    return {
      item: `item ${item + 1}`,
      offers: [...by].map((s): Omit<Offer, "arrives" | "lateBy"> => {
        const one = (cost * factor * between(80, 125)) / 100;
        const at = suppliers[s]!.currency === "EUR" ? 1 : suppliers[s]!.currency === "JPY" ? 163 : 11;
        const breaks = draw(3);
        return {
          supplier: s + 1,
          packing: {
            unit: factor === 1 ? "each" : "box",
            factor: factorOf(factor * ONE),
            minimum: purchase(draw(4) === 0 ? between(1, 4) * ONE : 0),
            multiple: purchase(draw(5) === 0 ? between(2, 3) * ONE : 0),
            brokenPacks: false,
          },
          levels: [
            ...Array.from({ length: breaks + 1 }, (_, i) => ({
              from: purchase(i === 0 ? 0 : [5, 12][i - 1]! * ONE),
              price: unitPrice(Math.round((one * at * (100 - i * between(4, 9))) / 100)),
              source: { kind: "price list" as const, from: purchase(0) },
              warning: false,
            })),
            ...blanket(item, s, Math.round(one * at)),
          ],
          standing: draw(4) === 0 ? 250 : 0,
        };
      }),
    };
  });
  function blanket(item: number, s: number, one: number): PriceLevel[] {
    if (!how.blankets || draw(3) === 0) return [];
    const line = item * 100 + s;
    const [left, least] = [between(3, 60), draw(3) === 0 ? between(2, 4) : 0];
    return [
      {
        from: purchase(least * ONE),
        // Now and then dearer than the list: it is drawn all the same.
        price: unitPrice(Math.round((one * between(70, 105)) / 100)),
        source: { kind: "blanket", order: `B${line}`, line, until: DAY },
        warning: false,
        blanket: { line, left: draw(4) === 0 ? null : purchase(left * ONE) },
      },
    ];
  }
  const late = () => (draw(4) === 0 ? between(1, 9) : 0);
  const rows = Array.from({ length: how.rows }, (_, i): PlacedRow => {
    const { item, offers } = sold[how.items ? draw(how.items) : i]!;
    return {
      id: `n:${i + 1}`,
      name: `Need ${i + 1}`,
      item,
      store: 1 + draw(how.stores ?? 1),
      wanted: stock(between(1, 60) * ONE),
      stockUnit: "each",
      maySplit: draw(100) < (how.splits ?? 0),
      locked: null,
      use: how.ahead ? { used: stock(between(1, 90) * ONE), days: 30 } : null,
      preferred: offers[0]!.supplier,
      offers: offers.map((o) => ({ ...o, arrives: DAY, lateBy: late() })),
    };
  });
  for (const row of rows) {
    if (draw(100) >= (how.locks ?? 0)) continue;
    const offer = row.offers[draw(row.offers.length)]!;
    row.locked = [{ supplier: offer.supplier, buy: leastBuy(offer, row.wanted, row.stockUnit) }];
  }
  const joined: Joined[] = [];
  if (how.joins) {
    const like = rows[0]!;
    const offer = like.offers[0]!;
    const on = {
      ...like,
      id: "line:1",
      name: "On the draft",
      locked: [{ supplier: offer.supplier, buy: purchase(3 * ONE) }],
      offers: [offer],
    };
    joined.push({
      supplier: offer.supplier,
      store: like.store,
      goods: 5_000,
      rows: [on],
    });
  }
  return {
    home: "EUR",
    stores: { 1: "Main store", 2: "Island store", 3: "Yard" },
    rows,
    suppliers,
    joined,
    ahead: { days: how.ahead ?? 0, rate: 800 },
  };
}
