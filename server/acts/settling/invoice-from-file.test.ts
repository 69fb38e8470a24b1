import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { sql } from "../../db/open";
import { brokenTruths } from "../../queries/always-true";
import { readInvoice, readInvoiceLines } from "../../queries/settling/invoices";
import { must, refusal, type TestHouse, TODAY, testHouse } from "../../testing";
import { countIn, placedOrder } from "../receiving/testing";
import { claimHold } from "./decide-invoice";
import { invoiceFromFile, invoiceFromInbox } from "./invoice-from-file";
import { invoicesFromTable } from "./invoices-from-table";

let h: TestHouse;
let order = "";
beforeEach(async () => {
  h = testHouse();
  const placed = await placedOrder(h, "TTL", [
    { code: "OIL", quantity: "5", price: "624", discount: "10" },
    { kind: "charge", words: "Freight", quantity: "1", price: "95" },
  ]);
  must(countIn(h, placed.order, [{ line: placed.lines[0], counted: "5" }]));
  order = sql<{ number: string }>(h.db, "SELECT number FROM purchase_order WHERE id = ?").get(placed.order)!.number;
});
afterEach(() => {
  expect(brokenTruths(h.db)).toEqual([]);
  h.close();
});

/** 5 drums at 561.60 net and 95.00 freight: 2,903.00 and 580.60 tax. */
const xml = (change: (text: string) => string = (t) => t) =>
  Buffer.from(
    change(`<?xml version="1.0" encoding="UTF-8"?>
<inv:Invoice xmlns:inv="urn:oasis:names:specification:ubl:schema:xsd:Invoice-2" xmlns:a="urn:oasis:names:specification:ubl:schema:xsd:CommonAggregateComponents-2" xmlns:b="urn:oasis:names:specification:ubl:schema:xsd:CommonBasicComponents-2">
  <b:ID>TT-40117</b:ID><b:IssueDate>2026-11-24</b:IssueDate><b:DocumentCurrencyCode>EUR</b:DocumentCurrencyCode>
  <a:OrderReference><b:ID>${order}</b:ID></a:OrderReference>
  <a:AccountingSupplierParty><a:Party><a:PartyLegalEntity><b:RegistrationName>Tern &amp; Tallow</b:RegistrationName></a:PartyLegalEntity></a:Party></a:AccountingSupplierParty>
  <a:AllowanceCharge><b:ChargeIndicator>true</b:ChargeIndicator><b:AllowanceChargeReason>Carriage</b:AllowanceChargeReason><b:Amount currencyID="EUR">95.00</b:Amount><a:TaxCategory><b:ID>S</b:ID><b:Percent>20</b:Percent></a:TaxCategory></a:AllowanceCharge>
  <a:TaxTotal><b:TaxAmount currencyID="EUR">580.60</b:TaxAmount><a:TaxSubtotal><b:TaxableAmount currencyID="EUR">2903.00</b:TaxableAmount><b:TaxAmount currencyID="EUR">580.60</b:TaxAmount><a:TaxCategory><b:ID>S</b:ID><b:Percent>20.00</b:Percent></a:TaxCategory></a:TaxSubtotal></a:TaxTotal>
  <a:LegalMonetaryTotal><b:LineExtensionAmount currencyID="EUR">2808.00</b:LineExtensionAmount><b:TaxExclusiveAmount currencyID="EUR">2903.00</b:TaxExclusiveAmount><b:TaxInclusiveAmount currencyID="EUR">3483.60</b:TaxInclusiveAmount><b:ChargeTotalAmount currencyID="EUR">95.00</b:ChargeTotalAmount><b:PayableAmount currencyID="EUR">3483.60</b:PayableAmount></a:LegalMonetaryTotal>
  <a:InvoiceLine><b:ID>1</b:ID><b:InvoicedQuantity unitCode="XDR">5</b:InvoicedQuantity><b:LineExtensionAmount currencyID="EUR">2808.00</b:LineExtensionAmount><a:OrderLineReference><b:LineID>1</b:LineID></a:OrderLineReference><a:Item><b:Name>Hydraulic oil</b:Name><a:ClassifiedTaxCategory><b:ID>S</b:ID><b:Percent>20</b:Percent></a:ClassifiedTaxCategory></a:Item><a:Price><b:PriceAmount currencyID="EUR">561.60</b:PriceAmount></a:Price></a:InvoiceLine>
</inv:Invoice>`),
  );
const load = (change?: (text: string) => string, who = "lena") => invoiceFromFile(h.desk(who), xml(change));

