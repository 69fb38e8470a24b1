import { allAt, type Element, readXml, textAt } from "../xml-tree";

/** A delivery as a supplier promises it, as it is written: a quantity, and a day. */
export interface RespondedDelivery {
  quantity: string | null;
  unit: string | null;
  day: string | null;
}

/** What a response says of one line, as it is written. */
export interface RespondedLine {
  /** The line of ours, by the ID that stands in our order. */
  line: string;
  /** UN/EDIFACT 1229, or a word of UBL's own list. */
  status: string | null;
  quantity: string | null;
  unit: string | null;
  price: { amount: string; per: string | null; currency: string | null } | null;
  deliveries: RespondedDelivery[];
  /** Another item in its place, in their words. */
  instead: string | null;
  /** A charge that they add, and what for; several are one, where they are in one currency. */
  charge: { amount: string; currency: string | null; words: string } | null;
  note: string;
}

/** A response to an order, as it is written. */
export interface Responded {
  /** The number that they gave it. */
  id: string;
  issued: string | null;
  /** The number of our order, and the version of it where they name one. */
  order: string;
  version: string | null;
  /** The account under which we know them, where they name it. */
  account: string | null;
  /** Who of theirs. */
  by: string;
  note: string;
  /** Of all that no line says otherwise; null where only the lines say it. */
  whole: "accepted" | "rejected" | "received" | null;
  /** A charge that they add to all of it. */
  charge: RespondedLine["charge"];
  lines: RespondedLine[];
}

const UBL = "urn:oasis:names:specification:ubl:schema:xsd";
/** UN/EDIFACT 4343: accepted, accepted but for what the lines say, rejected, no more than received. */
const WHOLE: Readonly<Record<string, Responded["whole"]>> = {
  AP: "accepted",
  CA: "accepted",
  RE: "rejected",
  AB: "received",
};

const notesOf = (from: Element, name = "Note") =>
  allAt(from, name)
    .map((n) => n.text.trim())
    .filter(Boolean)
    .join("\n");

/**
 * Reads an OASIS UBL 2.1 OrderResponse or OrderResponseSimple (https://docs.oasis-open.org/ubl/UBL-2.1.html). Figures and
 * days stay as they are written: whoever knows the order looks whether they can be meant.
 */
export function readOrderResponse(bytes: Uint8Array): { ok: true; response: Responded } | { ok: false; says: string } {
  const read = readXml(bytes);
  if (!read.ok) return read;
  const { root } = read;
  const simple = root.name === "OrderResponseSimple" && root.namespace === `${UBL}:OrderResponseSimple-2`;
  if (!simple && !(root.name === "OrderResponse" && root.namespace === `${UBL}:OrderResponse-2`))
    return { ok: false, says: "This is no UBL 2.1 OrderResponse or OrderResponseSimple." };
  const id = textAt(root, "ID");
  if (!id) return { ok: false, says: "The response has no ID." };
  const order = textAt(root, "OrderReference", "ID");
  if (!order) return { ok: false, says: "The response does not say to which order: OrderReference/ID is missing." };
  const accepted = textAt(root, "AcceptedIndicator");
  if (simple && accepted !== "true" && accepted !== "false")
    return { ok: false, says: "AcceptedIndicator says neither true nor false." };
  const party = "SellerSupplierParty";
  const base = {
    id,
    order,
    issued: textAt(root, "IssueDate"),
    version: textAt(root, "OrderReference", "DocumentReference", "VersionID"),
    account: textAt(root, party, "CustomerAssignedAccountID"),
    by: textAt(root, party, "Party", "Contact", "Name") ?? textAt(root, party, "Party", "PartyName", "Name") ?? "",
  };
  if (simple)
    return {
      ok: true,
      response: {
        ...base,
        note: [notesOf(root), notesOf(root, "RejectionNote")].filter(Boolean).join("\n"),
        whole: accepted === "true" ? "accepted" : "rejected",
        charge: null,
        lines: [],
      },
    };
  const code = textAt(root, "OrderResponseCode");
  const day = promisedDay(root);
  const lines = allAt(root, "OrderLine").map((l) => lineOf(l, day));
  if (lines.some((l) => l.line === ""))
    return { ok: false, says: "A line does not say which line of ours it answers." };
  return {
    ok: true,
    response: {
      ...base,
      note: notesOf(root),
      charge: chargeOf(root),
      whole: WHOLE[code?.toUpperCase() ?? ""] ?? (lines.length === 0 ? "accepted" : null),
      lines,
    },
  };
}

/** The last day of what is promised, or else estimated, in a delivery of the element. */
function promisedDay(from: Element): string | null {
  for (const period of ["PromisedDeliveryPeriod", "EstimatedDeliveryPeriod"])
    for (const end of ["EndDate", "StartDate"]) {
      const day = textAt(from, "Delivery", period, end);
      if (day) return day;
    }
  return null;
}

/** One line; what it leaves out of days is as the whole document says it. */
function lineOf(line: Element, day: string | null): RespondedLine {
  const item = allAt(line, "LineItem")[0] ?? line;
  const quantity = allAt(item, "Quantity")[0];
  const amount = allAt(item, "Price", "PriceAmount")[0];
  const deliveries = allAt(item, "Delivery").map((d): RespondedDelivery => {
    const q = allAt(d, "Quantity")[0];
    return {
      quantity: q?.text.trim() || null,
      unit: q?.attributes.unitCode ?? null,
      day: promisedDay({ ...d, children: [{ ...d, name: "Delivery" }] }) ?? (q ? day : null),
    };
  });
  const named = deliveries.filter((d) => d.quantity !== null || d.day !== null);
  return {
    line: textAt(line, "OrderLineReference", "LineID") ?? textAt(item, "ID") ?? "",
    status: textAt(item, "LineStatusCode"),
    quantity: quantity?.text.trim() || null,
    unit: quantity?.attributes.unitCode ?? null,
    price: amount
      ? {
          amount: amount.text.trim(),
          per: textAt(item, "Price", "BaseQuantity"),
          currency: amount.attributes.currencyID ?? null,
        }
      : null,
    deliveries: named.length || day === null ? named : [{ quantity: null, unit: null, day }],
    instead: insteadOf(line),
    charge: chargeOf(item),
    note: [notesOf(item), notesOf(line)].filter(Boolean).join("\n"),
  };
}

/** What is added to a line, or to the whole: an AllowanceCharge that is a charge. Allowances are in the net price. */
function chargeOf(from: Element): RespondedLine["charge"] {
  const [charge, ...more] = allAt(from, "AllowanceCharge").filter((c) => textAt(c, "ChargeIndicator") === "true");
  if (!charge) return null;
  const amount = allAt(charge, "Amount")[0];
  return {
    // Two charges of one line are not told apart: they are asked to be one.
    amount: more.length > 0 ? "" : (amount?.text.trim() ?? ""),
    currency: amount?.attributes.currencyID ?? null,
    words: textAt(charge, "AllowanceChargeReason") ?? "",
  };
}

function insteadOf(line: Element): string | null {
  const item =
    allAt(line, "SellerProposedSubstituteLineItem", "Item")[0] ?? allAt(line, "SellerSubstitutedLineItem", "Item")[0];
  if (!item) return null;
  const code = textAt(item, "SellersItemIdentification", "ID");
  return [textAt(item, "Name"), code && `(${code})`].filter(Boolean).join(" ") || null;
}
