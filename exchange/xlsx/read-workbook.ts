import ExcelJS from "exceljs";
import { type DecimalMark, decimalText } from "../../core/numbers/decimal";
import { MOST_BYTES, MOST_ROWS } from "../csv/limits";
import { type Fault, readTable, type Table } from "../csv/table";

type Read = { ok: true; table: Table } | { ok: false; faults: Fault[] };
const whole = (says: string): Read => ({ ok: false, faults: [{ line: 1, column: "", found: "", says }] });

/** A workbook is a ZIP archive; text never begins like one. */
export const isWorkbook = (bytes: Uint8Array) => bytes[0] === 0x50 && bytes[1] === 0x4b;

/** Reads a file as CSV or, where it is one, as the first sheet of an XLSX workbook (Office Open XML, ISO/IEC 29500). */
export const readAnyTable = async (bytes: Uint8Array, mark: DecimalMark): Promise<Read> =>
  isWorkbook(bytes) ? readWorkbook(bytes, mark) : readTable(bytes);

const MOST_UNPACKED = 400_000_000;

/** What the archive says it unpacks to: the sum over its central directory (PKWARE APPNOTE 4.3.12). */
function unpackedSize(bytes: Uint8Array): number {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let sum = 0;
  for (let i = 0; i + 46 <= bytes.length; i++) {
    if (bytes[i] !== 0x50 || bytes[i + 1] !== 0x4b || bytes[i + 2] !== 1 || bytes[i + 3] !== 2) continue;
    sum += view.getUint32(i + 24, true);
  }
  return sum;
}

async function readWorkbook(bytes: Uint8Array, mark: DecimalMark): Promise<Read> {
  if (bytes.length > MOST_BYTES) return whole("The file is larger than 20 MB. Split it.");
  if (unpackedSize(bytes) > MOST_UNPACKED)
    return whole("The workbook is far larger unpacked than it looks. Save it as CSV.");
  const book = new ExcelJS.Workbook();
  try {
    await book.xlsx.load(bytes as unknown as ExcelJS.Buffer);
  } catch {
    return whole("This is not a workbook that can be read. Save it as XLSX or CSV again.");
  }
  const sheet = book.worksheets[0];
  if (!sheet || sheet.actualRowCount === 0) return whole("The first sheet is empty.");
  if (sheet.rowCount > MOST_ROWS + 1) return whole("The sheet has more than 200,000 rows. Split it.");
  const faults: Fault[] = [];
  const read = (row: number): string[] => {
    const cells: string[] = [];
    sheet.getRow(row).eachCell({ includeEmpty: true }, (cell, column) => {
      const text = textOf(cell.value, mark);
      if (text === null) {
        faults.push({
          line: row,
          column: cell.address,
          found: "",
          says: "This cell holds a fault instead of a value.",
        });
      }
      cells[column - 1] = (text ?? "").trim();
    });
    return Array.from(cells, (c) => c ?? "");
  };
  let first = 1;
  while (first < sheet.rowCount && read(first).every((c) => c === "")) first++;
  const columns = read(first).map((c) => c.toLowerCase());
  while (columns.at(-1) === "") columns.pop();
  const rows: Table["rows"] = [];
  for (let n = first + 1; n <= sheet.rowCount; n++) {
    const cells = read(n).slice(0, columns.length);
    while (cells.length < columns.length) cells.push("");
    if (cells.some((c) => c !== "")) rows.push({ line: n, cells });
  }
  return faults.length ? { ok: false, faults } : { ok: true, table: { columns, rows } };
}

/** A cell as the text that the same column of a CSV file would hold; a formula by its last result. Null for a fault. */
function textOf(value: ExcelJS.CellValue, mark: DecimalMark): string | null {
  if (value === null || value === undefined) return "";
  if (typeof value === "string") return value;
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (typeof value === "number") return numberText(value).replace(".", mark);
  if (value instanceof Date) return value.toISOString().slice(0, 10);
  if ("result" in value || "formula" in value || "sharedFormula" in value)
    return textOf((value as { result?: ExcelJS.CellValue }).result ?? "", mark);
  if ("richText" in value) return value.richText.map((t) => t.text).join("");
  if ("hyperlink" in value) return typeof value.text === "string" ? value.text : textOf(value.text as never, mark);
  return null;
}

/** Workbooks keep numbers in binary: fifteen digits are what was typed, the rest is noise. */
function numberText(n: number): string {
  if (Number.isSafeInteger(n)) return String(n);
  const digits = Number(n.toPrecision(15));
  const text = String(digits);
  return /e/.test(text) ? decimalText(Math.round(digits * 1e6), 6) : text;
}
