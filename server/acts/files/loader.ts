import type Database from "better-sqlite3";
import { unitCode } from "../../../core/numbers/units";
import type { CheckedRow, Fault } from "../../../exchange/csv/table";
import { type Db, sql } from "../../db/open";
import type { Desk } from "../desk";

export type Value = string | number | null;
export type Values = Record<string, Value>;
/** What a row did: added something, made something that was known different, or left it as it was. */
type Outcome = "added" | "changed" | "same";
const WEIGHT: Record<Outcome, number> = { added: 2, changed: 1, same: 0 };

/** What was changed of one record: column by column, before and after, as the company's file keeps it. */
type Differences = Record<string, [before: unknown, after: unknown]>;

interface Plan {
  names: readonly string[];
  read: Database.Statement;
  add: Database.Statement;
  change: (columns: readonly string[]) => Database.Statement;
}

/** Columns of the file that the table keeps under the same names. */
export const alike = <C extends string>(values: Record<C, Value>, ...columns: C[]) =>
  Object.fromEntries(columns.map((c) => [c, [c, values[c]] satisfies [string, Value]]));

/** What the loaders share: finding by code, gathering faults, and keeping what the file says of a record. */
export class Loader {
  faults: Fault[] = [];
  notes: Fault[] = [];
  /** By the line of the row. */
  readonly differences = new Map<number, { of: string; columns: Differences }>();
  private outcomes = new Map<number, Outcome>();
  private seen = new Map<string, number>();
  private ids = new Map<string, number | null>();
  private units = new Map<string, string | null>();
  private plans = new Map<string, Plan>();
  private done = 0;
  /** The line that is being loaded. */
  line = 1;

  constructor(
    readonly db: Db,
    readonly desk: Desk,
    /** The columns that the file has. */
    readonly given: ReadonlySet<string>,
    private onRow: (done: number) => void = () => {},
  ) {}

  /** The rows one by one, saying how far it is. */
  *each<R extends CheckedRow>(rows: readonly R[]): Generator<R> {
    for (const row of rows) {
      this.line = row.line;
      yield row;
      if (++this.done % 500 === 0) this.onRow(this.done);
    }
  }

  fault(row: CheckedRow<object>, column: string, says: string): null {
    this.faults.push({ line: row.line, column, found: row.text(column).slice(0, 60), says });
    return null;
  }

  /** A row whose key stands in the file twice says two things about one record. */
  twice(row: CheckedRow, ...columns: string[]): boolean {
    const key = columns.map((c) => String(row.values[c]).toLowerCase()).join("\u0000");
    const before = this.seen.get(key);
    if (before !== undefined)
      this.fault(row, columns[0]!, `This stands in the file twice: line ${before} says it, too.`);
    else this.seen.set(key, row.line);
    return before !== undefined;
  }

  /** Something that is loaded, but that somebody should look at. */
  note(row: CheckedRow, column: string, says: string): void {
    this.notes.push({ line: row.line, column, found: row.text(column).slice(0, 60), says });
  }

  find(
    row: CheckedRow,
    column: string,
    table: "item" | "supplier" | "store" | "job" | "account",
    help: string,
  ): number | null {
    const code = String(row.values[column]);
    const key = `${table}/${code.toLowerCase()}`;
    let id = this.ids.get(key);
    if (id === undefined)
      this.ids.set(
        key,
        (id =
          sql<{ id: number }>(
            this.db,
            `SELECT ${table === "account" ? "1 AS id" : "id"} FROM ${table} WHERE code = ?`,
          ).get(code)?.id ?? null),
      );
    return id ?? this.fault(row, column, help);
  }

  unit(row: CheckedRow, column: string): string | null {
    const text = String(row.values[column]);
    let unit = this.units.get(text);
    if (unit === undefined) {
      const found = sql<{ code: string }>(this.db, "SELECT code FROM unit WHERE code = ? OR name = ?");
      this.units.set(text, (unit = found.get(unitCode(text), text)?.code ?? null));
    }
    if (unit !== null) return unit;
    const known = sql<{ name: string }>(this.db, "SELECT name FROM unit ORDER BY name")
      .all()
      .map((u) => u.name)
      .join(", ");
    return this.fault(row, column, `No such unit. We know ${known}.`);
  }

