import { addDays, type Day, monthEnd } from "../calendar/day";
import { keysOf } from "../keys";
import { decimalText } from "../numbers/decimal";
import type { BasisPoints } from "../numbers/money";
import { count } from "../text";

/** When an invoice is to be paid, and what is taken off for paying early. */
export interface PayTerms {
  days: number;
  /** Days are counted from the invoice, or from the end of its month. */
  from: "invoice" | "end of month";
  earlyPercent: BasisPoints;
  earlyDays: number;
}

/** "30 days net", "end of month + 15 days", "30 days net, 2 % within 10 days". */
export function termsWords(t: PayTerms): string {
  const net = t.from === "invoice" ? `${count(t.days, "day")} net` : `end of month + ${count(t.days, "day")}`;
  return t.earlyPercent > 0 ? `${net}, ${decimalText(t.earlyPercent, 2)} % within ${count(t.earlyDays, "day")}` : net;
}

/** The day by which an invoice of a day is to be paid in full (domain §13). */
export const payBy = (t: PayTerms, invoiced: Day): Day =>
  addDays(t.from === "invoice" ? invoiced : monthEnd(invoiced), t.days);

/** Incoterms 2020 of the International Chamber of Commerce: each is agreed with a named place. */
export const INCOTERMS = {
  EXW: "Ex Works",
  FCA: "Free Carrier",
  CPT: "Carriage Paid To",
  CIP: "Carriage and Insurance Paid To",
  DAP: "Delivered at Place",
  DPU: "Delivered at Place Unloaded",
  DDP: "Delivered Duty Paid",
  FAS: "Free Alongside Ship",
  FOB: "Free on Board",
  CFR: "Cost and Freight",
  CIF: "Cost, Insurance and Freight",
} as const;
export type Incoterm = keyof typeof INCOTERMS;
export const INCOTERM_CODES = keysOf(INCOTERMS);

export const deliveryWords = (rule: string, place: string) =>
  rule ? `${rule}${place ? ` ${place}` : ""} (Incoterms 2020)` : "";
