import fc from "fast-check";
import { describe, it, expect as that } from "vitest";
import { addDays, toDay } from "../calendar/day";
import { type Delivery, EVERY_DAY } from "../calendar/delivery";
import { factorOf, ONE, purchase, stock } from "../numbers/quantity";
import { comesOut, figureText } from "../sums/sum";
import { availability, expect, project, type Stir } from "./projection";
import { type Packing, type Policy, reorder, toBuy, wantedBy } from "./reorder";

const today = toDay("2026-11-24");
const q = (n: number) => stock(Math.round(n * ONE));
const drum: Packing = {
  unit: "drum",
  factor: factorOf(200 * ONE),
  minimum: purchase(0),
  multiple: purchase(0),
  brokenPacks: false,
};
const each: Packing = { ...drum, unit: "each", factor: factorOf(ONE) };
const way: Delivery = { leadDays: 10, leadKind: "calendar", delivers: EVERY_DAY, receives: EVERY_DAY };
const demand = (n: number, day: string): Stir => ({
  day: toDay(day),
  quantity: q(-n),
  kind: "demand",
  label: "refit job 2291, Marram",
  doubtful: false,
});
const supply = (n: number, day: string): Stir => ({
  day: toDay(day),
  quantity: q(n),
  kind: "order",
  label: "order 26-1187",
  doubtful: false,
});

it("covers days at the mean of what was used, rounded once: 200 in 30 days, 30 days of cover, are 200", () => {
  const found = wantedBy({ kind: "days of cover", days: 30, used30: stock(2_000_000) }, stock(0), stock(0))!;
  that(found.wanted).toBe(2_000_000);
});

describe("availability and projection", () => {
  it("expects overdue promises today, in doubt, and counts overdue demand", () => {
    const stirs = expect([supply(12, "2026-11-20"), demand(4, "2026-11-21"), supply(6, "2026-12-01")], today);
    that(stirs.map((s) => [s.day, s.doubtful])).toEqual([
      ["2026-11-24", true],
      ["2026-11-24", false],
      ["2026-12-01", false],
    ]);
    that(availability(q(3), stirs, today)).toEqual({ onHand: q(3), committed: q(4), onOrder: q(12), available: q(11) });
    that(availability(q(3), stirs, today, false).available).toBe(q(-1));
  });

  it("draws one level for each day on which something happens", () => {
    const stirs = expect([demand(260, "2026-12-01"), supply(200, "2026-12-03"), demand(20, "2026-12-01")], today);
    that(project(q(340), stirs, today, toDay("2026-12-31"))).toEqual([
      { day: today, available: q(340) },
      { day: "2026-12-01", available: q(60) },
      { day: "2026-12-03", available: q(260) },
    ]);
  });
});

describe("policies, as worked in the design", () => {
  const wanted = (policy: Policy, s: number, a: number) => wantedBy(policy, q(s), q(a))?.wanted;
  it("larger of lot and shortfall", () => {
    that(wanted({ kind: "larger of", lot: q(1600) }, 400, 80)).toBe(q(1600));
    that(wanted({ kind: "larger of", lot: q(6) }, 0, -14)).toBe(q(14));
    that(wanted({ kind: "larger of", lot: q(25) }, 0, -3)).toBe(q(25));
  });
  it("fixed lot", () => {
    that(wanted({ kind: "fixed lot", lot: q(750) }, 180, 60)).toBe(q(750));
    that(wanted({ kind: "fixed lot", lot: q(750) }, 180, -1100)).toBe(q(1500));
  });
  it("shortfall and to order", () => {
    that(wanted({ kind: "shortfall" }, 400, 80)).toBe(q(320));
    that(wanted({ kind: "to order" }, 400, 80)).toBeUndefined();
    that(wanted({ kind: "to order" }, 400, -7)).toBe(q(7));
  });
  it("top up, into drums, minimum and multiple", () => {
    const litres = wanted({ kind: "top up", level: q(700) }, 400, 80)!;
    that(litres).toBe(q(620));
    that(toBuy(litres, { ...drum, brokenPacks: true }, "L").buy).toBe(31_000);
    that(toBuy(litres, drum, "L").buy).toBe(4 * ONE);
    that(toBuy(litres, { ...drum, minimum: purchase(5 * ONE) }, "L").buy).toBe(5 * ONE);
    that(toBuy(litres, { ...drum, minimum: purchase(5 * ONE), multiple: purchase(2 * ONE) }, "L").buy).toBe(6 * ONE);
  });
  it("days of cover", () => {
    const litres = wanted({ kind: "days of cover", days: 45, used30: q(612) }, 400, 80)!;
    that(litres).toBe(q(838));
    that(toBuy(litres, { ...drum, brokenPacks: true }, "L").buy).toBe(41_900);
    that(toBuy(litres, drum, "L").buy).toBe(5 * ONE);
  });
});

