import { create } from "xmlbuilder2";
import { decimalText } from "../../core/numbers/decimal";
import { moneyText, netPrice, priceText, unitPrice } from "../../core/numbers/money";
import { quantityText } from "../../core/numbers/quantity";
import { unitCode } from "../../core/numbers/units";
import { limitWords, lookOf, type OrderDocument, placeOf } from "../pdf/order-document";
import { inXml } from "./in-xml";

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

/** What the document is called, by its root, and where its reference to the order before stands. */
const changeOf = (d: OrderDocument) => (d.version ?? 1) > 1;

/**
 * An order as OASIS UBL 2.1 Order, or from its second version on as OrderChange, with the number of the version as its
 * sequence and lines of UN/EDIFACT 1229: 1 new, 3 changed, 5 as before: https://docs.oasis-open.org/ubl/UBL-2.1.html. Elements stand in the order that its schema asks
 * for. Prices are net of the line's discounts; a discount on the whole order is an allowance for each tax rate.
 */
export function orderXml(d: OrderDocument): string {
  const money = (minor: number) => ({ "@currencyID": d.currency, "#": moneyText({ minor, currency: d.currency }) });
  const { language } = lookOf(d);
  const blanket = d.kind === "blanket";
  const change = changeOf(d);
  const root = change ? "OrderChange" : "Order";
  const order: Content = {
    "@xmlns": `${UBL}:${root}-2`,
    "@xmlns:cac": `${UBL}:CommonAggregateComponents-2`,
    "@xmlns:cbc": `${UBL}:CommonBasicComponents-2`,
    "cbc:UBLVersionID": "2.1",
    "cbc:ID": change ? `${d.number}/${d.version}` : (d.number ?? "draft"),
    ...(d.theirReference ? { "cbc:SalesOrderID": d.theirReference } : {}),
    "cbc:IssueDate": d.day,
    ...(change
      ? { "cbc:SequenceNumberID": d.version }
      : { "cbc:OrderTypeCode": { "@listID": "UNCL1001", "#": TYPES[d.kind ?? "one-off"] } }),
    ...([d.note, d.texts].some(Boolean)
      ? { "cbc:Note": [d.note, d.texts].filter(Boolean).map((text) => ({ "@languageID": language, "#": text })) }
      : {}),
    "cbc:DocumentCurrencyCode": d.currency,
    ...(d.ourReference ? { "cbc:CustomerReference": d.ourReference } : {}),
    "cbc:LineCountNumeric": d.lines.length,
    ...validity(d),
    ...(change
      ? {
          "cac:OrderReference": {
            "cbc:ID": d.number,
            "cac:DocumentReference": { "cbc:ID": d.number, "cbc:VersionID": (d.version ?? 2) - 1 },
          },
        }
      : {}),
    ...(d.drawnFrom?.length ? { "cac:Contract": d.drawnFrom.map((id) => ({ "cbc:ID": id })) } : {}),
    ...parties(d),
    "cac:Delivery": {
      ...place("cac:DeliveryAddress", `${placeOf(d)}\n${d.deliverTo.address}`, d.deliverTo.country),
      // What is called off later is wanted on no day yet.
      ...(blanket ? {} : { "cac:RequestedDeliveryPeriod": { "cbc:EndDate": d.required } }),
      ...(d.carrier ? { "cac:CarrierParty": { "cac:PartyName": { "cbc:Name": d.carrier } } } : {}),
    },
    ...deliveryTerms(d),
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
    "cac:OrderLine": [...d.lines.map((l) => line(d, l, money)), ...(d.gone ?? []).map(goneLine)],
  };
  return create({ version: "1.0", encoding: "UTF-8" }, { [root]: inXml(order) }).end({ prettyPrint: true });
}

/** A line that is not ordered any more: UN/EDIFACT 1229, 2. */
const goneLine = (g: { position: number; words: string }): Content => ({
  "cac:LineItem": {
    "cbc:ID": g.position,
    "cbc:LineStatusCode": { "@listID": "UNCL1229", "#": "2" },
    "cbc:Quantity": "0",
    "cac:Item": { "cbc:Name": g.words },
  },
});

/** An order of which nothing is wanted any more, as OASIS UBL 2.1 OrderCancellation. */
export function cancellationXml(d: OrderDocument, day: string, reason: string): string {
  const cancellation: Content = {
    "@xmlns": `${UBL}:OrderCancellation-2`,
    "@xmlns:cac": `${UBL}:CommonAggregateComponents-2`,
    "@xmlns:cbc": `${UBL}:CommonBasicComponents-2`,
    "cbc:UBLVersionID": "2.1",
    "cbc:ID": `${d.number}/cancelled`,
    "cbc:IssueDate": day,
    "cbc:CancellationNote": reason,
    "cac:OrderReference": { "cbc:ID": d.number },
    ...parties(d),
  };
  return create({ version: "1.0", encoding: "UTF-8" }, { OrderCancellation: inXml(cancellation) }).end({
    prettyPrint: true,
  });
}

