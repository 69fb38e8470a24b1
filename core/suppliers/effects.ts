import { type Day, daysBetween, laterOf } from "../calendar/day";
import { type Level, project, type Stir } from "../needs/projection";
import { showDay } from "../numbers/format";
import { quantityText, type StockQty, stock } from "../numbers/quantity";
import { amount, type Figure, quantity, type Step, type Sum, words } from "../sums/sum";

/** An item at a store whose stock an order moves. */
export interface PairStanding {
  key: string;
  item: string;
  store: string;
  unit: string;
  onHand: StockQty;
  /** As `expect` returns them. */
  stirs: readonly Stir[];
  reorderPoint: StockQty;
  /** The company's setting: whether what is on order counts. */
  countOnOrder: boolean;
}

/** A job line, a customer order line or a requisition line that an order's goods may serve. Stock units. */
export interface ClaimStanding {
  key: string;
  /** "job 2291, Marram". */
  label: string;
  href: string;
  item: string;
  /** Whose stock serves it; null where only what was ordered for it does. */
  pair: string | null;
  unit: string;
  due: Day;
  wants: StockQty;
  /** So much of it is not there on its day; */
  waits: StockQty;
  /** the last of that comes then; null where some of it comes from nowhere. */
  until: Day | null;
}

/** What an order comes to. Minor units; `home` figures in home currency. */
export interface CostStanding {
  currency: string;
  lines: readonly { label: string; net: number }[];
  discount: number;
  freight: number;
  freightFreeFrom: number | null;
  home: string;
  homeTotal: number;
  minimum: number;
  /** Lines whose price holds from a quantity on: how much of the item the order has, and from how much it holds. */
  breaks: readonly { key: string; label: string; quantity: number; from: number; unit: string }[];
  /** What stands in stock, or will, of its goods at what they cost at home. */
  stockValue: number;
}

export interface SignOffStanding {
  /** It has to be signed again. */
  again: boolean;
  says: string;
  growth: number;
  sum: Sum | null;
  /** Who would have to sign. */
  who: readonly string[];
}

/** How things stand around an order: read as it is, and read again with an answer taken. */
export interface Surroundings {
  today: Day;
  pairs: readonly PairStanding[];
  claims: readonly ClaimStanding[];
  cost: CostStanding;
  budgets: readonly { key: string; name: string; left: number; sum: Sum }[];
  signOff: SignOffStanding;
  blankets: readonly { key: string; name: string; left: Figure; over: boolean; sum: Sum }[];
}

/** Who waits: for how much, until when, how many days beyond the day; null where some comes from nowhere. */
export interface Wait {
  quantity: StockQty;
  until: Day | null;
  days: number | null;
}

/** When stock falls below the reorder point and below nothing for the first time; null where it does not. */
export interface Lows {
  belowPoint: Day | null;
  belowZero: Day | null;
  lowest: StockQty;
}

interface Worked {
  /** Worse than before: it is said in the signal colour. */
  worse: boolean;
  /** The sum before, and the sum after. */
  sums: readonly [Sum, Sum];
}
/** Something that taking an answer does, as it is before and after. */
export type Effect =
  | (Worked & { kind: "waits"; claim: ClaimStanding; before: Wait; after: Wait })
  | (Worked & { kind: "stock"; pair: PairStanding; before: Lows; after: Lows })
  | (Worked & { kind: FigureKind; what: string; before: Figure; after: Figure });
export type FigureKind =
  | "cost"
  | "home"
  | "freight"
  | "minimum"
  | "break"
  | "stock value"
  | "budget"
  | "sign-off"
  | "blanket";

const waitOf = (c: ClaimStanding): Wait => ({
  quantity: c.waits,
  until: c.until,
  days: c.waits === 0 ? 0 : c.until === null ? null : daysBetween(c.due, c.until),
});