describe("a need for stock", () => {
  const oil = { onHand: q(340), stirs: expect([demand(260, "2026-12-01")], today), stockUnit: "L", store: "Tarn Quay" };
  const settings = {
    policy: { kind: "larger of", lot: q(1600) } as Policy,
    reorderPoint: q(400),
    maximum: null,
    reviewDays: 7,
  };

  it("buys 8 drums, and the sum says why", () => {
    const need = reorder(oil, settings, drum, way, today)!;
    that(need.buy).toBe(8 * ONE);
    that(need.neededOn).toBe(today);
    that(need.lateBy).toBe(10); // ten days below the reorder point, yet never out of stock
    that([need.runsOut, need.missesBy]).toEqual([null, 0]);
    that(need.sum.steps.map((s) => `${s.op} ${s.label}: ${figureText(s.figure)}`)).toEqual([
      " on hand, Tarn Quay: 340 L",
      "− refit job 2291, Marram: 260 L",
      "+ on order: 0 L",
      "= available: 80 L",
      "· lowest once it can be there: 2026-12-04",
      "· short of reorder point 400: 320 L",
      "→ usual lot is larger: 1600 L",
      "÷ L in one drum: 200 L",
      "= in purchase units: 8 drum",
    ]);
  });

  it("asks for nothing at the reorder point itself", () => {
    that(reorder({ ...oil, onHand: q(660) }, settings, drum, way, today)).toBeNull();
    that(reorder({ ...oil, onHand: q(659.9999) }, settings, drum, way, today)).not.toBeNull();
  });

  it("looks no further than lead time and review days", () => {
    const later = { ...oil, onHand: q(500), stirs: expect([demand(260, "2026-12-12")], today) };
    that(reorder(later, settings, drum, way, today)).toBeNull();
    that(reorder(later, { ...settings, reviewDays: 8 }, drum, way, today)?.neededOn).toBe("2026-12-12");
  });

  it("does not buy twice what is already coming as soon as anything could", () => {
    const coming = (day: string) => ({ ...oil, stirs: expect([demand(260, "2026-12-01"), supply(1600, day)], today) });
    that(reorder(coming("2026-12-04"), settings, drum, way, today)).toBeNull();
    that(reorder(coming("2026-12-05"), settings, drum, way, today)?.buy).toBe(8 * ONE);
  });

  it("flags what goes above the maximum, without cutting it", () => {
    const need = reorder(oil, { ...settings, maximum: q(1500) }, drum, way, today)!;
    that([need.aboveMaximum, need.buy]).toEqual([true, 8 * ONE]);
  });

  it("covers the shortfall whatever is thrown at it, and every sum comes out", () => {
    const stir = fc.record({ day: fc.integer({ min: -5, max: 40 }), n: fc.integer({ min: -500_000, max: 500_000 }) });
    const policy = fc.oneof(
      fc.integer({ min: 1, max: 2_000_000 }).map((n): Policy => ({ kind: "larger of", lot: stock(n) })),
      fc.integer({ min: 1, max: 2_000_000 }).map((n): Policy => ({ kind: "fixed lot", lot: stock(n) })),
      fc.constant<Policy>({ kind: "shortfall" }),
    );
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 1_000_000 }),
        fc.array(stir, { maxLength: 12 }),
        policy,
        fc.integer({ min: 0, max: 500_000 }),
        fc.integer({ min: 1, max: 3_000_000 }),
        fc.integer({ min: 0, max: 70_000 }),
        (onHand, raw, pol, point, factor, multiple) => {
          const stirs = expect(
            raw.map(
              (r): Stir => ({
                day: addDays(today, r.day),
                quantity: stock(r.n),
                kind: r.n < 0 ? "demand" : "order",
                label: "x",
                doubtful: false,
              }),
            ),
            today,
          );
          const pack = { ...drum, factor: factorOf(factor), multiple: purchase(multiple) };
          const need = reorder(
            { onHand: stock(onHand), stirs, stockUnit: "L", store: "S" },
            { ...settings, policy: pol, reorderPoint: stock(point) },
            pack,
            way,
            today,
          );
          if (!need) return;
          that(comesOut(need.sum)).toBe(true);
          // factor × bought never falls short of the reorder point at the lowest day
          that(need.buy * factor + need.lowest * ONE >= point * ONE).toBe(true);
          if (multiple > 0) that(need.buy % multiple).toBe(0);
        },
      ),
    );
  });

  it("counts days late from the day of need", () => {
    const anodes = { ...oil, onHand: q(18), stirs: expect([demand(36, "2026-12-01")], today), stockUnit: "each" };
    const need = reorder(anodes, { ...settings, policy: { kind: "to order" }, reorderPoint: q(0) }, each, way, today)!;
    that([need.runsOut, need.missesBy]).toEqual(["2026-12-01", 3]);
    that([need.buy, need.neededOn, need.arrives, need.lateBy, need.orderBy]).toEqual([
      18 * ONE,
      "2026-12-01",
      "2026-12-04",
      3,
      "2026-11-21",
    ]);
  });
});
