import ExcelJS from "exceljs";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { addDays } from "../../../core/calendar/day";
import type { OrderId } from "../../../core/ids";
import { readText } from "../../../exchange/mail/read-text";
import { orderXml } from "../../../exchange/ubl/order-xml";
import { sql } from "../../db/open";
import { brokenTruths } from "../../queries/always-true";
import { budgetsOfOrder, readBudgetPapers } from "../../queries/budgets/budgets";
import { readStirs } from "../../queries/needs/positions";
import { documentNow } from "../../queries/orders/document";
import { lineColumns } from "../../queries/orders/export";
import { ORDERS } from "../../queries/orders/finder";
import { readLineSlip } from "../../queries/orders/line-slip";
import { noteLooked, readLinked, readLinks } from "../../queries/orders/link";
import { readWithSuppliers } from "../../queries/orders/lists";
import { readOrderLook } from "../../queries/orders/look";
import { readMoves } from "../../queries/orders/moves";
import { readOrder } from "../../queries/orders/order";
import { readComingIn, readCountSheet } from "../../queries/receiving/dock";
import { csvOf, must, refusal, stateOf, type TestHouse, TODAY, testHouse, versionOf, workbookOf } from "../../testing";
import { keepCommitments } from "../budgets/keep-commitments";
import { loadFile } from "../files/load-file";
import { keepJob } from "../jobs/keep-job";
import { arriveDirect } from "../receiving/arrive";
import { receiveGoods } from "../receiving/receive-goods";
import { keepForGood } from "../records/keep-for-good";
import { keepSupplier } from "../records/keep-supplier";
import { sign } from "../signoff/sign";
import { addFileLines } from "./add-file-lines";
import { addLines } from "./add-lines";
import { changeOrder } from "./change-order";
import { dropLines, sequenceLines } from "./drop-lines";
import { closeShort, holdOrder, letGo } from "./hold-order";
import { linesFromFile } from "./lines-from-file";
import { moveLines } from "./move-lines";
import { attachToOrder } from "./order-files";
import { endLink, makeLink } from "./order-link";
import { placeOrder } from "./place-order";
import { fillIn, startOrder } from "./start-order";
import { submitOrder } from "./submit-order";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
});
afterEach(() => {
  expect(brokenTruths(h.db)).toEqual([]);
  h.close();
});

const at = (order: OrderId) => ({ order, version: versionOf(h.db, "purchase_order", order) });
const read = (order: OrderId) => readOrder(h.db, order)!;
const start = (more: object = {}) =>
  must(startOrder(h.desk("ines"), { supplier: h.id("supplier", "TTL"), store: h.id("store", "TQ"), ...more })).order;
const add = (order: OrderId, ...lines: object[]) => addLines(h.desk("ines"), { ...at(order), add: lines });
const change = (order: OrderId, what: object) => changeOrder(h.desk("ines"), { ...at(order), ...what });
const place = async (order: OrderId) => {
  let waits = must(submitOrder(h.desk("ines"), at(order))).waitsFor;
  while (waits)
    waits = must(
      sign(h.desk(waits === "Yard manager" ? "maud" : "halden"), { paper: "order", id: order, ...at(order) }),
    ).left;
  must(await placeOrder(h.desk("ines"), at(order)));
};

