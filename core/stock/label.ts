import type { Day } from "../calendar/day";
import { checkDigit } from "../numbers/check-digit";

/** What a label is stuck on: goods of an item, goods of a lot, a bin, or a load that came. */
export const LABEL_KINDS = ["item", "lot", "bin", "load"] as const;
export type LabelKind = (typeof LABEL_KINDS)[number];

/** What a scanner reads on it. A GS1 matrix needs an item with a GTIN; without one it is a plain matrix of our code. */
export const CODE_KINDS = ["none", "bar code", "matrix", "GS1 matrix"] as const;
export type CodeKind = (typeof CODE_KINDS)[number];

export const LABEL_FIELDS = [
  "code",
  "name",
  "lot",
  "expires",
  "quantity",
  "order",
  "supplier",
  "bin",
  "store",
  "receipt",
  "day",
] as const;
export type LabelField = (typeof LABEL_FIELDS)[number];

export const LABEL_FIELD_WORDS: Record<LabelField, string> = {
  code: "our code",
  name: "name",
  lot: "lot or serial number",
  expires: "keeps until",
  quantity: "how much",
  order: "order",
  supplier: "supplier",
  bin: "bin",
  store: "store",
  receipt: "receipt",
  day: "day it came",
};

/** A sheet of labels: millimetres in tenths, from its upper left corner. */
export interface LabelSheet {
  width: number;
  height: number;
  left: number;
  top: number;
  columns: number;
  rows: number;
  gapX: number;
  gapY: number;
}

/** How a label looks: millimetres in tenths, type in points. */
export interface LabelLayout {
  kind: LabelKind;
  width: number;
  height: number;
  code: CodeKind;
  fields: readonly { field: LabelField; size: number; bold: boolean }[];
  /** Null: a roll, one label to a page. */
  sheet: LabelSheet | null;
}

/** What stands on one label; what is empty is left out. */
export interface LabelGoods {
  texts: Partial<Record<LabelField, string>>;
  /** What a plain code says: our item code, the bin, the receipt. */
  code: string;
  gtin: string | null;
  lot: string;
  /** The lot is a serial number. */
  serial: boolean;
  expires: Day | null;
}

/** At most so many labels are printed at once. */
export const MOST_LABELS = 10_000;

const MM = 72 / 25.4 / 10;
/** Points of so many tenths of a millimetre. */
export const pointsOf = (tenths: number): number => tenths * MM;

/** Why labels do not fit on their sheet; null where they do. */
export function sheetFault({
  width,
  height,
  sheet: s,
}: Pick<LabelLayout, "width" | "height" | "sheet">): string | null {
  if (!s) return null;
  const across = s.left + s.columns * width + (s.columns - 1) * s.gapX;
  const down = s.top + s.rows * height + (s.rows - 1) * s.gapY;
  if (across > s.width) return `${s.columns} across are ${across / 10} mm wide, and the sheet is ${s.width / 10}.`;
  if (down > s.height) return `${s.rows} down are ${down / 10} mm high, and the sheet is ${s.height / 10}.`;
  return null;
}

/** Where label `n` goes, from 0: its page, and its upper left corner in tenths of a millimetre. `skip`: so many places are used. */
export function labelPlace(layout: LabelLayout, n: number, skip: number): { page: number; x: number; y: number } {
  const { sheet: s } = layout;
  if (!s) return { page: n, x: 0, y: 0 };
  const each = s.columns * s.rows;
  const at = n + skip;
  const onPage = at % each;
  const column = onPage % s.columns;
  const row = Math.floor(onPage / s.columns);
  return {
    page: Math.floor(at / each),
    x: s.left + column * (layout.width + s.gapX),
    y: s.top + row * (layout.height + s.gapY),
  };
}

/** GS1 application identifiers and their values, as they are read aloud: (01)… (10)… (17)… (21)… */
function gs1Text(g: LabelGoods): string | null {
  if (g.gtin === null || !checkDigit(g.gtin)) return null;
  const day = g.expires === null ? "" : `(17)${g.expires.slice(2).replaceAll("-", "")}`;
  const lot = g.lot === "" ? "" : `(${g.serial ? "21" : "10"})${g.lot}`;
  return `(01)${g.gtin.padStart(14, "0")}${day}${lot}`;
}

/** GS1 takes 20 letters and digits in a lot or serial number (GS1 General Specifications, character set 82). */
const GS1_LOT = /^[!"%-?A-Z_a-z]{0,20}$/;

/** What the code of a label says, and in which symbology; null: it has none. */
export function labelCode(
  kind: CodeKind,
  g: LabelGoods,
): { symbology: "code128" | "datamatrix" | "gs1datamatrix"; text: string } | null {
  if (kind === "none" || g.code === "") return null;
  const gs1 = kind === "GS1 matrix" && GS1_LOT.test(g.lot) ? gs1Text(g) : null;
  if (gs1 !== null) return { symbology: "gs1datamatrix", text: gs1 };
  return { symbology: kind === "bar code" ? "code128" : "datamatrix", text: g.code };
}
