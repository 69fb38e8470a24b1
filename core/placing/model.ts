import type { PurchaseQty } from "../numbers/quantity";
import { aheadOf, holdingAhead } from "./ahead";
import {
  costAt,
  covers,
  isUsable,
  levelAt,
  mostAhead,
  type Offer,
  orderKey,
  type PlacedRow,
  type Placing,
  type PlacingProblem,
  quantitiesOf,
  type RowPart,
  sharingOf,
  type Terms,
  termsOf,
} from "./problem";
import { freightBefore, freightHome, joinedBefore, type ReckonedLine, reckonPlacing } from "./reckon";

/** What a plan can make least. */
export type Measure = "cost" | "late" | "days late" | "orders" | "minimums broken" | "left out";

/** A yes-or-no variable: 1 where it is chosen. */
export interface ModelColumn {
  name: string;
  /** What choosing it adds to each measure: minor units of home currency, lines, days, orders. */
  adds: Partial<Record<Measure, number>>;
  /** For a quantity of a row at an offer. */
  part: { row: PlacedRow; part: RowPart } | null;
}

/** least ≤ Σ column × times ≤ most. */
export interface Rule {
  name: string;
  least: number;
  most: number;
  entries: [column: number, times: number][];
}

/** A 0-1 program in whole numbers; docs/placing.md tells what its columns and rules stand for. */
export interface Model {
  columns: ModelColumn[];
  rules: Rule[];
  /** What the cost measure lacks to the cost of the placing: what joined drafts cost before. */
  offset: number;
  /** Rows that no offer can meet: they stand outside the model. */
  left: PlacedRow[];
}

const NO_LEAST = Number.NEGATIVE_INFINITY;
const NO_MOST = Number.POSITIVE_INFINITY;

/** One row at one offer, with the quantities that may be chosen there. */
interface Choice {
  row: PlacedRow;
  offer: Offer;
  buys: PurchaseQty[];
  /** Stands on a draft already. */
  already: boolean;
}

/** A choice's column, with what it covers and what is charged for it in the supplier's currency. */
interface Chosen {
  column: number;
  row: PlacedRow;
  offer: Offer;
  buy: PurchaseQty;
  net: number;
  already: boolean;
}

/** What may be given up where no plan keeps every rule, at the price of counting it. */
export interface Yielding {
  /** Suppliers' minimums may be broken. */
  breaking?: boolean;
  /** Needs may be left out. */
  leaving?: boolean;
}

interface Draft extends Yielding {
  problem: PlacingProblem;
  terms: ReadonlyMap<number, Terms>;
  columns: ModelColumn[];
  rules: Rule[];
  chosen: Chosen[];
}

/**
 * The problem as a 0-1 program whose best solution is the plan. With `breaking`, minimums may be broken and are counted:
 * so one finds out which of them stand in the way. With `leaving`, needs may be left out and are counted: so the others
 * are planned where some cannot be placed.
 */
export function modelOf(problem: PlacingProblem, yielding: Yielding = {}): Model {
  const d: Draft = { ...yielding, problem, terms: termsOf(problem), columns: [], rules: [], chosen: [] };
  for (const ofItem of grouped(choicesOf(d), (c) => `${c.row.item}|${c.offer.supplier}`).values()) {
    const byStore = [...grouped(ofItem, (c) => c.row.store)].sort(([a], [b]) => a - b).map(([, choices]) => choices);
    const draws = ofItem.some((c) => c.offer.levels.some((l) => l.blanket));
    if (draws && ofItem.length > 1) drawTogether(d, byStore);
    else
      for (const choices of byStore) {
        if (choices.length > 1 && choices[0]!.offer.levels.length > 1) chooseTogether(d, choices);
        else chooseAlone(d, choices);
      }
  }
  const byRow = grouped(d.chosen, (c) => c.row);
  const left: PlacedRow[] = [];
  for (const row of problem.rows) {
    const mine = byRow.get(row);
    if (mine) meet(d, row, mine);
    else left.push(row);
  }
  for (const row of problem.joined.flatMap((j) => j.rows)) {
    const mine = byRow.get(row);
    if (mine) rule(d, `stays_${word(row.id)}`, 1, 1, all(mine));
  }
  boundAhead(d);
  let offset = 0;
  for (const [key, mine] of grouped(d.chosen, (c) => orderKey(c.offer.supplier, c.row.store)))
    offset += order(d, key, mine);
  return { columns: d.columns, rules: d.rules, offset, left };
}

