import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { addDays, type Day, toDay, weekday } from "../calendar/day";
import type { Delivery } from "../calendar/delivery";
import { factorOf, type PurchaseQty, purchase, stock } from "../numbers/quantity";
import { comesOut } from "../sums/sum";
import { expect as expecting, type Stir } from "./projection";
import { type Packing, reckon, reorder } from "./reorder";
import { RUNS, type Run, reorderingFor, type Settings } from "./run";

/**
 * A second planner, slow and obvious: it walks every day with its own arithmetic and knows nothing of the fast one. Both
 * must say the same of thousands of random companies.
 */
const TODAY = toDay("2026-11-24");

interface Company {
  onHand: number;
  stirs: { on: number; quantity: number }[];
  settings: Settings;
  run: Run;
  packing: Packing;
  way: Delivery;
  today: Day;
  countOnOrder: boolean;
}

function isOpen(d: Day, week: number, closed: ReadonlySet<Day> | undefined) {
  return (week & (1 << (weekday(d) - 1))) > 0 && !closed?.has(d);
}
function comes(sent: Day, { leadDays, leadKind, delivers, receives, closedThere, closedHere, earliest }: Delivery) {
  let d = earliest && sent < earliest ? earliest : sent;
  let passed = 0;
  while (passed < leadDays) {
    d = addDays(d, 1);
    if (leadKind === "calendar" || isOpen(d, 0b11111, closedThere)) passed++;
  }
  const lead = d;
  for (let waited = 0; waited <= 370; waited++) {
    if (isOpen(d, delivers, closedThere) && isOpen(d, receives, closedHere)) return { lead, lands: d };
    d = addDays(d, 1);
  }
  return { lead, lands: null };
}

function slow(c: Company) {
  const { settings, packing, way, today } = c;
  const { lands } = comes(today, way);
  const next = comes(addDays(today, settings.reviewDays), way);
  let spanEnd = next.lands ?? next.lead;
  // Whatever only today's order still reaches must be seen today.
  if (lands !== null) while (comes(addDays(today, 1), way).lands! > addDays(spanEnd, 1)) spanEnd = addDays(spanEnd, 1);
  const helps = lands ?? today;
  const end = [spanEnd, helps].sort()[1]!;
  const kind =
    c.run === "jobs"
      ? "to order"
      : c.run === "point"
        ? "shortfall"
        : c.run === "lots" && settings.lot
          ? "fixed lot"
          : c.run === "level" && settings.level
            ? "top up"
            : settings.policy;
  const point = kind === "to order" ? 0 : settings.reorderPoint;
  let level = c.onHand;
  let needed: Day | null = null;
  let lowest: number | null = null;
  let runsOut: Day | null = null;
  for (let d = today; d <= end; d = addDays(d, 1)) {
    for (const s of c.stirs) {
      const on = addDays(TODAY, s.on);
      const moves = on === d || (d === today && on < today);
      if (moves && (s.quantity < 0 || c.countOnOrder)) level += s.quantity;
    }
    if (needed === null && d <= spanEnd && level < point) needed = d;
    if (runsOut === null && level < 0) runsOut = d;
    if (d >= helps && (lowest === null || level < lowest)) lowest = level;
  }
  if (needed === null || lowest === null || lowest >= point) return null;
  let wanted = 0;
  if (kind === "top up") wanted = settings.level - lowest;
  if (kind === "shortfall") wanted = point - lowest;
  if (kind === "to order") wanted = -lowest;
  if (kind === "larger of") wanted = Math.max(settings.lot, point - lowest);
  if (kind === "fixed lot")
    do wanted += settings.lot;
    while (lowest + wanted < point);
  if (kind === "days of cover")
    wanted = Number((BigInt(settings.coverDays) * BigInt(settings.used30) + 29n) / 30n) - lowest;
  if (wanted <= 0) return null;
  let buy = 0n;
  const enough = () => buy * BigInt(packing.factor) >= BigInt(wanted) * 10_000n;
  const step = packing.brokenPacks ? 1n : 10_000n;
  buy = (BigInt(wanted) * 10_000n) / BigInt(packing.factor);
  buy -= buy % step;
  while (!enough()) buy += step;
  if (buy < BigInt(packing.minimum)) buy = BigInt(packing.minimum);
  if (packing.multiple > 0) while (buy % BigInt(packing.multiple) !== 0n) buy += 1n;
  let by: Day | null = null;
  if (lands !== null) {
    const { earliest: _today, ...anyDay } = way;
    for (by = needed; (comes(by, anyDay).lands ?? "9") > needed; ) by = addDays(by, -1);
  }
  const days = (from: Day, to: Day) => {
    let n = 0;
    for (let d = from; d < to; d = addDays(d, 1)) n++;
    return n;
  };
  return {
    neededOn: needed,
    lowest,
    wanted,
    buy: Number(buy),
    orderBy: by,
    arrives: lands,
    lateBy: lands ? days(needed, lands) : 0,
    runsOut,
    missesBy: lands && runsOut ? days(runsOut, lands) : 0,
  };
}

