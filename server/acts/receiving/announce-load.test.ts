import { afterEach, beforeEach, describe, expect, it } from "vitest";
import type { OrderId } from "../../../core/ids";
import { receiptAdviceXml } from "../../../exchange/ubl/receipt-advice";
import { allAt, readXml, textAt } from "../../../exchange/xml-tree";
import { sql } from "../../db/open";
import { brokenTruths } from "../../queries/always-true";
import { announcedByLoad, orderOfPallet, readAnnounced } from "../../queries/receiving/announced";
import { readLinesOfLoad } from "../../queries/receiving/count-lines";
import { receiptAdvice } from "../../queries/receiving/goods-papers";
import { must, refusal, type TestHouse, TODAY, testHouse } from "../../testing";
import { announceByFile, announceFromInbox } from "./announce-load";
import { noteFromFile } from "./note-from-file";
import { receiveGoods } from "./receive-goods";
import { countIn, orderAt, placedOrder } from "./testing";

let h: TestHouse;
beforeEach(() => {
  h = testHouse();
  sql(h.db, "UPDATE item SET by_lot = 1 WHERE code = 'ANO'").run();
});
afterEach(() => {
  expect(brokenTruths(h.db)).toEqual([]);
  h.close();
});

const anodes = () =>
  placedOrder(h, "BAW", [
    { code: "ANO", quantity: "20", price: "31.20" },
    { words: "Backing sheet", kind: "not stocked", quantity: "9", price: "4.35" },
  ]);
const numberOf = (order: OrderId) =>
  sql<{ number: string }>(h.db, "SELECT number FROM purchase_order WHERE id = ?").get(order)!.number;

interface Line {
  line?: string;
  quantity?: string;
  unit?: string;
  more?: string;
  item?: string;
}
const advice = (number: string, lines: Line[], { id = "DA-9", head = "" } = {}) =>
  Buffer.from(`<?xml version="1.0"?>
<DespatchAdvice xmlns="urn:oasis:names:specification:ubl:schema:xsd:DespatchAdvice-2"
  xmlns:cac="urn:oasis:names:specification:ubl:schema:xsd:CommonAggregateComponents-2" xmlns:cbc="urn:oasis:names:specification:ubl:schema:xsd:CommonBasicComponents-2">
  <cbc:ID>${id}</cbc:ID><cbc:IssueDate>2026-11-23</cbc:IssueDate><cac:OrderReference><cbc:ID>${number}</cbc:ID></cac:OrderReference>
  <cac:DespatchSupplierParty><cbc:CustomerAssignedAccountID>BAW</cbc:CustomerAssignedAccountID></cac:DespatchSupplierParty>
  <cac:Shipment><cbc:ID>1</cbc:ID><cbc:GrossWeightMeasure unitCode="KGM">340.5</cbc:GrossWeightMeasure><cbc:TotalTransportHandlingUnitQuantity>2</cbc:TotalTransportHandlingUnitQuantity>
    <cac:Delivery><cac:EstimatedDeliveryPeriod><cbc:EndDate>2026-11-25</cbc:EndDate></cac:EstimatedDeliveryPeriod></cac:Delivery></cac:Shipment>${head}
  ${lines
    .map(
      ({ line = "1", quantity = "12", unit = "C62", more = "", item = "" }) =>
        `<cac:DespatchLine><cbc:ID>1</cbc:ID><cbc:DeliveredQuantity unitCode="${unit}">${quantity}</cbc:DeliveredQuantity>
         <cac:OrderLineReference><cbc:LineID>${line}</cbc:LineID></cac:OrderLineReference><cac:Item>${item}</cac:Item>${more}</cac:DespatchLine>`,
    )
    .join("")}
</DespatchAdvice>`);
const lot = (code: string, day = "2028-01-31") =>
  `<cac:ItemInstance><cac:LotIdentification><cbc:LotNumberID>${code}</cbc:LotNumberID><cbc:ExpiryDate>${day}</cbc:ExpiryDate></cac:LotIdentification></cac:ItemInstance>`;
const pallet = (code: string) =>
  `<cac:Shipment><cbc:ID>1</cbc:ID><cac:TransportHandlingUnit><cbc:ID>${code}</cbc:ID></cac:TransportHandlingUnit></cac:Shipment>`;
const announce = (bytes: Buffer, only: OrderId | null = null) => announceByFile(h.desk("tobias"), bytes, only);

