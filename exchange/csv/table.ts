import { CsvError, parse } from "csv-parse/sync";
import type { DecimalMark } from "../../core/numbers/decimal";
import { count } from "../../core/text";
import { MOST_BYTES, MOST_COLUMNS, MOST_IN_A_ROW, MOST_ROWS } from "./limits";
import { asText } from "./not-formula";

export interface Table {
  columns: string[];
  /** Each row with the line of the file it starts on, counted from 1. */
  rows: { line: number; cells: string[] }[];
}

/** A fault in a file: where it is, and what would be right. */
export interface Fault {
  line: number;
  column: string;
  found: string;
  says: string;
}

const whole = (says: string, line = 1): { ok: false; faults: Fault[] } => ({
  ok: false,
  faults: [{ line, column: "", found: "", says }],
});

/** Reads a CSV file as UTF-8, with or without a byte order mark, separated by commas, semicolons or tabs. */
export function readTable(bytes: Uint8Array): { ok: true; table: Table } | { ok: false; faults: Fault[] } {
  if (bytes.length === 0) return whole("The file is empty.");
  if (bytes.length > MOST_BYTES) return whole("The file is larger than 20 MB. Split it.");
  if ((bytes[0] === 0xff && bytes[1] === 0xfe) || (bytes[0] === 0xfe && bytes[1] === 0xff)) {
    return whole("The file is written in UTF-16. Save it as CSV in UTF-8.");
  }
  let text: string;
  try {
    text = new TextDecoder("utf-8", { fatal: true }).decode(bytes);
  } catch {
    return whole(
      `The file is not written in UTF-8, from line ${lineOfBadByte(bytes)} on. Save it as CSV in UTF-8.`,
      lineOfBadByte(bytes),
    );
  }
  text = text.replace(/\r\n?/g, "\n"); // lines end in whichever way, and mixed
  const nul = text.indexOf("\u0000");
  if (nul >= 0) return whole("There is a NUL here: this is not a text file.", lineAt(text, nul));
  // Some spreadsheets say in a line of its own how the fields are separated.
  const said = /^\uFEFF?"?sep=(.)"?\n/i.exec(text);
  const before = said ? 1 : 0;
  if (said) text = text.slice(said[0].length);
  const endless = tooLong(text);
  if (endless) return whole("This row is far too long for a table.", endless + before);
  const header = text.slice(0, text.search(/\n|$/));
  const delimiter =
    said?.[1] ??
    [";", "\t", ","].reduce((best, d) => (header.split(d).length > header.split(best).length ? d : best), ",");
  if (header.split(delimiter).length > MOST_COLUMNS) return whole(TOO_WIDE, 1 + before);
  let records: { record: string[]; info: { lines: number } }[];
  try {
    records = parse(text, {
      delimiter,
      info: true,
      relax_column_count: true,
      skip_empty_lines: true,
      bom: true,
      record_delimiter: "\n",
      max_record_size: MOST_IN_A_ROW,
      to: MOST_ROWS + 2,
    }) as never; // with `info` each record stands beside where it was, which the types of the parser do not say
  } catch (e) {
    if (!(e instanceof CsvError)) throw e;
    const line = Number(e.lines ?? 1) + before;
    return whole(
      e.code === "CSV_MAX_RECORD_SIZE"
        ? "A quotation mark was opened before this line and not closed."
        : "The quotation marks do not match up from this line on.",
      line,
    );
  }
  const [first, ...rest] = records;
  if (!first) return whole("The file is empty.");
  if (rest.length > MOST_ROWS) return whole("The file has more than 200,000 rows. Split it.");
  const columns = first.record.map((c) => c.trim().toLowerCase());
  const faults: Fault[] = [];
  const rows = rest.map(({ record, info }) => {
    const line = before + info.lines - record.reduce((n, c) => n + (c.match(/\n/g)?.length ?? 0), 0);
    if (record.length !== columns.length) {
      faults.push({
        line,
        column: "",
        found: "",
        says: `This row has ${count(record.length, "field")}, the first line has ${columns.length}.`,
      });
    }
    return { line, cells: record.map((c) => asText(c.trim()).trim()) };
  });
  return faults.length ? { ok: false, faults } : { ok: true, table: { columns, rows } };
}

