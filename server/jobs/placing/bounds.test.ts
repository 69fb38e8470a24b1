import { describe, expect, it } from "vitest";
import { type BasisPoints, unitPrice } from "../../../core/numbers/money";
import { factorOf, ONE, purchase, stock } from "../../../core/numbers/quantity";
import {
  type Offer,
  type PlacedRow,
  type PlacingProblem,
  type PriceLevel,
  preferredPlacing,
  type Terms,
} from "../../../core/placing/problem";
import { reckonPlacing } from "../../../core/placing/reckon";
import { solve } from "./solve";

const level = (from: number, price: number, more: Partial<PriceLevel> = {}): PriceLevel => ({
  from: purchase(from * ONE),
  price: unitPrice(Math.round(price * 1_000_000)),
  source: { kind: "price list", from: purchase(from * ONE) },
  warning: false,
  ...more,
});
const offer = (supplier: number, levels: PriceLevel[]): Offer => ({
  supplier,
  packing: { unit: "each", factor: factorOf(ONE), minimum: purchase(0), multiple: purchase(0), brokenPacks: false },
  levels,
  standing: 0,
  arrives: "2026-12-01" as never,
  lateBy: 0,
});
const row = (id: string, wanted: number, offers: Offer[], more: Partial<PlacedRow> = {}): PlacedRow => ({
  id,
  name: `Need ${id}`,
  item: "anode",
  store: 1,
  wanted: stock(wanted * ONE),
  stockUnit: "each",
  maySplit: false,
  locked: null,
  preferred: offers[0]!.supplier,
  use: { used: stock(30 * ONE), days: 30 },
  offers,
  ...more,
});
const terms = (id: number, more: Partial<Terms> = {}): Terms => ({
  id,
  name: `Supplier ${id}`,
  currency: "EUR",
  rate: 1_000_000,
  minimum: 0,
  freight: 0,
  freeFrom: null,
  ...more,
});
const problem = (rows: PlacedRow[], suppliers: Terms[], days = 30): PlacingProblem => ({
  home: "EUR",
  stores: { 1: "Yard", 2: "Island" },
  rows,
  suppliers,
  joined: [],
  ahead: { days, rate: 0 as BasisPoints },
});
const least = async (p: PlacingProblem) => {
  const plan = await solve(p, ["cost"], { seconds: 20 });
  expect(plan?.proved).toBe(true);
  return reckonPlacing(p, plan!.placing);
};

describe("buying more of what is needed anyway", () => {
  const breaks = [offer(1, [level(0, 10), level(10, 8)])];
  const sixAndThree = (days: number, more: Partial<PlacedRow> = {}) =>
    problem([row("a", 6, breaks, more), row("b", 3, breaks, more)], [terms(1)], days);

  it("reaches a break that rows share: 6 and 3 at 10.00, or 8.00 from 10, are 80.00", async () => {
    expect(reckonPlacing(sixAndThree(30), preferredPlacing(sixAndThree(30))).cost).toBe(9_000);
    expect((await least(sixAndThree(30))).cost).toBe(8_000);
    // Whatever nobody is known to use may be bought ahead for a break all the same.
    expect((await least(sixAndThree(30, { use: null }))).cost).toBe(8_000);
  });

  it("stays within the days of use that the buyer allows, for all rows of the item together", async () => {
    expect((await least(sixAndThree(0))).cost).toBe(9_000);
    expect((await least(sixAndThree(1))).cost).toBe(8_000); // one a day
    const four = problem([row("a", 5, breaks), row("b", 1, breaks), row("c", 1, breaks)], [terms(1)], 2);
    expect((await least(four)).cost).toBe(7_000); // three more are three days of use
  });

  it("counts what holding it costs", async () => {
    const p = { ...sixAndThree(30), ahead: { days: 30, rate: 2_000 as BasisPoints } };
    const r = await least(p);
    // One more of 8.00, used up in a day, at 20 % a year: 0.00; a dearer rate of ten times the goods: 0.22.
    expect([r.cost, r.holding]).toEqual([8_000, 0]);
    const dear = await least({ ...p, ahead: { days: 30, rate: 100_000 as BasisPoints } });
    expect([dear.cost, dear.holding]).toEqual([8_000, 22]);
  });

  it("reaches an order minimum, where another supplier or a broken rule would be the only way", async () => {
    const cheap = offer(1, [level(0, 10)]);
    const p = problem([row("a", 24, [cheap, offer(2, [level(0, 19)])])], [terms(1, { minimum: 25_000 }), terms(2)]);
    const r = await least(p);
    expect([r.cost, r.orders[0]!.supplier, r.orders[0]!.lines[0]!.buy]).toEqual([25_000, 1, 25 * ONE]);
    expect((await least({ ...p, ahead: { ...p.ahead, days: 0 } })).cost).toBe(45_600);
  });

  it("reaches free freight: 490.00 and 100.00 of freight, or 500.00 carried free", async () => {
    const p = problem([row("a", 49, [offer(1, [level(0, 10)])])], [terms(1, { freight: 10_000, freeFrom: 50_000 })]);
    expect(reckonPlacing(p, preferredPlacing(p)).cost).toBe(59_000);
    expect((await least(p)).cost).toBe(50_000);
  });
});

describe("what is left of a blanket order", () => {
  const drawn = offer(1, [level(0, 17), level(0, 10, { blanket: { line: 7, left: purchase(8 * ONE) } })]);
  const two = (a: number, b: number) =>
    problem([row("a", a, [drawn]), row("b", b, [drawn], { store: 2 })], [terms(1)], 0);

  it("is given out once, over all orders that draw on it, in the order of the stores", async () => {
    const r = await least(two(4, 4));
    expect(r.cost).toBe(8_000);
    // 5 and 4 of 8 that are left: the first store draws five, the second pays the list.
    const over = reckonPlacing(two(5, 4), preferredPlacing(two(5, 4)));
    expect(over.orders.map((o) => o.goods)).toEqual([5_000, 6_800]);
    expect((await least(two(5, 4))).cost).toBe(11_800);
    // Too much for the first: the second has it all.
    expect(reckonPlacing(two(9, 4), preferredPlacing(two(9, 4))).orders.map((o) => o.goods)).toEqual([15_300, 4_000]);
  });
});
