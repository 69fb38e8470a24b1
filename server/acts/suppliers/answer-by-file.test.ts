import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, utimesSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import type { OrderId } from "../../../core/ids";
import { sql } from "../../db/open";
import { takeInbox } from "../../jobs/inbox";
import { brokenTruths } from "../../queries/always-true";
import { readOrder } from "../../queries/orders/order";
import { readSchedule } from "../../queries/orders/schedule";
import { readOpenAnswers, readSaid } from "../../queries/suppliers/answers";
import { readAnswerRecords } from "../../queries/suppliers/answers-file";
import { readOpenInstalments } from "../../queries/suppliers/open-lines";
import { must, refusal, stateOf, type TestHouse, TODAY, testHouse, versionOf } from "../../testing";
import { loadFile } from "../files/load-file";
import { receiveGoods } from "../receiving/receive-goods";
import { answerByFile, answerByProgram } from "./answer-by-file";
import { takeAnswers } from "./decide-answer";

let h: TestHouse;
let order: OrderId;
beforeEach(() => {
  h = testHouse();
  must(
    loadFile(
      h.desk("osk"),
      "sourcing",
      Buffer.from("item,supplier,their_code,unit,factor,lead_days\nROP,BAW,Z-R,each,1,5\n"),
      ".",
    ),
  );
  const file =
    "order,supplier,store,item,quantity,required,price\nX-1,BAW,TQ,ANO,50,2026-12-04,18.40\nX-1,BAW,TQ,ROP,2,2026-12-04,1298\n";
  must(loadFile(h.desk("osk"), "orders", Buffer.from(file), "."));
  order = sql<{ id: OrderId }>(h.db, "SELECT id FROM purchase_order WHERE brought = 'X-1'").get()!.id;
});
afterEach(() => {
  expect(brokenTruths(h.db)).toEqual([]);
  h.close();
});

const UBL = "urn:oasis:names:specification:ubl:schema:xsd";
const names = `xmlns:cac="${UBL}:CommonAggregateComponents-2" xmlns:cbc="${UBL}:CommonBasicComponents-2"`;
const xml = (id: string, inner: string, { code = "", day = TODAY as string, name = "X-1", more = "" } = {}) =>
  Buffer.from(`<OrderResponse xmlns="${UBL}:OrderResponse-2" ${names}><cbc:ID>${id}</cbc:ID><cbc:IssueDate>${day}</cbc:IssueDate>${code && `<cbc:OrderResponseCode>${code}</cbc:OrderResponseCode>`}
    <cac:OrderReference><cbc:ID>${name}</cbc:ID>${more}</cac:OrderReference>${inner}</OrderResponse>`);
const line = (id: number, inner: string) =>
  `<cac:OrderLine><cac:LineItem><cbc:ID>${id}</cbc:ID>${inner}</cac:LineItem></cac:OrderLine>`;
const delivery = (quantity: number, day: string) =>
  `<cac:Delivery><cbc:Quantity unitCode="C62">${quantity}</cbc:Quantity><cac:PromisedDeliveryPeriod><cbc:EndDate>${day}</cbc:EndDate></cac:PromisedDeliveryPeriod></cac:Delivery>`;
const bring = (bytes: Buffer) => answerByFile(h.desk("ines"), bytes);
const rows = (position: number) =>
  readSchedule(h.db, readOrder(h.db, order)!.lines[position - 1]!.id).map((s) => [s.quantity / 10_000, s.promised]);
const waiting = () => readOpenAnswers(h.db, TODAY, order).map((a) => [a.position, a.said.parts, a.said.price]);

