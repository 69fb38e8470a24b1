import { guessColumns, renamed, withNames } from "../../../exchange/csv/match-columns";
import { readAnyTable } from "../../../exchange/xlsx/read-workbook";
import { type Done, done, refuse, refuseAll } from "../desk";

const MOST = 2_000;
const PRICE = /^(price|unit ?price|net ?price|cost|price each)\.?$/;

/** A row of a file as a line to be added: text as it stands there. */
export interface FileLine {
  code: string;
  quantity: string;
  price: string;
  required: string;
  note: string;
}

/** Lines of an order from a CSV file or the first sheet of a workbook; columns are known by what people call them. */
export async function linesFromFile(bytes: Uint8Array): Promise<Done<FileLine[]>> {
  const read = await readAnyTable(bytes, ".");
  if (!read.ok)
    return refuseAll(
      read.faults.slice(0, 20).map((f) => ({ field: "file", says: f.line > 1 ? `Line ${f.line}: ${f.says}` : f.says })),
    );
  if (read.table.rows.length > MOST) return refuse("file", `An order has at most ${MOST} lines; this file has more.`);
  const { table } = withNames(read.table);
  const mapping = guessColumns(table.columns);
  if (!mapping.item)
    return refuse("file", "No column is called item, code, part or the like. Name one in the first line.");
  const named = renamed(table, { ...mapping, price: table.columns.find((c) => PRICE.test(c.trim())) ?? "" });
  const at = (field: string) => named.columns.indexOf(field);
  const lines = named.rows
    .map(({ cells }): FileLine => {
      const cell = (field: string) => (at(field) < 0 ? "" : (cells[at(field)] ?? "").trim());
      return {
        code: cell("item"),
        quantity: cell("quantity"),
        price: cell("price"),
        required: cell("needed_by"),
        note: cell("note"),
      };
    })
    .filter((l) => l.code !== "" || l.quantity !== "");
  return lines.length ? done(lines) : refuse("file", "There is no row below the first line.");
}
