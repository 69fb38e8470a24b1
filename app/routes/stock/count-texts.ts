import { parseQuantity } from "../../../core/numbers/quantity";
import type { CountedPlace } from "../../../core/stock/stock-count";
import { gtinForms, type Scanned } from "../../../exchange/gs1/scan";
import type { PlaceSeen } from "../../../server/queries/stock/stock-counts";

/** What was typed of a count and not handed in yet: by line, and what was found beside the list. */
export interface CountTextsOfStock {
  rows: Readonly<Record<number, string>>;
  found: readonly { item: number; name: string; unit: string; bin: string; lot: string; counted: string }[];
}
export const NOTHING_TYPED: CountTextsOfStock = { rows: {}, found: [] };

/** Why a figure is no count; null where it is one, or empty. */
export function wrongCount(text: string): string | null {
  if (text.trim() === "") return null;
  const parsed = parseQuantity(text, ".", "zero allowed");
  return parsed.ok ? null : parsed.says;
}

/** May this person type a count of a line: nobody counted it, or they did. */
export const countable = (l: Pick<PlaceSeen, "counted" | "mine">): boolean => l.counted === null || l.mine;

/** What is sent. */
export const sentCounts = (typed: CountTextsOfStock, lines: readonly PlaceSeen[]) => ({
  rows: lines
    .filter((l) => (typed.rows[l.id] ?? "").trim() !== "" && countable(l))
    .map((l) => ({ line: l.id, counted: typed.rows[l.id]! })),
  found: typed.found.map(({ item, bin, lot, counted }) => ({ item, bin, lot, counted })),
});

/** The line that a scan means: goods by code, GTIN or lot, in the bin where one stands; the first of them that is not counted. */
export function scannedPlace(
  lines: readonly PlaceSeen[],
  typed: CountTextsOfStock,
  bin: string | null,
  scanned: Scanned,
): PlaceSeen | null {
  const code = scanned.code.toLowerCase();
  const forms = scanned.gtin === null ? [] : gtinForms(scanned.gtin);
  const lot = (scanned.serial ?? scanned.lot)?.toLowerCase();
  const meant = lines.filter(
    (l) =>
      (scanned.gtin === null
        ? l.code.toLowerCase() === code || l.lot?.toLowerCase() === code
        : l.gtin !== null && forms.includes(l.gtin)) &&
      (lot === undefined || l.lot?.toLowerCase() === lot),
  );
  const near = meant.filter((l) => bin === null || l.bin === bin);
  const of = near.length ? near : meant;
  return of.find((l) => l.counted === null && !typed.rows[l.id]) ?? of[0] ?? null;
}

/** A line as it is judged; what the books say of it is known. */
export const judged = (l: PlaceSeen): CountedPlace | null =>
  l.books && { expected: l.books.expected, lay: l.books.lay, counted: l.counted, verdict: l.verdict };