describe("an invoice as a file", () => {
  it("meets its order by line and charge, with the discounts of the order, and keeps the file", () => {
    const { invoice, state } = must(load());
    expect(state).toBe("Matched");
    const sheet = readInvoice(h.db, invoice)!;
    expect(sheet.head).toMatchObject({ number: "TT-40117", net: 2_903_00, tax: 580_60, total: 3_483_60 });
    expect(readInvoiceLines(h.db, invoice).map((l) => [l.orderLine !== null, l.price, l.discount, l.net])).toEqual([
      [true, 624_000_000, 1000, 2_808_00],
      [true, 95_000_000, 0, 95_00],
    ]);
    expect(sql(h.db, "SELECT length(bytes) FROM invoice_file").pluck().get()).toBe(xml().length);
  });

  it("comes by the inbox, once; its near-twin is left for somebody to look at", () => {
    const at = { now: `${TODAY}T10:00:00.000Z`, day: TODAY };
    expect(must(invoiceFromInbox(h.db, xml(), at)).state).toBe("Matched");
    expect(refusal(invoiceFromInbox(h.db, xml(), at))[0]).toMatch(/is here already/);
    const twin = xml((t) => t.replace("TT-40117", "TT-40118"));
    expect(refusal(invoiceFromInbox(h.db, twin, at))[0]).toMatch(/^another: .*Is this another one\?$/);
    expect(must(invoiceFromFile(h.desk("lena"), twin, { another: true })).state).toBe("Held");
    expect(sql(h.db, "SELECT count(*) FROM invoice").pluck().get()).toBe(2);
  });

  it("that breaks the arithmetic of EN 16931 is refused with each rule and both figures", () => {
    const broken = (change: (t: string) => string) => refusal(load(change));
    expect(broken((t) => t.replace(/580\.60/g, "580.61"))).toEqual([
      "file: BR-CO-15: the total with tax is 3483.60, and should be 3483.61.",
      "file: BR-CO-17: the tax at 20 % is 580.61, and should be 580.60.",
    ]);
    expect(
      broken((t) =>
        t.replace('LineExtensionAmount currencyID="EUR">2808.00', 'LineExtensionAmount currencyID="EUR">2807.00'),
      ),
    ).toEqual([
      "file: BR-CO-10: the sum of the lines is 2807.00, and should be 2808.00.",
      "file: BR-CO-13: the total without tax is 2903.00, and should be 2902.00.",
    ]);
    expect(
      broken((t) => t.replace(/PayableAmount currencyID="EUR">3483\.60/, 'PayableAmount currencyID="EUR">3400.00')),
    ).toEqual(["file: BR-CO-16: what is to be paid is 3400.00, and should be 3483.60."]);
    expect(
      broken((t) =>
        t.replace(
          "<b:Percent>20</b:Percent></a:TaxCategory></a:AllowanceCharge>",
          "<b:Percent>10</b:Percent></a:TaxCategory></a:AllowanceCharge>",
        ),
      )[0],
    ).toMatch(/BR-S-08: what is taxed at 20 % is 2903.00, and should be 2808.00/);
  });

  it("that cannot be one is refused in a sentence, and nothing is kept", () => {
    for (const [change, says] of [
      [(t: string) => t.replace(order, "26-9999"), /There is no order 26-9999 of ours/],
      [(t: string) => t.replace("<b:LineID>1<", "<b:LineID>7<"), /Line 1: order .* has no line 7/],
      [(t: string) => t.replace('unitCode="XDR"', 'unitCode="LTR"'), /it is billed in LTR, and was ordered in/],
      [(t: string) => t.replaceAll("EUR", "SEK"), /is in EUR, the invoice in SEK/],
      [(t: string) => t.replace("2026-11-24", "2027-11-24"), /has not come yet/],
      [(t: string) => t.replace("2026-11-24", "24.11.2026"), /is no day/],
      [(t: string) => t.replace(/<b:ID>TT-40117<\/b:ID>/, ""), /BR-02/],
      [(t: string) => t.replace(/inv:Invoice(?=[ >])/g, "inv:Order"), /This is no UBL 2\.1 Invoice/],
      [
        (t: string) => t.replace("<inv:Invoice", '<!DOCTYPE x [<!ENTITY e SYSTEM "file:///etc/hosts">]><inv:Invoice'),
        /document type or entities/,
      ],
      [(t: string) => t.replace(">561.60<", ">-1<"), /price below zero/],
      [(t: string) => t.replace(">95.00<", ">9,5<"), /is no amount of EUR/],
      [
        (t: string) =>
          t.replace(
            /<b:Percent>20<\/b:Percent><\/a:ClassifiedTaxCategory>/,
            "<b:Percent>200</b:Percent></a:ClassifiedTaxCategory>",
          ),
        /is no tax rate/,
      ],
    ] as const)
      expect(refusal(load(change)).join("\n"), String(says)).toMatch(says);
    expect(refusal(load(undefined, "ines"))).toEqual(["Your role does not allow this."]);
    expect(sql(h.db, "SELECT (SELECT count(*) FROM invoice) + (SELECT count(*) FROM invoice_file)").pluck().get()).toBe(
      0,
    );
  });
});

