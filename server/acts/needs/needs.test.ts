import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { toDay } from "../../../core/calendar/day";
import { sql } from "../../db/open";
import { brokenTruths } from "../../queries/always-true";
import { readJob } from "../../queries/jobs/jobs";
import { readNeedSheet, readNeeds, usualPlan } from "../../queries/needs/needs";
import { readUnknown } from "../../queries/needs/noted";
import { needQuery } from "../../queries/needs/query";
import { readReviewOf } from "../../queries/needs/review";
import { readNeedSlip } from "../../queries/needs/slip";
import { readTransfer } from "../../queries/stock/transfers";
import { must, refusal, type TestHouse, TODAY, testHouse } from "../../testing";
import { loadFile } from "../files/load-file";
import { tieDemand } from "../jobs/tie-demand";
import { writeOrders } from "../orders/write-orders";
import { cancelTransfer, meetByTransfer, moveTransfer } from "../stock/transfers";
import { acceptPoints } from "./accept-points";
import { chooseNeeds, forgetChoices } from "./choose-needs";
import { mergeNeeds, partNeeds } from "./merge-needs";
import { dropNoted, noteRound, repeatOrder, sortOut } from "./note-needs";

const PLAN = usualPlan(TODAY, 9);
let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => {
  expect(brokenTruths(h.db)).toEqual([]);
  h.close();
});

const sheet = (address = "", login = "ines") =>
  readNeedSheet(
    h.db,
    needQuery(new URLSearchParams(address)),
    { person: h.id("person", login), today: TODAY, hour: 9 },
    { from: 0, most: 200 },
  );
const needOf = (code: string, kind = "s") =>
  readNeeds(h.db, PLAN).find((n) => n.code === code && n.key.startsWith(`${kind}:`));
const load = (kind: "needs" | "stock" | "usage" | "jobs" | "sourcing" | "prices", text: string, who = "osk") =>
  must(loadFile(h.desk(who), kind, Buffer.from(text), ".") as never);
const oil = () => `s:${h.id("item", "OIL")}:${h.id("store", "TQ")}`;

describe("what a person chooses", () => {
  it("is kept for that person alone, priced at the quantity that was typed, until it is placed", () => {
    must(chooseNeeds(h.desk("ines"), { choices: [{ need: oil(), ticked: true, quantity: "10" }] }));
    expect(sheet().ticked).toMatchObject([{ key: oil(), ok: true, home: 588_000 }]); // ten at the break of ten
    expect(sheet("", "maud").ticked).toEqual([]);
    const { orders } = must(writeOrders(h.desk("ines"), { picks: [{ need: oil() }] }));
    expect(
      sql<{ quantity: number }>(h.db, "SELECT quantity FROM order_line WHERE purchase_order = ?").get(orders[0])!
        .quantity,
    ).toBe(100_000);
    expect(sheet().ticked).toEqual([]);
  });
  it("keeps what is half typed, and lets nothing be written from it", () => {
    must(chooseNeeds(h.desk("ines"), { choices: [{ need: oil(), ticked: true, quantity: "many" }] }));
    expect(sheet().ticked).toMatchObject([{ ok: false, home: null }]);
    expect(refusal(writeOrders(h.desk("ines"), { picks: [{ need: oil() }] }))).toEqual([
      `${oil()}: Hydraulic oil: “many” is not a number. Write it like 12.5.`,
    ]);
    must(forgetChoices(h.desk("ines")));
    expect(sheet().ticked).toEqual([]);
  });
  it("may be another supplier: pack, price and arrival follow, and the order goes there", () => {
    load("sourcing", "item,supplier,their_code,unit,factor,lead_days,rank\nOIL,BAW,B-OIL,keg,20,3,2\n");
    load("prices", "item,supplier,from,price\nOIL,BAW,1,70\n");
    const { id: own } = sql<{ id: number }>(
      h.db,
      "SELECT c.id FROM sourcing c JOIN supplier s ON s.id = c.supplier WHERE s.code = 'BAW' AND c.item = ?",
    ).get(h.id("item", "OIL"))!;
    must(chooseNeeds(h.desk("ines"), { choices: [{ need: oil(), ticked: true, sourcing: own }] }));
    const row = sheet().rows.find((n) => n.key === oil())!;
    expect([row.unit, row.buy, row.supplier?.name, row.arrives]).toEqual(["keg", 800_000, "Brannock", "2026-11-27"]);
    const slip = readNeedSlip(h.db, PLAN, oil(), h.id("person", "ines"))!;
    expect(slip.offers.map((o) => [o.supplier, o.chosen])).toEqual([
      ["Tern & Tallow", false],
      ["Brannock", true],
    ]);
    const { orders } = must(writeOrders(h.desk("ines"), { picks: [{ need: oil() }] }));
    expect(
      sql<{ code: string }>(
        h.db,
        "SELECT s.code FROM purchase_order o JOIN supplier s ON s.id = o.supplier WHERE o.id = ?",
      ).get(orders[0])!.code,
    ).toBe("BAW");
  });
});

