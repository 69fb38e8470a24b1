import { describe, expect, it } from "vitest";
import { readOrderResponse } from "./order-response";

const UBL = "urn:oasis:names:specification:ubl:schema:xsd";
const read = (text: string) => readOrderResponse(Buffer.from(text));
const says = (text: string) => {
  const found = read(text);
  return found.ok ? "taken" : found.says;
};
/** Under prefixes of their own: only namespaces count. */
const response = (inner: string) =>
  `<?xml version="1.0" encoding="UTF-8"?><r:OrderResponse xmlns:r="${UBL}:OrderResponse-2" xmlns:a="${UBL}:CommonAggregateComponents-2" xmlns:b="${UBL}:CommonBasicComponents-2">
  <b:ID>A-77</b:ID><b:IssueDate>2026-11-24</b:IssueDate>${inner}</r:OrderResponse>`;
const REFERENCE = "<a:OrderReference><b:ID>26-1187</b:ID></a:OrderReference>";

describe("a UBL order response", () => {
  it("is read line by line, with deliveries, price and what comes in its place", () => {
    const found = read(
      response(`<b:OrderResponseCode>CA</b:OrderResponseCode><b:Note>The second heat</b:Note>
      <a:OrderReference><b:ID>26-1187</b:ID><a:DocumentReference><b:ID>x</b:ID><b:VersionID>2</b:VersionID></a:DocumentReference></a:OrderReference>
      <a:SellerSupplierParty><b:CustomerAssignedAccountID>BAW</b:CustomerAssignedAccountID><a:Party><a:Contact><b:Name>Elspeth</b:Name></a:Contact></a:Party></a:SellerSupplierParty>
      <a:OrderLine><a:LineItem><b:ID>2</b:ID><b:LineStatusCode>3</b:LineStatusCode><b:Quantity unitCode="C62">50</b:Quantity>
        <a:Delivery><b:Quantity unitCode="C62">30</b:Quantity><a:PromisedDeliveryPeriod><b:StartDate>2026-12-03</b:StartDate><b:EndDate>2026-12-04</b:EndDate></a:PromisedDeliveryPeriod></a:Delivery>
        <a:Delivery><b:Quantity unitCode="C62">20</b:Quantity><a:EstimatedDeliveryPeriod><b:EndDate>2026-12-31</b:EndDate></a:EstimatedDeliveryPeriod></a:Delivery>
        <a:Price><b:PriceAmount currencyID="EUR">18.40</b:PriceAmount><b:BaseQuantity>1</b:BaseQuantity></a:Price></a:LineItem>
        <a:SellerSubstitutedLineItem><b:ID>2</b:ID><a:Item><b:Name>Anode 65</b:Name><a:SellersItemIdentification><b:ID>Z-65</b:ID></a:SellersItemIdentification></a:Item></a:SellerSubstitutedLineItem>
      </a:OrderLine>`),
    );
    expect(found).toEqual({
      ok: true,
      response: {
        id: "A-77",
        issued: "2026-11-24",
        order: "26-1187",
        version: "2",
        account: "BAW",
        by: "Elspeth",
        note: "The second heat",
        whole: "accepted",
        charge: null,
        lines: [
          {
            line: "2",
            status: "3",
            quantity: "50",
            unit: "C62",
            price: { amount: "18.40", per: "1", currency: "EUR" },
            deliveries: [
              { quantity: "30", unit: "C62", day: "2026-12-04" },
              { quantity: "20", unit: "C62", day: "2026-12-31" },
            ],
            instead: "Anode 65 (Z-65)",
            charge: null,
            note: "",
          },
        ],
      },
    });
  });

  it("without lines accepts all; the simple one accepts or rejects", () => {
    const whole = (text: string) => {
      const found = read(text);
      return found.ok && [found.response.whole, found.response.note];
    };
    expect(whole(response(REFERENCE))).toEqual(["accepted", ""]);
    const simple = (indicator: string) =>
      `<OrderResponseSimple xmlns="${UBL}:OrderResponseSimple-2" xmlns:cac="${UBL}:CommonAggregateComponents-2" xmlns:cbc="${UBL}:CommonBasicComponents-2">
       <cbc:ID>S-1</cbc:ID><cbc:IssueDate>2026-11-24</cbc:IssueDate><cbc:AcceptedIndicator>${indicator}</cbc:AcceptedIndicator><cbc:RejectionNote>No brass</cbc:RejectionNote>
       <cac:OrderReference><cbc:ID>26-1187</cbc:ID></cac:OrderReference></OrderResponseSimple>`;
    expect(whole(simple("false"))).toEqual(["rejected", "No brass"]);
    expect(whole(simple("true"))).toEqual(["accepted", "No brass"]);
    expect(says(simple("perhaps"))).toBe("AcceptedIndicator says neither true nor false.");
  });

  it("is refused with a sentence where it is none, or could reach beyond itself", () => {
    const entity = `<!DOCTYPE x [<!ENTITY e SYSTEM "file:///etc/hostname">]>${response(`<b:Note>&e;</b:Note>${REFERENCE}`).replace(/<\?.*?\?>/, "")}`;
    expect(says(entity)).toBe("The file declares a document type or entities. Such files are not read.");
    expect(says("")).toBe("The file is empty.");
    expect(says("<a><b></a>")).toMatch(/^The file is not well-formed XML:/);
    expect(says("hello")).toMatch(/^The file is not well-formed XML:/);
    expect(says("<Order/>")).toBe("This is no UBL 2.1 OrderResponse or OrderResponseSimple.");
    expect(says(response(""))).toBe("The response does not say to which order: OrderReference/ID is missing.");
    expect(says(response(`${REFERENCE}<a:OrderLine><a:LineItem/></a:OrderLine>`))).toBe(
      "A line does not say which line of ours it answers.",
    );
    expect(says(`${"<d>".repeat(100)}${"</d>".repeat(100)}`)).toBe(
      "The elements of the file stand too deep in each other.",
    );
    const large = readOrderResponse(Buffer.alloc(50_000_000, 32));
    expect(large.ok ? "" : large.says).toBe("The file is larger than 5 MB.");
    const latin = readOrderResponse(Buffer.from([0x3c, 0x61, 0x3e, 0xe9, 0x3c, 0x2f, 0x61, 0x3e]));
    expect(latin.ok ? "" : latin.says).toBe("The file is not in UTF-8.");
  });
});