describe("lines that are typed", () => {
  it("find their item by our code, theirs and its GTIN, priced and dated as the supplier sells it", () => {
    const order = start();
    must(
      add(
        order,
        { code: "oil", quantity: "8" },
        { code: "TT-R48", quantity: "1" },
        { code: "4006381333931", price: "31" },
      ),
    );
    expect(read(order).lines.map((l) => [l.code, l.unit, l.quantity, l.price, l.required])).toEqual([
      ["OIL", "drum", 80_000, 624_000_000, "2026-12-04"],
      ["ROP", "coil", 10_000, 1_298_000_000, "2026-11-29"],
      ["ANO", "each", 10_000, 31_000_000, addDays(TODAY, 7)], // not from their list: typed, and for the order’s own day
    ]);
    expect(read(order).head.required).toBe("2026-11-29");
  });

  it("are all added, or none with a sentence at each that cannot be", () => {
    const order = start();
    const says = refusal(
      add(
        order,
        { code: "OIL", quantity: "8" },
        { code: "nothing", quantity: "1" },
        { code: "OIL", quantity: "-1" },
        { code: "OIL", price: "12.50 GBP" },
        { kind: "service", words: "" },
      ),
    );
    expect(says).toEqual([
      "add.1.code: We know no such item. For goods or a service in words, choose which it is.",
      "add.2.quantity: A quantity cannot be negative.",
      "add.3.price: This order is in EUR, and has no place for a price in GBP. Write another order.",
      "add.4.words: Say what it is.",
    ]);
    expect(read(order).lines).toEqual([]);
  });

  it("may be goods or a service in words, or a charge that is spread over the goods", () => {
    const order = start();
    must(
      add(
        order,
        { code: "OIL", quantity: "8" },
        { kind: "service", words: "Tank cleaning", price: "200" },
        { kind: "charge", words: "Freight", price: "95" },
      ),
    );
    const [oil, , freight] = read(order).lines;
    must(change(order, { lines: [{ line: freight!.id, spread: "value" }] }));
    expect(readLineSlip(h.db, order, oil!.id, TODAY, 9)!.cost!.steps.map((s) => s.label)).toEqual([
      "goods",
      "of line 3, by value",
      "what it costs us",
      "for each",
    ]);
    must(change(order, { lines: [{ line: freight!.id, spread: "weight" }] }));
    expect(refusal(submitOrder(h.desk("ines"), at(order)))).toEqual([
      `line.${freight!.id}.spread: Line 1 has no weight. Give its item one, or spread by value.`,
    ]);
  });

  it("carry account, budget, job, notes, bin and tax, and point at nothing that is not there", () => {
    const order = start();
    must(add(order, { code: "OIL", quantity: "8" }));
    const [oil] = read(order).lines;
    expect(
      refusal(change(order, { lines: [{ line: oil!.id, account: "9999", budget: "77", job: "88" }] })),
    ).toHaveLength(3);
    const job = sql<{ id: number }>(h.db, "SELECT id FROM job").get()!.id;
    must(
      change(order, {
        lines: [{ line: oil!.id, job, note: "In drums", ownNote: "Ask Dorrit", bin: "A-1", taxRate: "10" }],
      }),
    );
    expect(read(order).lines[0]).toMatchObject({
      job,
      note: "In drums",
      ownNote: "Ask Dorrit",
      bin: "A-1",
      taxRate: 1_000,
      quantity: 80_000,
    });
  });

  it("are put into another order, and keep it", () => {
    const order = start();
    must(add(order, { code: "OIL" }, { code: "ROP" }, { kind: "service", words: "Visit", price: "1" }));
    const ids = read(order).lines.map((l) => l.id);
    must(sequenceLines(h.desk("ines"), { ...at(order), lines: [ids[2], ids[0], ids[1]] }));
    expect(read(order).lines.map((l) => [l.id, l.position])).toEqual([
      [ids[2], 1],
      [ids[0], 2],
      [ids[1], 3],
    ]);
    expect(refusal(sequenceLines(h.desk("ines"), { ...at(order), lines: ids.slice(1) }))[0]).toMatch(/meanwhile/);
    must(dropLines(h.desk("ines"), { ...at(order), lines: ids }));
    expect(refusal(submitOrder(h.desk("ines"), at(order)))).toEqual(["lines: An order needs at least one line."]);
  });

  it("come in several loads that add up; the stock to come sees each on its day", async () => {
    const order = start();
    must(add(order, { code: "OIL", quantity: "8" }));
    const line = read(order).lines[0]!.id;
    const loads = (a: string, b: string) => [
      { quantity: a, required: "2026-12-10" },
      { quantity: b, required: "2027-01-10" },
    ];
    expect(refusal(change(order, { lines: [{ line, instalments: loads("4", "3") }] }))).toEqual([
      `line.${line}.instalments: The instalments come to 7, which is 1 less than the 8 of the line.`,
    ]);
    must(change(order, { lines: [{ line, instalments: loads("5", "3") }] }));
    const stirs = () =>
      readStirs(h.db, { countOutput: false })
        .get(`${h.id("item", "OIL")}/${h.id("store", "TQ")}`)!
        .filter((s) => s.quantity > 0)
        .map((s) => [s.day, s.quantity / 10_000]);
    expect(stirs()).toEqual([
      ["2026-12-10", 1_000],
      ["2027-01-10", 600],
    ]);
    // The last load takes a changed quantity, until there is nothing left of it.
    must(change(order, { lines: [{ line, quantity: "9" }] }));
    expect(read(order).lines[0]!.instalments.map((p) => p.quantity / 10_000)).toEqual([5, 4]);
    expect(refusal(change(order, { lines: [{ line, quantity: "5" }] }))[0]).toMatch(/first 1 loads come to 5/);
    await place(order);
    must(receiveGoods(h.desk("tobias"), { ...at(order), deliveryNote: "", lines: [{ line, counted: "6" }] }));
    expect(stirs()).toEqual([["2027-01-10", 600]]);
  });

  it("are late only while something has not come whose day has passed, wherever one looks", async () => {
    const order = start();
    must(add(order, { code: "OIL", quantity: "8" }));
    const line = read(order).lines[0]!.id;
    const instalments = [
      { quantity: "5", required: "2026-11-25" },
      { quantity: "3", required: "2027-01-10" },
    ];
    must(change(order, { lines: [{ line, instalments }] }));
    await place(order);
    const later = addDays(TODAY, 10);
    const look = (day: typeof TODAY) => ({
      lists: readWithSuppliers(h.db, day).find((r) => r.id === order),
      slip: readOrderLook(h.db, order, day).lines[0],
      dock: readComingIn(h.db, null).find((l) => l.order === order),
      sheet: readCountSheet(h.db, order)!.lines[0],
      found: ORDERS.ids(h.db, ORDERS.query(new URLSearchParams("late=yes")), day).includes(order),
      page: read(order).lines[0]!,
    });
    expect(look(later)).toMatchObject({
      lists: { linesLate: 1, nextDue: "2026-11-25" },
      slip: { late: true },
      dock: { due: "2026-11-25" },
      sheet: { due: "2026-11-25" },
      found: true,
      page: { due: "2026-11-25" },
    });
    must(receiveGoods(h.desk("tobias"), { ...at(order), deliveryNote: "", lines: [{ line, counted: "5" }] }));
    expect(look(later)).toMatchObject({
      lists: { linesLate: 0, nextDue: "2027-01-10" },
      slip: { late: false },
      dock: { due: "2027-01-10" },
      sheet: { due: "2027-01-10" },
      found: false,
      page: { due: "2027-01-10" },
    });
    must(receiveGoods(h.desk("tobias"), { ...at(order), deliveryNote: "", lines: [{ line, counted: "3" }] }));
    expect(read(order).lines[0]!.due).toBe("2027-01-10");
    expect(brokenTruths(h.db)).toEqual([]);
  });
});

