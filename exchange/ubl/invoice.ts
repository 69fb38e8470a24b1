import { allAt, type Element, readXml, textAt } from "../xml-tree";

/** What is taken off, or added, as it is written. */
export interface BilledAllowance {
  charge: boolean;
  amount: string;
  rate: string;
  words: string;
}

/** A line of an invoice, as it is written. */
export interface BilledLine {
  id: string;
  /** The number of our order and the line of it, where they name them. */
  order: string | null;
  line: string | null;
  quantity: string;
  unit: string | null;
  /** For so many (1 where it does not say) less discounts; null where only the line's amount stands there. */
  price: string | null;
  per: string | null;
  net: string;
  rate: string;
  words: string;
}

/** An invoice or a credit note as it is written: figures and days stay text. */
export interface Billed {
  kind: "invoice" | "credit note";
  /** The numbers of the invoices that a credit note is about. */
  credits: string[];
  number: string;
  issued: string;
  currency: string;
  /** Our order, for lines that name none. */
  order: string | null;
  /** How they are known: the account we gave them, their tax number, their name. */
  supplier: { account: string | null; taxNumber: string | null; name: string | null };
  note: string;
  lines: BilledLine[];
  allowances: BilledAllowance[];
  taxes: { rate: string; base: string; tax: string }[];
  /** The document's own totals, by their names in UBL; null where one is left out. */
  totals: {
    lines: string | null;
    allowances: string | null;
    charges: string | null;
    exclusive: string | null;
    tax: string | null;
    inclusive: string | null;
    prepaid: string | null;
    rounding: string | null;
    payable: string | null;
  };
}

const UBL = "urn:oasis:names:specification:ubl:schema:xsd";

/**
 * Reads an OASIS UBL 2.1 Invoice or CreditNote as EN 16931 uses it (https://docs.oasis-open.org/ubl/UBL-2.1.html). Figures stay as they are
 * written: whether they can be meant, and add up, is looked at by whoever takes it in.
 */
export function readInvoiceXml(bytes: Uint8Array): { ok: true; invoice: Billed } | { ok: false; says: string } {
  const read = readXml(bytes);
  if (!read.ok) return read;
  const { root } = read;
  const kind = root.name === "CreditNote" ? "credit note" : "invoice";
  const element = kind === "invoice" ? "Invoice" : "CreditNote";
  if (root.namespace !== `${UBL}:${element}-2` || root.name !== element)
    return { ok: false, says: "This is no UBL 2.1 Invoice or CreditNote." };
  const number = textAt(root, "ID");
  const issued = textAt(root, "IssueDate");
  const currency = textAt(root, "DocumentCurrencyCode");
  if (!number) return { ok: false, says: `The ${kind} has no number: ID is missing (BR-02).` };
  if (!issued) return { ok: false, says: `The ${kind} has no date: IssueDate is missing (BR-03).` };
  if (!currency) return { ok: false, says: `The ${kind} has no currency: DocumentCurrencyCode is missing (BR-05).` };
  const lines = allAt(root, `${element}Line`).map((l) =>
    lineOf(l, kind === "invoice" ? "InvoicedQuantity" : "CreditedQuantity"),
  );
  if (lines.length === 0) return { ok: false, says: `The ${kind} has no line (BR-16).` };
  const party = ["AccountingSupplierParty"];
  const total = (name: string) => textAt(root, "LegalMonetaryTotal", name);
  return {
    ok: true,
    invoice: {
      kind,
      credits: allAt(root, "BillingReference", "InvoiceDocumentReference", "ID").flatMap((e) => e.text.trim() || []),
      number,
      issued,
      currency,
      order: textAt(root, "OrderReference", "ID"),
      supplier: {
        account: textAt(root, ...party, "CustomerAssignedAccountID"),
        taxNumber: textAt(root, ...party, "Party", "PartyTaxScheme", "CompanyID"),
        name:
          textAt(root, ...party, "Party", "PartyLegalEntity", "RegistrationName") ??
          textAt(root, ...party, "Party", "PartyName", "Name"),
      },
      note: allAt(root, "Note")
        .map((n) => n.text.trim())
        .filter(Boolean)
        .join("\n"),
      lines,
      allowances: allAt(root, "AllowanceCharge").map((a) => ({
        charge: textAt(a, "ChargeIndicator") === "true",
        amount: textAt(a, "Amount") ?? "",
        rate: rateOf(a, "TaxCategory"),
        words: textAt(a, "AllowanceChargeReason") ?? "",
      })),
      taxes: allAt(root, "TaxTotal", "TaxSubtotal").map((t) => ({
        rate: rateOf(t, "TaxCategory"),
        base: textAt(t, "TaxableAmount") ?? "",
        tax: textAt(t, "TaxAmount") ?? "",
      })),
      totals: {
        lines: total("LineExtensionAmount"),
        allowances: total("AllowanceTotalAmount"),
        charges: total("ChargeTotalAmount"),
        exclusive: total("TaxExclusiveAmount"),
        tax: textAt(root, "TaxTotal", "TaxAmount"),
        inclusive: total("TaxInclusiveAmount"),
        prepaid: total("PrepaidAmount"),
        rounding: total("PayableRoundingAmount"),
        payable: total("PayableAmount"),
      },
    },
  };
}

/** The rate of a tax category; none is nothing to pay (exempt, reverse charge). */
const rateOf = (from: Element, category: string) => textAt(from, category, "Percent") ?? "0";

const lineOf = (l: Element, counted: "InvoicedQuantity" | "CreditedQuantity"): BilledLine => ({
  id: textAt(l, "ID") ?? "",
  order: textAt(l, "OrderLineReference", "OrderReference", "ID"),
  line: textAt(l, "OrderLineReference", "LineID"),
  quantity: textAt(l, counted) ?? "",
  unit: allAt(l, counted)[0]?.attributes.unitCode ?? null,
  price: textAt(l, "Price", "PriceAmount"),
  per: textAt(l, "Price", "BaseQuantity"),
  net: textAt(l, "LineExtensionAmount") ?? "",
  rate: rateOf(allAt(l, "Item")[0] ?? l, "ClassifiedTaxCategory"),
  words: textAt(l, "Item", "Name") ?? textAt(l, "Item", "Description") ?? "",
});