const levelsOf = (p: PairStanding, today: Day): Level[] =>
  project(p.onHand, p.stirs, today, p.stirs.at(-1)?.day ?? today, p.countOnOrder);

/** The first days on which stock is low, and how low it gets. */
export function lowsOf(p: PairStanding, today: Day): Lows {
  const levels = levelsOf(p, today);
  return {
    belowPoint: levels.find((l) => l.available < p.reorderPoint)?.day ?? null,
    belowZero: levels.find((l) => l.available < 0)?.day ?? null,
    lowest: stock(Math.min(...levels.map((l) => l.available))),
  };
}

/** Stock at the end of a day, worked out from what is on hand. */
export function stockOn(p: PairStanding, day: Day, today: Day): Sum {
  const steps: Step[] = [{ op: "", label: `on hand, ${p.store}`, figure: quantity(p.onHand, p.unit) }];
  let available: number = p.onHand;
  for (const s of p.stirs) {
    if (s.day > day) break;
    available += s.quantity;
    const step: Step = {
      op: s.quantity < 0 ? "−" : "+",
      label: `${s.label}, ${showDay(s.day, today)}`,
      figure: quantity(Math.abs(s.quantity), p.unit),
    };
    steps.push(s.href ? { ...step, href: s.href } : step);
  }
  steps.push({ op: "=", label: available < 0 ? "short" : "left", figure: quantity(available, p.unit) });
  return { title: `${p.item} on ${showDay(day, today)}`, steps };
}

const sameWait = (a: Wait, b: Wait) => a.quantity === b.quantity && a.until === b.until;
const sameLows = (a: Lows, b: Lows) =>
  a.belowPoint === b.belowPoint && a.belowZero === b.belowZero && a.lowest === b.lowest;

/** Pairs up what has one key before and after. */
function* both<T extends { key: string }>(before: readonly T[], after: readonly T[]): Generator<[T, T]> {
  const by = new Map(before.map((b) => [b.key, b]));
  for (const a of after) {
    const b = by.get(a.key);
    if (b) yield [b, a];
  }
}

/** Everything that differs, who waits first, then the stock, then the money. */
export function effectsOf(before: Surroundings, after: Surroundings): Effect[] {
  return [
    ...waitEffects(before, after),
    ...stockEffects(before, after),
    ...costEffects(before.cost, after.cost),
    ...budgetEffects(before, after),
    ...signOffEffect(before.signOff, after.signOff, after.cost.home),
    ...blanketEffects(before, after),
  ];
}

function waitEffects(before: Surroundings, after: Surroundings): Effect[] {
  const found: (Effect & { kind: "waits" })[] = [];
  for (const [b, a] of both(before.claims, after.claims)) {
    const [was, is] = [waitOf(b), waitOf(a)];
    if (sameWait(was, is)) continue;
    const longer = is.days === null ? was.days !== null : was.days !== null && is.days > was.days;
    found.push({
      kind: "waits",
      claim: a,
      before: was,
      after: is,
      worse: is.quantity > was.quantity || longer,
      sums: [claimSum(before, b), claimSum(after, a)],
    });
  }
  return found.sort((x, y) => Number(y.worse) - Number(x.worse) || (x.claim.due < y.claim.due ? -1 : 1));
}

/** What there is on the day of a claim, and what of it waits. */
function claimSum(standing: Surroundings, c: ClaimStanding): Sum {
  const pair = standing.pairs.find((p) => p.key === c.pair);
  const waits: Step = { op: "·", label: `${c.label} waits for`, figure: quantity(c.waits, c.unit) };
  if (pair) {
    const sum = stockOn(pair, laterOf(c.due, standing.today), standing.today);
    return { ...sum, steps: [...sum.steps, waits] };
  }
  return {
    title: `${c.item} for ${c.label}`,
    steps: [
      { op: "", label: "wanted", figure: quantity(c.wants, c.unit) },
      {
        op: "−",
        label: `here or coming by ${showDay(c.due, standing.today)}`,
        figure: quantity(c.wants - c.waits, c.unit),
      },
      { op: "=", label: "waits", figure: quantity(c.waits, c.unit) },
    ],
  };
}

