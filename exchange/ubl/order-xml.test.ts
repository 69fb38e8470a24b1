import { describe, expect, it } from "vitest";
import { convert } from "xmlbuilder2";
import { toDay } from "../../core/calendar/day";
import { Big } from "../../core/numbers/decimal";
import { lineNet, unitPrice } from "../../core/numbers/money";
import { totals } from "../../core/orders/totals";
import type { OrderDocument } from "../pdf/order-document";
import { orderXml } from "./order-xml";

/** The worked example of domain §1: three lines, two tax rates, a discount on the whole order. */
function example(): OrderDocument {
  const rows = [
    { quantity: 70_000, price: 624_500_000, standing: 300, discount: 200, rate: 2000 },
    { quantity: 1_250, price: 1_180_000_000, standing: 0, discount: 0, rate: 1000 },
    { quantity: 2_500_000, price: 12_500, standing: 0, discount: 0, rate: 2000 },
  ];
  const nets = rows.map((r) => lineNet(r.quantity, unitPrice(r.price), r.standing, r.discount, "EUR").minor);
  const t = totals(
    rows.map((r, i) => ({ net: nets[i]!, taxRate: r.rate })),
    150,
    "EUR",
  );
  const day = toDay("2026-12-07");
  return {
    number: "26-1192",
    day: toDay("2026-11-24"),
    company: {
      name: "Kelpholm Ferries",
      address: "1 Tarn Quay\nKelpholm",
      taxNumber: "KF 1",
      mail: "buy@kelpholm.example",
    },
    supplier: { name: "Łódź & Åse Oils <b>", address: "Oil Wharf 7", code: "LAO" },
    contacts: [{ name: "Dorrit Pell", mail: "orders@lao.example" }],
    deliverTo: { name: "Tarn Quay", address: "Gate 2" },
    writer: { name: "Ines Rathmore", title: "Buyer", mail: "ines@kelpholm.example" },
    currency: "EUR",
    locale: "en-GB",
    required: day,
    termsDays: 30,
    note: 'Ring "the bell" & wait',
    lines: rows.map((r, i) => ({
      position: i + 1,
      ours: `IT-${i + 1}`,
      theirs: i ? "" : "TT-46",
      words: `Item ${i + 1}`,
      quantity: r.quantity,
      unit: "drum",
      unitCode: "XDR",
      price: r.price,
      discount: r.discount,
      standing: r.standing,
      taxRate: r.rate,
      required: day,
      net: nets[i]!,
    })),
    discountRate: 150,
    linesNet: t.lines.minor,
    discount: t.discount.minor,
    net: t.net.minor,
    taxes: t.taxes.map((x) => ({
      rate: x.rate,
      base: x.base.minor,
      tax: x.tax.minor,
      discount: x.discountShare.minor,
    })),
    taxed: true,
    total: t.total.minor,
  };
}

// biome-ignore lint/suspicious/noExplicitAny: a parsed document is read by path
const read = (d: OrderDocument): any => (convert(orderXml(d), { format: "object" }) as Record<string, unknown>).Order;
const text = (x: unknown) => (typeof x === "object" && x !== null ? (x as Record<string, string>)["#"] : x);