describe("the sheet", () => {
  beforeEach(() => {
    load("needs", "item,store,quantity,needed_by\nANO,HS,5,2026-12-20\nOIL,TQ,400,2026-12-15\n", "ines");
    must(
      noteRound(h.desk("tobias"), {
        store: h.id("store", "TQ"),
        lines: [{ key: "round-1-a", code: "ROP", quantity: "2", unit: "coil" }],
      }),
    );
  });
  it("narrows, finds, groups and sorts, and says how many each choice has", () => {
    expect(sheet().facets.source.map((f) => [f.value, f.count])).toEqual([
      ["reorder", 1],
      ["floor", 1],
      ["file", 2],
    ]);
    expect(
      sheet("source=file")
        .rows.map((n) => n.code)
        .sort(),
    ).toEqual(["ANO", "OIL"]);
    expect(
      sheet("find=hydr+tarn")
        .rows.map((n) => n.source)
        .sort(),
    ).toEqual(["file", "reorder"]);
    expect(sheet("group=store").groups.map((g) => [g.label, g.count])).toEqual([
      ["Holm Slip", 1],
      ["Tarn Quay", 3],
    ]);
    const sorted = sheet("group=none&sort=-wanted").rows.map((n) => n.wanted);
    expect(sorted).toEqual([...sorted].sort((a, b) => b - a));
    expect(sheet("supplier=none").rows.map((n) => n.code)).toEqual(["ROP"]);
    expect(sheet("group=supplier").groups.at(-1)!.label).toBe("No supplier yet");
    expect(sheet("sort=nonsense&group=nonsense&late=nonsense&run=nonsense&asOf=2026-02-31").count).toBe(4);
  });
  it("gives rows from one on, or around the one that is asked for", () => {
    const q = needQuery(new URLSearchParams("group=none&sort=code"));
    const at = { person: h.id("person", "ines"), today: TODAY, hour: 9 };
    const all = sheet("group=none&sort=code").rows.map((n) => n.key);
    const window = readNeedSheet(h.db, q, at, { from: 1, most: 2 });
    expect([window.from, window.rows.map((n) => n.key), window.count]).toEqual([1, all.slice(1, 3), 4]);
    const around = readNeedSheet(h.db, q, at, { from: 0, most: 2, around: all[3] });
    expect([around.place, around.from, around.rows.map((n) => n.key)]).toEqual([3, 2, all.slice(2)]);
  });
  it("lets several needs stand as one row, rounded once, and each source keeps its tie", () => {
    const item = h.id("item", "OIL");
    const store = h.id("store", "TQ");
    expect(readNeedSlip(h.db, PLAN, oil(), 1)!.twins).toBe(1);
    must(mergeNeeds(h.desk("ines"), { item, store }));
    const merged = needOf("OIL", "m")!;
    expect(merged.parts.map((p) => [p.source, p.wanted]).sort()).toEqual([
      ["file", 4_000_000],
      ["reorder", 16_000_000],
    ]);
    expect([merged.wanted, merged.buy, needOf("OIL")]).toEqual([20_000_000, 100_000, undefined]);
    const { orders } = must(writeOrders(h.desk("ines"), { picks: [{ need: merged.key }] }));
    expect(
      sql<{ source: string; quantity: number }>(
        h.db,
        "SELECT t.source, t.quantity FROM need_tie t JOIN order_line l ON l.id = t.order_line WHERE l.purchase_order = ? ORDER BY t.source",
      ).all(orders[0]),
    ).toEqual([
      { source: "noted", quantity: 4_000_000 },
      { source: "reorder", quantity: 16_000_000 },
    ]);
    must(partNeeds(h.desk("ines"), { item, store }));
    expect(refusal(partNeeds(h.desk("ines"), { item, store }))).toEqual(["These needs stand apart already."]);
  });
  it("asks for a supplier before a floor need goes on", () => {
    const rope = needOf("ROP", "n")!;
    expect([rope.supplier, rope.wanted]).toEqual([null, 4_400_000]); // two coils of 220 m
    expect(refusal(writeOrders(h.desk("ines"), { picks: [{ need: rope.key }] }))).toEqual([
      `${rope.key}: Mooring rope has no supplier yet.`,
    ]);
  });
});