describe("lines from a file", () => {
  const from = (text: string, how: "" | "point" | "comma" = "") => linesFromFile(Buffer.from(text), how);
  const load = async (order: OrderId, bytes: Uint8Array) =>
    addFileLines(h.desk("ines"), at(order), must(await linesFromFile(bytes)));

  it("are known by what people call their columns, and added like typed ones", async () => {
    const order = start();
    must(
      await load(
        order,
        Buffer.from("Part No;Qty;Unit price;Discount %;Remark\nOIL;8;600;2,5;for the slip\nTT-R48;2;;;\n"),
      ),
    );
    expect(read(order).lines.map((l) => [l.code, l.quantity, l.price, l.discount, l.note])).toEqual([
      ["OIL", 80_000, 600_000_000, 250, "for the slip"],
      ["ROP", 20_000, 1_298_000_000, 0, ""],
    ]);
  });

  it("go by the unit of the file: litres become drums, and what is no whole drum or no unit of theirs is refused", async () => {
    const order = start();
    must(await load(order, Buffer.from("item,quantity,unit\nOIL,400,LTR\nOIL,3,drum\nROP,440,m\n")));
    expect(read(order).lines.map((l) => [l.quantity / 10_000, l.unit])).toEqual([
      [2, "drum"],
      [3, "drum"],
      [2, "coil"],
    ]);
    expect(refusal(await load(order, Buffer.from("item,quantity,unit\nOIL,300,L\nOIL,2,box\n")))).toEqual([
      "file: Line 2: 300 L are no whole drum of 200 L.",
      "file: Line 3: Tern & Tallow sells it by drum, not by “box”.",
    ]);
    expect(read(order).lines).toHaveLength(3);
  });

  it("ask for the decimal mark where the file does not tell, and never read thousands", async () => {
    expect(refusal(await from("item;quantity;price\nOIL;8;1,250\n"))[0]).toMatch(/^mark: Is the comma or the point/);
    expect(must(await from("item;quantity;price\nOIL;8;1,250\n", "comma"))[0]!.price).toBe("1.250");
    expect(refusal(await from("item;quantity;price\nOIL;8;1,250\n", "point"))).toEqual([
      "file: Line 2: “1,250” in price is no number. Write it like 1250.5.",
    ]);
    expect(must(await from("item;quantity;price\nOIL;0,5;1,250\n"))[0]!.price).toBe("1.250");
  });

  it("say line by line what has no place here", async () => {
    const order = start();
    expect(
      refusal(
        await load(
          order,
          Buffer.from(
            "item,quantity,price,currency,standing_discount_percent,job,wanted_by\nOIL,1,600,GBP,0,,\nOIL,1,600,EUR,5,,\nOIL,1,,,,9999,\nXX,1,,,,,\nOIL,1,,,,,2026-02-30\n",
          ),
        ),
      ).map((says) => says.replace(/^file: /, "")),
    ).toEqual([
      "Line 2: This order is in EUR, and has no place for a price in GBP. Write another order.",
      expect.stringMatching(/^Line 3: The file has a standing discount of 5 %, and with Tern & Tallow it is 0 %/),
      "Line 4: There is no job “9999” here.",
      "Line 5: We know no such item. For goods or a service in words, choose which it is.",
      "Line 6: There is no such date.",
    ]);
  });

  it("come back the same from what an order's own file says, as CSV and as a workbook", async () => {
    sql(h.db, "UPDATE sourcing SET standing_discount = 300 WHERE their_code = 'TT-46'").run();
    const order = start();
    must(
      add(
        order,
        { code: "OIL", quantity: "8", note: "=1+1" },
        { code: "ROP", quantity: "2", price: "1200.5", discount: "2.5" },
        { kind: "service", words: "Oil analysis", quantity: "1.5", price: "80" },
        { kind: "charge", words: "Pallets", quantity: "1", price: "12" },
      ),
    );
    const [oil, rope, , pallets] = read(order).lines.map((l) => l.id) as [number, number, number, number];
    must(
      change(order, {
        lines: [
          {
            line: oil,
            ownNote: "-2+3 of these",
            bin: "B4",
            instalments: [
              { quantity: "5", required: "2026-12-10" },
              { quantity: "3", required: "2027-01-10" },
            ],
          },
          { line: rope, store: h.id("store", "HS"), taxRate: "10", required: "2026-12-30" },
          { line: pallets, spread: "value" },
        ],
      }),
    );
    const facts = (of: OrderId) =>
      read(of).lines.map(({ id: _, serves: __, ...l }) => ({ ...l, priceSource: l.priceSource.kind }));
    const written = read(order);
    const columns = lineColumns(written);
    const csv = csvOf(columns, written.lines);
    const workbook = await workbookOf(columns, written.lines);
    for (const file of [Buffer.from(csv), workbook]) {
      const other = start();
      must(await load(other, file));
      expect(facts(other)).toEqual(facts(order));
      expect(read(other).totals.total).toEqual(read(order).totals.total);
    }
    expect(csv).toContain("'=1+1");
    // Days are days and amounts have the places of their currency.
    const book = new ExcelJS.Workbook();
    await book.xlsx.load(workbook as never);
    const [sheet] = book.worksheets;
    const heads = sheet!.getRow(1).values as string[];
    const cell = (name: string) => sheet!.getRow(3).getCell(heads.indexOf(name));
    expect(cell("wanted_by").value).toEqual(new Date("2026-12-30T00:00:00Z"));
    expect([cell("net").value, cell("net").numFmt]).toEqual([2340.98, "#,##0.00"]);
    const yen = await workbookOf(
      lineColumns({ ...written, head: { ...written.head, currency: "JPY" } }),
      written.lines.slice(0, 1),
    );
    await book.xlsx.load(yen as never);
    expect(book.worksheets[0]!.getRow(2).getCell(heads.indexOf("net")).numFmt).toBe("#,##0");
  });

  it("say what is wrong with a file that is none", async () => {
    expect(refusal(await from(""))[0]).toMatch(/empty/);
    expect(refusal(await from("colour,size\nred,4\n"))[0]).toMatch(/No column is called item/);
    expect(refusal(await from(`item,quantity\n${"OIL,1\n".repeat(2_001)}`))[0]).toMatch(/at most 2000 lines/);
    expect(refusal(await from("item,quantity\n"))[0]).toMatch(/no row below/);
  });
});

