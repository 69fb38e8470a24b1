import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { addDays } from "../../core/calendar/day";
import type { OrderId } from "../../core/ids";
import { changeOrder } from "../acts/orders/change-order";
import { placeOrder } from "../acts/orders/place-order";
import { submitOrder } from "../acts/orders/submit-order";
import { writeOrders } from "../acts/orders/write-orders";
import { sign } from "../acts/signoff/sign";
import { sql } from "../db/open";
import { must, type TestHouse, TODAY, testHouse, used, versionOf } from "../testing";
import { findAll, findItems } from "./find";
import { readNeedSheet, readNeeds, usualPlan } from "./needs/needs";
import { pairKey } from "./needs/positions";
import { needQuery } from "./needs/query";
import { readNeedSlip } from "./needs/slip";
import { daysOfCover, readAllUsage, readUsage } from "./needs/usage";
import { readDrafts, readWithSuppliers } from "./orders/lists";
import { priceRecords } from "./prices";
import { readComingIn, readCountSheet } from "./receiving/dock";
import { remember } from "./remember";
import { railCounts, readToday } from "./today/today";

const PLAN = usualPlan(TODAY);
const sheetOf = (address: string, login = "ines") =>
  readNeedSheet(
    h.db,
    needQuery(new URLSearchParams(address)),
    { person: h.id("person", login), today: TODAY, hour: 9 },
    { from: 0, most: 100 },
  );
let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => h.close());

const oil = () => `s:${h.id("item", "OIL")}:${h.id("store", "TQ")}`;
const person = (login: string) => h.desk(login).person;
const write = () => must(writeOrders(h.desk("ines"), { picks: [{ need: oil(), quantity: "8" }] })).orders[0]!;
const at = (order: OrderId) => ({ order, version: versionOf(h.db, "purchase_order", order) });
const place = async () => {
  const order = write();
  must(submitOrder(h.desk("ines"), at(order)));
  must(sign(h.desk("maud"), { paper: "order", id: order, version: versionOf(h.db, "purchase_order", order) }));
  must(await placeOrder(h.desk("ines"), at(order)));
  return order;
};

describe("the slip of a need", () => {
  it("draws the projection, prices every offer, and counts usage", () => {
    const issue = (ago: number, litres: number) => used(h, "OIL", "TQ", addDays(TODAY, -ago), litres);
    issue(0, 100);
    issue(29, 412);
    issue(30, 999); // the day before the window
    issue(365 + 10, 540);
    issue(365 - 20, 790);
    const slip = readNeedSlip(h.db, PLAN, oil(), 1)!;
    expect(slip.levels).toEqual([
      { day: "2026-11-24", available: 3_400_000 },
      { day: "2026-12-01", available: 800_000 },
    ]);
    expect(slip.offers).toEqual([
      {
        sourcing: 1,
        supplier: "Tern & Tallow",
        currency: "EUR",
        perStockUnit: 3_120_000,
        from: "price list, from 5",
        arrives: "2026-12-04",
        chance: null,
        late: false,
        preferred: true,
        chosen: true,
      },
    ]);
    expect(slip.factor).toBe(2_000_000);
    const pair = { item: h.id("item", "OIL"), store: h.id("store", "TQ") };
    const usage = readUsage(h.db, pair, TODAY);
    expect(usage).toEqual({ last30: 5_120_000, before: 5_400_000, after: 7_900_000 });
    expect(readAllUsage(h.db, TODAY).get(pairKey(pair))).toEqual(usage);
    expect(daysOfCover(3_400_000, usage)).toBe(199);
    expect(readNeeds(h.db, PLAN)[0]).toMatchObject({ usage, cover: 199 });
  });

  it("is gone with its need", () => {
    write();
    expect(readNeedSlip(h.db, PLAN, oil(), 1)).toBeNull();
    expect(readNeedSlip(h.db, PLAN, "x:1'--", 1)).toBeNull();
  });
});

