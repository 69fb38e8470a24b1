import { parseBarcode } from "gs1-barcode-parser-mod";
import { type Day, parseDay } from "../../core/calendar/day";
import { checkDigit } from "../../core/numbers/check-digit";
import { QTY_PLACES } from "../../core/numbers/quantity";

/** What a scanned code says of the goods; null where it says nothing. Quantities in ten-thousandths. */
export interface Scanned {
  /** What was scanned where it is no code of GS1: our code, theirs, or a name. */
  code: string;
  /** As it is printed, 14 digits. */
  gtin: string | null;
  lot: string | null;
  expires: Day | null;
  serial: string | null;
  /** Net, in kilograms. */
  weight: number | null;
  /** How many of the item it holds. */
  count: number | null;
  /** The number of a pallet or case (SSCC). */
  pallet: string | null;
}

const NOTHING: Omit<Scanned, "code"> = {
  gtin: null,
  lot: null,
  expires: null,
  serial: null,
  weight: null,
  count: null,
  pallet: null,
};

const SEPARATOR = "\u001d";
/** Symbology identifiers (ISO/IEC 15424) of codes that hold GS1 element strings. */
const GS1 = /^\](?:C1|d2|Q3|e0|J1)/;
/** An element string without its identifier: a scanner that leaves it out, or a person who types what is printed. */
const ELEMENTS = /^(?:\(\d{2,4}\)|(?:01|02)\d{14}(?=\d{2}|$)|00\d{18}$)/;

/**
 * Reads a scanned code: GS1 element strings with GTIN (01, 02), lot (10), expiry (17), serial number (21), net weight
 * (310n), count (30, 37) and pallet (00); anything else is a plain code. A sentence where a check digit does not fit or the
 * elements cannot be read.
 */
export function readScan(text: string): { ok: true; value: Scanned } | { ok: false; says: string } {
  const clean = text.trim();
  const stripped = clean.replace(/^\][A-Za-z]\d/, "");
  if (!GS1.test(clean) && !ELEMENTS.test(stripped) && !stripped.includes(SEPARATOR))
    return { ok: true, value: { ...NOTHING, code: stripped } };
  let elements: { ai: string; data: unknown; raw: string; isoDate: string }[];
  try {
    elements = parseBarcode(clean).parsedCodeItems;
  } catch {
    return { ok: false, says: "This code cannot be read: a part of it is missing or out of place." };
  }
  const value: Scanned = { ...NOTHING, code: "" };
  for (const { ai, raw, isoDate } of elements) {
    const wrong = take(value, ai, raw, isoDate);
    if (wrong) return { ok: false, says: wrong };
  }
  return { ok: true, value };
}

/** Keeps what one element says; a sentence where its check digit does not fit. */
function take(value: Scanned, ai: string, raw: string, isoDate: string): string | null {
  switch (ai) {
    case "01":
    case "02":
      value.gtin = raw;
      return checkDigit(raw) ? null : `The check digit of ${raw} does not fit: it was read wrongly.`;
    case "00":
      value.pallet = raw;
      return checkDigit(raw) ? null : `The check digit of pallet ${raw} does not fit: it was read wrongly.`;
    case "10":
      value.lot = raw;
      return null;
    case "17":
      value.expires = parseDay(isoDate);
      return null;
    case "21":
      value.serial = raw;
      return null;
    case "30":
    case "37":
      value.count = Number(raw) * 10 ** QTY_PLACES;
      return null;
    default:
      if (/^310[0-5]$/.test(ai)) value.weight = kilograms(raw, Number(ai[3]));
      return null;
  }
}

/** Six digits with so many behind the point, in ten-thousandths of a kilogram, rounded. */
const kilograms = (digits: string, places: number): number =>
  places <= QTY_PLACES ? Number(digits) * 10 ** (QTY_PLACES - places) : Math.round(Number(digits) / 10);

/** The GTIN in every length in which it may be kept: the same number with and without the zeros before it. */
export function gtinForms(gtin: string): string[] {
  const bare = gtin.replace(/^0+/, "");
  return [...new Set([8, 12, 13, 14].filter((n) => n >= bare.length).map((n) => bare.padStart(n, "0")))];
}

/** Is it all digits, of a length that GTINs have, with a last digit that does not fit? */
export const isMisread = (code: string): boolean => /^(\d{8}|\d{12,14})$/.test(code) && !checkDigit(code);