describe("an answer in a file", () => {
  it("that accepts all confirms the order, once", () => {
    const kept = must(bring(xml("R-1", "", { code: "AP" })));
    expect([kept.number, kept.asOrdered.length, kept.wait]).toEqual(["26-1001", 2, []]);
    expect(stateOf(h.db, "purchase_order", order)).toBe("Confirmed");
    expect(readSaid(h.db, order)[0]).toMatchObject({ way: "file", saidBy: "Brannock", writtenBy: "Ines" });
    expect(refusal(bring(xml("R-1", "", { code: "AP" })))).toEqual(["Their answer R-1 to 26-1001 was kept already."]);
  });

  it("may add a charge to a line or to all of it, which says what it is for", () => {
    const charge = (amount: string, words: string, currency = "EUR") =>
      `<cac:AllowanceCharge><cbc:ChargeIndicator>true</cbc:ChargeIndicator>${words && `<cbc:AllowanceChargeReason>${words}</cbc:AllowanceChargeReason>`}<cbc:Amount currencyID="${currency}">${amount}</cbc:Amount></cac:AllowanceCharge>`;
    const charges = () => readOpenAnswers(h.db, TODAY, order).map((a) => [a.position, a.said.charge]);
    must(bring(xml("C-1", charge("40.00", "Freight") + line(2, charge("12.50", "Pallets")), { code: "CA" })));
    expect(charges().sort()).toEqual([
      [1, { words: "Freight", price: 40_000_000 }],
      [2, { words: "Pallets", price: 12_500_000 }],
    ]);
    // An allowance is in the net price, and no charge.
    const allowance = charge("5", "Rebate").replace("true", "false");
    must(bring(xml("C-2", line(1, allowance) + line(2, ""), { code: "CA" })));
    expect(charges()).toEqual([]);
    const says = (inner: string) => refusal(bring(xml("C-9", inner, { code: "CA" })));
    expect(says(line(1, charge("12", "")))).toEqual(["line 1: Line 1: its charge does not say what it is for."]);
    expect(says(line(1, charge("12", "Pallets", "GBP")))).toEqual([
      "line 1: Line 1: its charge is in GBP, the order in EUR.",
    ]);
    expect(says(line(1, charge("-3", "Pallets")))).toEqual([
      "line 1: Line 1: its charge is not a number of nought or more.",
    ]);
    expect(says(line(1, charge("3", "Pallets") + charge("4", "Foil")))).toEqual([
      "line 1: Line 1: its charge is not a number of nought or more.",
    ]);
  });

  it("that splits a line waits to be decided, and is taken like any other; other lines are as ordered", () => {
    must(
      bring(
        xml(
          "R-2",
          line(
            1,
            `<cbc:Quantity unitCode="EA">50</cbc:Quantity>`.replace("EA", "C62") +
              delivery(30, "2026-12-04") +
              delivery(20, "2026-12-31"),
          ),
          { code: "CA" },
        ),
      ),
    );
    expect(waiting()).toEqual([
      [
        1,
        [
          { quantity: 300_000, day: "2026-12-04" },
          { quantity: 200_000, day: "2026-12-31" },
        ],
        null,
      ],
    ]);
    expect(rows(2)).toEqual([[2, "2026-12-04"]]);
    const version = sql<{ version: number }>(h.db, "SELECT version FROM purchase_order WHERE id = ?").get(
      order,
    )!.version;
    must(takeAnswers(h.desk("ines"), { order, version, lines: [readOpenAnswers(h.db, TODAY, order)[0]!.id] }));
    expect(rows(1)).toEqual([
      [30, "2026-12-04"],
      [20, "2026-12-31"],
    ]);
  });

  it("rejects all, or one line; less or more on the days as they stand; another price, per so many", () => {
    must(bring(xml("R-3", "", { code: "RE" })));
    expect(waiting().map((w) => w[1])).toEqual([[], []]);
    must(
      bring(
        xml("R-4", line(2, "<cbc:LineStatusCode>7</cbc:LineStatusCode>") + line(1, "<cbc:Quantity>44</cbc:Quantity>")),
      ),
    );
    expect(waiting().toSorted()).toEqual([
      [1, [{ quantity: 440_000, day: "2026-12-04" }], null],
      [2, [], null],
    ]);
    const price = (amount: string, per: string) =>
      `<cac:Price><cbc:PriceAmount currencyID="EUR">${amount}</cbc:PriceAmount><cbc:BaseQuantity>${per}</cbc:BaseQuantity></cac:Price>`;
    must(bring(xml("R-5", line(1, price("1925.00", "100")))));
    expect(waiting().find((w) => w[0] === 1)).toEqual([1, null, 19_250_000]);
    // The price that stands, said for a hundred: no difference.
    must(bring(xml("R-6", line(1, price("1840", "100") + delivery(50, "2026-12-04")))));
    expect(waiting().map((w) => w[0])).toEqual([2]);
  });

  it("of a line of which some is in speaks of what is still to come, or of the whole", () => {
    const lines = readOrder(h.db, order)!.lines;
    must(
      receiveGoods(h.desk("tobias"), {
        order,
        version: versionOf(h.db, "purchase_order", order),
        deliveryNote: "N-1",
        lines: [{ line: lines[0]!.id, counted: "10" }],
      }),
    );
    must(
      bring(xml("R-7", line(1, `<cbc:Quantity>50</cbc:Quantity>${delivery(10, TODAY)}${delivery(40, "2026-12-20")}`))),
    );
    expect(waiting()[0]![1]).toEqual([{ quantity: 400_000, day: "2026-12-20" }]);
    must(bring(xml("R-8", line(1, delivery(40, "2026-12-22")))));
    expect(waiting()[0]![1]).toEqual([{ quantity: 400_000, day: "2026-12-22" }]);
  });

  it.each([
    ["another order", xml("F", "", { name: "26-9999" }), "It answers order 26-9999, which is none of ours."],
    ["receipt alone", xml("F", "", { code: "AB" }), "It says only that the order came, and confirms nothing."],
    ["tomorrow", xml("F", "", { day: "2026-11-25" }), "saidOn: It is of a day that is still to come."],
    ["no day", xml("F", "", { day: "2026-02-30" }), "IssueDate is missing, or no such day."],
    ["a line of none", xml("F", line(9, "")), "Line 9: there is no such line on this order."],
    [
      "a unit",
      xml("F", line(1, '<cbc:Quantity unitCode="KGM">5</cbc:Quantity>')),
      "it speaks of KGM, the order of C62.",
    ],
    ["grouping", xml("F", line(1, "<cbc:Quantity>1,000</cbc:Quantity>")), "“1,000” is not a number."],
    ["below nought", xml("F", line(1, "<cac:Price><cbc:PriceAmount>-1</cbc:PriceAmount></cac:Price>")), "below zero"],
    [
      "currency",
      xml("F", line(1, '<cac:Price><cbc:PriceAmount currencyID="SEK">1</cbc:PriceAmount></cac:Price>')),
      "its price is in SEK, the order in EUR.",
    ],
    [
      "a sum",
      xml("F", line(1, `<cbc:Quantity>50</cbc:Quantity>${delivery(30, "2026-12-04")}${delivery(10, "2026-12-31")}`)),
      "its deliveries do not add up to its quantity.",
    ],
    ["a day that passed", xml("F", line(1, delivery(50, "2026-11-01"))), "passed"],
    ["a day of none", xml("F", line(1, delivery(50, "2026-13-01"))), "2026-13-01 is no day."],
    ["too much", xml("F", line(1, delivery(500, "2026-12-04"))), "more than twice"],
    [
      "another version",
      xml("F", "", {
        more: "<cac:DocumentReference><cbc:ID>X-1</cbc:ID><cbc:VersionID>7</cbc:VersionID></cac:DocumentReference>",
      }),
      "version 7",
    ],
    [
      "another supplier",
      xml(
        "F",
        "<cac:SellerSupplierParty><cbc:CustomerAssignedAccountID>TTL</cbc:CustomerAssignedAccountID></cac:SellerSupplierParty>",
      ),
      "It comes from TTL, but order X-1 is with BAW.",
    ],
  ])("is refused with a sentence, and nothing is kept of it: %s", (_name, bytes, says) => {
    const answer = bring(bytes);
    expect(refusal(answer).join(" ").toLowerCase()).toContain(says.toLowerCase());
    expect(sql(h.db, "SELECT count(*) AS n FROM answer").get()).toEqual({ n: 0 });
  });
});

