import { Writable } from "node:stream";
import ExcelJS from "exceljs";
import type { Day } from "../../../core/calendar/day";
import { decimalText } from "../../../core/numbers/decimal";
import { exponent, priceText } from "../../../core/numbers/money";
import { quantityText } from "../../../core/numbers/quantity";
import { BYTE_ORDER_MARK, csvText } from "../../../exchange/csv/write";
import { addCells } from "../../../exchange/xlsx/cells";
import type { Db } from "../../db/open";
import { theCompany } from "../company";
import { rowsOf } from "./finder";
import type { OrderLine, OrderSheet } from "./order";

type Cell = string | number;
const PART = 1_000;
const NONE: ReadonlySet<number> = new Set();

const ORDER_COLUMNS = [
  "order",
  "kind",
  "state",
  "supplier",
  "store",
  "buyer",
  "written",
  "placed",
  "wanted_by",
  "lines",
  "lines_in",
  "lines_overdue",
  "currency",
  "net",
  "home_net",
  "marks",
] as const;

const ORDER_DAYS = new Set(
  ["written", "placed", "wanted_by"].map((c) => (ORDER_COLUMNS as readonly string[]).indexOf(c)),
);

function orderCells(db: Db, ids: readonly number[], today: Day): Cell[][] {
  const home = theCompany(db).currency;
  const amount = (minor: number, currency: string) => decimalText(minor, exponent(currency), exponent(currency));
  return rowsOf(db, ids, today).map((r) => [
    r.name,
    r.kind,
    r.state,
    r.supplierName,
    r.storeName,
    r.writerName,
    r.written.slice(0, 10),
    r.placed?.slice(0, 10) ?? "",
    r.required,
    r.lines,
    r.linesIn,
    r.placed ? r.linesLate : 0,
    r.currency,
    amount(r.net, r.currency),
    amount(r.homeNet, home),
    r.marks.join("; "),
  ]);
}

/** Orders as CSV, part by part. Amounts are exact decimal text with a point. */
export function* orderFile(db: Db, ids: readonly number[], today: Day): Generator<string> {
  yield `${BYTE_ORDER_MARK}${ORDER_COLUMNS.join(",")}\n`;
  for (let i = 0; i < ids.length; i += PART) yield csvText(orderCells(db, ids.slice(i, i + PART), today));
}

/** The same as a workbook, written row by row. Amounts are numbers there, shown with their places. */
export async function orderWorkbook(
  db: Db,
  ids: readonly number[],
  today: Day,
  say: (part: Uint8Array) => void,
): Promise<void> {
  const stream = new Writable({
    write(chunk: Buffer, _encoding, done) {
      say(new Uint8Array(chunk));
      done();
    },
  });
  const book = new ExcelJS.stream.xlsx.WorkbookWriter({ stream, useStyles: true, useSharedStrings: false });
  const sheet = book.addWorksheet("Orders", { views: [{ state: "frozen", ySplit: 1 }] });
  for (const [at, width] of [10, 10, 15, 28, 14, 18, 11, 11, 11, 7, 8, 12, 9, 13, 13, 30].entries())
    sheet.getColumn(at + 1).width = width;
  const head = sheet.addRow([...ORDER_COLUMNS]);
  head.font = { bold: true };
  head.commit();
  const home = theCompany(db).currency;
  for (let i = 0; i < ids.length; i += PART) {
    for (const row of orderCells(db, ids.slice(i, i + PART), today))
      addCells(sheet, row, {
        numbers: NONE,
        days: ORDER_DAYS,
        money: new Map([
          [13, String(row[12])],
          [14, home],
        ]),
      }).commit();
    await new Promise((done) => setImmediate(done)); // what is written leaves
  }
  sheet.commit();
  await book.commit();
}

const LINE_COLUMNS = [
  "line",
  "item",
  "their_code",
  "name",
  "kind",
  "quantity",
  "unit",
  "price",
  "standing_discount_percent",
  "discount_percent",
  "net",
  "currency",
  "tax_percent",
  "wanted_by",
  "loads",
  "promised",
  "received",
  "store",
  "account",
  "budget",
  "job",
  "bin",
  "spread",
  "note",
  "own_note",
] as const;

const lineCells = (l: OrderLine, currency: string): Cell[] => [
  l.position,
  l.code ?? "",
  l.theirCode,
  l.words,
  l.kind,
  quantityText(l.quantity),
  l.unitCode,
  l.price === null ? "" : priceText(l.price),
  decimalText(l.standing, 2),
  decimalText(l.discount, 2),
  decimalText(l.net, exponent(currency), exponent(currency)),
  currency,
  decimalText(l.taxRate, 2),
  l.required,
  loadsText(l),
  l.promised ?? "",
  quantityText(l.received),
  l.storeName,
  l.account ?? "",
  l.budgetCode ?? "",
  l.jobCode ?? "",
  l.bin,
  l.kind === "charge" ? l.spread : "",
  l.note,
  l.ownNote,
];

/** "5 on 2026-12-10; 3 on 2027-01-10": how a line comes in several loads; empty where it comes at once. */
const loadsText = (l: OrderLine): string =>
  l.instalments.map((n) => `${quantityText(n.quantity)} on ${n.required}`).join("; ");

/** The lines of an order as CSV. */
export const linesCsv = ({ head, lines }: OrderSheet): string =>
  BYTE_ORDER_MARK + csvText([LINE_COLUMNS, ...lines.map((l) => lineCells(l, head.currency))]);

/** The lines of an order as a workbook: quantities, prices and amounts are numbers there. */
export async function linesWorkbook({ head, lines }: OrderSheet): Promise<Buffer> {
  const book = new ExcelJS.Workbook();
  const sheet = book.addWorksheet(head.name.slice(0, 30), { views: [{ state: "frozen", ySplit: 1 }] });
  sheet.addRow([...LINE_COLUMNS]).font = { bold: true };
  const numbers = new Set(
    LINE_COLUMNS.flatMap((c, at) =>
      ["quantity", "price", "standing_discount_percent", "discount_percent", "net", "tax_percent", "received"].includes(
        c,
      )
        ? [at]
        : [],
    ),
  );
  const days = new Set(["wanted_by", "promised"].map((c) => (LINE_COLUMNS as readonly string[]).indexOf(c)));
  for (const l of lines)
    addCells(sheet, lineCells(l, head.currency), {
      numbers,
      days,
      money: new Map([[LINE_COLUMNS.indexOf("net"), head.currency]]),
    });
  for (const [at, width] of [
    6, 12, 14, 36, 11, 10, 8, 12, 10, 10, 13, 9, 8, 12, 24, 12, 10, 14, 10, 10, 10, 10, 10, 30, 30,
  ].entries())
    sheet.getColumn(at + 1).width = width;
  return Buffer.from(await book.xlsx.writeBuffer());
}