describe("the head of an order", () => {
  it("follows the supplier’s record until it says otherwise for itself, or for good", () => {
    const order = start();
    must(
      change(order, {
        terms: { days: "14", from: "invoice", earlyPercent: "2", earlyDays: "7" },
        delivery: { rule: "DAP", place: "Tarn Quay" },
        texts: "No pallets.",
      }),
    );
    expect(read(order).head).toMatchObject({
      terms: { days: 14, earlyPercent: 200 },
      deliveryTerms: "DAP",
      own: { terms: true, delivery: true, carrier: false, texts: true },
    });
    must(keepForGood(h.desk("ines"), at(order)));
    expect(read(order).head).toMatchObject({
      terms: { days: 14 },
      texts: "No pallets.",
      own: { terms: false, delivery: false, texts: false },
    });
    expect(read(start()).head).toMatchObject({ terms: { days: 14 }, deliveryPlace: "Tarn Quay", texts: "No pallets." });
    expect(refusal(change(order, { delivery: { rule: "DAP", place: "" } }))).toEqual([
      "delivery.place: DAP is agreed with a place: say which.",
    ]);
  });

  it("may be written in a buyer’s name, with a number elsewhere and a series of the buyer’s own", () => {
    const order = start();
    sql(h.db, "UPDATE person SET series = 'IR' WHERE login = 'ines'").run();
    must(add(order, { code: "OIL", quantity: "1" }));
    expect(refusal(change(order, { buyer: h.id("person", "joss") }))[0]).toMatch(/Only a buyer/);
    must(change(order, { brought: "OLD-7", ourReference: "M-1" }));
    must(submitOrder(h.desk("ines"), at(order)));
    expect(read(order).head.number).toBe("IR26-1001");
    const other = start();
    expect(refusal(change(other, { brought: "OLD-7" }))[0]).toMatch(/this number there already/);
  });

  it("is in one currency: prices are taken over at the rates of the day, and an unknown one is refused", () => {
    const order = start();
    must(add(order, { code: "OIL", quantity: "8" }));
    expect(refusal(change(order, { currency: "GBP" }))[0]).toMatch(/No rate for GBP/);
    must(loadFile(h.desk("osk"), "rates", Buffer.from(`currency,day,rate\nGBP,2026-11-01,1.20\n`), ".") as never);
    must(change(order, { currency: "GBP" }));
    expect(read(order).lines[0]!.price).toBe(520_000_000);
    expect(sql<{ n: number }>(h.db, "SELECT home_net AS n FROM purchase_order WHERE id = ?").get(order)!.n).toBe(
      499_200,
    );
  });

  it("is held with a reason: nobody submits or places it until it is let go", () => {
    const order = start();
    must(add(order, { code: "OIL", quantity: "1" }));
    expect(refusal(holdOrder(h.desk("ines"), { ...at(order), reason: "" }))[0]).toMatch(/Say why/);
    must(holdOrder(h.desk("ines"), { ...at(order), reason: "Waits for the survey" }));
    expect(refusal(submitOrder(h.desk("ines"), at(order)))[0]).toMatch(/is held: Waits for the survey/);
    must(letGo(h.desk("ines"), at(order)));
    must(submitOrder(h.desk("ines"), at(order)));
  });

  it("takes files of a kind that is allowed, and of a size", () => {
    const order = start();
    const put = (name: string, bytes: Uint8Array) => attachToOrder(h.desk("ines"), { order, sent: "yes" }, name, bytes);
    expect(refusal(put("run.exe", Buffer.from("MZ")))[0]).toMatch(/A PDF, a picture/);
    expect(refusal(put("big.pdf", Buffer.concat([Buffer.from("%PDF"), Buffer.alloc(10_000_001)])))[0]).toMatch(/10 MB/);
    must(put("drawing.pdf", Buffer.from("%PDF-1.7 …")));
    expect(read(order).files).toMatchObject([{ name: "drawing.pdf", sent: true }]);
  });
});

