import type { DecimalMark } from "../../../core/numbers/decimal";
import type { Act } from "../../../core/people/roles";
import { count } from "../../../core/text";
import { COLUMNS, FILE_KINDS, type FileKind } from "../../../exchange/csv/kinds";
import { MOST_FAULTS } from "../../../exchange/csv/limits";
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
export type Loaded = {
  rows: number;
  /** Rows whose record is new; whose record was known and is different now; whose record was so already. */
  added: number;
  changed: number;
  same: number;
  /** In how many records each column changed. */
  columns: Record<string, number>;
  notes: Fault[];
};
/** Of many faults the first are listed; `count` is how many there are. */
export type LoadAnswer =
  | Done<Loaded>
  | { ok: false; problems: { field: string; says: string }[]; faults: Fault[]; count: number };

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
  onRow?: (done: number) => void,
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
    const loader = new Loader(tx.db, desk, checked.given, onRow);
    LOADERS[kind](loader, checked.rows);
    found = [...checked.faults, ...loader.faults].sort((a, b) => a.line - b.line);
    if (found.length) return refuse("", "faulty");
    if (kind === "items" || kind === "suppliers") retotalUnplaced(tx.db, desk.day);
    const loaded = { rows: checked.rows.length, ...loader.counts(), notes: loader.notes };
    if (only === "check") {
      tried = loaded;
      return refuse("", "only checked");
    }
    const { added, changed, same } = loaded;
    tx.record("file.loaded", kind, {
      rows: loaded.rows,
      added,
      changed,
      same,
      noted: loader.notes.length,
      differences: Object.fromEntries([...loader.differences.values()].map((d) => [d.of, d.columns])),
    });
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
      says: `Nothing was loaded: ${count(faults.length, "fault")} in the file${faults.length > MOST_FAULTS ? `, the first ${MOST_FAULTS} of them here` : ""}.`,
    },
  ],
  faults: faults.slice(0, MOST_FAULTS),
  count: faults.length,
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