const units = (most: number) => fc.integer({ min: 0, max: most * 4 }).map((n) => n * 2_500);
const days = fc
  .uniqueArray(fc.integer({ min: -20, max: 120 }), { maxLength: 12 })
  .map((l) => new Set(l.map((n) => addDays(TODAY, n))));
const company: fc.Arbitrary<Company> = fc.record({
  onHand: units(300),
  stirs: fc.array(
    fc.record({
      on: fc.integer({ min: -15, max: 60 }),
      quantity: fc
        .integer({ min: -200, max: 200 })
        .filter((n) => n !== 0)
        .map((n) => n * 5_000),
    }),
    { maxLength: 10 },
  ),
  settings: fc.record({
    policy: fc.constantFrom("top up", "fixed lot", "larger of", "shortfall", "days of cover", "to order"),
    reorderPoint: units(200).map(stock),
    lot: fc.integer({ min: 1, max: 300 }).map((n) => stock(n * 10_000)),
    level: units(500).map(stock),
    coverDays: fc.integer({ min: 1, max: 90 }),
    used30: fc.integer({ min: 0, max: 2_400_000 }).map(stock),
    maximum: fc.constant(null),
    reviewDays: fc.integer({ min: 0, max: 14 }),
  }),
  run: fc.constantFrom(...RUNS),
  packing: fc.record({
    unit: fc.constant("box"),
    factor: fc.constantFrom(10_000, 2_000_000, 33_333, 120_000, 5_000).map(factorOf),
    minimum: fc.constantFrom(0, 10_000, 50_000).map(purchase),
    multiple: fc.constantFrom(0, 10_000, 20_000, 60_000).map(purchase),
    brokenPacks: fc.boolean(),
  }),
  way: fc.record({
    leadDays: fc.integer({ min: 0, max: 25 }),
    leadKind: fc.constantFrom("calendar" as const, "working" as const),
    delivers: fc.integer({ min: 1, max: 127 }),
    receives: fc.constantFrom(127, 31, 9),
    closedThere: days,
    closedHere: days,
    earliest: fc.constantFrom(undefined, addDays(TODAY, 1)),
  }),
  today: fc.constantFrom(TODAY, addDays(TODAY, 9), addDays(TODAY, 37)),
  countOnOrder: fc.boolean(),
});

const fast = (c: Company, plan: typeof reckon = reckon) => {
  const stirs: Stir[] = c.stirs.map((s) => ({
    day: addDays(TODAY, s.on),
    quantity: stock(s.quantity),
    kind: s.quantity < 0 ? "demand" : "order",
    label: "paper",
    doubtful: false,
  }));
  const position = { onHand: stock(c.onHand), stirs: expecting(stirs, c.today), stockUnit: "L", store: "here" };
  return plan(position, reorderingFor(c.run, c.settings), c.packing, c.way, c.today, c.countOnOrder);
};

describe("the fast planner", () => {
  it("says what a slow and obvious one says, for thousands of companies", () => {
    let needs = 0;
    fc.assert(
      fc.property(company, (c) => {
        const found = fast(c);
        const { lowestOn: _on, aboveMaximum: _most, ...figures } = found ?? { lowestOn: "", aboveMaximum: false };
        const reference = slow(c);
        if (reference) needs++;
        expect(found ? figures : null).toEqual(reference);
      }),
      { numRuns: 4_000 },
    );
    expect(needs).toBeGreaterThan(1_000); // the random companies do need things
  });

  it("always lifts the projection to what the policy aims at, in a quantity that can be bought", () => {
    fc.assert(
      fc.property(company, (c) => {
        const found = fast(c, reorder) as ReturnType<typeof reorder>;
        if (!found) return;
        const { policy, reorderPoint } = reorderingFor(c.run, c.settings);
        const target =
          policy.kind === "top up"
            ? policy.level
            : policy.kind === "to order"
              ? 0
              : policy.kind === "days of cover"
                ? Math.ceil((policy.days * policy.used30) / 30)
                : reorderPoint;
        const bought = Number((BigInt(found.buy) * BigInt(c.packing.factor)) / 10_000n);
        expect(found.lowest + bought).toBeGreaterThanOrEqual(target);
        expect(found.lowest).toBeLessThan(policy.kind === "to order" ? 0 : reorderPoint);
        legal(found.buy, c.packing);
        expect(comesOut(found.sum)).toBe(true);
      }),
      { numRuns: 2_000 },
    );
  });

  it("never buys what stays at or above its point", () => {
    fc.assert(
      fc.property(company, (c) => {
        const most = c.stirs.reduce((a, s) => a + Math.abs(s.quantity), 0);
        expect(fast({ ...c, onHand: most + Math.max(c.settings.reorderPoint, 0) })).toBeNull();
      }),
    );
  });
});

function legal(buy: PurchaseQty, { minimum, multiple, brokenPacks }: Packing) {
  expect(buy).toBeGreaterThanOrEqual(minimum);
  expect(multiple > 0 ? buy % multiple : 0).toBe(0);
  if (!brokenPacks && multiple === 0) expect(buy % 10_000).toBe(0);
}
