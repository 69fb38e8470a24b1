import ExcelJS from "exceljs";
import { priceText } from "../../../core/numbers/money";
import { quantityText } from "../../../core/numbers/quantity";
import { BYTE_ORDER_MARK, csvText } from "../../../exchange/csv/write";
import { addCells } from "../../../exchange/xlsx/cells";
import { type Db, sql } from "../../db/open";

/** Columns of the prices file, so that a list that was saved can be changed and loaded again. */
const COLUMNS = ["item", "supplier", "from", "price", "valid_from", "valid_to"] as const;

function priceRows(db: Db, supplier: number): string[][] {
  return sql<{
    item: string;
    supplier: string;
    from: number;
    price: number;
    validFrom: string | null;
    validTo: string | null;
  }>(
    db,
    `SELECT i.code AS item, s.code AS supplier, b.from_quantity AS "from", b.price, b.valid_from AS validFrom, b.valid_to AS validTo
     FROM price_break b JOIN sourcing c ON c.id = b.sourcing JOIN item i ON i.id = c.item JOIN supplier s ON s.id = c.supplier
     WHERE c.supplier = ? ORDER BY i.code, b.from_quantity, b.valid_from`,
  )
    .all(supplier)
    .map((p) => [p.item, p.supplier, quantityText(p.from), priceText(p.price), p.validFrom ?? "", p.validTo ?? ""]);
}

/** A supplier's price list as the file that loads it. */
export const priceListCsv = (db: Db, supplier: number): string =>
  BYTE_ORDER_MARK + csvText([COLUMNS, ...priceRows(db, supplier)]);

/** The same as a workbook, with numbers and days as what they are; it can be loaded again. */
export async function priceListWorkbook(db: Db, supplier: number): Promise<Buffer> {
  const book = new ExcelJS.Workbook();
  const sheet = book.addWorksheet("prices", { views: [{ state: "frozen", ySplit: 1 }] });
  sheet.addRow([...COLUMNS]).font = { bold: true };
  for (const row of priceRows(db, supplier))
    addCells(sheet, row, { numbers: new Set([2, 3]), days: new Set([4, 5]), money: new Map() });
  for (const [at, width] of [14, 12, 10, 12, 12, 12].entries()) sheet.getColumn(at + 1).width = width;
  return Buffer.from(await book.xlsx.writeBuffer());
}
