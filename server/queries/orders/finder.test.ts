import ExcelJS from "exceljs";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import type { OrderId } from "../../../core/ids";
import { addLines } from "../../acts/orders/add-lines";
import { changeOrder } from "../../acts/orders/change-order";
import { keepMark, putMark, sweepMarks, takeMarkOff } from "../../acts/orders/marks";
import { placeOrder } from "../../acts/orders/place-order";
import { startOrder } from "../../acts/orders/start-order";
import { submitOrder } from "../../acts/orders/submit-order";
import { sql } from "../../db/open";
import { csvOf, must, refusal, type TestHouse, TODAY, testHouse, versionOf, workbookOf } from "../../testing";
import { lineColumns } from "./export";
import { findOrders, ORDERS, orderQuery } from "./finder";
import { marksOf } from "./marks";
import { readOrder } from "./order";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => h.close());

const at = (order: OrderId) => ({ order, version: versionOf(h.db, "purchase_order", order) });
const write = (supplier: string, code: string, quantity: string) => {
  const { order } = must(
    startOrder(h.desk("ines"), { supplier: h.id("supplier", supplier), store: h.id("store", "TQ") }),
  );
  must(addLines(h.desk("ines"), { ...at(order), add: [{ code, quantity, price: "10" }] }));
  return order;
};
const find = (search: string) =>
  findOrders(h.db, orderQuery(new URLSearchParams(search)), TODAY, { from: 0, most: 50 });
const ids = (search: string) => find(search).rows.map((r) => r.id);

describe("all orders", () => {
  it("are narrowed by state, supplier, words and days, sorted, and summed", () => {
    const [oil, rope, anode] = [write("TTL", "OIL", "8"), write("TTL", "ROP", "2"), write("BAW", "ANO", "90")];
    expect(ids("")).toEqual([anode, rope, oil]);
    expect(ids(`supplier=${h.id("supplier", "TTL")}&sort=net`)).toEqual([rope, oil]);
    expect(ids("sort=-net")).toEqual([anode, oil, rope]);
    expect(ids("find=mooring")).toEqual([rope]);
    expect(ids("find=brannock anode")).toEqual([anode]);
    expect(ids("state=Cleared")).toEqual([]);
    expect(ids("from=2026-11-25")).toEqual([]);
    expect(ids("to=2026-11-24&find=%25")).toEqual([]); // a wildcard is a letter like any other
    expect(find("")).toMatchObject({ count: 3, all: 3, homeNet: 100_000 });
    expect(ids("sort=nonsense&kind=nonsense&late=maybe")).toEqual([anode, rope, oil]);
  });

  it("say where an order stands, and give any window of them", () => {
    const all = [1, 2, 3, 4, 5].map(() => write("TTL", "OIL", "1"));
    const q = orderQuery(new URLSearchParams("sort=number"));
    expect(findOrders(h.db, q, TODAY, { from: 0, most: 2, around: all[3]! })).toMatchObject({ place: 3, from: 2 });
    expect(findOrders(h.db, q, TODAY, { from: 3, most: 2 }).rows.map((r) => r.id)).toEqual(all.slice(3));
    expect(ORDERS.ids(h.db, q, TODAY)).toEqual(all);
  });

  it("are looked at in today's rates, whatever their own were", () => {
    sql(h.db, "INSERT INTO rate VALUES ('GBP', '2026-11-01', 1100000)").run();
    const order = write("TTL", "OIL", "10");
    must(changeOrder(h.desk("ines"), { ...at(order), currency: "GBP" }));
    expect(find("").homeNet).toBe(11_000);
    sql(h.db, "INSERT INTO rate VALUES ('GBP', '2026-11-20', 1200000)").run();
    expect(find("").homeNet).toBe(11_000);
    expect(find("rates=today")).toMatchObject({ homeNet: 12_000, rows: [{ homeNet: 12_000 }] });
  });

  it("go into a file as they are shown, and nothing in it is a formula", async () => {
    const order = write("TTL", "OIL", "8");
    must(
      changeOrder(h.desk("ines"), {
        ...at(order),
        lines: [{ line: readOrder(h.db, order)!.lines[0]!.id, note: "=1+1" }],
      }),
    );
    const rows = ORDERS.rows(h.db, [order], TODAY);
    const csv = csvOf(ORDERS.file(h.db), rows);
    const sheet = readOrder(h.db, order)!;
    expect(csv).toMatch(/^\uFEFForder,kind,state,/);
    expect(csv).toContain("Tern & Tallow,Tarn Quay,Ines,2026-11-24,,");
    expect(csvOf(lineColumns(sheet), sheet.lines)).toContain("'=1+1");
    const book = new ExcelJS.Workbook();
    await book.xlsx.load((await workbookOf(ORDERS.file(h.db), rows)) as unknown as ExcelJS.Buffer);
    const [head, row] = [1, 2].map((n) => book.worksheets[0]!.getRow(n).values as unknown[]);
    expect(head!.slice(1, 4)).toEqual(["order", "kind", "state"]);
    expect(row!.slice(4, 6)).toEqual(["Tern & Tallow", "Tarn Quay"]);
    expect(typeof row![head!.indexOf("net")]).toBe("number");
  });
});

describe("marks", () => {
  const keep = (more: object) => keepMark(h.desk("osk"), { name: "Chase", event: "", ...more });
  const borne = (order: OrderId) => marksOf(h.db, order).map((m) => `${m.name}${m.person ? ` by ${m.person}` : ""}`);

  it("are put by hand and taken off again; their rules are the lead's", () => {
    const order = write("TTL", "OIL", "1");
    const { mark } = must(keep({}));
    expect(must(putMark(h.desk("ines"), { orders: [order], mark })).put).toBe(1);
    expect(must(putMark(h.desk("ines"), { orders: [order], mark })).put).toBe(0);
    expect(borne(order)).toEqual(["Chase by Ines"]);
    expect(ids(`mark=${mark}`)).toEqual([order]);
    must(takeMarkOff(h.desk("ines"), { order, mark }));
    expect(borne(order)).toEqual([]);
    expect(refusal(keepMark(h.desk("ines"), { name: "Mine", event: "" }))).toEqual(["Your role does not allow this."]);
    expect(refusal(keep({}))[0]).toMatch(/this name already/);
  });

  it("are put when an order is placed or overdue, from an amount on, and not again once they were taken off", async () => {
    const large = must(keep({ name: "Large", event: "placed", least: "50" })).mark;
    must(keep({ name: "Late", event: "overdue" }));
    const [small, big] = [write("TTL", "OIL", "1"), write("TTL", "OIL", "8")];
    for (const order of [small, big]) {
      must(submitOrder(h.desk("ines"), at(order)));
      must(await placeOrder(h.desk("ines"), at(order)));
    }
    expect([borne(small), borne(big)]).toEqual([[], ["Large"]]);
    expect(sweepMarks(h.db, TODAY, "2026-11-24T06:00:00.000Z")).toBe(0);
    const later = "2027-01-10" as typeof TODAY;
    expect(sweepMarks(h.db, later, "2027-01-10T06:00:00.000Z")).toBe(2);
    expect(borne(big)).toEqual(["Large", "Late"]);
    must(takeMarkOff(h.desk("ines"), { order: big, mark: large + 1 }));
    expect(sweepMarks(h.db, later, "2027-01-10T07:00:00.000Z")).toBe(0);
    expect(borne(big)).toEqual(["Large"]);
  });
});
