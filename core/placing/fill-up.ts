import { Big } from "../numbers/decimal";
import { moneyText } from "../numbers/money";
import { type PurchaseQty, purchase, quantityText } from "../numbers/quantity";
import { amount, type Step, type Sum } from "../sums/sum";
import { holdingOf } from "./ahead";
import type { Model } from "./model";
import { costAt, leastBuy, levelAt, type PlacedRow, type Placing, type PlacingProblem, termsOf } from "./problem";
import { type ReckonedOrder, reckonPlacing } from "./reckon";

/** What an order just lacks: its supplier's minimum, free freight, or the next break of an item. */
export type Target =
  | { kind: "minimum" | "freight"; order: string; gap: number; from: number }
  | { kind: "break"; order: string; item: string; name: string; gap: PurchaseQty; from: PurchaseQty; unit: string };

/** Freight is within reach from this part of the amount on, and a break from this part of its quantity. */
const NEAR = new Big("0.6");

/** What the orders of a placing just lack. */
export function targetsOf(p: PlacingProblem, placing: Placing): Target[] {
  return reckonPlacing(p, placing).orders.flatMap((o): Target[] => {
    const targets: Target[] = [];
    if (o.terms.rate === null) return targets;
    if (o.lacks > 0) targets.push({ kind: "minimum", order: o.key, gap: o.lacks, from: o.terms.minimum });
    const { freeFrom } = o.terms;
    if (o.freight > 0 && freeFrom !== null && new Big(o.goods).gte(NEAR.times(freeFrom)))
      targets.push({ kind: "freight", order: o.key, gap: freeFrom - o.goods, from: freeFrom });
    for (const [item, lines] of linesByItem(o)) {
      const { row, offer } = lines[0]!;
      const bought = [...lines, ...o.before.filter((l) => l.row.item === item)].reduce((n, l) => n + l.buy, 0);
      const next = offer.levels.find((l) => !l.blanket && l.from > bought);
      if (next && new Big(bought).gte(NEAR.times(next.from)))
        targets.push({
          kind: "break",
          order: o.key,
          item,
          name: row.name,
          gap: purchase(next.from - bought),
          from: next.from,
          unit: offer.packing.unit,
        });
    }
    return targets;
  });
}

function linesByItem(o: ReckonedOrder): Map<string, ReckonedOrder["lines"]> {
  const by = new Map<string, ReckonedOrder["lines"]>();
  for (const l of o.lines) by.set(l.row.item, [...(by.get(l.row.item) ?? []), l]);
  return by;
}

/** A need of the coming weeks that the order's supplier sells, too. */
export interface Ahead {
  row: PlacedRow;
  /** Days that it would lie on the shelf before it is needed. */
  daysEarly: number;
}

/** One need brought forward: what it costs here now, what it would cost later, and what holding it costs meanwhile. */
export interface Brought {
  id: string;
  name: string;
  buy: PurchaseQty;
  unit: string;
  here: number;
  /** Goods at its preferred supplier, bought when it is due; home currency. */
  later: number;
  holding: number;
  daysEarly: number;
}

export interface FillUp {
  target: Target;
  brought: Brought[];
  /** Is the gap closed by what there is? */
  closes: boolean;
  /** What all orders cost less, home currency; below zero where they cost more. */
  saves: number;
  holding: number;
  pays: boolean;
  sum: Sum;
}

/** Each candidate at the order's supplier, with what it adds; those that cannot be bought there drop out. */
export function candidatesFor(
  p: PlacingProblem,
  target: Target,
  ahead: readonly Ahead[],
  rate: number,
): (Brought & { counts: number })[] {
  const terms = termsOf(p);
  const supplier = Number(target.order.split("/")[0]);
  return ahead.flatMap(({ row, daysEarly }) => {
    if (target.kind === "break" && row.item !== target.item) return [];
    const offer = row.offers.find((o) => o.supplier === supplier);
    const level = offer ? levelAt(offer, leastBuy(offer, row.wanted, row.stockUnit)) : null;
    if (!offer || level === null) return [];
    const buy = leastBuy(offer, row.wanted, row.stockUnit);
    const here = costAt(offer, terms.get(supplier)!, p.home, buy, level);
    if (here.home === null) return [];
    const usual = row.offers.find((o) => o.supplier === row.preferred) ?? offer;
    const usualBuy = leastBuy(usual, row.wanted, row.stockUnit);
    const usualLevel = levelAt(usual, usualBuy);
    const later =
      usualLevel === null ? null : costAt(usual, terms.get(usual.supplier)!, p.home, usualBuy, usualLevel).home;
    return [
      {
        id: row.id,
        name: row.name,
        buy,
        unit: offer.packing.unit,
        here: here.home,
        later: later ?? here.home,
        holding: holdingOf(here.home, daysEarly, rate),
        daysEarly,
        counts: target.kind === "break" ? buy : here.net,
      },
    ];
  });
}