describe("prices", () => {
  it("remember what was last paid once the price list has nothing", async () => {
    await place();
    sql(h.db, "DELETE FROM price_break").run();
    const sourcing = sql<{ id: number }>(h.db, "SELECT id FROM sourcing WHERE item = ?").get(h.id("item", "OIL"))!.id;
    expect(priceRecords(h.db, sourcing, TODAY)).toEqual({
      blankets: [],
      quotes: [],
      breaks: [],
      lastPaid: { price: 624_000_000, order: "26-1001", day: "2026-11-24" },
      reference: 624_000_000,
    });
  });

  it("turn the reference cost into the supplier's money by the rate of the day", () => {
    sql(h.db, "UPDATE supplier SET currency = 'GBP' WHERE code = 'TTL'").run();
    const sourcing = sql<{ id: number }>(h.db, "SELECT id FROM sourcing WHERE item = ?").get(h.id("item", "OIL"))!.id;
    expect(priceRecords(h.db, sourcing, TODAY).reference).toBeNull();
    sql(
      h.db,
      "INSERT INTO rate (currency, day, rate) VALUES ('GBP', '2026-11-01', 1200000), ('GBP', '2026-11-25', 2000000)",
    ).run();
    expect(priceRecords(h.db, sourcing, TODAY).reference).toBe(520_000_000);
    expect(readNeeds(h.db, PLAN)[0]).toMatchObject({ amount: 499_200, homeAmount: 599_040 });
  });
});

describe("lists", () => {
  it("of the Bench and of suppliers follow the order on its way", async () => {
    const order = write();
    expect(readDrafts(h.db, TODAY).map((o) => [o.name, o.net, o.lines])).toEqual([[`Draft ${order}`, 499_200, 1]]);
    expect(readWithSuppliers(h.db, TODAY)).toEqual([]);
    must(
      changeOrder(h.desk("ines"), {
        ...at(order),
        note: "",
        discount: "",
        lines: [
          {
            line: sql<{ id: number }>(h.db, "SELECT id FROM order_line").get()!.id,
            quantity: "1",
            price: "660",
            discount: "",
            required: "2026-12-04",
          },
        ],
      }),
    );
    must(submitOrder(h.desk("ines"), at(order)));
    expect(readDrafts(h.db, TODAY)).toEqual([]);
    expect(readWithSuppliers(h.db, TODAY)[0]).toMatchObject({
      name: "26-1001",
      state: "Cleared",
      linesIn: 0,
      linesLate: 0,
      nextDue: "2026-12-04",
    });
    expect(readWithSuppliers(h.db, addDays(TODAY, 30))[0]!.linesLate).toBe(1);
  });

  it("of the dock are one store's, and hold no price", async () => {
    const order = await place();
    expect(readComingIn(h.db, h.id("store", "TQ"))).toEqual([
      {
        order,
        number: "26-1001",
        supplierName: "Tern & Tallow",
        storeName: "Tarn Quay",
        store: h.id("store", "TQ"),
        due: "2026-12-04",
        linesLeft: 1,
        what: "8 drums",
        version: 4,
        partIn: false,
      },
    ]);
    expect(readComingIn(h.db, h.id("store", "HS"))).toEqual([]);
    expect(JSON.stringify(readCountSheet(h.db, order))).not.toMatch(/price|net|total|discount|62400/i);
  });

  it("of needs put who misses their date first", () => {
    sql(h.db, "INSERT INTO job_demand (job, item, store, due, quantity) VALUES (1, ?, ?, '2026-11-26', 300000)").run(
      h.id("item", "ANO"),
      h.id("store", "HS"),
    );
    expect(sheetOf("").rows.map((n) => [n.code, n.missesBy])).toEqual([
      ["ANO", 10],
      ["OIL", 0],
    ]);
  });
});