const word = (id: string) => id.replaceAll(/[^a-zA-Z0-9]/g, "_");
const all = (chosen: readonly Chosen[]): [number, number][] => chosen.map((c) => [c.column, 1]);

function grouped<T, K>(list: readonly T[], by: (t: T) => K): Map<K, T[]> {
  const groups = new Map<K, T[]>();
  for (const t of list) {
    const group = groups.get(by(t));
    if (group) group.push(t);
    else groups.set(by(t), [t]);
  }
  return groups;
}

function column(d: Draft, name: string, adds: ModelColumn["adds"], part: ModelColumn["part"] = null): number {
  return d.columns.push({ name, adds, part }) - 1;
}
function rule(d: Draft, name: string, least: number, most: number, entries: Rule["entries"]): void {
  d.rules.push({ name, least, most, entries: entries.filter(([, times]) => times !== 0) });
}

function choicesOf({ problem, terms }: Draft): Choice[] {
  const choices: Choice[] = [];
  const shares = sharingOf(problem);
  for (const j of problem.joined) {
    if (terms.get(j.supplier)?.rate === null) continue;
    for (const row of j.rows) choices.push({ row, offer: row.offers[0]!, buys: [row.locked![0]!.buy], already: true });
  }
  for (const row of problem.rows) {
    for (const offer of row.offers) {
      if (!isUsable(offer, terms)) continue;
      const locked = row.locked?.find((l) => l.supplier === offer.supplier);
      if (row.locked && !locked) continue;
      const shared = shares(row, offer.supplier);
      const buys = locked ? [locked.buy] : quantitiesOf(row, offer, terms.get(offer.supplier)!, problem, shared);
      choices.push({ row, offer, buys, already: false });
    }
  }
  return choices;
}

function choose(d: Draft, { row, offer, already }: Choice, buy: PurchaseQty, level: number, name: string): number {
  const cost = costAt(offer, d.terms.get(offer.supplier)!, d.problem.home, buy, level);
  const holding = row.locked ? 0 : holdingAhead(row, offer, buy, cost.home!, d.problem.ahead);
  const adds = already
    ? { cost: cost.home! }
    : { cost: cost.home! + holding, late: offer.lateBy > 0 ? 1 : 0, "days late": offer.lateBy };
  const part = already ? null : { row, part: { supplier: offer.supplier, buy } };
  const at = column(d, name, adds, part);
  d.chosen.push({ column: at, row, offer, buy, net: cost.net, already });
  return at;
}
const buyName = (c: Choice, buy: number) => `${c.already ? "on" : "buy"}_${word(c.row.id)}_${c.offer.supplier}_${buy}`;

/** The only row of its item there, or no breaks: its own quantity says what it costs. */
function chooseAlone(d: Draft, choices: readonly Choice[]): void {
  for (const c of choices) {
    for (const buy of c.buys) {
      const level = levelAt(c.offer, buy);
      if (level !== null) choose(d, c, buy, level, buyName(c, buy));
    }
  }
}

const groupName = (row: PlacedRow, offer: Offer) => `${word(row.item)}_${offer.supplier}_${row.store}`;
const gcd = (a: number, b: number): number => (b === 0 ? a : gcd(b, a % b));

/** The columns of one order's lines of an item at one level, with how much each buys in whole steps. */
interface AtLevel {
  level: number;
  reached: number;
  counted: [column: number, times: number][];
  /** The same without lines that stand on a draft at a price of their own. */
  called: [column: number, times: number][];
}

/** The greatest step that divides all quantities: so everything counts in whole numbers. */
const stepOf = (choices: readonly Choice[]) => choices.flatMap((c) => c.buys).reduce(gcd, 0);

