import { unitCode } from "../../../core/numbers/units";
import type { CheckedRow, Fault } from "../../../exchange/csv/table";
import { type Db, sql } from "../../db/open";
import type { Desk } from "../desk";

/** What the loaders share: finding by code, and gathering faults. */
export class Loader {
  faults: Fault[] = [];
  notes: Fault[] = [];
  added = 0;
  changed = 0;
  private seen = new Set<string>();
  private ids = new Map<string, number | null>();
  constructor(
    readonly db: Db,
    readonly desk: Desk,
  ) {}

  fault(row: CheckedRow, column: string, says: string): null {
    this.faults.push({ line: row.line, column, found: String(row.values[column] ?? ""), says });
    return null;
  }

  /** A row whose key stands in the file twice says two things about one record. */
  twice(row: CheckedRow, ...columns: string[]): boolean {
    const key = columns.map((c) => String(row.values[c]).toLowerCase()).join("\u0000");
    if (this.seen.has(key)) {
      this.fault(row, columns[0]!, "This stands in the file twice.");
      return true;
    }
    this.seen.add(key);
    return false;
  }

  /** Something that is loaded, but that somebody should look at. */
  note(row: CheckedRow, column: string, says: string): void {
    this.notes.push({ line: row.line, column, found: String(row.values[column] ?? ""), says });
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
    const unit = sql<{ code: string }>(this.db, "SELECT code FROM unit WHERE code = ? OR name = ?").get(
      unitCode(text),
      text,
    );
    if (unit) return unit.code;
    const known = sql<{ name: string }>(this.db, "SELECT name FROM unit ORDER BY name")
      .all()
      .map((u) => u.name)
      .join(", ");
    return this.fault(row, column, `No such unit. We know ${known}.`);
  }

  /** Adds or changes one record, and counts which it was. */
  put(there: boolean, insert: string, update: string, values: Record<string, unknown>): void {
    sql(this.db, there ? update : insert).run(values);
    if (there) this.changed++;
    else this.added++;
  }
}

export const NO_ITEM = "There is no item of this code. Load the items first.";
export const NO_SUPPLIER = "There is no supplier of this code. Load the suppliers first.";
export const NO_STORE = "There is no store of this code. Load the stores first.";
export const NO_JOB = "There is no job of this code. Load the jobs first.";
export const NO_ACCOUNT = "There is no account of this code. Load the accounts first.";
