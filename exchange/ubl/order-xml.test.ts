import { describe, expect, it } from "vitest";
import { convert } from "xmlbuilder2";
import { toDay } from "../../core/calendar/day";
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
      unitCode: "DR",
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
      ["DR", "7"],
      ["DR", "0.125"],
      ["DR", "250"],
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

  it("says where the tax is ours to account for", () => {
    const o = read({ ...example(), taxed: false });
    expect(text(o["cac:TaxTotal"]["cac:TaxSubtotal"][0]["cac:TaxCategory"]["cbc:ID"])).toBe("AE");
  });
});