describe("Today", () => {
  it("shows each role what waits for it", async () => {
    expect(readToday(h.db, person("ines"), TODAY).forYou.map((w) => [w.title, w.cost])).toEqual([
      ["Hydraulic oil must be ordered", "it must be sent today"],
    ]);
    const order = write();
    must(submitOrder(h.desk("ines"), at(order)));
    expect(readToday(h.db, person("maud"), TODAY).forYou.map((w) => w.title)).toEqual(["Order 26-1001, Tern & Tallow"]);
    expect(readToday(h.db, person("halden"), TODAY).forYou).toEqual([]);
    expect(readToday(h.db, person("maud"), TODAY).notices.map((n) => n.text)).toEqual([
      "Order 26-1001 waits for your signature",
    ]);
    expect(readToday(h.db, person("ines"), TODAY).withOthers.map((w) => w.title)).toEqual([
      "Order 26-1001, Tern & Tallow",
    ]);
    expect(railCounts(h.db, person("maud"), TODAY)["Sign-off"]).toEqual({ count: 1, late: false });
    must(sign(h.desk("maud"), { paper: "order", id: order, version: versionOf(h.db, "purchase_order", order) }));
    expect(readToday(h.db, person("maud"), TODAY).notices).toEqual([]); // done is not asked for again
    expect(readToday(h.db, person("ines"), TODAY).forYou.map((w) => w.title)).toEqual(["Order 26-1001 is cleared"]);
    must(await placeOrder(h.desk("ines"), at(order)));
    const due = addDays(TODAY, 11);
    expect(readToday(h.db, person("tobias"), due).forYou.map((w) => [w.title, w.daysLate])).toEqual([
      ["Tern & Tallow, 26-1001", 1],
    ]);
    expect(readToday(h.db, person("ines"), due).forYou.map((w) => w.title)).toContain(
      "Tern & Tallow is late with 26-1001",
    );
  });

  it("puts the waiting vessel first", () => {
    sql(h.db, "INSERT INTO job_demand (job, item, store, due, quantity) VALUES (1, ?, ?, '2026-11-26', 300000)").run(
      h.id("item", "ANO"),
      h.id("store", "HS"),
    );
    expect(readToday(h.db, person("ines"), TODAY).forYou[0]).toMatchObject({
      title: "Hull anode for Marram",
      cost: "a vessel waits",
      ifItStays: "the vessel waits 10 days",
      detail: "job 2291 runs short Thu 26 Nov, 18 on hand",
    });
  });
});

describe("the finder", () => {
  it("knows our codes, theirs and GTINs, and takes nothing as a wildcard", () => {
    expect(findItems(h.db, "oil").map((f) => f.code)).toEqual(["OIL"]);
    expect(findItems(h.db, "ZW-1").map((f) => f.code)).toEqual(["ANO"]);
    expect(findItems(h.db, "4006381333931").map((f) => f.code)).toEqual(["ANO"]);
    expect(findItems(h.db, "%%")).toEqual([]);
    expect(findItems(h.db, "__")).toEqual([]);
  });

  it("finds for each role only what it may open", async () => {
    const order = await place();
    const kinds = (login: string) => findAll(h.db, person(login), "26-10").map((f) => f.href);
    expect(kinds("ines")).toEqual([`/orders/${order}`]);
    expect(kinds("tobias")).toEqual([`/dock/${order}`]);
    expect(kinds("joss")).toEqual([]);
    expect(findAll(h.db, person("tobias"), "Tern").map((f) => f.kind)).toEqual([]);
    expect(findAll(h.db, person("ines"), "Tern").map((f) => f.kind)).toEqual(["supplier"]);
  });
});

describe("what is remembered", () => {
  it("is read again after any change, by this connection or another", () => {
    let reads = 0;
    const read = () => remember(h.db, "test", () => ++reads);
    expect([read(), read()]).toEqual([1, 1]);
    sql(h.db, "UPDATE company SET name = 'Other'").run();
    expect([read(), read()]).toEqual([2, 2]);
  });
});