function stockEffects(before: Surroundings, after: Surroundings): Effect[] {
  const found: Effect[] = [];
  for (const [b, a] of both(before.pairs, after.pairs)) {
    const [was, is] = [lowsOf(b, before.today), lowsOf(a, after.today)];
    if (sameLows(was, is)) continue;
    const sooner = (x: Day | null, y: Day | null) => y !== null && (x === null || y < x);
    const lowDay = is.belowZero ?? is.belowPoint ?? lowestDay(a, after.today);
    found.push({
      kind: "stock",
      pair: a,
      before: was,
      after: is,
      worse: sooner(was.belowZero, is.belowZero) || sooner(was.belowPoint, is.belowPoint),
      sums: [stockOn(b, lowDay, before.today), stockOn(a, lowDay, after.today)],
    });
  }
  return found;
}

const lowestDay = (p: PairStanding, today: Day): Day =>
  levelsOf(p, today).reduce((low, l) => (l.available < low.available ? l : low)).day;

const total = (c: CostStanding) => goodsOf(c) + c.freight;
const goodsOf = (c: CostStanding) => c.lines.reduce((a, l) => a + l.net, 0) - c.discount;

const costSum = (c: CostStanding): Sum => ({
  title: "What the order costs",
  steps: [
    ...c.lines.map((l, i): Step => ({ op: i ? "+" : "", label: l.label, figure: amount(l.net, c.currency) })),
    ...(c.discount ? [{ op: "−", label: "discount", figure: amount(c.discount, c.currency) } satisfies Step] : []),
    ...(c.freight ? [{ op: "+", label: "freight", figure: amount(c.freight, c.currency) } satisfies Step] : []),
    { op: "=", label: "order, net of tax", figure: amount(total(c), c.currency) },
  ],
});

const freightSum = (c: CostStanding): Sum => ({
  title: "Freight",
  steps: [
    { op: "·", label: "goods", figure: amount(goodsOf(c), c.currency) },
    ...(c.freightFreeFrom === null
      ? []
      : [{ op: "·", label: "free from", figure: amount(c.freightFreeFrom, c.currency) } satisfies Step]),
    { op: "", label: "freight", figure: amount(c.freight, c.currency) },
  ],
});

const only = (title: string, ...steps: Step[]): Sum => ({ title, steps });

function costEffects(b: CostStanding, a: CostStanding): Effect[] {
  const found: Effect[] = [];
  const money = (c: CostStanding, minor: number) => amount(minor, c.currency);
  if (total(b) !== total(a))
    found.push({
      kind: "cost",
      what: "The order costs",
      before: money(b, total(b)),
      after: money(a, total(a)),
      worse: total(a) > total(b),
      sums: [costSum(b), costSum(a)],
    });
  if (b.homeTotal !== a.homeTotal && a.home !== a.currency)
    found.push({
      kind: "home",
      what: "At home",
      before: amount(b.homeTotal, b.home),
      after: amount(a.homeTotal, a.home),
      worse: a.homeTotal > b.homeTotal,
      sums: [homeSum(b), homeSum(a)],
    });
  if (b.freight !== a.freight)
    found.push({
      kind: "freight",
      what: a.freight > b.freight ? "Freight is no longer free" : "Freight",
      before: money(b, b.freight),
      after: money(a, a.freight),
      worse: a.freight > b.freight,
      sums: [freightSum(b), freightSum(a)],
    });
  if (goodsOf(b) >= b.minimum !== goodsOf(a) >= a.minimum)
    found.push({
      kind: "minimum",
      what: goodsOf(a) < a.minimum ? "Below their minimum" : "At or above their minimum again",
      before: money(b, goodsOf(b)),
      after: money(a, goodsOf(a)),
      worse: goodsOf(a) < a.minimum,
      sums: [minimumSum(b), minimumSum(a)],
    });
  for (const [x, y] of both(b.breaks, a.breaks)) {
    if (x.quantity >= x.from === y.quantity >= y.from) continue;
    found.push({
      kind: "break",
      what: `${y.label}: its price holds from ${quantityText(y.from)} ${y.unit} on`,
      before: quantity(x.quantity, x.unit),
      after: quantity(y.quantity, y.unit),
      worse: y.quantity < y.from,
      sums: [breakSum(x), breakSum(y)],
    });
  }
  if (b.stockValue !== a.stockValue)
    found.push({
      kind: "stock value",
      what: "Its goods add to stock",
      before: amount(b.stockValue, b.home),
      after: amount(a.stockValue, a.home),
      worse: false,
      sums: [valueSum(b), valueSum(a)],
    });
  return found;
}

