import fc from "fast-check";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { addDays } from "../../../core/calendar/day";
import { loadFile } from "../../acts/files/load-file";
import { giveBack } from "../../acts/jobs/give-back";
import { closeJob, keepJob } from "../../acts/jobs/keep-job";
import { tieJob } from "../../acts/jobs/tie-demand";
import { mergeNeeds, partNeeds } from "../../acts/needs/merge-needs";
import { dropOrder } from "../../acts/orders/drop-lines";
import { writeOrders } from "../../acts/orders/write-orders";
import { keepReordering } from "../../acts/records/keep-item";
import { openDatabase, sql } from "../../db/open";
import { dismissCrew } from "../../jobs/crew";
import { type TestHouse, TODAY, testHouse } from "../../testing";
import { brokenTruths } from "../always-true";
import { clockOf, touchedSince } from "./clock";
import { withMerged as merged, readMerged } from "./merged";
import { type Need, usualPlan } from "./need";
import { paperNeeds } from "./paper-needs";
import { groundOf, planStock } from "./plan";
import { beginPlan, readNeeds, readPool, settledPool, stopPlan } from "./pool";

const PLAN = usualPlan(TODAY, 9);
let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => h.close());

const inOrder = (needs: readonly Need[]) => [...needs].sort((a, b) => (a.key < b.key ? -1 : 1));
/** Everything worked out anew, by a connection that knows nothing of before. */
function afresh(): Need[] {
  const db = openDatabase(h.db.name);
  try {
    const g = groundOf(db, PLAN, false);
    return inOrder(merged(g, [...planStock(db, PLAN), ...paperNeeds(g)], readMerged(db)));
  } finally {
    db.close();
  }
}

/** So many more items, all of them short. */
const grow = (many: number) =>
  h.db.transaction(() => {
    const item = sql(h.db, "INSERT INTO item (code, name, kind, unit) VALUES (?, 'Thing', 'stocked', 'C62')");
    const pair = sql(
      h.db,
      "INSERT INTO item_store (item, store, policy, reorder_point) VALUES (?, 1, 'shortfall', 50000)",
    );
    for (let i = 0; i < many; i++) pair.run(item.run(`T-${i}`).lastInsertRowid);
  })();

