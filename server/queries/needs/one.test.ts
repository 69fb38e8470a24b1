import fc from "fast-check";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { addDays } from "../../../core/calendar/day";
import { comesOut, figureText, quantity } from "../../../core/sums/sum";
import { loadFile } from "../../acts/files/load-file";
import { mergeNeeds } from "../../acts/needs/merge-needs";
import { must, type TestHouse, TODAY, testHouse } from "../../testing";
import { usualPlan } from "./need";
import { readNeeds } from "./needs";
import { needNow, pairOf, sumOf } from "./one";

const PLAN = usualPlan(TODAY, 9);
let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => h.close());

const load = (kind: "stock" | "jobs" | "needs" | "sourcing", text: string) =>
  must(loadFile(h.desk(kind === "needs" ? "ines" : "osk"), kind, Buffer.from(text), ".") as never);

describe("the sum behind a need", () => {
  it("comes out, and to what is to be bought, whatever the company looks like", () => {
    const code = fc.constantFrom("OIL", "ANO", "ROP");
    const many = fc.integer({ min: 1, max: 900 });
    const policy = fc.constantFrom("shortfall,,", "fixed lot,40,", "larger of,25,", "top up,,950");
    const company = fc.record({
      stock: fc.uniqueArray(fc.tuple(code, fc.constantFrom("TQ", "HS"), many, many, policy), {
        selector: ([item, store]) => item + store,
      }),
      demand: fc.array(fc.tuple(code, many, fc.integer({ min: -20, max: 60 })), { maxLength: 5 }),
      noted: fc.array(fc.tuple(code, many), { maxLength: 4 }),
      packing: fc.array(fc.tuple(code, fc.integer({ min: 1, max: 60 }), fc.integer({ min: 0, max: 9 })), {
        maxLength: 3,
      }),
      merge: fc.array(code, { maxLength: 2 }),
    });
    let looked = 0;
    fc.assert(
      fc.property(company, ({ stock, demand, noted, packing, merge }) => {
        const rows = (columns: string, lines: string[]) => `${[columns, ...lines].join("\n")}\n`;
        if (stock.length)
          load(
            "stock",
            rows(
              "item,store,on_hand,reorder_point,policy,lot,level",
              stock.map(([item, store, hand, point, how]) => `${item},${store},${hand},${point},${how}`),
            ),
          );
        if (demand.length)
          load(
            "jobs",
            rows(
              "job,name,vessel,item,store,due,quantity",
              demand.map(([item, n, days], i) => `W${looked}-${i},,Marram,${item},TQ,${addDays(TODAY, days)},${n}`),
            ),
          );
        if (noted.length)
          load(
            "needs",
            rows(
              "item,store,quantity,note",
              noted.map(([item, n], i) => `${item},TQ,${n},${i}`),
            ),
          );
        for (const [item, factor, minimum] of packing)
          load(
            "sourcing",
            `item,supplier,unit,factor,lead_days,minimum,multiple\n${item},BAW,box,${factor},${minimum * 3},${minimum || ""},${minimum || ""}\n`,
          );
        for (const item of merge) mergeNeeds(h.desk("ines"), { item: h.id("item", item), store: h.id("store", "TQ") });
        for (const need of readNeeds(h.db, PLAN)) {
          expect(needNow(h.db, PLAN, need.key), need.key).toEqual(need);
          const sum = sumOf(h.db, PLAN, need);
          expect(comesOut(sum), JSON.stringify(sum)).toBe(true);
          const said = sum.steps.filter((s) => s.op !== "·").map((s) => figureText(s.figure));
          expect(said, JSON.stringify(sum)).toContain(figureText(quantity(need.buy, need.unit)));
          looked++;
        }
      }),
      { numRuns: 15 },
    );
    expect(looked).toBeGreaterThan(50);
  });

  it("is nobody's where the key names nothing", () => {
    expect(["s:1", "s:1:x", "q:1:2", "", "s:1:2:3"].map(pairOf)).toEqual([null, null, null, null, null]);
    expect(pairOf("m:4:1")).toEqual({ item: 4, store: 1 });
    expect(["s:99:1", "m:99:1", "r:99", "j:99", "n:99", "nonsense"].map((key) => needNow(h.db, PLAN, key))).toEqual(
      Array(6).fill(null),
    );
  });
});
