import { create } from "xmlbuilder2";
import { quantityText } from "../../core/numbers/quantity";
import { unitCode } from "../../core/numbers/units";
import type { AsideReason } from "../../core/receiving/set-aside";
import { inXml } from "./in-xml";

/** What of a line was counted, of one lot: purchase units. It holds no price. */
export interface AdvisedLine {
  /** The line of our order. */
  position: number;
  name: string;
  code: string | null;
  theirCode: string;
  gtin: string | null;
  unit: string;
  received: number;
  /** Of it, beyond what was ordered. */
  over: number;
  /** What was set aside or turned away, and why. */
  rejected: number;
  why: AsideReason | null;
  lot: string;
  serial: boolean;
  expires: string | null;
  note: string;
}

/** A receipt as it is told to the supplier. */
export interface ReceiptAdvice {
  number: string;
  day: string;
  orderNumber: string;
  deliveryNote: string;
  note: string;
  company: string;
  supplier: { name: string; code: string };
  lines: AdvisedLine[];
}

const UBL = "urn:oasis:names:specification:ubl:schema:xsd";
const party = (name: string) => ({ "cac:Party": { "cac:PartyName": { "cbc:Name": name } } });

/**
 * A receipt as OASIS UBL 2.1 ReceiptAdvice (https://docs.oasis-open.org/ubl/UBL-2.1.html): what was taken in of each line,
 * what of it is over, and what was set aside with the reason in our words. Elements stand in the order that its schema asks for.
 */
export function receiptAdviceXml(r: ReceiptAdvice): string {
  const advice = {
    "@xmlns": `${UBL}:ReceiptAdvice-2`,
    "@xmlns:cac": `${UBL}:CommonAggregateComponents-2`,
    "@xmlns:cbc": `${UBL}:CommonBasicComponents-2`,
    "cbc:UBLVersionID": "2.1",
    "cbc:ID": r.number,
    "cbc:IssueDate": r.day,
    ...(r.note ? { "cbc:Note": r.note } : {}),
    "cbc:LineCountNumeric": r.lines.length,
    "cac:OrderReference": { "cbc:ID": r.orderNumber },
    ...(r.deliveryNote ? { "cac:DespatchDocumentReference": { "cbc:ID": r.deliveryNote } } : {}),
    "cac:DeliveryCustomerParty": party(r.company),
    "cac:DespatchSupplierParty": { "cbc:CustomerAssignedAccountID": r.supplier.code, ...party(r.supplier.name) },
    "cac:ReceiptLine": r.lines.map((l, i) => receiptLine(l, i + 1)),
  };
  return create({ version: "1.0", encoding: "UTF-8" }, { ReceiptAdvice: inXml(advice) }).end({ prettyPrint: true });
}

function receiptLine(l: AdvisedLine, id: number) {
  const quantity = (q: number) => ({ "@unitCode": unitCode(l.unit), "#": quantityText(q) });
  return {
    "cbc:ID": id,
    ...(l.note ? { "cbc:Note": l.note } : {}),
    "cbc:ReceivedQuantity": quantity(l.received),
    ...(l.rejected > 0 ? { "cbc:RejectedQuantity": quantity(l.rejected) } : {}),
    ...(l.rejected > 0 && l.why ? { "cbc:RejectReason": l.why } : {}),
    ...(l.over > 0 ? { "cbc:OversupplyQuantity": quantity(l.over) } : {}),
    "cac:OrderLineReference": { "cbc:LineID": l.position },
    "cac:Item": {
      "cbc:Name": l.name,
      ...(l.code ? { "cac:BuyersItemIdentification": { "cbc:ID": l.code } } : {}),
      ...(l.theirCode ? { "cac:SellersItemIdentification": { "cbc:ID": l.theirCode } } : {}),
      ...(l.gtin ? { "cac:StandardItemIdentification": { "cbc:ID": { "@schemeID": "0160", "#": l.gtin } } } : {}),
      ...(l.lot
        ? {
            "cac:ItemInstance": l.serial
              ? { ...(l.expires ? { "cbc:BestBeforeDate": l.expires } : {}), "cbc:SerialID": l.lot }
              : {
                  "cac:LotIdentification": {
                    "cbc:LotNumberID": l.lot,
                    ...(l.expires ? { "cbc:ExpiryDate": l.expires } : {}),
                  },
                },
          }
        : {}),
    },
  };
}
