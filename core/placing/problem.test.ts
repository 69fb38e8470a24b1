import { describe, expect, it } from "vitest";
import { ONE, purchase, stock } from "../numbers/quantity";
import { madeUp } from "./made-up";
import {
  covers,
  hindrance,
  leastBuy,
  levelAt,
  MOST_STEPS,
  type Offer,
  type PlacedRow,
  preferredPlacing,
  quantitiesOf,
  type Terms,
  termsOf,
} from "./problem";

const terms: Terms = {
  id: 1,
  name: "Tern & Tallow",
  currency: "EUR",
  rate: 1_000_000,
  minimum: 0,
  freight: 0,
  freeFrom: null,
};
const offer = (more: Partial<Offer> = {}, packing: Partial<Offer["packing"]> = {}): Offer => ({
  supplier: 1,
  packing: {
    unit: "each",
    factor: ONE as never,
    minimum: purchase(0),
    multiple: purchase(0),
    brokenPacks: false,
    ...packing,
  },
  levels: [
    [1, 5],
    [10, 4],
    [50, 3.9],
  ].map(([from, price]) => ({
    from: purchase(from! * ONE),
    price: Math.round(price! * 1_000_000) as never,
    source: { kind: "price list" as const, from: purchase(from! * ONE) },
    warning: false,
  })),
  standing: 0,
  arrives: "2026-12-01" as never,
  lateBy: 0,
  ...more,
});
const row = (wanted: number, offers: Offer[], more: Partial<PlacedRow> = {}): PlacedRow => ({
  id: "n:1",
  name: "Hull anode",
  item: "anode",
  store: 1,
  wanted: stock(wanted * ONE),
  stockUnit: "each",
  maySplit: false,
  locked: null,
  use: null,
  preferred: 1,
  offers,
  ...more,
});
const EUR = { home: "EUR", ahead: { days: 30, rate: 800 as never } };
const whole = (list: number[]) => list.map((q) => q / ONE);

describe("the quantities that a plan weighs", () => {
  it("are the least, and more only where a break makes the whole line cheaper", () => {
    const o = offer();
    expect(whole(quantitiesOf(row(9, [o]), o, terms, EUR))).toEqual([9, 10]); // 45.00 against 40.00
    expect(whole(quantitiesOf(row(8, [o]), o, terms, EUR))).toEqual([8]); // 40.00 is not less than 40.00
    expect(whole(quantitiesOf(row(49, [o]), o, terms, EUR))).toEqual([49, 50]); // 196.00 against 195.00
    expect(whole(quantitiesOf(row(12, [o]), o, terms, EUR))).toEqual([12]);
  });

  it("keep minimum, multiple and packs", () => {
    const o = offer({}, { minimum: purchase(4 * ONE), multiple: purchase(6 * ONE) });
    expect(whole(quantitiesOf(row(2, [o]), o, terms, EUR))).toEqual([6]);
    expect(whole(quantitiesOf(row(8, [o]), o, terms, EUR))).toEqual([12]);
  });

  it("are whole packs up to the least where a need may be split, in few enough steps", () => {
    const o = offer();
    expect(whole(quantitiesOf(row(4, [o], { maySplit: true }), o, terms, EUR))).toEqual([1, 2, 3, 4]);
    const many = quantitiesOf(row(5_000, [o], { maySplit: true }), o, terms, EUR);
    expect(many.length).toBeLessThanOrEqual(MOST_STEPS + 2);
    expect(many.at(-1)).toBe(5_000 * ONE);
  });

  it("always cover the need, or a part of it that packs can carry", () => {
    for (let seed = 1; seed <= 150; seed++) {
      const p = madeUp({ seed, rows: 5, suppliers: 4, offers: [1, 4], splits: 30 });
      for (const r of p.rows) {
        for (const o of r.offers) {
          const buys = quantitiesOf(r, o, termsOf(p).get(o.supplier)!, p);
          const { minimum, multiple } = o.packing;
          for (const q of buys) {
            expect(q % (multiple || ONE)).toBe(0);
            expect(q).toBeGreaterThanOrEqual(minimum);
            if (!r.maySplit) expect(covers(o, q)).toBeGreaterThanOrEqual(r.wanted);
          }
          expect(buys).toContain(leastBuy(o, r.wanted, r.stockUnit));
        }
      }
    }
  });
});

describe("offers that cannot be used", () => {
  const by = new Map([[1, terms]]);
  it("are named by what is wrong with all of them", () => {
    expect(hindrance(row(1, []), by)).toBe("Hull anode has no supplier.");
    expect(hindrance(row(1, [offer({ levels: [] })]), by)).toBe("Hull anode has no price at Tern & Tallow.");
    expect(hindrance(row(1, [offer({ arrives: null })]), by)).toMatch(/never arrives from Tern & Tallow/);
    expect(hindrance(row(1, [offer()]), new Map([[1, { ...terms, currency: "ISK", rate: null }]]))).toBe(
      "Hull anode is only sold in ISK, and no rate is known.",
    );
    expect(hindrance(row(1, [offer({ arrives: null }), offer()]), by)).toBeNull();
  });

  it("give way to the next supplier where the preferred one cannot", () => {
    const other = { ...terms, id: 2 };
    const p = {
      home: "EUR",
      stores: {},
      rows: [row(3, [offer({ arrives: null }), offer({ supplier: 2 })])],
      suppliers: [terms, other],
      joined: [],
      ahead: EUR.ahead,
    };
    expect(preferredPlacing(p)).toEqual({ "n:1": [{ supplier: 2, buy: 3 * ONE }] });
  });

  it("have no price below their first level", () => {
    expect([0.5, 1, 9, 10, 60].map((q) => levelAt(offer(), purchase(q * ONE)))).toEqual([null, 0, 0, 1, 2]);
  });
});
