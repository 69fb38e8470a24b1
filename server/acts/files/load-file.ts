import { type DecimalMark, TooLargeFigure } from "../../../core/numbers/decimal";
import type { Act } from "../../../core/people/roles";
import { count } from "../../../core/text";
import { COLUMNS, FILE_KINDS, type FileKind, type RowsOf } from "../../../exchange/csv/kinds";
import { MOST_FAULTS } from "../../../exchange/csv/limits";
import { guessColumns, type Mapping, renamed, withNames } from "../../../exchange/csv/match-columns";
import { checkTable, type Fault, readTable, type Table } from "../../../exchange/csv/table";
import { readAnyTable } from "../../../exchange/xlsx/read-workbook";
import { type Desk, type Done, done, once, refuse } from "../desk";
import { retotalUnplaced } from "../orders/price-order";
import { jobs, outputs } from "./kinds/demand";
import { needs } from "./kinds/needs";
import { orders } from "./kinds/orders";
import { accounts, budgets, items, rates, stores, suppliers } from "./kinds/records";
import { alternatives, prices, sourcing } from "./kinds/sourcing";
import { lots, stockOnHand, usage } from "./kinds/stock";
import { Loader } from "./loader";

export const isFileKind = (text: string): text is FileKind => FILE_KINDS.some((kind) => kind === text);

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
export interface FaultyFile {
  ok: false;
  problems: { field: string; says: string }[];
  faults: Fault[];
  count: number;
}
export type LoadAnswer = Done<Loaded> | FaultyFile;

/** Needs are the buyers' own; everything else is the administrator's. */
export const actOf = (kind: FileKind): Act => (kind === "needs" ? "plan" : "load files");

/** Loads a CSV file. */
export function loadFile(desk: Desk, kind: FileKind, bytes: Uint8Array, mark: DecimalMark): LoadAnswer {
  const read = readTable(bytes);
  return read.ok ? loadTable(desk, kind, read.table, mark) : faulty(read.faults);
}

/** How a file is to be taken. */
export interface HowToLoad {
  mark: DecimalMark;
  /** Which of its columns hold our fields; left out where its first line names them as we do. */
  mapping?: Mapping;
  /** "check" does all of it and keeps nothing. */
  only?: "check" | "load";
}

/** The table that a file holds, under our own names: a CSV file or the first sheet of a workbook. */
export async function tableToLoad(
  bytes: Uint8Array,
  { mark, mapping }: HowToLoad,
): Promise<{ ok: true; table: Table; mark: DecimalMark } | FaultyFile> {
  const read = await readAnyTable(bytes, mark);
  if (!read.ok) return faulty(read.faults);
  return { ok: true, table: mapping ? renamed(withNames(read.table).table, mapping) : read.table, mark };
}

/** A file before anybody said what its columns hold: its first rows, how many there are, and what we guess. */
export type LookedAt =
  | { ok: true; columns: string[]; rows: Table["rows"]; count: number; mapping: Mapping; named: boolean }
  | { ok: false; faults: Fault[] };

export async function lookAt(bytes: Uint8Array, mark: DecimalMark, most: number): Promise<LookedAt> {
  const read = await readAnyTable(bytes, mark);
  if (!read.ok) return { ok: false, faults: read.faults.slice(0, MOST_FAULTS) };
  const { table, named } = withNames(read.table);
  const { columns, rows } = table;
  return { ok: true, columns, rows: rows.slice(0, most), count: rows.length, mapping: guessColumns(columns), named };
}

/**
 * Loads a table entirely or not at all. First everything is checked that it says about itself, then everything it says
 * about what is already here; every fault is listed with its line, its column and what would be right.
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
    try {
      const load: (l: Loader, rows: never) => void = LOADERS[kind];
      load(loader, checked.rows as never); // checked against the columns of this kind
    } catch (e) {
      if (!(e instanceof TooLargeFigure)) throw e;
      loader.faults.push({ line: loader.line, column: "", found: "", says: e.message });
    }
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

const faulty = (faults: Fault[]): FaultyFile => ({
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

const LOADERS: { [K in FileKind]: (l: Loader, rows: RowsOf<K>) => void } = {
  stores,
  rates,
  accounts,
  budgets,
  items,
  suppliers,
  sourcing,
  prices,
  alternatives,
  stock: stockOnHand,
  lots,
  usage,
  jobs,
  outputs,
  orders,
  needs,
};