  /**
   * What several rows say together of what they share: the cell that is filled in, for each key; empty where all are. Two
   * that say different things are a fault.
   */
  across<V extends object, C extends keyof V & string>(
    rows: readonly CheckedRow<V>[],
    keys: readonly (keyof V)[],
    column: C,
  ): (row: CheckedRow<V>) => V[C] {
    const said = new Map<string, CheckedRow<V>>();
    const keyOf = (row: CheckedRow<V>) => keys.map((k) => String(row.values[k]).toLowerCase()).join("\u0000");
    for (const row of rows) {
      const before = said.get(keyOf(row));
      if (!before || before.text(column) === "") said.set(keyOf(row), row);
      else if (row.text(column) !== "" && row.values[column] !== before.values[column])
        this.fault(row, column, `Line ${before.line} says something else of the same: ${before.text(column)}.`);
    }
    return (row) => said.get(keyOf(row))!.values[column];
  }

  /** What holds for a record: what the file says; where it leaves the column out, what is known. */
  holds<V extends Value>(column: string, said: V, known: V | undefined): V {
    return this.given.has(column) || known === undefined ? said : known;
  }

  /**
   * Adds a record, or changes what the file says of one that is known: a column that the file leaves out keeps what is
   * known. `fields` name the columns of the table, each with the file's column that it comes from and what that says.
   * Returns the record as it was before; undefined where there was none.
   */
  keep(
    row: CheckedRow,
    table: string,
    key: Values,
    fields: Record<string, [column: string, said: Value]>,
  ): Values | undefined {
    const { names, read, add, change } = this.planFor(table, key, fields);
    const before = read.get(key) as Values | undefined; // columns of a table
    const now: Values = { ...key };
    for (const name of names) now[name] = fields[name]![1];
    if (!before) {
      add.run(now);
      this.mark(row, "added");
      return undefined;
    }
    const other = names.filter((n) => this.given.has(fields[n]![0]) && before[n] !== now[n]);
    if (other.length > 0) change(other).run(now);
    this.mark(row, "same");
    for (const n of other) this.differs(row, fields[n]![0], before[n], now[n]);
    return before;
  }

  /** The statements for a table, made once for a file: its rows all have the same key and fields. */
  private planFor(table: string, key: Values, fields: object): Plan {
    const known = this.plans.get(table);
    if (known) return known;
    const names = Object.keys(fields);
    const where = Object.keys(key)
      .map((k) => `${k} IS @${k}`)
      .join(" AND ");
    const all = [...Object.keys(key), ...names];
    const plan: Plan = {
      names,
      read: this.db.prepare(`SELECT ${names.join(", ")} FROM ${table} WHERE ${where}`),
      add: this.db.prepare(`INSERT INTO ${table} (${all.join(", ")}) VALUES (${all.map((n) => `@${n}`).join(", ")})`),
      change: (columns) =>
        sql(this.db, `UPDATE ${table} SET ${columns.map((n) => `${n} = @${n}`).join(", ")} WHERE ${where}`),
    };
    this.plans.set(table, plan);
    return plan;
  }

  /** A column of what the row names is not what it was. */
  differs(row: CheckedRow, column: string, before: unknown, after: unknown): void {
    this.mark(row, "changed");
    if (this.outcomes.get(row.line) === "added") return;
    const known = this.differences.get(row.line) ?? { of: subjectOf(row), columns: {} };
    known.columns[column] = [before ?? null, after ?? null];
    this.differences.set(row.line, known);
  }

  /** Counts a row as what it did; of several things the weightiest. */
  mark(row: CheckedRow, outcome: Outcome): void {
    const before = this.outcomes.get(row.line);
    if (!before || WEIGHT[outcome] > WEIGHT[before]) this.outcomes.set(row.line, outcome);
  }

  /** How many rows did what, and in how many of them each column changed. */
  counts(): { added: number; changed: number; same: number; columns: Record<string, number> } {
    const n = { added: 0, changed: 0, same: 0 };
    for (const outcome of this.outcomes.values()) n[outcome]++;
    const columns: Record<string, number> = {};
    for (const d of this.differences.values())
      for (const c of Object.keys(d.columns)) columns[c] = (columns[c] ?? 0) + 1;
    return { ...n, columns };
  }
}

/** A row by its first cells that are filled in, as far as they name it. */
const NAMING = [
  "order",
  "job",
  "code",
  "item",
  "supplier",
  "other",
  "store",
  "lot",
  "currency",
  "due",
  "day",
  "from",
  "starts",
  "valid_from",
  "bin",
];
const subjectOf = (row: CheckedRow): string =>
  NAMING.map((c) => row.text(c))
    .filter(Boolean)
    .join(" / ");

export const NO_ITEM = "There is no item of this code. Load the items first.";
export const NO_SUPPLIER = "There is no supplier of this code. Load the suppliers first.";
export const NO_STORE = "There is no store of this code. Load the stores first.";
export const NO_JOB = "There is no job of this code. Load the jobs first.";
export const NO_ACCOUNT = "There is no account of this code. Load the accounts first.";