describe("a despatch advice", () => {
  it("announces a load with its lots, weight and pallets, until it is counted in by its number", async () => {
    const { order, lines } = await anodes();
    must(
      announce(
        advice(numberOf(order), [
          { item: lot("A7"), more: pallet("340123450000000000") },
          { quantity: "8", item: lot("A8") },
          { line: "2", quantity: "9" },
        ]),
      ),
    );
    const store = h.id("store", "TQ");
    const [load] = readAnnounced(h.db, order, store);
    expect(load).toMatchObject({ number: "DA-9", arrives: "2026-11-25", packages: 2, weight: 3_405_000 });
    expect(load!.lines.map((l) => [l.line, l.quantity / 1e4, l.lot, l.expires, l.pallet])).toEqual([
      [lines[0], 12, "A7", "2028-01-31", "340123450000000000"],
      [lines[0], 8, "A8", "2028-01-31", ""],
      [lines[1], 9, "", null, ""],
    ]);
    expect(orderOfPallet(h.db, store, "340123450000000000")).toEqual({ order, number: numberOf(order) });
    expect(announcedByLoad(h.db).get(`${order} ${store}`)).toEqual({ number: "DA-9", arrives: "2026-11-25" });
    must(countIn(h, order, [{ line: lines[0], counted: "12", lot: "A7" }], { deliveryNote: "da-9" }));
    expect(readAnnounced(h.db, order, store)).toEqual([]);
    expect(orderOfPallet(h.db, store, "340123450000000000")).toBeNull();
  });

  it("has a part for each serial number", async () => {
    const { order } = await anodes();
    const serials = ["S1", "S2"]
      .map((s) => `<cac:ItemInstance><cbc:SerialID>${s}</cbc:SerialID></cac:ItemInstance>`)
      .join("");
    expect(refusal(announce(advice(numberOf(order), [{ quantity: "3", item: serials }])))).toEqual([
      "file: Line 1: it names 2 serial numbers for 3.",
    ]);
    must(announce(advice(numberOf(order), [{ quantity: "2", item: serials }])));
    expect(readAnnounced(h.db, order, h.id("store", "TQ"))[0]!.lines.map((l) => [l.lot, l.quantity])).toEqual([
      ["S1", 10_000],
      ["S2", 10_000],
    ]);
  });

  it("is refused with a sentence, and nothing of it is kept", async () => {
    const [{ order }, other] = [await anodes(), await anodes()];
    const number = numberOf(order);
    for (const [bytes, says] of [
      [advice(number, [{ line: "7" }]), "Line 7: it is not on this order."],
      [advice(number, [{ quantity: "ten" }]), /^Line 1: “ten” is no quantity/],
      [advice(number, [{ unit: "XBX" }]), "Line 1: it is in XBX, and we ordered in C62."],
      [advice(number, [{ item: lot("A") + lot("B") }]), "Line 1: it names several lots: send a line for each."],
      [advice(number, [{ item: lot("A", "2026-13-01") }]), "Line 1: “2026-13-01” is no such day."],
      [advice("26-9999", [{}]), "There is no order 26-9999 of ours."],
      [advice(numberOf(other.order), [{}]), `It is of order ${numberOf(other.order)}, and not of this one.`],
      [advice(number, []), "The despatch advice has no line."],
      [Buffer.from("<a/>"), "This is no UBL 2.1 DespatchAdvice."],
      [Buffer.from("<!DOCTYPE a []><a/>"), /declares a document type/],
    ] as const) {
      const [said] = refusal(announce(bytes as Buffer, order)) as [string];
      expect(said.replace(/^file: /, "")).toMatch(
        typeof says === "string" ? new RegExp(`^${says.replaceAll(/[.“”]/g, ".")}$`) : says,
      );
    }
    sql(h.db, "UPDATE supplier SET code = 'NOT' WHERE code = 'BAW'").run();
    expect(refusal(announce(advice(number, [{}])))).toEqual([
      `file: It comes from BAW, but order ${number} is with NOT.`,
    ]);
    sql(h.db, "UPDATE supplier SET code = 'BAW' WHERE code = 'NOT'").run();
    expect(sql(h.db, "SELECT count(*) AS n FROM announced").get()).toEqual({ n: 0 });
    must(announce(advice(number, [{}])));
    expect(refusal(announce(advice(number, [{}])))).toEqual([
      `file: Despatch advice DA-9 for order ${number} was taken in already.`,
    ]);
    expect(refusal(announceByFile(h.desk("joss"), advice(number, [{}], { id: "DA-10" })))).toEqual([
      "Your role does not allow this.",
    ]);
  });

  it("may speak of several orders, and lie in the inbox", async () => {
    const [a, b] = [await anodes(), await anodes()];
    const two = advice(numberOf(a.order), [{}, {}])
      .toString()
      .replace(
        "</cac:OrderLineReference>",
        `<cac:OrderReference><cbc:ID>${numberOf(b.order)}</cbc:ID></cac:OrderReference></cac:OrderLineReference>`,
      );
    const kept = must(announceFromInbox(h.db, Buffer.from(two), { now: "2026-11-24T08:00:00.000Z", day: TODAY }));
    expect(kept.loads.map((l) => l.order).sort()).toEqual([a.order, b.order].sort());
    expect(announceFromInbox(h.db, Buffer.from(two), { now: "2026-11-24T08:00:00.000Z", day: TODAY }).ok).toBe(false);
  });
});