describe("the pool", () => {
  it("is worked out anew for what a changed supplier sells, and for nothing where a file says nothing new", () => {
    const load = (text: string) => {
      const before = clockOf(h.db);
      expect(loadFile(h.desk("osk"), "suppliers", Buffer.from(text), ".")).toMatchObject({ ok: true });
      return touchedSince(h.db, before);
    };
    const both = "code,name,currency,cut_off\nTTL,Tern & Tallow,EUR,\nBAW,Brannock,EUR,";
    const touched = load(`${both}15\n`);
    expect([touched.everything, [...touched.items]]).toEqual([false, [h.id("item", "ANO")]]);
    expect(touched.pairs.map((p) => p.store).sort()).toEqual([h.id("store", "TQ"), h.id("store", "HS")].sort());
    expect(load(`${both}15\n`)).toMatchObject({ everything: false, papers: false, pairs: [] });
  });

  it("follows an item also to a store that does not keep it, where a job wants it", () => {
    keepJob(h.desk("ines"), {
      job: "",
      code: "J1",
      name: "",
      vessel: "Marram",
      kind: "job",
      lines: [
        { id: "", item: h.id("item", "OIL"), store: h.id("store", "HS"), due: addDays(TODAY, 5), quantity: "300" },
      ],
      outputs: [],
    });
    readNeeds(h.db, PLAN);
    loadFile(h.desk("osk"), "prices", Buffer.from("item,supplier,from,price\nOIL,TTL,1,7\n"), ".");
    expect(inOrder(readNeeds(h.db, PLAN))).toEqual(afresh());
  });

  it("after any run of acts says what a plan made anew says", () => {
    const items = ["OIL", "ANO", "ROP"];
    const stores = ["TQ", "HS"];
    const which = fc.tuple(fc.constantFrom(...items), fc.constantFrom(...stores), fc.integer({ min: 1, max: 400 }));
    const ways: Record<string, (item: string, store: string, n: number) => unknown> = {
      stock: (item, store, n) =>
        loadFile(
          h.desk("osk"),
          "stock",
          Buffer.from(`item,store,on_hand,policy,reorder_point,lot\n${item},${store},${n},larger of,${n % 90},10\n`),
          ".",
        ),
      demand: (item, store, n) =>
        keepJob(h.desk("ines"), {
          job: "",
          code: `J${n}${item}${store}`,
          name: "",
          vessel: "Marram",
          kind: "job",
          lines: [
            {
              id: "",
              item: h.id("item", item),
              store: h.id("store", store),
              due: addDays(TODAY, n % 40),
              quantity: String(n),
            },
          ],
          outputs: [
            { id: "", item: h.id("item", item), store: h.id("store", store), due: addDays(TODAY, 3), quantity: "5" },
          ],
        }),
      close: (_i, _s, n) => closeJob(h.desk("ines"), { job: (n % 6) + 1, closed: n % 2 ? "yes" : "no" }),
      tie: (_i, _s, n) => tieJob(h.desk("ines"), { job: (n % 6) + 1 }),
      back: (_i, _s, n) => giveBack(h.desk("ines"), { output: (n % 4) + 1, quantity: "1" }),
      need: (item, store, n) =>
        loadFile(h.desk("ines"), "needs", Buffer.from(`item,store,quantity,note\n${item},${store},${n},${n}\n`), "."),
      point: (item, store, n) =>
        keepReordering(h.desk("ines"), {
          item: h.id("item", item),
          store: h.id("store", store),
          policy: "shortfall",
          reorderPoint: String(n),
          lot: "",
          level: "",
          coverDays: "",
          maximum: "",
          reviewDays: "7",
          bin: "",
        }),
      write: (_i, _s, n) => {
        const need = readNeeds(h.db, PLAN)[n % 3];
        return need && writeOrders(h.desk("ines"), { picks: [{ need: need.key }] });
      },
      drop: (_i, _s, n) => {
        const draft = sql<{ id: number; version: number }>(
          h.db,
          "SELECT id, version FROM purchase_order WHERE state = 'Draft' LIMIT 1 OFFSET ?",
        ).get(n % 2);
        return draft && dropOrder(h.desk("ines"), { order: draft.id, version: draft.version });
      },
      merge: (item, store) => mergeNeeds(h.desk("ines"), { item: h.id("item", item), store: h.id("store", store) }),
      part: (item, store) => partNeeds(h.desk("ines"), { item: h.id("item", item), store: h.id("store", store) }),
      sourcing: (item, _s, n) =>
        loadFile(
          h.desk("osk"),
          "sourcing",
          Buffer.from(`item,supplier,unit,factor,lead_days\n${item},BAW,box,${(n % 7) + 1},${n % 30}\n`),
          ".",
        ),
      supplier: (_i, _s, n) =>
        loadFile(
          h.desk("osk"),
          "suppliers",
          Buffer.from(
            `code,name,currency,delivers,cut_off\n${n % 2 ? "TTL" : "BAW"},Called ${n % 3},EUR,${n % 3 ? "mon thu" : "tue"},${(n % 23) + 1}\n`,
          ),
          ".",
        ),
      prices: (_i, _s, n) =>
        loadFile(h.desk("osk"), "prices", Buffer.from(`item,supplier,from,price\nOIL,TTL,1,${n}\n`), "."),
      output: (_i, _s, n) => sql(h.db, "UPDATE company SET count_output = ?").run(n % 2),
    };
    const acts = fc.array(fc.tuple(fc.constantFrom(...Object.keys(ways)), which), { minLength: 4, maxLength: 14 });
    let done = 0;
    fc.assert(
      fc.property(acts, (run) => {
        for (const [way, [item, store, n]] of run) {
          const answer = ways[way]!(item, store, n) as { ok?: boolean } | undefined;
          if (answer?.ok) done++;
          expect(inOrder(readNeeds(h.db, PLAN)), way).toEqual(afresh());
        }
        expect(brokenTruths(h.db)).toEqual([]);
      }),
      { numRuns: 12 },
    );
    expect(done).toBeGreaterThan(30); // the acts do something
  });

  it("works out anew only what one movement touched", () => {
    readNeeds(h.db, PLAN);
    const at = clockOf(h.db);
    loadFile(
      h.desk("osk"),
      "stock",
      Buffer.from("item,store,on_hand,policy,reorder_point,level\nANO,TQ,3,top up,18,60\n"),
      ".",
    );
    expect(touchedSince(h.db, at)).toEqual({
      everything: false,
      papers: false,
      items: new Set([h.id("item", "ANO")]),
      pairs: [{ item: h.id("item", "ANO"), store: h.id("store", "TQ") }],
    });
    expect(readNeeds(h.db, PLAN).find((n) => n.code === "ANO")).toMatchObject({ wanted: 570_000 });
  });

  it("takes in what is loaded while a plan is being made", async () => {
    grow(3_500);
    expect(readPool(h.db, PLAN).working).not.toBeNull();
    const text = "item,store,on_hand,policy,reorder_point,lot\nT-7,TQ,9,shortfall,5,\nROP,TQ,1,shortfall,50,\n";
    expect(loadFile(h.desk("osk"), "stock", Buffer.from(text), ".")).toMatchObject({ ok: true });
    const settled = await settledPool(h.db, PLAN);
    expect([settled.needs.find((n) => n.code === "T-7"), settled.needs.find((n) => n.code === "ROP")?.wanted]).toEqual([
      undefined,
      490_000,
    ]);
    expect(inOrder(settled.needs)).toEqual(afresh());
    await dismissCrew();
  });

  it("plans a large company in a worker, goes on answering, and can be stopped and begun again", async () => {
    grow(3_500);
    const first = readPool(h.db, PLAN);
    expect([first.needs.length, first.working?.of]).toEqual([0, 3_504]);
    stopPlan(h.db, PLAN);
    await expect.poll(() => readPool(h.db, PLAN)).toMatchObject({ working: null, stopped: true });
    beginPlan(h.db, PLAN);
    const settled = await settledPool(h.db, PLAN);
    expect(settled.needs.length).toBe(3_501);
    expect(inOrder(settled.needs)).toEqual(afresh());
    await dismissCrew();
  });
});