describe("a run for the whole company", () => {
  it("can buy only what jobs lack, just to the point, in lots or up to a level, and look at another day", () => {
    load("stock", "item,store,on_hand,policy,reorder_point,lot,level\nOIL,TQ,340,larger of,400,1600,2000\n");
    const wanted = (address: string) =>
      sheet(`${address}&group=none&sort=code`).rows.map((n) => [n.code, n.wanted / 10_000, n.policy]);
    expect(wanted("run=usual")).toEqual([["OIL", 1600, "larger of"]]);
    expect(wanted("run=point")).toEqual([["OIL", 320, "shortfall"]]);
    expect(wanted("run=lots")).toEqual([["OIL", 1600, "fixed lot"]]);
    expect(wanted("run=level")).toEqual([["OIL", 1920, "top up"]]);
    expect(wanted("run=jobs")).toEqual([]);
    load("jobs", "job,item,store,due,quantity\n2400,ANO,TQ,2027-02-10,70\n");
    expect(wanted("run=jobs")).toEqual([]);
    expect(wanted("run=jobs&asOf=2027-02-01")).toEqual([["ANO", 10, "to order"]]);
  });
});

describe("a floor round", () => {
  const send = (lines: object[], key?: string) =>
    noteRound(h.desk("tobias", key), { store: h.id("store", "TQ"), lines });
  it("takes each line in once, however often it is sent, and holds nothing up for a bad one", () => {
    const lines = [
      { key: "line-0001", code: "4006381333931", quantity: "3", unit: "" },
      { key: "line-0002", code: "tt-46", quantity: "1", unit: "drum" },
      { key: "line-0003", code: "what?", quantity: "2", unit: "" },
      { key: "line-0004", code: "OIL", quantity: "2", unit: "coil" },
    ];
    expect(must(send(lines))).toEqual({
      taken: ["line-0001", "line-0002", "line-0003"],
      unknown: 1,
      refused: [{ key: "line-0004", says: "Hydraulic oil is not kept or sold in coil." }],
    });
    must(send(lines.slice(0, 3)));
    expect(
      readNeeds(h.db, PLAN)
        .filter((n) => n.source === "floor")
        .map((n) => [n.code, n.wanted]),
    ).toEqual([
      ["ANO", 30_000],
      ["OIL", 2_000_000],
    ]);
    expect(readUnknown(h.db).map((u) => u.code)).toEqual(["what?"]);
  });
  it("keeps unknown codes until somebody sorts them out, once", () => {
    must(send([{ key: "line-0009", code: "BLUE-TIN", quantity: "2", unit: "" }]));
    const [unknown] = readUnknown(h.db);
    must(sortOut(h.desk("ines"), { noted: unknown!.id, item: h.id("item", "OIL") }));
    expect(refusal(sortOut(h.desk("ines"), { noted: unknown!.id, item: h.id("item", "ANO") }))).toEqual([
      "Somebody sorted this out already.",
    ]);
    const need = needOf("OIL", "n")!;
    expect(need.wanted).toBe(20_000);
    expect(refusal(dropNoted(h.desk("ines"), { noted: unknown!.id, reason: "x" }))).toEqual([
      "reason: Say why, in a word or two.",
    ]);
    must(dropNoted(h.desk("ines"), { noted: unknown!.id, reason: "two are in the shed" }));
    expect(needOf("OIL", "n")).toBeUndefined();
    expect(refusal(dropNoted(h.desk("ines"), { noted: unknown!.id, reason: "again" }))).toEqual([
      "This is ordered already, or was put aside by somebody else.",
    ]);
  });
  it("is for those who walk the floor", () => {
    expect(
      refusal(
        noteRound(h.desk("halden"), { store: 1, lines: [{ key: "line-0001", code: "OIL", quantity: "1", unit: "" }] }),
      ),
    ).toEqual(["Your role does not allow this."]);
  });
});

