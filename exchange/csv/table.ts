import { CsvError, parse } from "csv-parse/sync";
import type { DecimalMark } from "../../core/numbers/decimal";
import { count } from "../../core/text";
import { MOST_BYTES, MOST_ROWS } from "./limits";
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
  if (text.includes("\u0000")) return whole("This is not a text file.");
  const header = text.slice(0, text.search(/[\r\n]|$/));
  const delimiter = [";", "\t", ","].reduce(
    (best, d) => (header.split(d).length > header.split(best).length ? d : best),
    ",",
  );
  let records: { record: string[]; info: { lines: number } }[];
  try {
    records = parse(text, {
      delimiter,
      info: true,
      relax_column_count: true,
      skip_empty_lines: true,
      bom: true,
      to: MOST_ROWS + 2,
    }) as never;
  } catch (e) {
    if (e instanceof CsvError)
      return whole("The quotation marks do not match up from this line on.", Number(e.lines ?? 1));
    throw e;
  }
  const [first, ...rest] = records;
  if (!first) return whole("The file is empty.");
  if (rest.length > MOST_ROWS) return whole("The file has more than 200,000 rows. Split it.");
  const columns = first.record.map((c) => c.trim().toLowerCase());
  const faults: Fault[] = [];
  const rows = rest.map(({ record, info }) => {
    const line = info.lines - record.reduce((n, c) => n + (c.match(/\n/g)?.length ?? 0), 0);
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

export interface Column<T = unknown> {
  name: string;
  /** A required column must be in the file and filled in every row. */
  required: boolean;
  read: (cell: string, mark: DecimalMark) => { ok: true; value: T } | { ok: false; says: string };
  /** What an empty cell or a missing column means. */
  empty?: T;
  hint: string;
}

export interface CheckedRow {
  line: number;
  values: Record<string, unknown>;
}

type CheckedTable = { ok: true; rows: CheckedRow[]; faults: Fault[] } | { ok: false; faults: Fault[] };

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
    const values: Record<string, unknown> = {};
    const before = faults.length;
    for (const c of columns) {
      const cell = cells[at.get(c.name) ?? -1] ?? "";
      if (cell === "") {
        if (c.required) faults.push({ line, column: c.name, found: "", says: `Must be filled in: ${c.hint}.` });
        values[c.name] = c.empty ?? null;
        continue;
      }
      const read = c.read(cell, mark);
      if (read.ok) values[c.name] = read.value;
      else faults.push({ line, column: c.name, found: cell.slice(0, 60), says: read.says });
    }
    if (faults.length === before) rows.push({ line, values });
  }
  return { ok: true, rows, faults };
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
