import { afterEach, beforeEach, describe, expect, it } from "vitest";
import type { OrderId } from "../../../core/ids";
import { placingFrom } from "../../../core/placing/choice";
import { reckonPlacing } from "../../../core/placing/reckon";
import { comesOut } from "../../../core/sums/sum";
import { sql } from "../../db/open";
import { dismissCrew } from "../../jobs/crew";
import { fillUp } from "../../jobs/placing/fill-up";
import { beginPlans, readPlans } from "../../jobs/placing/plans";
import { brokenTruths } from "../../queries/always-true";
import { usualPlan } from "../../queries/needs/need";
import { readNeeds } from "../../queries/needs/pool";
import { readOrder } from "../../queries/orders/order";
import { readBench, readBenches } from "../../queries/placing/bench";
import { must, refusal, type TestHouse, TODAY, testHouse, used, versionOf } from "../../testing";
import type { Done } from "../desk";
import { loadFile } from "../files/load-file";
import { changeOrder } from "../orders/change-order";
import { dropOrder } from "../orders/drop-lines";
import { bringForward } from "./bring-forward";
import { chooseOnBench, takePlan } from "./choose";
import { joinDraft, keepAhead, putAwayBench, renameBench } from "./keep-bench";
import { layOutBench } from "./lay-out";
import { writeBench } from "./write-bench";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
  const load = (kind: Parameters<typeof loadFile>[1], text: string) =>
    must(loadFile(h.desk("osk"), kind, Buffer.from(text), ".") as Done<unknown>);
  load(
    "suppliers",
    "code,name,currency,delivers,contact,order_mails,order_minimum,freight,freight_free_from\nTTL,Tern & Tallow,EUR,mon tue wed thu fri sat sun,Dorrit Pell,orders@ttl.example,0,95,7500\nQUO,Quillmere Oils,EUR,mon tue wed thu fri sat sun,Q,o@quo.example,2500,0,\nBAW,Brannock,EUR,mon tue wed thu fri sat sun,Elspeth,orders@baw.example,0,60,1500\n",
  );
  load(
    "sourcing",
    "item,supplier,their_code,unit,factor,lead_days,rank\nOIL,QUO,Q-46,drum,200,14,2\nANO,QUO,Q-A,each,1,20,2\n",
  );
  load("prices", "item,supplier,from,price\nOIL,QUO,1,640.00\nOIL,QUO,10,500.00\nANO,QUO,1,28.00\n");
  must(
    loadFile(
      h.desk("ines"),
      "needs",
      Buffer.from("item,store,quantity,needed_by\nANO,HS,40,2026-12-20\nROP,TQ,220,2026-12-20\n"),
      ".",
    ) as Done<unknown>,
  );
});
afterEach(() => h.close());

const keys = () =>
  readNeeds(h.db, usualPlan(TODAY, 9))
    .map((n) => n.key)
    .sort();
const sheetOf = (bench: number) => readBench(h.db, bench, TODAY, 9)!;
const rowOf = (bench: number, need: string) => sheetOf(bench).rows[need]!.version;
const laid = () => must(layOutBench(h.desk("ines"), { needs: keys() })).bench;
const oil = () => `s:${h.id("item", "OIL")}:${h.id("store", "TQ")}`;
const anodes = () => keys().find((k) => k.startsWith("n:"))!;
const rope = () => keys().filter((k) => k.startsWith("n:"))[1]!;
const write = (bench: number, who = "ines") => {
  const { head, mark } = sheetOf(bench);
  return writeBench(h.desk(who), { bench, version: head.version, mark });
};
const choose = (bench: number, need: string, what: Record<string, unknown>) =>
  chooseOnBench(h.desk("ines"), { bench, need, row: rowOf(bench, need), ...what });