describe("a delivery note", () => {
  it("as a file counts by our code, theirs, GTIN or place, adds up lots, and names what is not on the order", async () => {
    const { order } = await anodes();
    const lines = readLinesOfLoad(h.db, order, h.id("store", "TQ"));
    const read = (text: string) => noteFromFile(Buffer.from(text), lines, { today: TODAY, locale: "en-GB" });
    const note = must(
      await read(
        "Article;Item no;Qty;Lot no;Best before\nx;ano;5;A7;31/01/2028\nx;ZW-110;2;a7;\nx;4006381333931;3;A8;2028-02-01\nx;BOLT;4;;\n",
      ),
    );
    expect(note).toEqual({
      parts: [
        { line: lines[0]!.line, count: "7", lot: "A7", expires: "2028-01-31" },
        { line: lines[0]!.line, count: "3", lot: "A8", expires: "2028-02-01" },
      ],
      strangers: ["BOLT"],
    });
    expect(must(await read("line,quantity\n2,9\n")).parts).toEqual([
      { line: lines[1]!.line, count: "9", lot: "", expires: "" },
    ]);
    expect(refusal(await read("item,quantity\nANO,ten\n"))[0]).toMatch(/^file: Line 2: “ten” is no quantity/);
    expect(refusal(await read("item,quantity,expiry\nANO,1,soon\n"))).toEqual(["file: Line 2: “soon” is no such day."]);
    expect(refusal(await read("item,quantity\nBOLT,1\n"))).toEqual(["file: Nothing in it is on this order."]);
    expect(refusal(await read("a,b\n1,2\n"))).toEqual([
      "file: Name the columns in the first line: item or line, and quantity.",
    ]);
  });

  it("that comes twice is asked about, and taken in with a reason", async () => {
    const { order, lines } = await anodes();
    must(countIn(h, order, [{ line: lines[0], counted: "5", lot: "A" }], { deliveryNote: "DN 7" }));
    const again = (difference: string) =>
      receiveGoods(
        { ...h.desk("tobias"), now: "2026-11-25T08:00:00.000Z" },
        { ...orderAt(h, order), deliveryNote: "dn 7", difference, lines: [{ line: lines[0], counted: "5", lot: "A" }] },
      );
    expect(refusal(again(""))).toEqual([
      "difference: Delivery note dn 7 was counted in with D26-1001 already. Say why.",
    ]);
    must(again("the second pallet of it"));
  });
});

it("a receipt is told to the supplier's system: what was taken in, over, and rejected, by lot, without a price", async () => {
  const { order, lines } = await anodes();
  const { receipt } = must(
    countIn(
      h,
      order,
      [
        {
          line: lines[0],
          counted: "12",
          lot: "A7",
          expires: "2028-01-31",
          faulty: "2",
          fault: "damaged",
          note: "bent",
        },
        { line: lines[1], counted: "9" },
      ],
      { deliveryNote: "DN 8" },
    ),
  );
  const xml = receiptAdviceXml(receiptAdvice(h.db, receipt)!);
  const read = readXml(Buffer.from(xml));
  if (!read.ok) throw new Error(read.says);
  const { root } = read;
  expect([
    root.name,
    textAt(root, "ID"),
    textAt(root, "OrderReference", "ID"),
    textAt(root, "DespatchDocumentReference", "ID"),
    textAt(root, "LineCountNumeric"),
  ]).toEqual(["ReceiptAdvice", "D26-1001", numberOf(order), "DN 8", "3"]);
  expect(
    allAt(root, "ReceiptLine").map((l) => [
      textAt(l, "OrderLineReference", "LineID"),
      textAt(l, "ReceivedQuantity"),
      textAt(l, "RejectedQuantity"),
      textAt(l, "RejectReason"),
      textAt(l, "Item", "ItemInstance", "LotIdentification", "LotNumberID"),
    ]),
  ).toEqual([
    ["1", "12", null, null, "A7"],
    ["1", "0", "2", "damaged", "A7"],
    ["2", "9", null, null, null],
  ]);
  expect(xml).not.toMatch(/Price|Amount|31\.2/);
});
