import { describe, expect, it } from "vitest";
import { convert } from "xmlbuilder2";
import { toDay } from "../../core/calendar/day";
import { cancellationXml, orderXml } from "../ubl/order-xml";
import { asVersion, differencesOf } from "./order-changes";
import { beforeWords, type OrderDocument, paperTitle } from "./order-document";
import { orderPdf } from "./order-pdf";
import { wordsOn } from "./testing";

const day = toDay("2026-12-04");
const line = (position: number, quantity: number, more: object = {}) => ({
  position,
  line: position + 40,
  ours: `IT-${position}`,
  theirs: "",
  words: `Item ${position}`,
  quantity,
  unit: "each",
  unitCode: "C62",
  price: 18_400_000,
  discount: 0,
  standing: 0,
  taxRate: 2000,
  required: day,
  net: quantity,
  ...more,
});
const order = (...lines: OrderDocument["lines"]): OrderDocument => ({
  number: "26-1187",
  day: toDay("2026-11-24"),
  company: { name: "Kelpholm Ferries", address: "1 Tarn Quay", taxNumber: "KF 1", mail: "buy@kelpholm.example" },
  supplier: { name: "Brannock", address: "Foundry Lane", code: "BAW" },
  contacts: [],
  deliverTo: { name: "Tarn Quay", address: "Gate 2" },
  writer: { name: "Ines", title: "Buyer", mail: "ines@kelpholm.example" },
  currency: "EUR",
  locale: "en-GB",
  required: day,
  termsDays: 30,
  note: "",
  kind: "one-off",
  lines,
  discountRate: 0,
  linesNet: 0,
  discount: 0,
  net: 0,
  taxes: [],
  taxed: true,
  total: 0,
});
const BEFORE = order(line(1, 500_000), line(2, 20_000), line(3, 10_000));
const AFTER = order(
  line(1, 440_000, {
    instalments: [
      { quantity: 300_000, required: day },
      { quantity: 140_000, required: toDay("2026-12-31") },
    ],
  }),
  line(3, 10_000),
  line(4, 5_000),
);
const second = asVersion(AFTER, BEFORE, 2);

describe("the next version of an order", () => {
  it("says of each line how it stood, which are new, and which are gone", () => {
    expect(differencesOf(BEFORE, AFTER).map((d) => [d.kind, d.line.position])).toEqual([
      ["changed", 1],
      ["new", 4],
      ["gone", 2],
    ]);
    expect(differencesOf(AFTER, AFTER)).toEqual([]);
    expect(second.lines.map((l) => beforeWords(second, l))).toEqual([
      "changed, before: 50 each by 4 Dec 2026",
      "",
      "new",
    ]);
    expect(paperTitle(second)).toBe("Purchase order 26-1187, version 2");
  });

  it("has a paper that marks what changed", async () => {
    const text = (await wordsOn(await orderPdf(second))).join(" ");
    expect(text).toContain("version 2");
    expect(text).toContain("changed, before: 50 each by 4 Dec 2026");
    expect(text).toContain("Not ordered any more: 2 Item 2");
  });

  it("goes out as a UBL order change, its cancellation as one of its own", () => {
    // biome-ignore lint/suspicious/noExplicitAny: a parsed document is read by path
    const read = (xml: string): any => convert(xml, { format: "object" });
    const change = read(orderXml(second)).OrderChange;
    expect([
      change["cbc:ID"],
      change["cbc:SequenceNumberID"],
      change["cac:OrderReference"]["cbc:ID"],
      change["cac:OrderReference"]["cac:DocumentReference"]["cbc:VersionID"],
    ]).toEqual(["26-1187/2", "2", "26-1187", "1"]);
    const status = change["cac:OrderLine"].map((l: Record<string, Record<string, Record<string, string>>>) => [
      l["cac:LineItem"]!["cbc:ID"],
      l["cac:LineItem"]!["cbc:LineStatusCode"]!["#"],
    ]);
    expect(status).toEqual([
      ["1", "3"],
      ["3", "5"],
      ["4", "1"],
      ["2", "2"],
    ]);
    const cancelled = read(cancellationXml(BEFORE, "2026-11-25", "the refit was called off")).OrderCancellation;
    expect([cancelled["cac:OrderReference"]["cbc:ID"], cancelled["cbc:CancellationNote"]]).toEqual([
      "26-1187",
      "the refit was called off",
    ]);
  });
});
