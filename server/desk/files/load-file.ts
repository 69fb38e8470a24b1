import type { DecimalMark } from "../../../core/numbers/decimal";
import type { Act } from "../../../core/people/roles";
import { COLUMNS, FILE_KINDS, type FileKind } from "../../../exchange/csv/kinds";
import { type CheckedRow, checkTable, type Fault, readTable, type Table } from "../../../exchange/csv/table";
import { readAnyTable } from "../../../exchange/xlsx/read-workbook";
import { type Desk, type Done, done, once, refuse } from "../desk";
import { retotalUnplaced } from "../orders/price-order";
import { jobs, outputs } from "./kinds/demand";
import { needs } from "./kinds/needs";
import { orders } from "./kinds/orders";
import { accounts, budgets, items, rates, stores, suppliers } from "./kinds/records";
import { alternatives, prices, sourcing } from "./kinds/sourcing";
import { lots, stock, usage } from "./kinds/stock";
import { Loader } from "./loader";

export const isFileKind = (text: string): text is FileKind => (FILE_KINDS as readonly string[]).includes(text);

/** `notes` name rows that were loaded, but that somebody should look at. */
export type Loaded = { rows: number; added: number; changed: number; notes: Fault[] };
export type LoadAnswer = Done<Loaded> | { ok: false; problems: { field: string; says: string }[]; faults: Fault[] };

/** Needs are the buyers' own; everything else is the administrator's. */
export const actOf = (kind: FileKind): Act => (kind === "needs" ? "plan" : "load files");

/** Loads a CSV file. */
export function loadFile(desk: Desk, kind: FileKind, bytes: Uint8Array, mark: DecimalMark): LoadAnswer {
  const read = readTable(bytes);
  return read.ok ? loadTable(desk, kind, read.table, mark) : faulty(read.faults);
}

/** Loads a CSV file or the first sheet of a workbook. */
export async function loadAnyFile(
  desk: Desk,
  kind: FileKind,
  bytes: Uint8Array,
  mark: DecimalMark,
): Promise<LoadAnswer> {
  const read = await readAnyTable(bytes, mark);
  return read.ok ? loadTable(desk, kind, read.table, mark) : faulty(read.faults);
}

/**
 * Loads a table entirely or not at all. First everything is checked that it says about itself, then everything it says
 * about what is already here; every fault is listed with its line, its column and what would be right. `only: "check"`
 * does all of it and keeps nothing.
 */
export function loadTable(
  desk: Desk,
  kind: FileKind,
  table: Table,
  mark: DecimalMark,
  only: "check" | "load" = "load",
): LoadAnswer {
  const checked = checkTable(table, COLUMNS[kind], mark);
  if (!checked.ok) return faulty(checked.faults);
  if (checked.rows.length === 0 && checked.faults.length === 0) {
    return faulty([{ line: 1, column: "", found: "", says: "There is no row below the first line." }]);
  }
  let found: Fault[] = [];
  let tried: Loaded | null = null;
  // Rows that are whole in themselves are tried even where others are not, so that one answer names every fault.
  const answer = once(desk, actOf(kind), (tx): Done<Loaded> => {
    const loader = new Loader(tx.db, desk);
    LOADERS[kind](loader, checked.rows);
    found = [...checked.faults, ...loader.faults].sort((a, b) => a.line - b.line);
    if (found.length) return refuse("", "faulty");
    if (kind === "items" || kind === "suppliers") retotalUnplaced(tx.db, desk.day);
    const { added, changed, notes } = loader;
    const loaded = { rows: checked.rows.length, added, changed, notes };
    if (only === "check") {
      tried = loaded;
      return refuse("", "only checked");
    }
    tx.record("file.loaded", kind, { rows: loaded.rows, added, changed, noted: notes.length });
    return done(loaded);
  });
  if (found.length) return faulty(found);
  return tried ? done(tried) : answer;
}

const faulty = (faults: Fault[]): LoadAnswer => ({
  ok: false,
  problems: [
    {
      field: "file",
      says: `Nothing was loaded: ${faults.length === 1 ? "1 fault" : `${faults.length} faults`} in the file.`,
    },
  ],
  faults,
});

const LOADERS: Record<FileKind, (l: Loader, rows: CheckedRow[]) => void> = {
  stores,
  rates,
  accounts,
  budgets,
  items,
  suppliers,
  sourcing,
  prices,
  alternatives,
  stock,
  lots,
  usage,
  jobs,
  outputs,
  orders,
  needs,
};
