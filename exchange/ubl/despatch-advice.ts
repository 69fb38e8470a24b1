import { allAt, type Element, readXml, textAt } from "../xml-tree";

/** Goods of one line as they are on their way, of one lot or serial number, as it is written. */
export interface DespatchedLine {
  /** The line of ours, by the ID that stands in our order; and the order, where the line names one of its own. */
  line: string;
  order: string | null;
  quantity: string;
  unit: string | null;
  lots: { lot: string | null; serial: string | null; expires: string | null }[];
  /** Net weight, with its unit. */
  weight: string | null;
  weightUnit: string | null;
  pallet: string | null;
}

/** A despatch advice, as it is written. */
export interface Despatched {
  id: string;
  issued: string | null;
  /** The order of all lines that name none of their own. */
  order: string | null;
  account: string | null;
  arrives: string | null;
  packages: string | null;
  weight: string | null;
  weightUnit: string | null;
  note: string;
  lines: DespatchedLine[];
}

const NAMESPACE = "urn:oasis:names:specification:ubl:schema:xsd:DespatchAdvice-2";

/**
 * Reads an OASIS UBL 2.1 DespatchAdvice (https://docs.oasis-open.org/ubl/UBL-2.1.html): quantities by line of ours, with lots,
 * serial numbers, best-before days, weights and the pallets they stand on. Figures and days stay as they are written.
 */
export function readDespatchAdvice(bytes: Uint8Array): { ok: true; advice: Despatched } | { ok: false; says: string } {
  const read = readXml(bytes);
  if (!read.ok) return read;
  const { root } = read;
  if (root.name !== "DespatchAdvice" || root.namespace !== NAMESPACE)
    return { ok: false, says: "This is no UBL 2.1 DespatchAdvice." };
  const id = textAt(root, "ID");
  if (!id) return { ok: false, says: "The despatch advice has no ID." };
  const weight = allAt(root, "Shipment", "GrossWeightMeasure")[0];
  const lines = allAt(root, "DespatchLine").map(lineOf);
  if (lines.length === 0) return { ok: false, says: "The despatch advice has no line." };
  if (lines.some((l) => l.line === ""))
    return { ok: false, says: "A line does not say which line of ours it is: OrderLineReference/LineID is missing." };
  return {
    ok: true,
    advice: {
      id,
      issued: textAt(root, "IssueDate"),
      order: textAt(root, "OrderReference", "ID"),
      account:
        textAt(root, "SellerSupplierParty", "CustomerAssignedAccountID") ??
        textAt(root, "DespatchSupplierParty", "CustomerAssignedAccountID"),
      arrives: arrivalOf(root),
      packages: textAt(root, "Shipment", "TotalTransportHandlingUnitQuantity"),
      weight: weight?.text.trim() || null,
      weightUnit: weight?.attributes.unitCode ?? null,
      note: allAt(root, "Note")
        .map((n) => n.text.trim())
        .filter(Boolean)
        .join("\n"),
      lines,
    },
  };
}

/** The last day on which it should arrive. */
function arrivalOf(root: Element): string | null {
  for (const period of ["EstimatedDeliveryPeriod", "PromisedDeliveryPeriod", "RequestedDeliveryPeriod"])
    for (const end of ["EndDate", "StartDate"]) {
      const day = textAt(root, "Shipment", "Delivery", period, end);
      if (day) return day;
    }
  return null;
}

function lineOf(line: Element): DespatchedLine {
  const quantity = allAt(line, "DeliveredQuantity")[0];
  const weight =
    allAt(line, "Shipment", "GoodsItem", "NetWeightMeasure")[0] ?? allAt(line, "Shipment", "NetWeightMeasure")[0];
  return {
    line: textAt(line, "OrderLineReference", "LineID") ?? "",
    order: textAt(line, "OrderLineReference", "OrderReference", "ID"),
    quantity: quantity?.text.trim() ?? "",
    unit: quantity?.attributes.unitCode ?? null,
    lots: allAt(line, "Item", "ItemInstance").map((i) => ({
      lot: textAt(i, "LotIdentification", "LotNumberID"),
      serial: textAt(i, "SerialID"),
      expires: textAt(i, "LotIdentification", "ExpiryDate") ?? textAt(i, "BestBeforeDate"),
    })),
    weight: weight?.text.trim() || null,
    weightUnit: weight?.attributes.unitCode ?? null,
    pallet: textAt(line, "Shipment", "TransportHandlingUnit", "ID"),
  };
}