/** Which of the candidates close the gap at the least cost of price and holding: a 0-1 program of one rule. */
export function fillUpModel(target: Target, candidates: readonly (Brought & { counts: number })[]): Model {
  return {
    columns: candidates.map((c, i) => ({
      name: `bring_${i}`,
      adds: { cost: c.here - c.later + c.holding },
      part: null,
    })),
    rules: [
      {
        name: "closes",
        least: target.gap,
        most: Number.POSITIVE_INFINITY,
        entries: candidates.map((c, i): [number, number] => [i, c.counts]),
      },
    ],
    offset: 0,
    left: [],
  };
}

/** What bringing these forward saves and costs, all orders reckoned again with them. */
export function weigh(
  p: PlacingProblem,
  placing: Placing,
  target: Target,
  ahead: readonly Ahead[],
  brought: readonly Brought[],
  closes: boolean,
): FillUp {
  const supplier = Number(target.order.split("/")[0]);
  const chosen = brought.map((b) => ahead.find((a) => a.row.id === b.id)!.row);
  const before = reckonPlacing(p, placing).cost;
  const parts = Object.fromEntries(brought.map((b) => [b.id, [{ supplier, buy: b.buy }]]));
  const after = reckonPlacing({ ...p, rows: [...p.rows, ...chosen] }, { ...placing, ...parts }).cost;
  const later = brought.reduce((n, b) => n + b.later, 0);
  const holding = brought.reduce((n, b) => n + b.holding, 0);
  const saves = before + later - after;
  const money = (minor: number) => amount(minor, p.home);
  const steps: Step[] = [
    { op: "", label: "these orders as they are", figure: money(before) },
    ...brought.map((b): Step => ({ op: "+", label: `${b.name}, bought later as usual`, figure: money(b.later) })),
    { op: "=", label: "without filling up", figure: money(before + later) },
    { op: "−", label: `all of it now: ${nameOf(p, target)}`, figure: money(after) },
    { op: "=", label: saves < 0 ? "dearer by the difference" : "saved in price and freight", figure: money(saves) },
    { op: "−", label: "holding it until it is needed", figure: money(holding) },
    { op: "=", label: saves - holding > 0 ? "it pays" : "it does not pay", figure: money(saves - holding) },
  ];
  return {
    target,
    brought: [...brought],
    closes,
    saves,
    holding,
    pays: saves - holding > 0,
    sum: { title: "Does filling up pay?", steps },
  };
}

const nameOf = (p: PlacingProblem, target: Target) =>
  p.suppliers.find((s) => `${s.id}` === target.order.split("/")[0])?.name ?? "";

/** A target in a sentence. */
export function targetSays(p: PlacingProblem, t: Target): string {
  const terms = p.suppliers.find((s) => `${s.id}` === t.order.split("/")[0])!;
  const store = Object.keys(p.stores).length > 1 ? ` for ${p.stores[Number(t.order.split("/")[1])]}` : "";
  const money = (minor: number) => `${moneyText({ minor, currency: terms.currency })} ${terms.currency}`;
  switch (t.kind) {
    case "minimum":
      return `${terms.name}${store} lacks ${money(t.gap)} to their least order.`;
    case "freight":
      return `${terms.name}${store}: ${money(t.gap)} more, and freight is free.`;
    case "break":
      return `${t.name} at ${terms.name}${store}: ${quantityText(t.gap)} more reach the price from ${quantityText(t.from)} ${t.unit}.`;
  }
}
