import { mkdirSync } from "node:fs";
import { dirname } from "node:path";
import Database from "better-sqlite3";
import type { IdOf } from "../../core/ids";
import { migrate } from "./migrate";

export type Db = Database.Database;

/** Opens the company's one file (or ":memory:"), brings it up to the newest migration, and sets what always holds. */
export function openDatabase(file: string): Db {
  if (file !== ":memory:") mkdirSync(dirname(file), { recursive: true });
  const db = new Database(file);
  db.pragma("journal_mode = WAL");
  always(db);
  migrate(db);
  return db;
}

/** One more connection to a file that is open already, for a worker that writes. It waits as long as it takes. */
export function openBeside(file: string): Db {
  const db = new Database(file, { fileMustExist: true });
  always(db);
  db.pragma("busy_timeout = 600000");
  return db;
}

function always(db: Db): void {
  db.pragma("foreign_keys = ON");
  db.pragma("synchronous = FULL"); // an order that was said to be placed survives a power cut
  db.pragma("busy_timeout = 5000");
  db.pragma("cache_size = -65536");
  db.pragma("recursive_triggers = ON"); // so that REPLACE cannot slip past the triggers that keep rows
}

const prepared = new WeakMap<Db, Map<string, Database.Statement>>();

/** A statement, prepared once for each connection. The row type is the caller's word: keep it beside the SQL. */
export function sql<Row = unknown>(db: Db, text: string): Database.Statement<unknown[], Row> {
  let known = prepared.get(db);
  if (!known) prepared.set(db, (known = new Map()));
  let statement = known.get(text);
  if (!statement) known.set(text, (statement = db.prepare(text)));
  return statement as Database.Statement<unknown[], Row>; // held against the columns by a test over every statement
}

/** The id of a record that was just made. */
export const madeId = <Kind extends string>({ lastInsertRowid }: Database.RunResult): IdOf<Kind> =>
  Number(lastInsertRowid) as IdOf<Kind>; // of the table that the statement names