describe("the tax of an order", () => {
  const charges = (yes: boolean) => {
    const { code } = { code: "TTL" };
    const supplier = h.id("supplier", code);
    const name = "Tern & Tallow";
    must(
      keepSupplier(h.desk("osk"), {
        supplier,
        name,
        address: "",
        returnAddress: "",
        payAddress: "",
        taxNumber: "",
        taxed: yes ? "yes" : "no",
        notes: "",
        language: "",
      }),
    );
  };

  it("follows the supplier until it is placed: none where we account for it, also of a rate that was typed", async () => {
    sql(h.db, "UPDATE company SET tax_rate = 2000").run();
    sql(h.db, "UPDATE item SET tax_rate = 2000").run();
    const order = start();
    must(add(order, { code: "OIL", quantity: "1", price: "500" }));
    const [line] = read(order).lines;
    expect(read(order).totals.total.minor).toBe(60_000);
    charges(false);
    expect(read(order).lines[0]!.taxRate).toBe(0);
    expect(read(order).totals.total.minor).toBe(50_000);
    expect(brokenTruths(h.db)).toEqual([]);
    expect(refusal(change(order, { lines: [{ line: line!.id, taxRate: "20" }] }))).toEqual([
      `line.${line!.id}.taxRate: We account for the tax of what Tern & Tallow sells: no rate stands on the line.`,
    ]);
    const { document } = documentNow(h.db, order, TODAY)!;
    expect(document).toMatchObject({ total: 50_000, taxed: false });
    expect(orderXml(document)).not.toContain(">20<");
    charges(true);
    must(change(order, { lines: [{ line: line!.id, taxRate: "10" }] }));
    expect(read(order).totals.total.minor).toBe(55_000);
    charges(false);
    expect(read(order).totals.total.minor).toBe(50_000);
    charges(true);
    await place(order);
    charges(false);
    expect(read(order).totals.total.minor).toBe(55_000);
    expect(read(order).head.taxed).toBe(true);
    expect(brokenTruths(h.db)).toEqual([]);
  });

  it("follows the item until it is placed", () => {
    const order = start();
    must(add(order, { code: "OIL", quantity: "1", price: "500" }));
    must(loadFile(h.desk("osk"), "items", Buffer.from("code,name,unit,tax\nOIL,Hydraulic oil,L,7\n"), ".") as never);
    expect(read(order).lines[0]!.taxRate).toBe(700);
    expect(brokenTruths(h.db)).toEqual([]);
  });
});

