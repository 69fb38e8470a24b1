import { create } from "xmlbuilder2";
import { decimalText } from "../../core/numbers/decimal";
import { moneyText, netPrice, priceText, type UnitPrice } from "../../core/numbers/money";
import { quantityText } from "../../core/numbers/quantity";
import { type OrderDocument, placeOf } from "../pdf/order-document";

const UBL = "urn:oasis:names:specification:ubl:schema:xsd";

type Content = Record<string, unknown>;

/** UN/EDIFACT 1001: order, blanket order, call-off order. */
const TYPES = { "one-off": "220", direct: "220", standing: "220", blanket: "221", "call-off": "226" } as const;

function validity(d: OrderDocument): Content {
  const from = d.starts ?? null;
  const to = d.ends ?? d.validUntil ?? null;
  if (!from && !to) return {};
  return {
    "cac:ValidityPeriod": { ...(from ? { "cbc:StartDate": from } : {}), ...(to ? { "cbc:EndDate": to } : {}) },
  };
}

/**
 * An order as OASIS UBL 2.1 Order: https://docs.oasis-open.org/ubl/UBL-2.1.html. Elements stand in the order that its schema asks
 * for. Prices are net of the line's discounts; a discount on the whole order is an allowance for each tax rate.
 */
export function orderXml(d: OrderDocument): string {
  const money = (minor: number) => ({ "@currencyID": d.currency, "#": moneyText({ minor, currency: d.currency }) });
  const order: Content = {
    "@xmlns": `${UBL}:Order-2`,
    "@xmlns:cac": `${UBL}:CommonAggregateComponents-2`,
    "@xmlns:cbc": `${UBL}:CommonBasicComponents-2`,
    "cbc:UBLVersionID": "2.1",
    "cbc:ID": d.number ?? "draft",
    ...(d.theirReference ? { "cbc:SalesOrderID": d.theirReference } : {}),
    "cbc:IssueDate": d.day,
    "cbc:OrderTypeCode": { "@listID": "UNCL1001", "#": TYPES[d.kind ?? "one-off"] },
    ...([d.note, d.texts].some(Boolean) ? { "cbc:Note": [d.note, d.texts].filter(Boolean) } : {}),
    "cbc:DocumentCurrencyCode": d.currency,
    ...(d.ourReference ? { "cbc:CustomerReference": d.ourReference } : {}),
    "cbc:LineCountNumeric": d.lines.length,
    ...validity(d),
    ...(d.drawnFrom?.length ? { "cac:Contract": d.drawnFrom.map((id) => ({ "cbc:ID": id })) } : {}),
    "cac:BuyerCustomerParty": {
      "cac:Party": { ...party(d.company.name, d.company.address, d.company.taxNumber), ...contact(d.writer) },
    },
    "cac:SellerSupplierParty": {
      "cbc:CustomerAssignedAccountID": d.supplier.code,
      "cac:Party": {
        ...party(d.supplier.name, d.supplier.address, ""),
        ...(d.contacts[0] ? contact(d.contacts[0]) : {}),
      },
    },
    "cac:Delivery": {
      "cac:DeliveryAddress": address(`${placeOf(d)}\n${d.deliverTo.address}`),
      "cac:RequestedDeliveryPeriod": { "cbc:EndDate": d.required },
    },
    ...(d.delivery ? { "cac:DeliveryTerms": { "cbc:SpecialTerms": d.delivery } } : {}),
    "cac:PaymentTerms": { "cbc:Note": d.payment ?? `${d.termsDays} days net` },
    ...(d.discount !== 0 ? { "cac:AllowanceCharge": allowances(d, money) } : {}),
    "cac:TaxTotal": {
      "cbc:TaxAmount": money(d.taxes.reduce((a, t) => a + t.tax, 0)),
      "cac:TaxSubtotal": d.taxes.map((t) => ({
        "cbc:TaxableAmount": money(t.base),
        "cbc:TaxAmount": money(t.tax),
        "cac:TaxCategory": category(t.rate, d.taxed),
      })),
    },
    "cac:AnticipatedMonetaryTotal": {
      "cbc:LineExtensionAmount": money(d.linesNet),
      "cbc:TaxExclusiveAmount": money(d.net),
      "cbc:TaxInclusiveAmount": money(d.total),
      ...(d.discount !== 0 ? { "cbc:AllowanceTotalAmount": money(d.discount) } : {}),
      "cbc:PayableAmount": money(d.total),
    },
    "cac:OrderLine": d.lines.map((l) => line(d, l, money)),
  };
  return create({ version: "1.0", encoding: "UTF-8" }, { Order: order }).end({ prettyPrint: true });
}