const parties = (d: OrderDocument): Content => ({
  "cac:BuyerCustomerParty": {
    "cac:Party": {
      ...party(d.company.name, d.company.address, d.company.taxNumber, d.company.country),
      ...contact(d.writer),
    },
  },
  "cac:SellerSupplierParty": {
    "cbc:CustomerAssignedAccountID": d.supplier.code,
    "cac:Party": {
      ...party(d.supplier.name, d.supplier.address, "", d.supplier.country),
      ...(d.contacts[0] ? contact(d.contacts[0]) : {}),
    },
  },
});

type Amount = (minor: number) => Content;

function line(d: OrderDocument, l: OrderDocument["lines"][number], money: Amount): Content {
  const unit = unitCode(l.unitCode ?? "C62");
  const exact = l.price === null ? null : netPrice(unitPrice(l.price), l.standing, l.discount);
  return {
    "cac:LineItem": {
      "cbc:ID": l.position,
      ...notes(d, l),
      ...(changeOf(d)
        ? {
            "cbc:LineStatusCode": {
              "@listID": "UNCL1229",
              "#": l.before === undefined ? "5" : l.before === null ? "1" : "3",
            },
          }
        : {}),
      "cbc:Quantity": { "@unitCode": unit, "#": quantityText(l.quantity) },
      "cbc:LineExtensionAmount": money(l.net),
      ...(l.least ? { "cbc:MinimumQuantity": { "@unitCode": unit, "#": quantityText(l.least) } } : {}),
      ...(d.kind === "blanket"
        ? {}
        : {
            "cac:Delivery": l.instalments?.length
              ? l.instalments.map((p) => ({
                  "cbc:Quantity": { "@unitCode": unit, "#": quantityText(p.quantity) },
                  ...there(l),
                  "cac:RequestedDeliveryPeriod": { "cbc:EndDate": p.required },
                }))
              : { ...there(l), "cac:RequestedDeliveryPeriod": { "cbc:EndDate": l.required } },
          }),
      ...(exact === null
        ? {}
        : {
            "cac:Price": {
              "cbc:PriceAmount": {
                "@currencyID": d.currency,
                "#": l.standing + l.discount === 0 ? priceText(l.price!) : exact.toFixed(),
              },
              "cbc:BaseQuantity": { "@unitCode": unit, "#": "1" },
            },
          }),
      "cac:Item": {
        "cbc:Name": l.words,
        ...(l.ours ? { "cac:BuyersItemIdentification": { "cbc:ID": l.ours } } : {}),
        ...(l.theirs ? { "cac:SellersItemIdentification": { "cbc:ID": l.theirs } } : {}),
        // ISO/IEC 6523: 0160 is a GTIN.
        ...(l.gtin ? { "cac:StandardItemIdentification": { "cbc:ID": { "@schemeID": "0160", "#": l.gtin } } } : {}),
        ...(l.taxRate === undefined ? {} : { "cac:ClassifiedTaxCategory": category(l.taxRate, d.taxed) }),
      },
    },
  };
}

/** Where a line goes, when it is not where the order does. */
const there = ({ deliverTo }: OrderDocument["lines"][number]): Content =>
  deliverTo ? place("cac:DeliveryAddress", `${deliverTo.name}\n${deliverTo.address}`, deliverTo.country) : {};

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

/** An address under its name, or nothing at all where none is known. */
function place(name: string, text: string, country = ""): Content {
  const lines = text.split("\n").filter((l) => l.trim() !== "");
  if (lines.length === 0 && !country) return {};
  return {
    [name]: {
      ...(lines.length ? { "cac:AddressLine": lines.map((l) => ({ "cbc:Line": l })) } : {}),
      ...(country ? { "cac:Country": { "cbc:IdentificationCode": country } } : {}),
    },
  };
}

const party = (name: string, where: string, taxNumber: string, country?: string): Content => ({
  "cac:PartyName": { "cbc:Name": name },
  ...place("cac:PostalAddress", where, country),
  ...(taxNumber ? { "cac:PartyTaxScheme": { "cbc:CompanyID": taxNumber, "cac:TaxScheme": { "cbc:ID": "VAT" } } } : {}),
});

/** Incoterms by their code, with the place; papers that were kept before have them in words alone. */
function deliveryTerms(d: OrderDocument): Content {
  if (!d.delivery) return {};
  return {
    "cac:DeliveryTerms": {
      ...(d.incoterm ? { "cbc:ID": { "@schemeID": "INCOTERMS", "#": d.incoterm } } : {}),
      "cbc:SpecialTerms": d.delivery,
      ...(d.incoterm && d.incotermPlace ? { "cac:DeliveryLocation": { "cbc:Description": d.incotermPlace } } : {}),
    },
  };
}

/** The note of a line, and the limits of a blanket order, in the supplier's words. */
function notes(d: OrderDocument, l: OrderDocument["lines"][number]): Content {
  const { language } = lookOf(d);
  const texts = [l.note, ...limitWords(d, l)].filter(Boolean);
  return texts.length ? { "cbc:Note": texts.map((text) => ({ "@languageID": language, "#": text })) } : {};
}

const contact = (c: { name: string; mail: string }): Content =>
  c.name || c.mail
    ? {
        "cac:Contact": {
          ...(c.name ? { "cbc:Name": c.name } : {}),
          ...(c.mail ? { "cbc:ElectronicMail": c.mail } : {}),
        },
      }
    : {};