describe("kinds of orders", () => {
  it("a standing list brings nothing, is never submitted, and makes orders at today’s prices", () => {
    const list = start({ kind: "standing", title: "Oils" });
    must(add(list, { code: "OIL", quantity: "8" }));
    expect(refusal(submitOrder(h.desk("ines"), at(list)))[0]).toMatch(/kept to make orders from/);
    expect(
      readStirs(h.db, { countOutput: false })
        .get(`${h.id("item", "OIL")}/${h.id("store", "TQ")}`)!
        .some((s) => s.quantity > 0),
    ).toBe(false);
    // Nothing moves onto it or off it, and no need joins it.
    const other = start();
    must(add(other, { code: "OIL", quantity: "1" }));
    expect(readMoves(h.db, read(other).head)[0]!.some((m) => m.to === `order:${list}`)).toBe(false);
    expect(readMoves(h.db, read(list).head)).toEqual({});
    expect(refusal(moveLines(h.desk("ines"), { ...at(other), to: `order:${list}` }))[0]).toMatch(/no draft any more/);
    expect(refusal(moveLines(h.desk("ines"), { ...at(list), to: `order:${other}` }))[0]).toMatch(/belong to it/);
    sql(h.db, "UPDATE price_break SET price = 600000000 WHERE from_quantity = 50000").run();
    const order = start({ from: list });
    expect(read(order).head.kind).toBe("one-off");
    expect(read(order).lines.map((l) => [l.code, l.quantity, l.price])).toEqual([["OIL", 80_000, 600_000_000]]);
  });

  it("all that one supplier should send is filled in, and serves its needs", () => {
    const order = start();
    must(fillIn(h.desk("ines"), at(order)));
    expect(read(order).lines.map((l) => [l.code, l.quantity, l.serves.length])).toEqual([["OIL", 80_000, 1]]);
    expect(refusal(fillIn(h.desk("ines"), at(order)))[0]).toMatch(/Nothing that Tarn Quay needs/);
    expect(refusal(change(order, { kind: "standing" }))[0]).toMatch(/serve needs/);
  });

  it("brings lines to several stores: each dock counts its own, and the paper says where", async () => {
    const [tq, hs] = [h.id("store", "TQ"), h.id("store", "HS")];
    const order = start({ supplier: h.id("supplier", "BAW") });
    must(add(order, { code: "ANO", quantity: "4" }, { code: "ANO", quantity: "6" }));
    const [here, there] = read(order).lines.map((l) => l.id) as [number, number];
    must(change(order, { lines: [{ line: there, store: String(hs) }] }));
    expect(read(order).lines.map((l) => l.storeName)).toEqual(["Tarn Quay", "Holm Slip"]);
    expect(documentNow(h.db, order, TODAY)!.document.lines.map((l) => l.deliverTo?.name)).toEqual([
      undefined,
      "Holm Slip store",
    ]);
    expect(refusal(change(order, { lines: [{ line: there, store: "99" }] }))).toEqual([
      `line.${there}.store: There is no such store.`,
    ]);
    await place(order);
    expect(readComingIn(h.db, null).map((l) => [l.store, l.what])).toEqual([
      [tq, "4 each"],
      [hs, "6 each"],
    ]);
    expect(readCountSheet(h.db, order, hs)!.lines.map((l) => l.line)).toEqual([there]);
    expect(readCountSheet(h.db, order)!.storeName).toBe("Tarn Quay");
    const count = (lines: object[], desk = h.desk("tobias")) =>
      receiveGoods(desk, { ...at(order), deliveryNote: "", lines });
    const both = [
      { line: here, counted: "4" },
      { line: there, counted: "6" },
    ];
    expect(refusal(count(both))).toEqual(["These lines go to different stores: count what came to each on its own."]);
    const atHolm = { ...h.desk("tobias"), person: { ...h.desk("tobias").person, store: hs } };
    expect(refusal(count([both[0]!], atHolm))).toEqual(["This load goes to Tarn Quay, not to your dock."]);
    const stockAt = (store: number) =>
      sql<{ n: number }>(h.db, "SELECT on_hand AS n FROM item_store WHERE item = ? AND store = ?").get(
        h.id("item", "ANO"),
        store,
      )!.n;
    const before = [stockAt(tq), stockAt(hs)];
    must(count([both[1]!], atHolm));
    expect(stateOf(h.db, "purchase_order", order)).toBe("Part in");
    expect([stockAt(tq), stockAt(hs)]).toEqual([before[0], before[1]! + 60_000]);
    must(count([both[0]!]));
    expect(stateOf(h.db, "purchase_order", order)).toBe("All in");
  });

  it("keeps a line at its store while it serves a need there, and moves only its own lines with the order", () => {
    const hs = String(h.id("store", "HS"));
    const order = start();
    must(fillIn(h.desk("ines"), at(order)));
    const line = read(order).lines[0]!.id;
    expect(refusal(change(order, { lines: [{ line, store: hs }] }))).toEqual([
      `line.${line}.store: It serves a need at Tarn Quay. Take it off first.`,
    ]);
    const blanket = start({ kind: "blanket", title: "Oil for a year" });
    must(add(blanket, { code: "OIL", quantity: "20" }));
    const [its] = read(blanket).lines;
    expect(refusal(change(blanket, { lines: [{ line: its!.id, store: hs }] }))[0]).toMatch(
      /A blanket order does not bring goods to a store/,
    );
    const other = start({ supplier: h.id("supplier", "BAW") });
    must(add(other, { code: "ANO", quantity: "4" }, { code: "ANO", quantity: "6" }));
    must(change(other, { lines: [{ line: read(other).lines[1]!.id, store: hs }] }));
    must(change(other, { store: hs }));
    expect(read(other).lines.map((l) => l.storeName)).toEqual(["Holm Slip", "Holm Slip"]);
  });

  it("is wanted by a day as a whole, but for loads that have days of their own", () => {
    const order = start({ supplier: h.id("supplier", "BAW") });
    must(add(order, { code: "ANO", quantity: "4" }, { code: "ANO", quantity: "6" }));
    const [, second] = read(order).lines;
    const loads = [
      { quantity: "2", required: "2026-12-10" },
      { quantity: "4", required: "2026-12-20" },
    ];
    must(change(order, { lines: [{ line: second!.id, instalments: loads }] }));
    must(change(order, { required: "2026-12-15" }));
    expect(read(order).lines.map((l) => l.required)).toEqual(["2026-12-15", "2026-12-10"]);
    expect(read(order).head.required).toBe("2026-12-10");
    expect(refusal(change(order, { required: addDays(TODAY, -1) }))).toEqual(["required: This day has passed."]);
    expect(refusal(change(order, { required: "2026-02-30" }))).toEqual(["required: There is no such date."]);
  });

  it("takes a new day for the order and a change of a line in one save, and keeps both", () => {
    const order = start({ supplier: h.id("supplier", "BAW") });
    must(add(order, { code: "ANO", quantity: "4" }, { code: "ANO", quantity: "6" }));
    const [first] = read(order).lines;
    must(change(order, { required: "2026-12-15", lines: [{ line: first!.id, quantity: "5" }] }));
    expect(read(order).lines.map((l) => [l.quantity, l.required])).toEqual([
      [50_000, "2026-12-15"],
      [60_000, "2026-12-15"],
    ]);
    expect(read(order).head.required).toBe("2026-12-15");
    must(change(order, { store: h.id("store", "HS"), lines: [{ line: first!.id, note: "Fragile" }] }));
    expect(read(order).lines.map((l) => l.storeName)).toEqual(["Holm Slip", "Holm Slip"]);
  });

  it("a direct delivery goes to the job’s address, passes the store by, and is used by its job when it arrives", async () => {
    const job = sql<{ id: number }>(h.db, "SELECT id FROM job").get()!.id;
    expect(
      refusal(
        startOrder(h.desk("ines"), { supplier: h.id("supplier", "TTL"), store: h.id("store", "TQ"), kind: "direct" }),
      ),
    ).toEqual(["job: Say which job or customer order it is delivered to."]);
    sql(h.db, "UPDATE job SET address = 'Slip 2' WHERE id = ?").run(job);
    const order = start({ kind: "direct", job });
    must(add(order, { code: "OIL", quantity: "2" }));
    expect(read(order).head).toMatchObject({ deliverName: "Marram", deliverAddress: "Slip 2", job });
    await place(order);
    const before = sql<{ n: number }>(h.db, "SELECT count(*) AS n FROM movement").get()!.n;
    const counted = { lines: [{ line: read(order).lines[0]!.id, counted: "2" }], deliveryNote: "" };
    expect(refusal(receiveGoods(h.desk("tobias"), { ...at(order), ...counted }))[0]).toMatch(
      /nothing of it comes to the dock/,
    );
    must(arriveDirect(h.desk("ines"), { ...at(order), deliveryNote: "DN 9" }));
    expect(stateOf(h.db, "purchase_order", order)).toBe("All in");
    expect(sql<{ n: number }>(h.db, "SELECT count(*) AS n FROM movement").get()!.n).toBe(before);
  });

  it("is written by a job that is marked for it, onto its open draft, where the company wants it so", () => {
    const job = (quantity: string, login = "ines") =>
      keepJob(h.desk(login), {
        job: sql<{ id: number }>(h.db, "SELECT id FROM job WHERE code = 'C-9'").get()?.id ?? "",
        code: "C-9",
        name: "Mooring",
        vessel: "Harbour Board",
        kind: "customer order",
        direct: "on",
        address: "Pier 4",
        lines: [
          {
            id:
              sql<{ id: number }>(
                h.db,
                "SELECT d.id FROM job_demand d JOIN job j ON j.id = d.job WHERE j.code = 'C-9'",
              ).get()?.id ?? "",
            item: h.id("item", "ROP"),
            store: h.id("store", "TQ"),
            due: "2026-12-20",
            quantity,
          },
        ],
        outputs: [],
      });
    const drafts = () =>
      sql<{ id: OrderId }>(h.db, "SELECT id FROM purchase_order WHERE kind = 'direct' ORDER BY id")
        .all()
        .map((o) => o.id);
    must(job("900"));
    expect(drafts()).toEqual([]);
    sql(h.db, "UPDATE company SET direct_orders = 1").run();
    must(job("900"));
    const [order] = drafts();
    // 440 lie there: 460 m lack, which is three coils of 220.
    expect(read(order!)).toMatchObject({
      head: { kind: "direct", deliverName: "Harbour Board", deliverAddress: "Pier 4" },
      lines: [{ code: "ROP", quantity: 30_000, serves: [{ source: "job" }] }],
    });
    must(job("1400"));
    expect(drafts()).toEqual([order]);
    expect(read(order!).lines.length).toBe(2);
    expect(
      refusal(
        keepJob(h.desk("ines"), {
          ...{ job: "", code: "C-10", name: "", vessel: "", kind: "job", lines: [], outputs: [] },
          direct: "on",
          address: "",
        }),
      ),
    ).toEqual(["address: Say where it is to be delivered."]);
  });

  it("is closed short with a reason: the rest is not to come, and its need is open again", async () => {
    const order = start();
    must(fillIn(h.desk("ines"), at(order)));
    const line = read(order).lines[0]!.id;
    await place(order);
    must(receiveGoods(h.desk("tobias"), { ...at(order), deliveryNote: "", lines: [{ line, counted: "3" }] }));
    must(closeShort(h.desk("ines"), { ...at(order), reason: "They stop making it" }));
    expect(read(order).lines[0]).toMatchObject({ received: 30_000, closedShort: 50_000 });
    expect(stateOf(h.db, "purchase_order", order)).toBe("Closed short");
    expect(refusal(closeShort(h.desk("ines"), { ...at(order), reason: "again" }))[0]).toMatch(/cannot be closed short/);
  });
});

