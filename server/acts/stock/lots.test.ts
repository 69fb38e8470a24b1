import fc from "fast-check";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { sql } from "../../db/open";
import { brokenTruths } from "../../queries/always-true";
import { readNeeds, usualPlan } from "../../queries/needs/needs";
import { must, type TestHouse, TODAY, testHouse } from "../../testing";
import { loadFile } from "../files/load-file";
import { moveAcross, takeIn } from "./stock";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => h.close());
const lots = (rows: string) =>
  must(loadFile(h.desk("osk"), "lots", Buffer.from(`item,store,lot,on_hand,expires,held\n${rows}`), ".") as never);
const across = (quantity: number) =>
  h.db.transaction(() =>
    moveAcross(h.db, h.desk("tobias"), {
      item: h.id("item", "OIL"),
      store: h.id("store", "TQ"),
      to: h.id("store", "HS"),
      quantity: quantity * 10_000,
      kind: "receipt",
    }),
  )();
const lying = (store: string) =>
  Object.fromEntries(
    sql<{ code: string; n: number }>(
      h.db,
      "SELECT l.code, s.on_hand AS n FROM stock_lot s JOIN lot l ON l.id = s.lot WHERE s.store = ? AND s.on_hand > 0",
    )
      .all(h.id("store", store))
      .map((r) => [r.code, r.n / 10_000]),
  );

describe("goods in lots", () => {
  it("go by what expires first, then without a lot; what is held or expired stays", () => {
    lots(
      "OIL,TQ,LATE,50,2027-06-01,\nOIL,TQ,SOON,40,2026-12-01,\nOIL,TQ,OLD,30,2026-11-01,\nOIL,TQ,HELD,20,2027-01-01,leaks\n",
    );
    expect(across(60)).toBe(true);
    expect(lying("HS")).toEqual({ SOON: 40, LATE: 20 });
    expect(across(230)).toBe(true); // 30 left of LATE, and 200 without a lot
    expect(lying("TQ")).toEqual({ OLD: 30, HELD: 20 });
    expect(across(1)).toBe(false);
    expect(lying("TQ")).toEqual({ OLD: 30, HELD: 20 });
  });
  it("never fall below zero and never vanish, whatever moves", () => {
    lots("OIL,TQ,A,100,2027-01-01,\nOIL,TQ,B,90,2027-02-01,\nOIL,TQ,C,30,2026-01-01,\n");
    const all = () =>
      sql<{ n: number }>(h.db, "SELECT sum(on_hand) AS n FROM item_store WHERE item = ?").get(h.id("item", "OIL"))!.n /
      10_000;
    const start = all();
    let came = 0;
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 120 }), { maxLength: 8 }), (moves) => {
        for (const n of moves) {
          if (n % 5 === 0) {
            takeIn(
              h.db,
              h.desk("tobias"),
              {
                item: h.id("item", "OIL"),
                store: h.id("store", "TQ"),
                quantity: n * 10_000,
                kind: "output",
              },
              0,
            );
            came += n;
          } else across(n);
        }
        expect(all()).toBe(start + came);
        expect(brokenTruths(h.db).filter((t) => !t.startsWith("a moved transfer"))).toEqual([]);
      }),
      { numRuns: 25 },
    );
    expect(readNeeds(h.db, usualPlan(TODAY)).every((n) => n.stock === null || n.stock.onHand >= 0)).toBe(true);
  });
});