describe("an order as UBL", () => {
  it("carries the totals of the worked example", () => {
    const o = read(example());
    const total = o["cac:AnticipatedMonetaryTotal"];
    expect(
      ["LineExtensionAmount", "TaxExclusiveAmount", "TaxInclusiveAmount", "AllowanceTotalAmount", "PayableAmount"].map(
        (k) => text(total[`cbc:${k}`]),
      ),
    ).toEqual(["4306.18", "4241.59", "5075.38", "64.59", "5075.38"]);
    expect(o["cac:AllowanceCharge"].map((a: Record<string, unknown>) => text(a["cbc:Amount"]))).toEqual([
      "62.38",
      "2.21",
    ]);
    expect(
      o["cac:TaxTotal"]["cac:TaxSubtotal"].map((s: Record<string, unknown>) => [
        text(s["cbc:TaxableAmount"]),
        text(s["cbc:TaxAmount"]),
      ]),
    ).toEqual([
      ["4096.30", "819.26"],
      ["145.29", "14.53"],
    ]);
  });

  it("gives each line its quantity in a UN/ECE unit and a price that is net of its discounts", () => {
    const lines = read(example())["cac:OrderLine"].map((l: Record<string, unknown>) => l["cac:LineItem"]);
    expect(
      lines.map((l: Record<string, Record<string, string>>) => [
        l["cbc:Quantity"]!["@unitCode"],
        text(l["cbc:Quantity"]),
      ]),
    ).toEqual([
      ["XDR", "7"],
      ["XDR", "0.125"],
      ["XDR", "250"],
    ]);
    // 624.50 less 3 % less 2 %
    expect(text(lines[0]["cac:Price"]["cbc:PriceAmount"])).toBe("593.6497");
    expect(lines[0]["cac:Item"]["cac:SellersItemIdentification"]["cbc:ID"]).toBe("TT-46");
    expect(lines[1]["cac:Item"]["cac:SellersItemIdentification"]).toBeUndefined();
  });

  it("writes any name as it is, and elements in the order of the schema", () => {
    const xml = orderXml(example());
    expect(xml).toContain("Łódź &amp; Åse Oils &lt;b&gt;");
    const order = [...xml.matchAll(/^ {2}<((?:cbc|cac):\w+)/gm)].map((m) => m[1]);
    expect([...new Set(order)]).toEqual([
      "cbc:UBLVersionID",
      "cbc:ID",
      "cbc:IssueDate",
      "cbc:OrderTypeCode",
      "cbc:Note",
      "cbc:DocumentCurrencyCode",
      "cbc:LineCountNumeric",
      "cac:BuyerCustomerParty",
      "cac:SellerSupplierParty",
      "cac:Delivery",
      "cac:PaymentTerms",
      "cac:AllowanceCharge",
      "cac:TaxTotal",
      "cac:AnticipatedMonetaryTotal",
      "cac:OrderLine",
    ]);
  });

  it("says all that the paper says: GTIN, Incoterms, countries, carrier, texts in their language", () => {
    const base = example();
    const o = read({
      ...base,
      kind: "one-off",
      company: { ...base.company, country: "NO" },
      supplier: { ...base.supplier, country: "PL" },
      deliverTo: { ...base.deliverTo, country: "NO" },
      delivery: "DAP Tarn Quay (Incoterms 2020)",
      incoterm: "DAP",
      incotermPlace: "Tarn Quay",
      carrier: "Fjord Freight",
      texts: "No pallets.",
      lines: base.lines.map((l) => ({ ...l, gtin: "4006381333931" })),
    });
    expect(o["cac:BuyerCustomerParty"]["cac:Party"]["cac:PostalAddress"]["cac:Country"]["cbc:IdentificationCode"]).toBe(
      "NO",
    );
    expect(
      o["cac:SellerSupplierParty"]["cac:Party"]["cac:PostalAddress"]["cac:Country"]["cbc:IdentificationCode"],
    ).toBe("PL");
    expect(o["cac:Delivery"]["cac:CarrierParty"]["cac:PartyName"]["cbc:Name"]).toBe("Fjord Freight");
    expect(o["cac:DeliveryTerms"]).toMatchObject({ "cbc:ID": { "@schemeID": "INCOTERMS", "#": "DAP" } });
    expect(o["cbc:Note"].map(text)).toEqual(['Ring "the bell" &amp; wait', "No pallets."]);
    expect(o["cbc:Note"][0]["@languageID"]).toBe("en");
    const item = o["cac:OrderLine"][0]["cac:LineItem"]["cac:Item"];
    expect(item["cac:StandardItemIdentification"]["cbc:ID"]).toEqual({ "@schemeID": "0160", "#": "4006381333931" });
  });

  it("knows units that were kept before by their codes of today", () => {
    const d = example();
    const units = read({ ...d, lines: d.lines.map((l, i) => ({ ...l, unitCode: ["DR", "LM", "LTR"][i]! })) })[
      "cac:OrderLine"
    ].map(
      (l: Record<string, Record<string, Record<string, string>>>) => l["cac:LineItem"]!["cbc:Quantity"]!["@unitCode"],
    );
    expect(units).toEqual(["XDR", "LN", "LTR"]);
  });

  it("leaves out what XML forbids, and addresses that nobody knows", () => {
    const d = example();
    const xml = orderXml({
      ...d,
      note: "a\uFFFFb\uFFFE\u0001c\uD800d\u{1F4E6}",
      supplier: { ...d.supplier, address: "" },
      deliverTo: { name: "", address: "" },
    });
    expect(xml).toContain("abcd\u{1F4E6}");
    expect(xml).not.toMatch(/\p{Noncharacter_Code_Point}/u);
    expect(xml).not.toMatch(/<cac:(Postal|Delivery)Address\/>/);
    const o = read({
      ...d,
      supplier: { ...d.supplier, address: "" },
      deliverTo: { name: "", address: "" },
      kind: "one-off",
    });
    expect(o["cac:SellerSupplierParty"]["cac:Party"]["cac:PostalAddress"]).toBeUndefined();
    expect(o["cac:Delivery"]["cac:DeliveryAddress"]).toBeUndefined();
  });

  it("has prices from which every amount comes out to the cent, however long they are", () => {
    const d = example();
    const price = 3_333_333; // 3.333333 less 12.34 % less 5.67 %, times 99,999.9999
    const net = lineNet(999_999_999, unitPrice(price), 1_234, 567, "EUR").minor;
    const [line] = d.lines;
    const o = read({
      ...d,
      lines: [{ ...line!, quantity: 999_999_999, price, standing: 1_234, discount: 567, net }],
    })["cac:OrderLine"]["cac:LineItem"];
    const product = new Big(text(o["cac:Price"]["cbc:PriceAmount"]) as string).times(text(o["cbc:Quantity"]) as string);
    expect(product.round(2, Big.roundHalfUp).toFixed(2)).toBe(text(o["cbc:LineExtensionAmount"]));
  });

  it("of a blanket order has its limits, and asks for delivery on no day", () => {
    const d = example();
    const o = read({
      ...d,
      kind: "blanket",
      starts: toDay("2026-12-01"),
      ends: toDay("2027-11-30"),
      lines: d.lines.map((l) => ({ ...l, upTo: 500_000, least: 20_000 })),
    });
    expect(o["cac:Delivery"]["cac:RequestedDeliveryPeriod"]).toBeUndefined();
    const item = o["cac:OrderLine"][0]["cac:LineItem"];
    expect(item["cac:Delivery"]).toBeUndefined();
    expect(text(item["cbc:MinimumQuantity"])).toBe("2");
    expect(item["cbc:Note"].map(text)).toEqual(["up to 5,000.00 EUR", "at least 2 drum at once"]);
  });

  it("says where the tax is ours to account for", () => {
    const o = read({ ...example(), taxed: false });
    expect(text(o["cac:TaxTotal"]["cac:TaxSubtotal"][0]["cac:TaxCategory"]["cbc:ID"])).toBe("AE");
  });
});