describe("an order to repeat", () => {
  it("puts its lines into the pool again, with the supplier they went to", () => {
    const { orders } = must(writeOrders(h.desk("ines"), { picks: [{ need: oil() }] }));
    expect(refusal(repeatOrder(h.desk("ines"), { order: orders[0] }))).toEqual([
      "There is no such order, or it was never handed in.",
    ]);
    sql(h.db, "UPDATE purchase_order SET number = 'X-1' WHERE id = ?").run(orders[0]);
    must(repeatOrder(h.desk("ines"), { order: orders[0] }));
    expect(needOf("OIL", "n")).toMatchObject({
      source: "repeat",
      wanted: 16_000_000,
      supplier: { name: "Tern & Tallow" },
    });
  });
});

describe("a transfer instead of a purchase", () => {
  const hull = () => needOf("ANO")!;
  const free = () => readNeedSlip(h.db, PLAN, hull().key, 1)!.elsewhere;
  beforeEach(() =>
    load("jobs", "job,name,vessel,item,store,due,quantity\n2291,Winter refit,Marram,ANO,HS,2026-12-02,30\n"),
  );

  it("is offered where another store can spare it, and counts as on its way once it is planned", () => {
    expect(hull()).toMatchObject({ storeName: "Holm Slip", forJob: "job 2291, Marram", missesBy: 4 });
    expect(free()).toMatchObject([{ storeName: "Tarn Quay", free: 420_000, note: null }]); // 60 less the point of 18
    const { transfer, number } = must(
      meetByTransfer(h.desk("ines"), {
        need: hull().key,
        item: h.id("item", "ANO"),
        from: h.id("store", "TQ"),
        quantity: "40",
      }),
    );
    expect([number, needOf("ANO")]).toEqual(["T26-1001", undefined]);
    expect(refusal(moveTransfer(h.desk("joss"), { transfer, version: 1 }))).toEqual(["Your role does not allow this."]);
    must(moveTransfer(h.desk("tobias"), { transfer, version: 1 }));
    const moved = sql<{ store: number; quantity: number; kind: string }>(
      h.db,
      "SELECT store, quantity, kind FROM movement WHERE kind = 'transfer' ORDER BY id",
    ).all();
    expect(moved).toEqual([
      { store: h.id("store", "TQ"), quantity: -400_000, kind: "transfer" },
      { store: h.id("store", "HS"), quantity: 400_000, kind: "transfer" },
    ]);
    expect(readTransfer(h.db, transfer)!.lines[0]).toMatchObject({ here: 200_000, there: 580_000 });
    expect(refusal(moveTransfer(h.desk("tobias"), { transfer, version: 2 }))).toEqual([
      "Transfer T26-1001 is moved already.",
    ]);
  });
  it("brings the need back when it is cancelled", () => {
    const key = hull().key;
    const { transfer } = must(
      meetByTransfer(h.desk("ines"), {
        need: key,
        item: h.id("item", "ANO"),
        from: h.id("store", "TQ"),
        quantity: "40",
      }),
    );
    must(cancelTransfer(h.desk("ines"), { transfer, version: 1 }));
    expect(hull().key).toBe(key);
  });
  it("takes no more than is free, and a paper's need whole or not at all", () => {
    const way = { item: h.id("item", "ANO"), from: h.id("store", "TQ") };
    expect(refusal(meetByTransfer(h.desk("ines"), { need: hull().key, ...way, quantity: "43" }))).toEqual([
      "quantity: Only 42 each is free there.",
    ]);
    load("needs", "item,store,quantity\nANO,HS,20\n", "ines");
    const noted = needOf("ANO", "n")!;
    expect(refusal(meetByTransfer(h.desk("ines"), { need: noted.key, ...way, quantity: "5" }))).toEqual([
      "quantity: This need wants 20 each, and is met whole or not at all. Change its quantity first, or buy it.",
    ]);
    must(meetByTransfer(h.desk("ines"), { need: noted.key, ...way, quantity: "20" }));
    expect(needOf("ANO", "n")).toBeUndefined();
  });
});