describe("the private link of an order", () => {
  const linkIn = () => {
    const { eml } = sql<{ eml: Buffer }>(h.db, "SELECT eml FROM mail ORDER BY id DESC LIMIT 1").get()!;
    return /https:\/\/buying\.example\/order\/([\w-]+)/.exec(readText(eml))![1]!;
  };
  const placed = async () => {
    const order = start();
    must(add(order, { code: "OIL", quantity: "1" }));
    must(submitOrder(h.desk("ines"), at(order)));
    must(await placeOrder(h.desk("ines"), at(order), { site: "https://buying.example" }));
    return order;
  };

  it("goes out with the e-mail, shows the order as it stands, and says so once it is ended", async () => {
    const order = await placed();
    const link = linkIn();
    expect(readLinked(h.db, link, TODAY)).toMatchObject({ document: { number: "26-1001" }, state: "With supplier" });
    expect(readLinked(h.db, "somebody-guesses", TODAY)).toBeNull();
    noteLooked(h.db, link, "2026-11-25T08:00:00.000Z");
    const [sent] = readLinks(h.db, order);
    expect(sent).toMatchObject({ opened: "2026-11-25T08:00:00.000Z", ended: null });
    must(endLink(h.desk("ines"), { order, link: sent!.id }));
    expect(readLinked(h.db, link, TODAY)).toMatchObject({ says: expect.stringMatching(/has been ended/) });
  });

  it("is made anew by hand, is shown once, and stands nowhere in the file", async () => {
    const order = await placed();
    const { link } = must(makeLink(h.desk("ines", "made-by-hand"), { order }));
    expect(readLinked(h.db, link, TODAY)).toMatchObject({ state: "With supplier" });
    expect(refusal(makeLink(h.desk("ines", "made-by-hand"), { order }))[0]).toMatch(/shown only once/);
    const kept = sql<{ answer: string }>(h.db, "SELECT group_concat(answer) AS answer FROM submission").get()!.answer;
    expect(kept).not.toContain(link);
    expect(refusal(makeLink(h.desk("ines"), { order: start() }))[0]).toMatch(/Only an order that was placed/);
    expect(refusal(makeLink(h.desk("joss"), { order }))).toEqual(["Your role does not allow this."]);
  });
});

