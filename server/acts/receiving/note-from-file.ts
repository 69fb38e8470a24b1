import { type Day, parseDay } from "../../../core/calendar/day";
import { typedDay } from "../../../core/calendar/typed-day";
import { clip } from "../../../core/numbers/decimal";
import { parseQuantity, quantityText } from "../../../core/numbers/quantity";
import { markOf, plainNumber } from "../../../exchange/csv/decimal-mark";
import { guessColumns, renamed } from "../../../exchange/csv/match-columns";
import { gtinForms } from "../../../exchange/gs1/scan";
import { isWorkbook, readAnyTable } from "../../../exchange/xlsx/read-workbook";
import type { CountLine } from "../../queries/receiving/count-lines";
import { type Done, done, type Problem, refuse, refuseAll } from "../desk";

/** So many rows a delivery note has. */
const MOST = 2_000;

/** What people call the columns of a delivery note, beside item and quantity. */
const COLUMNS: Record<string, RegExp> = {
  lot: /^(lot|lot ?(no|number)|batch|batch ?(no|number)|charge)\.?$/,
  serial: /^(serial|serial ?(no|number)|s\/n)\.?$/,
  expires: /^(expires|expiry|expiry date|best before|use by|keeps until|bbd|exp)\.?$/,
  position: /^(line|position|pos|order line|line ?(no|number))\.?$/,
};

/** What a row of a delivery note says of a line: texts as a count sheet has them. */
export interface NotePart {
  line: number;
  count: string;
  lot: string;
  expires: string;
}

/** What of a line a row of a file can mean. */
export type NotedLine = Pick<CountLine, "line" | "code" | "theirCode" | "gtin" | "position">;

/** What a delivery note says of a load, and what of it is not on the order. */
export interface ReadNote {
  parts: NotePart[];
  strangers: string[];
}

/**
 * Reads a delivery note as CSV or workbook against the lines of a load: items by our code, theirs or GTIN, or by the line's
 * place on the order. Rows of one line and lot are added up.
 */
export async function noteFromFile(
  bytes: Uint8Array,
  lines: readonly NotedLine[],
  { today, locale }: { today: Day; locale: string },
): Promise<Done<ReadNote>> {
  const read = await readAnyTable(bytes, ".");
  if (!read.ok)
    return refuseAll(
      read.faults.slice(0, 20).map((f) => ({ field: "file", says: f.line > 1 ? `Line ${f.line}: ${f.says}` : f.says })),
    );
  if (read.table.rows.length > MOST) return refuse("file", "A delivery note has at most 2,000 rows.");
  const mapping = guessColumns(read.table.columns);
  const taken = new Set(Object.values(mapping).filter(Boolean));
  for (const [field, names] of Object.entries(COLUMNS))
    mapping[field] =
      read.table.columns.find((c) => !taken.has(c) && names.test(c.toLowerCase().replaceAll("_", " ").trim())) ?? "";
  if (!mapping.quantity || !(mapping.item || mapping.position))
    return refuse("file", "Name the columns in the first line: item or line, and quantity.");
  const table = renamed(read.table, mapping);
  const at = new Map(table.columns.map((c, i) => [c, i]));
  const cell = (cells: readonly string[], field: string) => (cells[at.get(field) ?? -1] ?? "").trim();
  const mark = isWorkbook(bytes) ? "." : (markOf(table.rows.map((r) => cell(r.cells, "quantity"))) ?? ".");
  const problems: Problem[] = [];
  const parts = new Map<string, NotePart & { sum: number }>();
  const strangers: string[] = [];
  for (const { line: row, cells } of table.rows) {
    const no = (says: string) => problems.push({ field: "file", says: `Line ${row}: ${says}` });
    const said = cell(cells, "quantity");
    const code = cell(cells, "item");
    if (!said && !code && !cell(cells, "position")) continue;
    const quantity = parseQuantity(plainNumber(said, mark) ?? said);
    if (!quantity.ok) {
      no(`“${clip(said)}” is no quantity. ${quantity.says}`);
      continue;
    }
    const expires = cell(cells, "expires");
    const day = expires === "" ? null : (parseDay(expires) ?? typedDay(expires, today, locale));
    if (expires !== "" && day === null) no(`“${clip(expires)}” is no such day.`);
    const line = meantLine(lines, code, cell(cells, "position"));
    if (!line) {
      strangers.push(clip(code || `line ${cell(cells, "position")}`));
      continue;
    }
    const lot = (cell(cells, "serial") || cell(cells, "lot")).slice(0, 40);
    const key = `${line.line}/${lot.toLowerCase()}`;
    const before = parts.get(key);
    const sum = (before?.sum ?? 0) + quantity.value;
    parts.set(key, {
      line: line.line,
      lot: before?.lot ?? lot,
      expires: day ?? before?.expires ?? "",
      count: quantityText(sum),
      sum,
    });
  }
  if (problems.length) return refuseAll(problems.slice(0, 20));
  if (parts.size === 0)
    return refuse(
      "file",
      strangers.length ? "Nothing in it is on this order." : "There is no row below the first line.",
    );
  return done({ parts: [...parts.values()].map(({ sum: _, ...p }) => p), strangers: [...new Set(strangers)] });
}

/** The line that a row means. */
function meantLine(lines: readonly NotedLine[], code: string, position: string): NotedLine | null {
  if (position && /^\d{1,6}$/.test(position)) {
    const placed = lines.find((l) => l.position === Number(position));
    if (placed) return placed;
  }
  const wanted = code.toLowerCase();
  if (!wanted) return null;
  const forms = /^\d{8,14}$/.test(code) ? gtinForms(code) : [];
  return (
    lines.find(
      (l) =>
        [l.code, l.theirCode].some((c) => c?.toLowerCase() === wanted) || (l.gtin !== null && forms.includes(l.gtin)),
    ) ?? null
  );
}