describe("a credit note as a file", () => {
  /** One drum at 561.60 and its tax. */
  const credit = (change: (text: string) => string = (t) => t) =>
    xml((t) =>
      change(
        t
          .replaceAll("Invoice-2", "CreditNote-2")
          .replaceAll("inv:Invoice ", "inv:CreditNote ")
          .replace("</inv:Invoice>", "</inv:CreditNote>")
          .replaceAll("InvoiceLine", "CreditNoteLine")
          .replace(
            'InvoicedQuantity unitCode="XDR">5</b:InvoicedQuantity',
            'CreditedQuantity unitCode="XDR">1</b:CreditedQuantity',
          )
          .replace(/<a:AllowanceCharge>.*<\/a:AllowanceCharge>/, "")
          .replace(/<b:ChargeTotalAmount.*<\/b:ChargeTotalAmount>/, "")
          .replaceAll("2808.00", "561.60")
          .replaceAll("2903.00", "561.60")
          .replaceAll("580.60", "112.32")
          .replaceAll("3483.60", "673.92")
          .replace("TT-40117", "C-9")
          .replace(
            "<a:OrderReference>",
            "<a:BillingReference><a:InvoiceDocumentReference><b:ID>tt 40117</b:ID></a:InvoiceDocumentReference></a:BillingReference><a:OrderReference>",
          ),
      ),
    );
  const take = (change?: (t: string) => string) => invoiceFromFile(h.desk("lena"), credit(change));
  /** Six drums are billed, five came: one is claimed. */
  const claimed = () => {
    const six = (t: string) =>
      t
        .replace('unitCode="XDR">5', 'unitCode="XDR">6')
        .replaceAll("2808.00", "3369.60")
        .replaceAll("2903.00", "3464.60")
        .replaceAll("580.60", "692.92")
        .replaceAll("3483.60", "4157.52");
    const { invoice } = must(load(six));
    const version = readInvoice(h.db, invoice)!.head.version;
    must(claimHold(h.desk("lena"), { invoice, version, reason: "quantity", position: 1 }));
  };

  it("meets what is claimed of the invoices that it names, and stays with its file", () => {
    expect(refusal(take())[0]).toMatch(/There is no invoice .*tt 40117.* of theirs here/);
    claimed();
    expect(refusal(take((t) => t.replace(/<a:BillingReference>.*<\/a:BillingReference>/, "")))[0]).toMatch(
      /does not name the invoice/,
    );
    expect(refusal(take((t) => t.replaceAll("112.32", "112.33").replaceAll("673.92", "673.93")))[0]).toMatch(
      /BR-CO-17/,
    );
    const twice = (t: string) =>
      t.replaceAll("561.60", "1123.20").replaceAll("112.32", "224.64").replaceAll("673.92", "1347.84");
    expect(refusal(take(twice))[0]).toMatch(/claims come to 673.92 EUR: a credit note larger/);
    const { invoice, state } = must(take());
    expect(state).toBe("Matched");
    expect(sql(h.db, "SELECT state FROM claim").pluck().get()).toBe("Credited");
    expect(sql(h.db, "SELECT length(bytes) FROM invoice_file WHERE invoice = ?").pluck().get(invoice)).toBe(
      credit().length,
    );
    expect(refusal(take())[0]).toMatch(/Nothing is claimed/);
  });
});

describe("invoices as a table", () => {
  const table = (...rows: string[]) =>
    invoicesFromTable(
      h.desk("lena"),
      Buffer.from(
        ["supplier,number,date,order,line,quantity,price,words,account,net,tax_rate,total", ...rows].join("\n"),
      ),
    );
  it("are entered line by line, rows of one number together, or none of them", async () => {
    expect(
      refusal(
        await table(
          `TTL,A-1,2026-11-24,${order},1,3,,,,,,`,
          `TTL,A-2,2026-11-24,${order},7,1,,,,,,`,
          `NOO,A-3,2026-11-24,${order},1,1,,,,,,`,
          `TTL,A-4,24.11.,${order},1,1,,,,,,`,
          `TTL,A-5,2026-11-24,${order},1,x,,,,,,`,
        ),
      ),
    ).toEqual([
      expect.stringMatching(/^file: Line 3: Order .* has no line/),
      expect.stringMatching(/^file: Line 4: There is no supplier/),
      expect.stringMatching(/^file: Line 5: .* is no day/),
      expect.stringMatching(/^file: Line 6: /),
    ]);
    expect(sql(h.db, "SELECT count(*) FROM invoice").pluck().get()).toBe(0);
    const done = must(
      await table(
        `TTL,A-1,2026-11-24,${order},1,3,,,,,,2116.80`,
        `TTL,A-2,2026-11-24,${order},1,9,,,,,,`,
        `TTL,a 1,2026-11-24,${order},2,1,,,,,,`,
      ),
    );
    expect(done).toEqual({ invoices: 2, lines: 3, held: 2 });
    expect(readInvoiceLines(h.db, 1).map((l) => [l.position, l.quantity])).toEqual([
      [1, 30_000],
      [2, 10_000],
    ]);
  });
  it("bill what no order has on an account, and comma marks are read", async () => {
    const account = sql<{ code: string }>(h.db, "SELECT code FROM account LIMIT 1").get();
    const file = `supplier;number;date;order;line;words;account;net;tax_rate\nTTL;B-1;2026-11-24;;;Travel;${account?.code ?? "none"};1.184,50;20\n`;
    const told = await invoicesFromTable(h.desk("lena"), Buffer.from(file));
    if (account) expect(must(told)).toMatchObject({ invoices: 1, held: 1 });
    else expect(refusal(told)[0]).toMatch(/^file: Line 2: /);
  });
});