describe("a plan that leaves needs out", () => {
  it("is taken without them, says which, and what it leaves out is not written with it", async () => {
    const bench = laid();
    sql(h.db, "UPDATE supplier SET order_minimum = 99999900 WHERE code = 'TTL'").run();
    const sheet = sheetOf(bench);
    beginPlans(bench, sheet.mark, sheet.problem);
    await expect.poll(() => readPlans(sheet.mark)!.working, { timeout: 60_000 }).toBe(false);
    const plan = readPlans(sheet.mark)!.plans[0]!;
    expect(plan.left.map((l) => l.says)).toEqual([
      "Mooring rope is left out: what can go to Tern & Tallow does not come to their least order.",
    ]);
    const taken = must(takePlan(h.desk("ines"), { bench, aim: "lowest", mark: sheet.mark }));
    expect(taken.left).toEqual(["Mooring rope"]);
    expect(sheetOf(bench).choices[rope()]).toBeUndefined();
    expect(must(write(bench)).left).toBe(1);
    await dismissCrew();
  });

  it("may buy so many days of use ahead as the buyer says", () => {
    const bench = laid();
    expect(sheetOf(bench).problem.ahead.days).toBe(30);
    must(keepAhead(h.desk("ines"), { bench, days: "14" }));
    expect(sheetOf(bench).problem.ahead.days).toBe(14);
    expect(refusal(keepAhead(h.desk("ines"), { bench, days: "400" }))).toEqual(["days: At most a year of 366 days."]);
    expect(refusal(keepAhead(h.desk("joss"), { bench, days: "14" }))).toEqual(["Your role does not allow this."]);
  });
});

describe("laying needs out", () => {
  it("gives each row the preferred supplier, and each need to one bench", () => {
    expect(keys()).toHaveLength(3);
    const { bench, laid } = must(layOutBench(h.desk("ines"), { needs: keys() }));
    expect(laid).toBe(3);
    const sheet = sheetOf(bench);
    expect(sheet.head.name).toBe("Tue 24 Nov 2026");
    expect(
      Object.values(sheet.choices)
        .flat()
        .map((c) => c.supplier)
        .sort(),
    ).toEqual([h.id("supplier", "TTL"), h.id("supplier", "BAW"), h.id("supplier", "TTL")].sort());
    expect(sheet.problem.rows.find((r) => r.id === oil())!.offers).toHaveLength(2);
    expect(refusal(layOutBench(h.desk("ines"), { needs: keys() }))).toEqual([
      "All of these lie on “Tue 24 Nov 2026” already.",
    ]);
    expect(readBenches(h.db).map((b) => [b.rows, b.chosen])).toEqual([[3, 3]]);
  });

  it("refuses what is not there, whoever may not, and a bench too full", () => {
    expect(refusal(layOutBench(h.desk("ines"), { needs: ["s:1:99"] }))[0]).toMatch(/no longer in the list/);
    expect(refusal(layOutBench(h.desk("joss"), { needs: keys() }))).toEqual(["Your role does not allow this."]);
    expect(
      refusal(layOutBench(h.desk("ines"), { needs: Array.from({ length: 2001 }, (_, i) => `r:${i + 1}`) })),
    ).toEqual(["needs: At most 2,000 needs lie on a bench. Lay them out in parts."]);
    expect(refusal(layOutBench(h.desk("ines"), { needs: keys(), bench: 77 }))[0]).toMatch(/put away/);
  });

  it("names, adds to, and puts benches away; the needs stay in the pool", () => {
    const { bench } = must(layOutBench(h.desk("ines"), { needs: [oil()], name: "Winter refit" }));
    must(layOutBench(h.desk("ines"), { needs: [anodes()], bench }));
    expect(Object.keys(sheetOf(bench).rows)).toHaveLength(2);
    const other = must(layOutBench(h.desk("ines"), { needs: [rope()] })).bench;
    expect(refusal(renameBench(h.desk("ines"), { bench: other, name: "winter refit" }))).toEqual([
      "name: Another bench has this name.",
    ]);
    must(renameBench(h.desk("ines"), { bench: other, name: "Ropes" }));
    expect(must(putAwayBench(h.desk("ines"), { bench })).needs).toBe(2);
    expect(keys()).toHaveLength(3);
    expect(readBenches(h.db).map((b) => b.name)).toEqual(["Ropes"]);
  });
});