const TOO_WIDE = `The first line has more than ${MOST_COLUMNS} columns. Is this the right file?`;

const lineAt = (text: string, at: number): number => (text.slice(0, at).match(/\n/g)?.length ?? 0) + 1;

/** The first line that is too long to be a row; 0 for none. */
function tooLong(text: string): number {
  for (let from = 0, line = 1; from < text.length; line++) {
    const end = text.indexOf("\n", from);
    if ((end < 0 ? text.length : end) - from > MOST_IN_A_ROW) return line;
    if (end < 0) return 0;
    from = end + 1;
  }
  return 0;
}

function lineOfBadByte(bytes: Uint8Array): number {
  const decoder = new TextDecoder("utf-8", { fatal: true });
  let line = 1;
  let from = 0;
  for (let i = 0; i <= bytes.length; i++) {
    if (i < bytes.length && bytes[i] !== 10) continue;
    try {
      decoder.decode(bytes.subarray(from, i));
    } catch {
      return line;
    }
    from = i;
    line++;
  }
  return line;
}

export interface Column<T = unknown, N extends string = string> {
  name: N;
  /** A required column must be in the file and filled in every row. */
  required: boolean;
  read: (cell: string, mark: DecimalMark) => { ok: true; value: T } | { ok: false; says: string };
  /** What an empty cell or a missing column means. */
  empty?: T;
  hint: string;
}

export interface CheckedRow<V extends object = Record<string, unknown>> {
  line: number;
  /** Every column; one that the file leaves out has what it means for a new record. */
  values: V;
  /** What stood in the file. */
  text: (column: string) => string;
}

/** `given` are the columns that the file has. */
type CheckedTable =
  | { ok: true; rows: CheckedRow[]; faults: Fault[]; given: ReadonlySet<string> }
  | { ok: false; faults: Fault[] };

/**
 * Checks every cell of a table against its columns. All faults are listed, not only the first; `rows` are those without
 * one. Not ok where the columns themselves are wrong.
 */
export function checkTable(table: Table, columns: readonly Column[], mark: DecimalMark): CheckedTable {
  const wrong = checkColumns(table, columns);
  if (wrong.length) return { ok: false, faults: wrong };
  const at = new Map(table.columns.map((c, i) => [c, i]));
  const faults: Fault[] = [];
  const rows: CheckedRow[] = [];
  for (const { line, cells } of table.rows) {
    const text = (column: string) => cells[at.get(column) ?? -1] ?? "";
    const values: Record<string, unknown> = {};
    const before = faults.length;
    for (const c of columns) {
      const cell = text(c.name);
      if (cell === "") {
        if (c.required) faults.push({ line, column: c.name, found: "", says: `Must be filled in: ${c.hint}.` });
        values[c.name] = c.empty ?? null;
        continue;
      }
      const read = c.read(cell, mark);
      if (read.ok) values[c.name] = read.value;
      else faults.push({ line, column: c.name, found: cell.slice(0, 60), says: read.says });
    }
    if (faults.length === before) rows.push({ line, values, text });
  }
  return { ok: true, rows, faults, given: new Set(table.columns) };
}

function checkColumns(table: Table, columns: readonly Column[]): Fault[] {
  const faults: Fault[] = [];
  const known = columns.map((c) => c.name);
  for (const c of columns) {
    if (c.required && !table.columns.includes(c.name)) {
      faults.push({ line: 1, column: c.name, found: "", says: `The column “${c.name}” is missing.` });
    }
  }
  table.columns.forEach((c, i) => {
    if (!known.includes(c))
      faults.push({ line: 1, column: c, found: c, says: `There is no such column. Use ${known.join(", ")}.` });
    else if (table.columns.lastIndexOf(c) !== i)
      faults.push({ line: 1, column: c, found: c, says: "This column stands twice in the first line." });
  });
  return faults;
}
