import { z } from "zod";
import type { DecimalMark } from "../../../core/numbers/decimal";
import { LINE_KINDS, type LineKind, SPREADS } from "../../../core/orders/kinds";
import { markOf, plainNumber } from "../../../exchange/csv/decimal-mark";
import { guessColumns, renamed, withNames } from "../../../exchange/csv/match-columns";
import { isWorkbook, readAnyTable } from "../../../exchange/xlsx/read-workbook";
import { type Done, done, refuse, refuseAll } from "../desk";

const MOST = 2_000;

/** What people call the columns that only lines of an order have; those that a draft has no place for are passed over. */
const COLUMNS: Record<string, RegExp> = {
  price: /^(price|unit price|net price|cost|price each)\.?$/,
  currency: /^(currency|cur|ccy)$/,
  discount: /^(discount|discount ?%|discount percent|disc|line discount|rebate)\.?$/,
  standing: /^(standing discount|standing discount percent)$/,
  tax: /^(tax|tax percent|tax ?%|vat|vat ?%|vat percent)$/,
  name: /^(name|description|words|text)$/,
  kind: /^(kind|type)$/,
  spread: /^(spread)$/,
  own_note: /^(own note|internal note)$/,
  bin: /^(bin|rack)$/,
  loads: /^(loads|instalments)$/,
  account: /^(account|ledger account)$/,
  budget: /^(budget|budget line)$/,
  job: /^(job)$/,
};
const NUMBERS = ["quantity", "price", "discount", "standing", "tax"] as const;

/** A row of a file as a line to be added: text as it stands there, numbers with a point. */
export interface FileLine {
  /** The line of the file, counted from 1. */
  line: number;
  code: string;
  words: string;
  kind: LineKind | undefined;
  quantity: string;
  unit: string;
  price: string;
  currency: string;
  discount: string;
  standing: string;
  tax: string;
  required: string;
  loads: string;
  store: string;
  bin: string;
  account: string;
  budget: string;
  job: string;
  spread: string | undefined;
  note: string;
  ownNote: string;
}

export const HowNumbersAre = z
  .enum(["", "point", "comma"], "Numbers are written with a point or with a comma.")
  .default("");

/**
 * Lines of an order from a CSV file or the first sheet of a workbook; columns are known by what people call them. How numbers
 * are written is told by the file, or asked; a number that is written otherwise is a fault, and never guessed.
 */
export async function linesFromFile(
  bytes: Uint8Array,
  how: z.output<typeof HowNumbersAre> = "",
): Promise<Done<FileLine[]>> {
  const read = await readAnyTable(bytes, ".");
  if (!read.ok)
    return refuseAll(
      read.faults.slice(0, 20).map((f) => ({ field: "file", says: f.line > 1 ? `Line ${f.line}: ${f.says}` : f.says })),
    );
  if (read.table.rows.length > MOST) return refuse("file", `An order has at most ${MOST} lines; this file has more.`);
  const { table } = withNames(read.table);
  const mapping = guessColumns(table.columns);
  const taken = new Set(Object.values(mapping).filter(Boolean));
  for (const [field, names] of Object.entries(COLUMNS))
    mapping[field] = table.columns.find((c) => !taken.has(c) && names.test(c.replaceAll("_", " ").trim())) ?? "";
  if (!mapping.item && !mapping.name)
    return refuse("file", "No column is called item, code, part or the like. Name one in the first line.");
  const named = renamed(table, mapping);
  const at = new Map(named.columns.map((c, i) => [c, i]));
  const cellOf = (cells: readonly string[], field: string) => (cells[at.get(field) ?? -1] ?? "").trim();
  const mark = isWorkbook(bytes)
    ? "."
    : markFor(
        how,
        named.rows.flatMap((r) => NUMBERS.map((f) => cellOf(r.cells, f))),
      );
  if (mark === null)
    return refuse(
      "mark",
      "Is the comma or the point the decimal mark in this file? It could be read either way: choose one, and take the file again.",
    );
  const problems: { field: string; says: string }[] = [];
  const lines = named.rows
    .map(({ line, cells }): FileLine => {
      const cell = (field: string) => cellOf(cells, field);
      const no = (says: string) => problems.push({ field: "file", says: `Line ${line}: ${says}` });
      const number = (field: (typeof NUMBERS)[number]) => {
        const text = cell(field);
        const bare = text.replace(/[€£$¥%]|\b[A-Z]{3}\b/g, "").trim();
        if (bare === "") return text;
        const plain = plainNumber(bare, mark);
        if (plain === undefined)
          no(`“${text.slice(0, 40)}” in ${field} is no number. Write it like ${mark === "," ? "1250,5" : "1250.5"}.`);
        return plain === undefined ? "" : text.replace(bare, plain);
      };
      const one = <T extends string>(field: string, list: readonly T[]): T | undefined => {
        const text = cell(field).toLowerCase();
        const found = list.find((v) => v === text);
        if (text && !found) no(`“${text.slice(0, 40)}” in ${field} is none of ${list.join(", ")}.`);
        return found;
      };
      return {
        line,
        code: cell("item"),
        words: cell("name"),
        kind: one("kind", LINE_KINDS),
        quantity: number("quantity"),
        unit: cell("unit"),
        price: number("price"),
        currency: cell("currency").toUpperCase(),
        discount: number("discount").replace("%", "").trim(),
        standing: number("standing").replace("%", "").trim(),
        tax: number("tax").replace("%", "").trim(),
        required: cell("needed_by"),
        loads: cell("loads"),
        store: cell("store"),
        bin: cell("bin"),
        account: cell("account"),
        budget: cell("budget"),
        job: cell("job"),
        spread: one("spread", SPREADS),
        note: cell("note"),
        ownNote: cell("own_note"),
      };
    })
    .filter((l) => l.code !== "" || l.words !== "" || l.quantity !== "");
  if (problems.length) return refuseAll(problems.slice(0, 20));
  return lines.length ? done(lines) : refuse("file", "There is no row below the first line.");
}

const markFor = (how: z.output<typeof HowNumbersAre>, numbers: string[]): DecimalMark | null =>
  how === "" ? markOf(numbers.map((n) => n.replace(/[€£$¥%]|\b[A-Z]{3}\b/g, ""))) : how === "comma" ? "," : ".";