type Amount = (minor: number) => Content;

function line(d: OrderDocument, l: OrderDocument["lines"][number], money: Amount): Content {
  const unit = l.unitCode ?? "C62";
  const exact = l.price === null ? null : netPrice(l.price as UnitPrice, l.standing, l.discount);
  return {
    "cac:LineItem": {
      "cbc:ID": l.position,
      ...(l.note ? { "cbc:Note": l.note } : {}),
      "cbc:Quantity": { "@unitCode": unit, "#": quantityText(l.quantity) },
      "cbc:LineExtensionAmount": money(l.net),
      "cac:Delivery": l.instalments?.length
        ? l.instalments.map((p) => ({
            "cbc:Quantity": { "@unitCode": unit, "#": quantityText(p.quantity) },
            ...there(l),
            "cac:RequestedDeliveryPeriod": { "cbc:EndDate": p.required },
          }))
        : { ...there(l), "cac:RequestedDeliveryPeriod": { "cbc:EndDate": l.required } },
      ...(exact === null
        ? {}
        : {
            "cac:Price": {
              "cbc:PriceAmount": {
                "@currencyID": d.currency,
                "#": l.standing + l.discount === 0 ? priceText(l.price!) : exact.round(8).toFixed(),
              },
              "cbc:BaseQuantity": { "@unitCode": unit, "#": "1" },
            },
          }),
      "cac:Item": {
        "cbc:Name": l.words,
        ...(l.ours ? { "cac:BuyersItemIdentification": { "cbc:ID": l.ours } } : {}),
        ...(l.theirs ? { "cac:SellersItemIdentification": { "cbc:ID": l.theirs } } : {}),
        ...(l.taxRate === undefined ? {} : { "cac:ClassifiedTaxCategory": category(l.taxRate, d.taxed) }),
      },
    },
  };
}

/** Where a line goes, when it is not where the order does. */
const there = ({ deliverTo }: OrderDocument["lines"][number]): Content =>
  deliverTo ? { "cac:DeliveryAddress": address(`${deliverTo.name}\n${deliverTo.address}`) } : {};

/** UNCL5305: S standard, Z zero, AE where the tax is ours to account for. */
const category = (rate: number, taxed: boolean): Content => ({
  "cbc:ID": { "@schemeID": "UNCL5305", "#": taxed ? (rate > 0 ? "S" : "Z") : "AE" },
  "cbc:Percent": decimalText(rate, 2),
  "cac:TaxScheme": { "cbc:ID": "VAT" },
});

/** The discount on the whole order, as much of it as falls to each tax rate. */
function allowances(d: OrderDocument, money: Amount): Content[] {
  return d.taxes.map((t) => ({
    "cbc:ChargeIndicator": "false",
    "cbc:AllowanceChargeReason": "Discount on the whole order",
    "cbc:MultiplierFactorNumeric": decimalText(d.discountRate, 4),
    "cbc:Amount": money(t.discount ?? 0),
    "cac:TaxCategory": category(t.rate, d.taxed),
  }));
}

const address = (text: string): Content => ({
  "cac:AddressLine": text
    .split("\n")
    .filter(Boolean)
    .map((l) => ({ "cbc:Line": l })),
});

const party = (name: string, where: string, taxNumber: string): Content => ({
  "cac:PartyName": { "cbc:Name": name },
  "cac:PostalAddress": address(where),
  ...(taxNumber ? { "cac:PartyTaxScheme": { "cbc:CompanyID": taxNumber, "cac:TaxScheme": { "cbc:ID": "VAT" } } } : {}),
});

const contact = (c: { name: string; mail: string }): Content => ({
  "cac:Contact": { "cbc:Name": c.name, "cbc:ElectronicMail": c.mail },
});