describe("choosing on the grid", () => {
  it("keeps the former choice, and two people never lose each other's", () => {
    const bench = laid();
    const row = rowOf(bench, oil());
    const quo = h.id("supplier", "QUO");
    must(chooseOnBench(h.desk("ines"), { bench, need: oil(), row, what: "supplier", supplier: quo }));
    expect(sheetOf(bench).choices[oil()]!.map((c) => c.supplier)).toEqual([quo]);
    expect(sheetOf(bench).former[oil()]).toEqual([h.id("supplier", "TTL")]);
    const late = chooseOnBench(h.desk("ines"), {
      bench,
      need: oil(),
      row,
      what: "supplier",
      supplier: h.id("supplier", "TTL"),
    });
    expect(late.ok ? "" : late.stale).toBe(true);
    expect(refusal(late)[0]).toBe(
      "Ines changed this row meanwhile: it is at Quillmere Oils now. Choose again if you still want to.",
    );
    // Another row is another matter.
    must(choose(bench, anodes(), { what: "supplier", supplier: quo }));
    expect(sheetOf(bench).choices[oil()]!.map((c) => c.supplier)).toEqual([quo]);
  });

  it("splits by hand, locks, and types quantities, with a sentence for what cannot be", () => {
    const bench = laid();
    const [ttl, quo] = [h.id("supplier", "TTL"), h.id("supplier", "QUO")];
    must(choose(bench, oil(), { what: "quantity", wanted: "2400" }));
    expect(sheetOf(bench).problem.rows.find((r) => r.id === oil())!.wanted).toBe(24_000_000);
    must(
      choose(bench, oil(), {
        what: "split",
        parts: [
          { supplier: ttl, share: "400" },
          { supplier: quo, share: "2000" },
        ],
      }),
    );
    const sheet = sheetOf(bench);
    const r = reckonPlacing(sheet.problem, placingFrom(sheet.problem.rows, sheet.choices));
    expect(r.open).toEqual([]);
    expect(
      r.orders
        .flatMap((o) => o.lines.filter((l) => l.row.id === oil()).map((l) => [o.terms.name, l.buy, l.net]))
        .sort(),
    ).toEqual([
      ["Quillmere Oils", 100_000, 500_000],
      ["Tern & Tallow", 20_000, 132_000],
    ]);
    expect(refusal(choose(bench, oil(), { what: "quantity", wanted: "100" }))[0]).toMatch(/This need is split/);
    expect(refusal(choose(bench, oil(), { what: "quantity", wanted: "-1" }))).toEqual([
      "wanted: A quantity cannot be negative.",
    ]);
    must(choose(bench, oil(), { what: "none" }));
    expect(refusal(choose(bench, oil(), { what: "lock", on: true }))[0]).toMatch(/Choose a supplier first/);
  });
});

describe("plans of a bench", () => {
  it("are worked out in a worker and fill the grid; of another problem they are refused", async () => {
    const bench = laid();
    const { mark, problem } = sheetOf(bench);
    beginPlans(bench, mark, problem);
    await expect.poll(() => readPlans(mark)!.working, { timeout: 60_000 }).toBe(false);
    const plan = readPlans(mark)!.plans.find((p) => p.aim === "lowest")!;
    expect(plan.state).toBe("proved");
    // Ten drums at 500 would cost 5,000: eight at 624 come to 4,992 and need the freight of 95.
    const cost = reckonPlacing(problem, plan.placing!).cost;
    must(takePlan(h.desk("ines"), { bench, aim: "lowest", mark }));
    const taken = sheetOf(bench);
    expect(reckonPlacing(taken.problem, placingFrom(taken.problem.rows, taken.choices)).cost).toBe(cost);
    must(choose(bench, oil(), { what: "may split", on: true }));
    expect(refusal(takePlan(h.desk("ines"), { bench, aim: "lowest", mark }))[0]).toMatch(/Work the plans out again/);
    await dismissCrew();
  }, 90_000);
});