describe("a need tied to its job", () => {
  it("is bought for it alone, and the tie stays on the order", () => {
    load("jobs", "job,name,vessel,item,store,due,quantity\n2300,Refit,Knot,ROP,TQ,2026-12-09,500\n");
    const job = sql<{ id: number }>(h.db, "SELECT id FROM job WHERE code = '2300'").get()!.id;
    const line = () => readJob(h.db, job, PLAN)!.lines[0]!;
    expect(line().cover).toMatchObject({ fromShelf: 4_400_000, lacking: 600_000 });
    must(tieDemand(h.desk("ines"), { demand: line().id, tie: "yes" }));
    const need = needOf("ROP", "j")!;
    expect([need.wanted, need.forJob, need.buy]).toEqual([600_000, "job 2300, Knot", 10_000]);
    const { orders } = must(writeOrders(h.desk("ines"), { picks: [{ need: need.key }] }));
    expect(needOf("ROP", "j")).toBeUndefined();
    expect(line()).toMatchObject({
      tied: 600_000,
      orders: [{ id: orders[0], quantity: 600_000 }],
      cover: { onItsOrder: 600_000, lacking: 0 },
    });
    expect(refusal(tieDemand(h.desk("ines"), { demand: line().id, tie: "no" }))).toEqual([
      "Nothing is tied beyond what is ordered.",
    ]);
  });
  it("is tied by itself where the company wants it so", () => {
    sql(h.db, "UPDATE company SET tie_jobs = 1").run();
    load("jobs", "job,item,store,due,quantity\n2301,ROP,TQ,2026-12-09,500\n");
    expect(needOf("ROP", "j")!.wanted).toBe(600_000);
  });
});

describe("a suggested reorder point", () => {
  beforeEach(() => {
    // 20 L every day for half a year, more on every second.
    const rows = Array.from({ length: 180 }, (_, i) => {
      const day = new Date(Date.UTC(2026, 10, 23) - i * 86_400_000).toISOString().slice(0, 10);
      return `OIL,TQ,${day},${i % 2 ? 26 : 14}`;
    });
    load("usage", `item,store,day,quantity\n${rows.join("\n")}\n`);
  });
  const review = () => readReviewOf(h.db, TODAY, { item: h.id("item", "OIL"), store: h.id("store", "TQ") })!;
  it("leaves what is on hand as it was, and comes from use and lead time", () => {
    expect(needOf("OIL")!.stock!.onHand).toBe(3_400_000);
    const r = review();
    expect([Math.round(r.daily.mean), Math.round(r.daily.deviation), r.lead]).toEqual([
      20,
      6,
      { mean: 10, deviation: 0, receipts: 0 },
    ]);
    expect(r.suggested / 10_000).toBeGreaterThan(220);
  });
  it("is accepted as it was seen, raises a level that would lie below it, and else is refused", () => {
    load("stock", "item,store,on_hand,policy,reorder_point,level,maximum\nOIL,TQ,340,top up,100,150,\n");
    const seen = review().suggested;
    const point = { item: h.id("item", "OIL"), store: h.id("store", "TQ"), point: seen };
    expect(acceptPoints(h.desk("ines"), { points: [{ ...point, point: seen + 10_000 }] })).toMatchObject({
      stale: true,
    });
    must(acceptPoints(h.desk("ines"), { points: [point] }));
    const kept = sql<{ reorder_point: number; level: number }>(
      h.db,
      "SELECT reorder_point, level FROM item_store WHERE item = ? AND store = ?",
    ).get(point.item, point.store)!;
    expect([kept.reorder_point, kept.level]).toEqual([seen, seen + 500_000]);
    load("stock", "item,store,on_hand,policy,reorder_point,level,maximum\nOIL,TQ,340,top up,100,150,180\n");
    expect(refusal(acceptPoints(h.desk("ines"), { points: [{ ...point, point: review().suggested }] }))[0]).toMatch(
      /Hydraulic oil at Tarn Quay, .*: The most the store should hold lies below the reorder point\./,
    );
  });
});