describe("budgets", () => {
  beforeEach(() => {
    must(
      loadFile(
        h.desk("osk"),
        "budgets",
        Buffer.from(
          "code,name,starts,ends,amount\nREFIT,Refits,2026-08-01,2026-12-31,5000\nREFIT,Refits,2027-01-01,2027-07-31,9000\n",
        ),
        ".",
      ) as never,
    );
  });
  const budget = (starts: string) =>
    sql<{ id: number }>(h.db, "SELECT id FROM budget WHERE starts = ?").get(starts)!.id;
  const figures = (id: number) => {
    const by: Record<string, number> = {};
    for (const p of readBudgetPapers(h.db, id, null).papers) by[p.figure] = (by[p.figure] ?? 0) + p.minor;
    return by;
  };

  it("show what an order would add while it is written, and count it once it is submitted, then received", async () => {
    const order = start();
    must(add(order, { code: "OIL", quantity: "8" }));
    const line = read(order).lines[0]!.id;
    const now = budget("2026-08-01");
    must(change(order, { lines: [{ line, budget: String(now) }] }));
    expect(budgetsOfOrder(h.db, order, TODAY)).toMatchObject([{ id: now, wish: 499_200, used: 499_200, left: 800 }]);
    expect(figures(now)).toEqual({});
    await place(order);
    expect(figures(now)).toEqual({ ordered: 499_200 });
    must(receiveGoods(h.desk("tobias"), { ...at(order), deliveryNote: "", lines: [{ line, counted: "3" }] }));
    expect(figures(now)).toEqual({ received: 187_200, ordered: 312_000 });
  });

  it("take an order that is due in the next period there, or where it was ordered, as the company says", async () => {
    const order = start();
    must(add(order, { code: "OIL", quantity: "8", required: "2027-02-01" }));
    must(change(order, { lines: [{ line: read(order).lines[0]!.id, budget: String(budget("2026-08-01")) }] }));
    await place(order);
    expect([figures(budget("2026-08-01")), figures(budget("2027-01-01"))]).toEqual([{}, { ordered: 499_200 }]);
    sql(h.db, "UPDATE company SET budget_by = 'ordered'").run();
    keepCommitments(h.db);
    expect([figures(budget("2026-08-01")), figures(budget("2027-01-01"))]).toEqual([{ ordered: 499_200 }, {}]);
  });

  it("periods of one code do not lie across each other", () => {
    const answer = loadFile(
      h.desk("osk"),
      "budgets",
      Buffer.from("code,name,starts,ends,amount\nREFIT,Refits,2026-12-01,2027-02-01,1\n"),
      ".",
    );
    expect(answer.ok).toBe(false);
  });
});
