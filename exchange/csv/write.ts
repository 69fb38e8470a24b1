import { stringify } from "csv-stringify/sync";
import { notFormula } from "./not-formula";

/** Spreadsheets take a file for UTF-8 only where this stands before it; programs need none. */
export const BYTE_ORDER_MARK = "\uFEFF";

/** Rows as CSV (RFC 4180), of which no cell is worked out where a spreadsheet opens it. */
export const csvText = (rows: readonly (readonly unknown[])[]): string =>
  stringify(rows.map((row) => row.map(notFormula)));

/** The same from records, in the order of the columns, with their names in the first row. */
export const csvRecords = (
  rows: readonly Readonly<Record<string, unknown>>[],
  columns: readonly string[],
  head = true,
) => csvText([...(head ? [columns] : []), ...rows.map((r) => columns.map((c) => r[c] ?? ""))]);