describe("what jobs want of a store that does not keep the item", () => {
  it("is a need like any other, bought to order, and seen as it changes", () => {
    load("jobs", "job,name,item,store,due,quantity\n2299,Hull,ROP,HS,2026-11-28,30\n");
    const need = readNeeds(h.db, PLAN).find((n) => n.code === "ROP" && n.storeName === "Holm Slip");
    expect(need).toMatchObject({ source: "job", wanted: 300_000, policy: "to order", forJob: "job 2299" });
    expect(needOf("ROP")).toMatchObject({ storeName: "Holm Slip" });
    load("jobs", "job,name,item,store,due,quantity,issued\n2299,Hull,ROP,HS,2026-11-28,30,30\n");
    expect(readNeeds(h.db, PLAN).some((n) => n.code === "ROP" && n.storeName === "Holm Slip")).toBe(false);
  });
});

describe("a unit in a file of needs", () => {
  it("is the preferred supplier's, and asked about where only others sell it so, and differently", () => {
    load("sourcing", "item,supplier,unit,factor,lead_days,rank\nANO,BAW,box,100,12,1\nANO,TTL,box,50,12,2\n");
    load("needs", "item,store,quantity,unit\nANO,HS,2,box\n", "ines");
    expect(needOf("ANO", "n")).toMatchObject({ wanted: 2_000_000 });
    load("sourcing", "item,supplier,unit,factor,lead_days,rank\nANO,BAW,each,1,12,1\nANO,TTL,box,50,12,2\n");
    sql(h.db, "INSERT INTO supplier (code, name, currency, delivers) VALUES ('QUO', 'Quillmere', 'EUR', 127)").run();
    load("sourcing", "item,supplier,unit,factor,lead_days,rank\nANO,QUO,box,100,12,3\n");
    const answer = loadFile(
      h.desk("ines"),
      "needs",
      Buffer.from("item,store,quantity,unit,note\nANO,HS,2,box,again\n"),
      ".",
    );
    expect(answer).toMatchObject({
      ok: false,
      faults: [{ column: "unit", says: "“box” is 50 or 100 each of Hull anode, as one buys it. Write it in each." }],
    });
  });
});

describe("runs by one rule for all", () => {
  it("take what is bought to order by the rule of the run", () => {
    load("stock", "item,store,on_hand,policy,reorder_point,level\nROP,HS,5,to order,12,48\n");
    const wanted = (run: "usual" | "point" | "level") =>
      readNeeds(h.db, { ...PLAN, run }).find((n) => n.code === "ROP" && n.storeName === "Holm Slip")?.wanted;
    expect([wanted("usual"), wanted("point"), wanted("level")]).toEqual([undefined, 70_000, 430_000]);
  });

  it("of jobs hold what jobs lack alone", () => {
    load("needs", "item,store,quantity\nANO,HS,2\n", "ines");
    load("jobs", "job,name,item,store,due,quantity\n2299,Hull,OIL,TQ,2026-12-01,500\n");
    const needs = readNeeds(h.db, { ...PLAN, run: "jobs" });
    expect(needs.map((n) => [n.source, n.code])).toEqual([["job", "OIL"]]);
  });
});