describe("an answer of a program", () => {
  it("is kept by the numbers of order and lines", () => {
    const kept = must(
      answerByProgram(h.desk("ines"), {
        order: "X-1",
        id: "P-1",
        by: "Their system",
        lines: [{ position: 1, parts: [{ quantity: "", day: "2026-12-09" }], price: "18.45" }],
      }),
    );
    expect(kept.wait.length).toBe(1);
    expect(waiting()).toEqual([[1, [{ quantity: 500_000, day: "2026-12-09" }], 18_450_000]]);
    const file = readAnswerRecords(h.db, true);
    expect(file.map((r) => [r.order, r.line, r.part, r.quantity, r.day, r.price, r.state, r.way])).toEqual([
      ["26-1001", "1", "1", "50", "2026-12-09", "18.45", "waits", "file"],
    ]);
    expect(refusal(answerByProgram(h.desk("ines"), { order: "X-1", lines: [{ position: 7 }] }))).toEqual([
      "lines.0.position: There is no line 7.",
    ]);
    expect(refusal(answerByProgram(h.desk("ines"), { order: "26-1", all: true }))).toEqual([
      "order: There is no order 26-1 of ours.",
    ]);
    expect(refusal(answerByProgram(h.desk("joss"), { order: "X-1", all: true }))).toEqual([
      "Your role does not allow this.",
    ]);
  });
});