describe("writing a bench", () => {
  it("writes one order for each supplier and store, at the cost that was shown, and takes the needs out of the pool", () => {
    const bench = laid();
    const sheet = sheetOf(bench);
    const shown = reckonPlacing(sheet.problem, placingFrom(sheet.problem.rows, sheet.choices));
    const { orders, left } = must(write(bench));
    expect(left).toBe(0);
    expect(orders).toHaveLength(shown.orders.length);
    const written = sql<{ cost: number }>(
      h.db,
      "SELECT sum(home_net + home_freight) AS cost FROM purchase_order WHERE id IN (SELECT value FROM json_each(?))",
    ).get(JSON.stringify(orders))!;
    expect(written.cost).toBe(shown.cost);
    expect(keys()).toEqual([]);
    expect(readBenches(h.db)).toEqual([]);
    expect(brokenTruths(h.db)).toEqual([]);
  });

  it("costs what was shown in foreign money, split over suppliers and under a break that several lines reach", () => {
    const load = (kind: Parameters<typeof loadFile>[1], text: string) =>
      must(loadFile(h.desk("osk"), kind, Buffer.from(text), ".") as Done<unknown>);
    load("rates", "currency,day,rate\nNOK,2026-11-01,0.0852\n");
    load(
      "suppliers",
      "code,name,currency,delivers,contact,order_mails,freight,freight_free_from\nNRR,Norrvik,NOK,mon tue wed thu fri sat sun,N,o@nrr.example,1400,20000\n",
    );
    load(
      "sourcing",
      "item,supplier,their_code,unit,factor,lead_days,discount,rank\nOIL,NRR,N-46,drum,200,9,2.5,3\nANO,NRR,N-A,each,1,9,0,3\n",
    );
    load(
      "prices",
      "item,supplier,from,price\nOIL,NRR,1,7333.33\nOIL,NRR,5,7111.11\nANO,NRR,1,351.77\nANO,NRR,50,333.33\n",
    );
    must(
      loadFile(
        h.desk("ines"),
        "needs",
        Buffer.from("item,store,quantity,needed_by\nANO,HS,35,2026-12-28\n"),
        ".",
      ) as Done<unknown>,
    );
    const bench = laid();
    const nrr = h.id("supplier", "NRR");
    for (const need of keys().filter((k) => sheetOf(bench).rows[k]?.code === "ANO"))
      must(choose(bench, need, { what: "supplier", supplier: nrr }));
    must(
      choose(bench, oil(), {
        what: "split",
        parts: [
          { supplier: nrr, share: "1000" },
          { supplier: h.id("supplier", "TTL"), share: "600" },
        ],
      }),
    );
    const sheet = sheetOf(bench);
    const shown = reckonPlacing(sheet.problem, placingFrom(sheet.problem.rows, sheet.choices));
    // Forty and thirty-five anodes for one store reach the break of fifty together.
    expect(
      shown.orders
        .flatMap((o) => o.lines.filter((l) => l.row.item === `i${h.id("item", "ANO")}`).map((l) => l.net))
        .sort(),
    ).toEqual([1_166_655, 1_333_320]);
    const { orders } = must(write(bench));
    const written = sql<{ cost: number }>(
      h.db,
      "SELECT sum(home_net + home_freight) AS cost FROM purchase_order WHERE id IN (SELECT value FROM json_each(?))",
    ).get(JSON.stringify(orders))!;
    expect(written.cost).toBe(shown.cost);
  });

  it("gives each part of a split need its own order, and a cut line brings back what is left", () => {
    const bench = laid();
    const [baw, quo] = [h.id("supplier", "BAW"), h.id("supplier", "QUO")];
    must(
      choose(bench, anodes(), {
        what: "split",
        parts: [
          { supplier: baw, share: "30" },
          { supplier: quo, share: "10" },
        ],
      }),
    );
    const key = anodes();
    const { orders } = must(write(bench));
    const tied = sql<{ line: number; purchase_order: OrderId; quantity: number }>(
      h.db,
      "SELECT l.id AS line, l.purchase_order, t.quantity FROM need_tie t JOIN order_line l ON l.id = t.order_line WHERE t.noted_need = ? ORDER BY t.quantity",
    ).all(Number(key.slice(2)));
    expect(tied.map((t) => t.quantity)).toEqual([100_000, 300_000]);
    const order = tied[1]!.purchase_order;
    expect(orders).toContain(order);
    const cut = (quantity: string) => {
      const o = readOrder(h.db, order)!;
      must(
        changeOrder(h.desk("ines"), {
          order,
          version: versionOf(h.db, "purchase_order", order),
          note: "",
          discount: "",
          lines: o.lines.map((l) => ({
            line: l.id,
            quantity: l.id === tied[1]!.line ? quantity : String(l.quantity / 10_000),
            price: String(l.price! / 1_000_000),
            discount: "",
            required: l.required,
          })),
        }),
      );
    };
    cut("18");
    expect(readNeeds(h.db, usualPlan(TODAY, 9)).find((n) => n.key === key)?.wanted).toBe(120_000);
    cut("30");
    expect(keys()).not.toContain(key);
    must(dropOrder(h.desk("ines"), { order, version: versionOf(h.db, "purchase_order", order) }));
    expect(readNeeds(h.db, usualPlan(TODAY, 9)).find((n) => n.key === key)?.wanted).toBe(300_000);
  });

  it("adds to a draft that the buyer says it joins, with one break for all of an item", () => {
    const first = must(layOutBench(h.desk("ines"), { needs: [rope()] })).bench;
    const { orders } = must(write(first));
    const bench = must(layOutBench(h.desk("ines"), { needs: [oil()] })).bench;
    expect(sheetOf(bench).drafts.map((d) => [d.id, d.joined])).toEqual([[orders[0], false]]);
    must(joinDraft(h.desk("ines"), { bench, order: orders[0], join: true }));
    const sheet = sheetOf(bench);
    const shown = reckonPlacing(sheet.problem, placingFrom(sheet.problem.rows, sheet.choices));
    const before = sql<{ cost: number }>(
      h.db,
      "SELECT home_net + home_freight AS cost FROM purchase_order WHERE id = ?",
    ).get(orders[0])!;
    const again = must(write(bench));
    expect(again.orders).toEqual(orders);
    const after = sql<{ cost: number; lines: number }>(
      h.db,
      "SELECT home_net + home_freight AS cost, (SELECT count(*) FROM order_line WHERE purchase_order = o.id) AS lines FROM purchase_order o WHERE id = ?",
    ).get(orders[0])!;
    expect(after.lines).toBe(2);
    expect(after.cost - before.cost).toBe(shown.cost);
  });

  it("asks again where a price, a need or the bench changed since it was shown", () => {
    const bench = laid();
    const { head, mark } = sheetOf(bench);
    sql(h.db, "UPDATE price_break SET valid_to = '2026-11-23' WHERE price = 31200000").run();
    const stale = writeBench(h.desk("ines"), { bench, version: head.version, mark });
    expect(stale.ok ? "" : stale.stale).toBe(true);
    expect(sql<{ n: number }>(h.db, "SELECT count(*) AS n FROM purchase_order").get()!.n).toBe(0);
  });

  it("writes nothing at a supplier who was blocked meanwhile, and says so", () => {
    const bench = laid();
    sql(h.db, "UPDATE supplier SET blocked = 'owes us three credits' WHERE code = 'BAW'").run();
    expect(refusal(write(bench))[0]).toMatch(
      /Hull anode: Brannock is blocked \(owes us three credits\)\. Choose another supplier\./,
    );
    expect(sql<{ n: number }>(h.db, "SELECT count(*) AS n FROM purchase_order").get()!.n).toBe(0);
  });

  it("leaves rows without a supplier, and needs that somebody else took, where they are", () => {
    const bench = laid();
    const [rowKey, anoKey] = [rope(), anodes()];
    must(choose(bench, rowKey, { what: "none" }));
    sql(h.db, "UPDATE noted_need SET dropped = 'found some' WHERE id = ?").run(Number(anoKey.slice(2)));
    expect(sheetOf(bench).gone).toEqual([{ key: anoKey, name: "Hull anode", version: 1 }]);
    expect(must(write(bench))).toMatchObject({ left: 2 });
    expect(Object.keys(sheetOf(bench).rows)).toEqual([rowKey]);
  });
});