/** Several rows of an item on one order: which break they reach together is a choice of its own. */
function chooseTogether(d: Draft, choices: readonly Choice[], step = stepOf(choices)): AtLevel[] {
  const { levels } = choices[0]!.offer;
  const name = groupName(choices[0]!.row, choices[0]!.offer);
  const reached = levels.map((_, i) => column(d, `reach_${name}_${i}`, {}));
  rule(
    d,
    `one_break_${name}`,
    0,
    1,
    reached.map((c) => [c, 1]),
  );
  const plain = levels.filter((l) => !l.blanket);
  return levels.map((level, i): AtLevel => {
    const counted: [number, number][] = [];
    const called: [number, number][] = [];
    for (const c of choices) {
      const mine = c.buys.map((buy) => {
        const at = choose(d, c, buy, i, `${buyName(c, buy)}_at${i}`);
        counted.push([at, buy / step]);
        if (!c.offer.fixed) called.push([at, buy / step]);
        return at;
      });
      rule(d, `if_reached_${name}_${i}_${word(c.row.id)}`, NO_LEAST, 0, [
        ...mine.map((m): [number, number] => [m, 1]),
        [reached[i]!, -1],
      ]);
    }
    rule(d, `from_${name}_${i}`, 0, NO_MOST, [...counted, [reached[i]!, -Math.ceil(level.from / step)]]);
    const next = level.blanket ? undefined : plain[i + 1];
    if (next)
      rule(d, `below_${name}_${i + 1}`, NO_LEAST, 0, [...counted, [reached[i]!, 1 - Math.ceil(next.from / step)]]);
    return { level: i, reached: reached[i]!, counted, called };
  });
}

/**
 * An item that a supplier sells from a blanket order, on one order or several: all together draw no more than is left,
 * and, as prices are looked up, an order goes by another price only where too little is left for all it buys, after what
 * the stores before it draw, or where it buys less than may be called off at once.
 */
function drawTogether(d: Draft, byStore: readonly (readonly Choice[])[]): void {
  const all = byStore.flat();
  const step = stepOf(all);
  const { offer } = all.find((c) => c.offer.levels.some((l) => l.blanket))!;
  const orders = byStore.map((choices) => ({
    name: groupName(choices[0]!.row, choices[0]!.offer),
    levels: chooseTogether(d, choices, step),
  }));
  offer.levels.forEach((level, k) => {
    if (!level.blanket) return;
    const { line, left } = level.blanket;
    const drawn: [number, number][] = [];
    for (const { name, levels } of orders) {
      const mine = levels.find((l) => l.level === k)!;
      const others = levels.filter((l) => l.level !== k && (!offer.levels[l.level]!.blanket || l.level > k));
      const bought = levels.flatMap((l) => l.counted);
      const most = bought.reduce((a, [, times]) => a + times, 0);
      const few = column(d, `few_${name}_${k}`, {});
      // So little that it cannot be called off.
      rule(d, `less_${name}_${k}`, NO_LEAST, most, [...bought, [few, most - (Math.ceil(level.from / step) - 1)]]);
      const skip: [number, number][] = [[few, -1]];
      if (left !== null) {
        const much = column(d, `much_${name}_${k}`, {});
        skip.push([much, -1]);
        rule(d, `more_${name}_${k}`, 0, NO_MOST, [...bought, ...drawn, [much, -(Math.floor(left / step) + 1)]]);
      }
      if (left !== null)
        rule(d, `left_${line}_${name}`, NO_LEAST, Math.floor(left / step), [...mine.counted, ...drawn]);
      rule(d, `draws_${name}_${k}`, NO_LEAST, 0, [...others.map((l): [number, number] => [l.reached, 1]), ...skip]);
      drawn.push(...mine.called);
    }
  });
}

/** Rows of one item at a store share the days of use that may be bought ahead. */
function boundAhead(d: Draft): void {
  for (const chosen of grouped(
    d.chosen.filter((c) => !c.already && !c.row.locked),
    (c) => `${word(c.row.item)}_${c.row.store}`,
  ).values()) {
    const { row } = chosen[0]!;
    const most = mostAhead(row, d.problem.ahead);
    if (most === null || new Set(chosen.map((c) => c.row)).size < 2) continue;
    const more = chosen
      .map((c): [number, number] => [c.column, aheadOf(c.row, c.offer, c.buy)])
      .filter(([, times]) => times > 0);
    const step = more.reduce((a, [, times]) => gcd(a, times), 0);
    if (more.length)
      rule(
        d,
        `ahead_${word(row.item)}_${row.store}`,
        NO_LEAST,
        Math.floor(most / step),
        more.map(([at, times]) => [at, times / step]),
      );
  }
}