it("what is still to come stands in its file with its days", () => {
  must(bring(xml("R-9", line(1, delivery(50, "2026-12-04")))));
  expect(
    readOpenInstalments(h.db, TODAY).map((r) => [r.number, r.position, r.quantity, r.requested, r.promised, r.late]),
  ).toEqual([
    ["26-1001", 1, 500_000, "2026-12-04", "2026-12-04", 0],
    ["26-1001", 2, 20_000, "2026-12-04", null, 0],
  ]);
});

it("what lies in the inbox is taken in by itself: kept, or refused with the reason beside it", () => {
  const folder = mkdtempSync(join(tmpdir(), "inbox-"));
  mkdirSync(folder, { recursive: true });
  const put = (name: string, bytes: Buffer, secondsAgo: number) => {
    writeFileSync(join(folder, name), bytes);
    const at = Date.parse(`${TODAY}T12:00:00.000Z`) / 1000 - secondsAgo;
    utimesSync(join(folder, name), at, at);
  };
  put("1.xml", xml("I-1", "", { code: "AP" }), 60);
  put("2.xml", xml("I-1", "", { code: "AP" }), 60);
  put("3.xml", xml("I-3", "", { code: "AP" }), 0);
  put("note.txt", Buffer.from("not ours"), 60);
  const turn = takeInbox(h.db, folder, { now: new Date(`${TODAY}T12:00:00.500Z`), day: TODAY });
  expect(turn).toEqual({
    taken: ["1.xml"],
    refused: [{ file: "2.xml", says: "Their answer I-1 to 26-1001 was kept already." }],
  });
  expect(readdirSync(folder).sort()).toEqual(["3.xml", "done", "note.txt", "refused"]);
  expect(readFileSync(join(folder, "refused/2.xml.txt"), "utf8")).toBe(
    "Their answer I-1 to 26-1001 was kept already.\n",
  );
  expect(sql(h.db, "SELECT person, act FROM audit ORDER BY id DESC LIMIT 1").get()).toEqual({
    person: null,
    act: "order.answered",
  });
  rmSync(folder, { recursive: true });
});
