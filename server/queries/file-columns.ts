import { Writable } from "node:stream";
import ExcelJS from "exceljs";
import { BYTE_ORDER_MARK, csvText } from "../../exchange/csv/write";
import { addCells } from "../../exchange/xlsx/cells";

/** One column of rows that leave as CSV or as a workbook. A cell is text, or a number as exact text with a point. */
export interface FileColumn<R> {
  name: string;
  /** How wide it is in a workbook, in characters. */
  width: number;
  /** What a workbook takes it for; text where nothing is said. */
  as?: "number" | "day" | "money";
  /** The currency of an amount. */
  currency?: (row: R) => string;
  cell: (row: R) => string | number;
}

/** A byte order mark and the heads, then the rows part by part. */
export function* csvParts<R>(columns: readonly FileColumn<R>[], parts: Iterable<readonly R[]>): Generator<string> {
  yield BYTE_ORDER_MARK + csvText([columns.map((c) => c.name)]);
  for (const rows of parts) yield csvText(rows.map((r) => columns.map((c) => c.cell(r))));
}

/** The same as a workbook of one sheet, written row by row; `say` gets it in pieces. */
export async function workbookParts<R>(
  title: string,
  columns: readonly FileColumn<R>[],
  parts: Iterable<readonly R[]>,
  say: (piece: Uint8Array) => void,
): Promise<void> {
  const stream = new Writable({
    write(chunk: Buffer, _encoding, done) {
      say(new Uint8Array(chunk));
      done();
    },
  });
  const book = new ExcelJS.stream.xlsx.WorkbookWriter({ stream, useStyles: true, useSharedStrings: false });
  const sheet = book.addWorksheet(title.slice(0, 30), { views: [{ state: "frozen", ySplit: 1 }] });
  columns.forEach(({ width }, at) => {
    sheet.getColumn(at + 1).width = width;
  });
  const head = sheet.addRow(columns.map((c) => c.name));
  head.font = { bold: true };
  head.commit();
  const placesOf = (as: FileColumn<R>["as"]) => new Set(columns.flatMap((c, at) => (c.as === as ? [at] : [])));
  const numbers = placesOf("number");
  const days = placesOf("day");
  const amounts = [...placesOf("money")];
  for (const rows of parts) {
    for (const row of rows) {
      const money = new Map(amounts.map((at) => [at, columns[at]!.currency!(row)]));
      addCells(
        sheet,
        columns.map((c) => c.cell(row)),
        { numbers, days, money },
      ).commit();
    }
    await new Promise((done) => setImmediate(done)); // what is written leaves
  }
  sheet.commit();
  await book.commit();
}
