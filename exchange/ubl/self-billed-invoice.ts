import { create } from "xmlbuilder2";
import { decimalText } from "../../core/numbers/decimal";
import { moneyText, priceText } from "../../core/numbers/money";
import { quantityText } from "../../core/numbers/quantity";
import { unitCode } from "../../core/numbers/units";
import type { StatementPaper } from "../pdf/consigned-paper";
import { inXml } from "./in-xml";

const UBL = "urn:oasis:names:specification:ubl:schema:xsd";

/** Whoever stands on an invoice: EN 16931 wants the country and, where there is one, the tax number. */
export interface InvoiceParty {
  name: string;
  address: string;
  country: string;
  taxNumber: string;
}

/** What a self-billed invoice says of a statement, or of what came of orders. */
export type SelfBilledPaper = Pick<
  StatementPaper,
  "number" | "day" | "currency" | "taxed" | "since" | "until" | "agreement" | "net" | "total" | "taxes"
> & {
  lines: readonly (Pick<
    StatementPaper["lines"][number],
    "job" | "unit" | "quantity" | "net" | "day" | "order" | "name" | "code" | "theirCode" | "taxRate"
  > & {
    /** For one, less discounts; null: its net for its quantity. */
    price: number | null;
    /** Its place on the order. */
    orderLine?: number;
  })[];
};

/** A use statement, or what came of orders, as it is invoiced: whose invoice we write, and when it is paid. */
export interface SelfBilled {
  statement: SelfBilledPaper;
  supplier: InvoiceParty;
  customer: InvoiceParty;
  due: string | null;
}

const party = (of: InvoiceParty) => ({
  "cac:Party": {
    "cac:PartyName": { "cbc:Name": of.name },
    "cac:PostalAddress": {
      ...(of.address ? { "cac:AddressLine": of.address.split("\n").map((line) => ({ "cbc:Line": line })) } : {}),
      ...(of.country ? { "cac:Country": { "cbc:IdentificationCode": of.country } } : {}),
    },
    ...(of.taxNumber
      ? { "cac:PartyTaxScheme": { "cbc:CompanyID": of.taxNumber, "cac:TaxScheme": { "cbc:ID": "VAT" } } }
      : {}),
    "cac:PartyLegalEntity": { "cbc:RegistrationName": of.name },
  },
});

/**
 * A use statement as OASIS UBL 2.1 SelfBilledInvoice (https://docs.oasis-open.org/ubl/UBL-2.1.html), type 389 of UNTDID 1001:
 * one line for each use, what was taken back below zero; tax once for each rate, as EN 16931 works it out. Where the supplier
 * charges none it is reverse charge (AE).
 */
export function selfBilledInvoiceXml({ statement: d, supplier, customer, due }: SelfBilled): string {
  const money = (minor: number) => ({ "@currencyID": d.currency, "#": moneyText({ minor, currency: d.currency }) });
  const category = (rate: number) => ({
    "cbc:ID": d.taxed ? (rate === 0 ? "Z" : "S") : "AE",
    "cbc:Percent": decimalText(d.taxed ? rate : 0, 2),
    ...(d.taxed ? {} : { "cbc:TaxExemptionReasonCode": "VATEX-EU-AE" }),
    "cac:TaxScheme": { "cbc:ID": "VAT" },
  });
  const lineCategory = (rate: number) => {
    const { "cbc:ID": id, "cbc:Percent": percent, "cac:TaxScheme": scheme } = category(rate);
    return { "cbc:ID": id, "cbc:Percent": percent, "cac:TaxScheme": scheme };
  };
  const invoice = {
    "@xmlns": `${UBL}:SelfBilledInvoice-2`,
    "@xmlns:cac": `${UBL}:CommonAggregateComponents-2`,
    "@xmlns:cbc": `${UBL}:CommonBasicComponents-2`,
    "cbc:UBLVersionID": "2.1",
    "cbc:ID": d.number,
    "cbc:IssueDate": d.day,
    "cbc:InvoiceTypeCode": { "@listID": "UNCL1001", "#": "389" },
    "cbc:DocumentCurrencyCode": d.currency,
    "cbc:LineCountNumeric": d.lines.length,
    "cac:InvoicePeriod": { "cbc:StartDate": d.since, "cbc:EndDate": d.until },
    ...(d.agreement ? { "cac:ContractDocumentReference": { "cbc:ID": d.agreement } } : {}),
    "cac:AccountingCustomerParty": party(customer),
    "cac:AccountingSupplierParty": party(supplier),
    ...(due ? { "cac:PaymentTerms": { "cbc:PaymentDueDate": due } } : {}),
    "cac:TaxTotal": {
      "cbc:TaxAmount": money(d.total - d.net),
      "cac:TaxSubtotal": d.taxes.map((t) => ({
        "cbc:TaxableAmount": money(t.net),
        "cbc:TaxAmount": money(t.tax),
        "cac:TaxCategory": category(t.rate),
      })),
    },
    "cac:LegalMonetaryTotal": {
      "cbc:LineExtensionAmount": money(d.net),
      "cbc:TaxExclusiveAmount": money(d.net),
      "cbc:TaxInclusiveAmount": money(d.total),
      "cbc:PayableAmount": money(d.total),
    },
    "cac:InvoiceLine": d.lines.map((l, i) => ({
      "cbc:ID": i + 1,
      ...(l.job ? { "cbc:Note": l.job } : {}),
      "cbc:InvoicedQuantity": { "@unitCode": unitCode(l.unit), "#": quantityText(l.quantity) },
      "cbc:LineExtensionAmount": money(l.net),
      "cac:InvoicePeriod": { "cbc:StartDate": l.day, "cbc:EndDate": l.day },
      "cac:OrderLineReference": { "cbc:LineID": l.orderLine ?? 1, "cac:OrderReference": { "cbc:ID": l.order } },
      "cac:Item": {
        "cbc:Name": l.name,
        ...(l.code ? { "cac:BuyersItemIdentification": { "cbc:ID": l.code } } : {}),
        ...(l.theirCode ? { "cac:SellersItemIdentification": { "cbc:ID": l.theirCode } } : {}),
        "cac:ClassifiedTaxCategory": lineCategory(l.taxRate),
      },
      "cac:Price":
        l.price === null
          ? {
              "cbc:PriceAmount": money(l.net),
              "cbc:BaseQuantity": { "@unitCode": unitCode(l.unit), "#": quantityText(l.quantity) },
            }
          : { "cbc:PriceAmount": { "@currencyID": d.currency, "#": priceText(l.price) } },
    })),
  };
  return create({ version: "1.0", encoding: "UTF-8" }, { SelfBilledInvoice: inXml(invoice) }).end({
    prettyPrint: true,
  });
}