describe("filling an order up", () => {
  it("finds what closes the gap at the least cost, says whether it pays, and brings it forward", async () => {
    const bench = laid();
    must(choose(bench, oil(), { what: "supplier", supplier: h.id("supplier", "QUO") }));
    // Eight drums at 640: two more reach 500, and oil is used.
    used(h, "OIL", "TQ", "2026-11-10", 600);
    const order = `${h.id("supplier", "QUO")}/${h.id("store", "TQ")}`;
    const before = sheetOf(bench);
    const cost = (sheet: typeof before) =>
      reckonPlacing(sheet.problem, placingFrom(sheet.problem.rows, sheet.choices)).cost;
    const name = { order, kind: "break", item: `i${h.id("item", "OIL")}` };
    const fill = (await fillUp(h.db, bench, name, TODAY, 9))!;
    expect(fill.brought.map((b) => [b.name, b.buy])).toEqual([["more Hydraulic oil", 30_000]]);
    expect(fill.closes && fill.pays).toBe(true);
    expect(comesOut(fill.sum)).toBe(true);
    must(bringForward(h.desk("ines"), { bench, order, ids: fill.brought.map((b) => b.id) }));
    const after = sheetOf(bench);
    expect(cost(after) - cost(before)).toBe(fill.brought[0]!.later - fill.saves);
    expect(await fillUp(h.db, bench, name, TODAY, 9)).toBeNull();
  });

  it("says where there is nothing to bring forward, and refuses what changed meanwhile", async () => {
    const bench = laid();
    const order = `${h.id("supplier", "QUO")}/${h.id("store", "HS")}`;
    must(choose(bench, anodes(), { what: "supplier", supplier: h.id("supplier", "QUO") }));
    const fill = (await fillUp(h.db, bench, { order, kind: "minimum", item: "" }, TODAY, 9))!;
    expect(fill.target).toMatchObject({ gap: 138_000 });
    expect([fill.brought, fill.closes]).toEqual([[], false]);
    expect(refusal(bringForward(h.desk("ines"), { bench, order, ids: ["s:1:2"] }))[0]).toMatch(/Look at it again/);
  });
});