/** A row is met: by one choice, by what is locked, or by parts that cover it together. */
function meet(d: Draft, row: PlacedRow, mine: readonly Chosen[]): void {
  const name = word(row.id);
  const left = d.leaving ? column(d, `leave_${name}`, { "left out": 1 }) : null;
  const orLeft = (times: number): [number, number][] => (left === null ? [] : [[left, times]]);
  if (!row.locked && !row.maySplit) {
    rule(d, `meet_${name}`, 1, 1, [...all(mine), ...orLeft(1)]);
    return;
  }
  for (const [supplier, there] of grouped(mine, (c) => c.offer.supplier))
    rule(d, `${row.locked ? "locked" : "once"}_${name}_${supplier}`, row.locked ? 1 : 0, 1, [
      ...all(there),
      ...orLeft(1),
    ]);
  if (row.locked) return;
  const step = mine.reduce((a, c) => gcd(a, covers(c.offer, c.buy)), 0);
  const wanted = Math.ceil(row.wanted / step);
  // What goes beyond the need is of no more use, and the rule is the tighter for not counting it.
  rule(d, `cover_${name}`, wanted, NO_MOST, [
    ...mine.map((c): [number, number] => [c.column, Math.min(covers(c.offer, c.buy) / step, wanted)]),
    ...orLeft(wanted),
  ]);
}

/** One order: it is written where something goes there, keeps its minimum, and pays freight. Returns its cost offset. */
function order(d: Draft, key: string, mine: readonly Chosen[]): number {
  const { offer, row } = mine[0]!;
  const terms = d.terms.get(offer.supplier)!;
  const name = `${offer.supplier}_${row.store}`;
  const joined = d.problem.joined.find((j) => orderKey(j.supplier, j.store) === key) ?? null;
  const goods = joined?.goods ?? 0;
  const here = mine.filter((c) => !c.already);
  const whole = freightHome(terms, d.problem.home);
  // A joined draft pays its freight already; what joins it can only make it free.
  const written = column(d, `write_${name}`, joined ? {} : { orders: 1, cost: whole });
  for (const [r, there] of grouped(here, (c) => c.row))
    rule(d, `written_${name}_${word(r.id)}`, NO_LEAST, 0, [...all(there), [written, -1]]);
  rule(d, `not_empty_${name}`, 0, NO_MOST, [...all(here), [written, -1]]);
  const charged = mine.map((c): [number, number] => [c.column, c.net]);
  if (terms.minimum > goods) {
    const lacks = terms.minimum - goods;
    const broken = d.breaking ? [column(d, `break_${name}`, { "minimums broken": 1 })] : [];
    rule(d, `minimum_${name}`, 0, NO_MOST, [
      ...charged,
      [written, -lacks],
      ...broken.map((b): [number, number] => [b, lacks]),
    ]);
  }
  if (whole !== 0 && terms.freeFrom !== null) {
    const free = column(d, `free_${name}`, { cost: -whole });
    if (!joined)
      rule(d, `free_if_written_${name}`, NO_LEAST, 0, [
        [free, 1],
        [written, -1],
      ]);
    rule(d, `free_from_${name}`, 0, NO_MOST, [...charged, [free, Math.min(0, goods - terms.freeFrom)]]);
  }
  if (!joined) return 0;
  const freight = terms.freeFrom === null ? 0 : whole - freightBefore(d.problem, joined, terms);
  return freight - joinedBefore(d.problem, joined, terms).home!;
}

/** The placing that a solution stands for: 1 where a column is chosen. */
export function placingOf(model: Model, solution: ArrayLike<number>): Placing {
  const placing: Record<string, RowPart[]> = {};
  model.columns.forEach((c, i) => {
    if (!c.part || solution[i]! < 0.5) return;
    const parts = placing[c.part.row.id];
    if (parts) parts.push(c.part.part);
    else placing[c.part.row.id] = [c.part.part];
  });
  return placing;
}