describe("the span that is looked at", () => {
  it("reaches on to the supplier's next day of delivery: a need is seen on its last day to order", () => {
    load("stock", "item,store,on_hand,policy,reorder_point,review_days\nROP,TQ,440,to order,0,0\n");
    load("sourcing", "item,supplier,unit,factor,lead_days\nROP,TTL,coil,220,5\n");
    sql(h.db, "UPDATE supplier SET delivers = 9 WHERE code = 'TTL'").run(); // Monday and Thursday
    // Sent today it comes on Mon 30 Nov; sent tomorrow on Mon 30 Nov, too, and from Thu 26 Nov on only on Thu 3 Dec.
    load("jobs", "job,name,item,store,due,quantity\n2299,Hull,ROP,TQ,2026-12-02,500\n");
    const seen = (day: string) => readNeeds(h.db, usualPlan(toDay(day), 9)).find((n) => n.code === "ROP");
    expect(seen("2026-11-24")).toBeUndefined();
    expect(seen("2026-11-25")).toMatchObject({ orderBy: "2026-11-25", neededOn: "2026-12-02", missesBy: 0 });
  });

  it("knows the store's holidays where nobody is chosen to sell it", () => {
    sql(h.db, "UPDATE store SET region = 'NO' WHERE code = 'HS'").run();
    sql(h.db, "UPDATE sourcing SET active = 0").run();
    load("needs", "item,store,quantity,needed_by\nANO,HS,2,2026-12-25\n", "ines");
    const plan = { ...usualPlan(TODAY, 9), asOf: toDay("2026-12-25") };
    expect(readNeeds(h.db, plan).find((n) => n.key.startsWith("n:"))!.arrives).toBe("2026-12-27");
  });

  it("moves usage along with the day that one looks from", () => {
    load("usage", "item,store,day,quantity\nOIL,TQ,2026-11-10,90\n");
    const used = (day: string) =>
      readNeeds(h.db, { ...PLAN, asOf: toDay(day) }).find((n) => n.code === "OIL")!.usage.last30;
    expect([used("2026-11-24"), used("2026-12-09"), used("2026-12-10")]).toEqual([900_000, 900_000, 0]);
  });

  it("counts the stock of a need from a file up to the arrival, where that is later", () => {
    load("needs", "item,store,quantity,needed_by\nOIL,TQ,200,2026-11-25\n", "ines");
    const need = needOf("OIL", "n")!;
    expect([need.neededOn, need.arrives]).toEqual(["2026-11-25", "2026-12-04"]);
    expect(need.stock).toMatchObject({ committed: 2_600_000 }); // the job of 1 Dec
  });

  it("does not let a lot cover what is due after its last day", () => {
    sql(h.db, "UPDATE item SET by_lot = 1 WHERE code = 'ROP'").run();
    load("stock", "item,store,on_hand,policy\nROP,TQ,440,to order\n");
    must(
      loadFile(
        h.desk("osk"),
        "lots",
        Buffer.from("item,store,lot,on_hand,expires\nROP,TQ,A,440,2026-11-27\n"),
        ".",
      ) as never,
    );
    load("jobs", "job,name,item,store,due,quantity\n2299,Hull,ROP,TQ,2026-11-27,100\n2300,Deck,ROP,TQ,2026-11-28,50\n");
    expect(needOf("ROP")).toMatchObject({ wanted: 500_000, neededOn: "2026-11-28", forJob: "job 2300" });
    const job = sql<{ id: number }>(h.db, "SELECT id FROM job WHERE code = '2300'").get()!.id;
    expect(readJob(h.db, job, PLAN)!.lines[0]).toMatchObject({ cover: { fromShelf: 0, lacking: 500_000 } });
  });
});