const homeSum = (c: CostStanding): Sum =>
  only(
    "At home",
    { op: "", label: "order, net of tax", figure: amount(total(c), c.currency) },
    { op: "→", label: "each line at the rate of the day it was placed", figure: amount(c.homeTotal, c.home) },
  );
const minimumSum = (c: CostStanding): Sum =>
  only(
    "Their minimum",
    { op: "", label: "goods", figure: amount(goodsOf(c), c.currency) },
    { op: "−", label: "minimum", figure: amount(c.minimum, c.currency) },
    { op: "=", label: goodsOf(c) < c.minimum ? "lacks" : "above", figure: amount(goodsOf(c) - c.minimum, c.currency) },
  );
const breakSum = (x: CostStanding["breaks"][number]): Sum =>
  only(
    x.label,
    { op: "", label: "on the order", figure: quantity(x.quantity, x.unit) },
    { op: "·", label: "the price holds from", figure: quantity(x.from, x.unit) },
  );
const valueSum = (c: CostStanding): Sum =>
  only("Worth in stock", {
    op: "",
    label: "stocked lines, less discount, at home",
    figure: amount(c.stockValue, c.home),
  });

function budgetEffects(before: Surroundings, after: Surroundings): Effect[] {
  return [...both(before.budgets, after.budgets)].flatMap(([b, a]): Effect[] =>
    b.left === a.left
      ? []
      : [
          {
            kind: "budget",
            what: `Left of ${a.name}`,
            before: amount(b.left, before.cost.home),
            after: amount(a.left, after.cost.home),
            worse: a.left < 0 && a.left < b.left,
            sums: [b.sum, a.sum],
          },
        ],
  );
}

function signOffEffect(b: SignOffStanding, a: SignOffStanding, home: string): Effect[] {
  if (b.again === a.again && b.growth === a.growth) return [];
  const none = only("Nobody signed it", { op: "", label: "growth", figure: amount(0, home) });
  return [
    {
      kind: "sign-off",
      what: a.again
        ? `To be signed again${a.who.length ? ` by ${a.who.join(", ")}` : ""}: ${a.says || "it grew by more than is allowed."}`
        : "No new sign-off",
      before: b.again ? words("to be signed") : amount(b.growth, home),
      after: a.again ? words("to be signed") : amount(a.growth, home),
      worse: a.again && !b.again,
      sums: [b.sum ?? none, a.sum ?? none],
    },
  ];
}

function blanketEffects(before: Surroundings, after: Surroundings): Effect[] {
  return [...both(before.blankets, after.blankets)].flatMap(([b, a]): Effect[] =>
    JSON.stringify(b.left) === JSON.stringify(a.left)
      ? []
      : [
          {
            kind: "blanket",
            what: `Left of ${a.name}`,
            before: b.left,
            after: a.left,
            worse: a.over && !b.over,
            sums: [b.sum, a.sum],
          },
        ],
  );
}