/** A placing that keeps every rule as values of the columns, for a solver to begin from; null where it does not fit. */
export function columnsOf(model: Model, problem: PlacingProblem, placing: Placing): Float64Array | null {
  const values = new Float64Array(model.columns.length);
  const at = new Map(model.columns.map((c, i) => [c.name, i]));
  const reckoned = reckonPlacing(problem, placing);
  const on = (name: string) => {
    const i = at.get(name);
    if (i !== undefined) values[i] = 1;
    return i !== undefined;
  };
  const put = (lines: readonly ReckonedLine[], already: boolean): boolean =>
    lines.every(({ row, offer, buy, level }) => {
      const name = buyName({ row, offer, buys: [], already }, buy);
      on(`reach_${groupName(row, offer)}_${level}`);
      return on(name) || on(`${name}_at${level}`);
    });
  const terms = termsOf(problem);
  for (const j of problem.joined) {
    if (reckoned.orders.some((o) => o.joined === j)) continue;
    if (!put(joinedBefore(problem, j, terms.get(j.supplier)!).lines, true)) return null;
  }
  for (const o of reckoned.orders) {
    if (!put(o.lines, false) || !put(o.before, true)) return null;
    on(`write_${o.supplier}_${o.store}`);
    if (o.freight === 0) on(`free_${o.supplier}_${o.store}`);
  }
  for (const row of problem.rows) if (!placing[row.id]?.length) on(`leave_${word(row.id)}`);
  const sumOf = (r: Rule | undefined) => r?.entries.reduce((a, [c, times]) => a + values[c]! * times, 0) ?? 0;
  const rules = new Map(model.rules.map((r) => [r.name, r]));
  for (const { name, entries } of model.rules) {
    // An order that goes by another price than the blanket order's: too much for what is left, or too little.
    if (!name.startsWith("draws_") || !entries.some(([c, times]) => times > 0 && values[c] === 1)) continue;
    const of = name.slice("draws_".length);
    const needed = -(rules.get(`more_${of}`)?.entries.find(([c]) => c === at.get(`much_${of}`))?.[1] ?? 0);
    on(needed > 0 && sumOf(rules.get(`more_${of}`)) >= needed ? `much_${of}` : `few_${of}`);
  }
  return values;
}

/** The model as text that other solvers read (CPLEX LP format), for one measure. */
export function lpText(model: Model, measure: Measure): string {
  const term = ([at, times]: [number, number], i: number) => {
    const size = Math.abs(times);
    return `${times < 0 ? "- " : i === 0 ? "" : "+ "}${size === 1 ? "" : `${size} `}${model.columns[at]!.name}`;
  };
  const side = (entries: readonly [number, number][]) => {
    const terms = entries.map(term);
    const lines: string[] = [];
    for (let i = 0; i < terms.length; i += 8) lines.push(terms.slice(i, i + 8).join(" "));
    return lines.join("\n   ") || `0 ${model.columns[0]?.name ?? "nothing"}`;
  };
  const goal = model.columns.map((c, i): [number, number] => [i, c.adds[measure] ?? 0]).filter(([, n]) => n !== 0);
  const limits = (r: Rule): string[] => {
    const left = side(r.entries);
    if (r.least === r.most) return [` ${r.name}: ${left} = ${r.least}`];
    return [
      ...(r.least === NO_LEAST ? [] : [` ${r.name}${r.most === NO_MOST ? "" : "_least"}: ${left} >= ${r.least}`]),
      ...(r.most === NO_MOST ? [] : [` ${r.name}${r.least === NO_LEAST ? "" : "_most"}: ${left} <= ${r.most}`]),
    ];
  };
  return [
    `\\ Wharf Tally: least ${measure}${measure === "cost" ? `, in minor units of home currency; ${model.offset} to be added` : ""}`,
    "Minimize",
    ` ${measure.replace(" ", "_")}: ${side(goal)}`,
    "Subject To",
    ...model.rules.flatMap(limits),
    "Binaries",
    ...model.columns.map((c) => ` ${c.name}`),
    "End",
    "",
  ].join("\n");
}
