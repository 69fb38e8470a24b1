import { parseDay } from "../../../core/calendar/day";
import type { OrderLineId, SupplierId } from "../../../core/ids";
import { clip } from "../../../core/numbers/decimal";
import { invoiceNumberKey } from "../../../core/settling/invoice";
import { markOf, plainNumber } from "../../../exchange/csv/decimal-mark";
import { isWorkbook, readAnyTable } from "../../../exchange/xlsx/read-workbook";
import { type Db, sql } from "../../db/open";
import { orderByNumber } from "../../queries/orders/order";
import { type Desk, type Done, done, once, type Problem, refuse, refuseAll } from "../desk";
import { EnterInvoice, typedInvoice } from "./enter-invoice";
import { keepInvoice } from "./keep-invoice";
import { judgeInvoice } from "./match-invoice";

/** So many rows a file of invoices has. */
const MOST = 10_000;
const FIGURES = ["quantity", "price", "net", "tax_rate", "total"] as const;

/** What came of a file of invoices. */
export interface InvoicesEntered {
  invoices: number;
  lines: number;
  held: number;
}

type Cell = (name: string) => string;
interface Row {
  line: number;
  cell: Cell;
}

/** A table of invoices as it is read; figures are plain. */
export type InvoiceRows = readonly Row[];

/**
 * Reads the table, CSV or the first sheet of a workbook, a row for each line (docs/exchange.md); nothing is looked up yet.
 */
export async function readInvoiceTable(bytes: Uint8Array): Promise<Done<InvoiceRows>> {
  const read = await readAnyTable(bytes, ".");
  if (!read.ok)
    return refuseAll(
      read.faults.slice(0, 20).map((f) => ({ field: "file", says: f.line > 1 ? `Line ${f.line}: ${f.says}` : f.says })),
    );
  const { table } = read;
  if (table.rows.length > MOST) return refuse("file", "A file of invoices has at most 10,000 rows.");
  const at = new Map(table.columns.map((c, i) => [c.trim().toLowerCase(), i]));
  if (["supplier", "number", "date"].some((name) => !at.has(name)))
    return refuse("file", "Name the columns in the first line: supplier, number, date, order, line, quantity, price …");
  const raw = (cells: readonly string[], name: string) => (cells[at.get(name) ?? -1] ?? "").trim();
  const mark = isWorkbook(bytes)
    ? "."
    : (markOf(table.rows.flatMap((r) => FIGURES.map((f) => raw(r.cells, f)).filter(Boolean))) ?? ".");
  const rows = table.rows.map(
    ({ line, cells }): Row => ({
      line,
      cell: (name) => {
        const text = raw(cells, name);
        return FIGURES.some((f) => f === name) ? (plainNumber(text, mark) ?? text) : text;
      },
    }),
  );
  return rows.length === 0 ? refuse("file", "There is no row below the first line.") : done(rows);
}

/** Enters the invoices of a table: all of them or none. Each is held against its orders as if it were typed. */
export function enterInvoiceRows(
  desk: Desk,
  rows: InvoiceRows,
  told: (rows: number) => void = () => {},
): Done<InvoicesEntered> {
  return once(desk, "enter invoices", (tx) => {
    const entered: InvoicesEntered = { invoices: 0, lines: rows.length, held: 0 };
    let seen = 0;
    const problems: Problem[] = [];
    const numbers: string[] = [];
    for (const group of grouped(rows)) {
      const kept = enterRows(tx.db, desk, group);
      if (kept.ok) {
        entered.invoices++;
        numbers.push(group[0]!.cell("number"));
        if (kept.value === "Held") entered.held++;
      } else problems.push(...kept.problems);
      if (problems.length >= 20) break;
      seen += group.length;
      told(seen);
    }
    if (problems.length) return refuseAll(problems.slice(0, 20));
    tx.record("invoices.entered", "file", { ...entered, numbers });
    return done(entered);
  });
}

/** Both at once, on the desk's own connection. */
export async function invoicesFromTable(desk: Desk, bytes: Uint8Array): Promise<Done<InvoicesEntered>> {
  const read = await readInvoiceTable(bytes);
  return read.ok ? enterInvoiceRows(desk, read.value) : read;
}

/** Rows of one supplier and number are one invoice, wherever they stand in the file. */
function grouped(rows: readonly Row[]): Row[][] {
  const groups = new Map<string, Row[]>();
  for (const r of rows) {
    const key = `${r.cell("supplier").toLowerCase()}/${invoiceNumberKey(r.cell("number"))}`;
    const group = groups.get(key);
    if (group) group.push(r);
    else groups.set(key, [r]);
  }
  return [...groups.values()];
}

/** Enters one invoice; each fault bears the number of its row. */
function enterRows(db: Db, desk: Desk, rows: readonly Row[]): Done<string> {
  const [first] = rows;
  const fault = (row: Row, says: string) => refuse("file", `Line ${row.line}: ${says}`);
  const { cell } = first!;
  const supplier = sql<{ id: SupplierId }>(db, "SELECT id FROM supplier WHERE code = ?").get(cell("supplier"));
  if (!supplier) return fault(first!, `There is no supplier ${clip(cell("supplier"))}.`);
  if (!parseDay(cell("date"))) return fault(first!, `“${clip(cell("date"))}” is no day, such as 2026-11-24.`);
  const lines: { row: Row; line: OrderLineId; quantity: string; price: string }[] = [];
  const others: { row: Row; words: string; account: string; budget: number | null; net: string; taxRate: string }[] =
    [];
  for (const row of rows) {
    if (row.cell("date") !== cell("date")) return fault(row, `Invoice ${clip(cell("number"))} has two days.`);
    const number = row.cell("order");
    if (number === "") {
      const [words, account, net, taxRate] = [
        row.cell("words"),
        row.cell("account"),
        row.cell("net"),
        row.cell("tax_rate"),
      ];
      const budget = budgetAt(db, row.cell("budget"));
      if (budget === undefined) return fault(row, `There is no budget line ${clip(row.cell("budget"))}.`);
      others.push({ row, words, account, budget, net, taxRate });
      continue;
    }
    const line = orderLineAt(db, number, row.cell("line"));
    if (typeof line === "string") return fault(row, line);
    lines.push({ row, line, quantity: row.cell("quantity"), price: row.cell("price") });
  }
  const input = EnterInvoice.safeParse({
    supplier: supplier.id,
    number: cell("number"),
    day: cell("date"),
    total: cell("total"),
    lines: lines.map(({ row: _, ...l }) => l),
    others: others.map(({ row: _, ...o }) => o),
  });
  const placed = (field: string, says: string) => {
    const [list, i] = field.split(".");
    const row = list === "lines" ? lines[Number(i)]?.row : list === "others" ? others[Number(i)]?.row : undefined;
    return { field: "file", says: `Line ${(row ?? first!).line}: ${says}` };
  };
  if (!input.success) return refuseAll(input.error.issues.map((p) => placed(p.path.join("."), p.message)));
  const typed = typedInvoice(db, input.data);
  const kept = typed.ok ? keepInvoice(db, desk, typed.value) : typed;
  if (!kept.ok) return refuseAll(kept.problems.map((p) => placed(p.field, p.says)));
  return done(judgeInvoice(db, desk, kept.value));
}

/** A budget line by its code: any of its periods; null where none is named, undefined where there is none. */
const budgetAt = (db: Db, code: string): number | null | undefined =>
  code === "" ? null : sql<{ id: number }>(db, "SELECT id FROM budget WHERE code = ? COLLATE NOCASE").get(code)?.id;

/** The line that an order's number and its place name; a sentence where there is none. */
function orderLineAt(db: Db, number: string, place: string): OrderLineId | string {
  const order = orderByNumber(db, number);
  if (order === null) return `There is no order ${clip(number)} of ours.`;
  const line = sql<{ id: OrderLineId }>(db, "SELECT id FROM order_line WHERE purchase_order = ? AND position = ?").get(
    order,
    Number(place),
  );
  return line?.id ?? `Order ${clip(number)} has no line ${clip(place)}.`;
}
