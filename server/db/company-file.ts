import { createHash } from "node:crypto";
import { closeSync, existsSync, openSync, readdirSync, readFileSync, readSync, statSync, writeFileSync } from "node:fs";
import { basename, dirname, join } from "node:path";
import Database from "better-sqlite3";
import { home } from "./migrate";
import { type Db, openDatabase, sql } from "./open";

/** Why the company's file cannot be opened, in a sentence for whoever looks after the server. */
export class UnfitFile extends Error {}

/** Says in the folder that a company was set up here, so that a file that is gone is not taken for a first start. */
const markOf = (file: string) => join(dirname(file), `${basename(file, ".db")}.set-up`);
const HEADER = "SQLite format 3\u0000";

/**
 * Why this file cannot be used as it is; null where it can, or where this is a first start: no file, and nothing that
 * tells of one.
 */
export function unfit(file: string): string | null {
  if (!existsSync(file)) {
    const traces = [markOf(file), `${file}-wal`].filter((trace) => existsSync(trace));
    if (traces.length === 0) return null;
    return `The company's file ${file} is gone, though ${basename(traces[0]!)} says that there was one. Restore it from a backup. To begin with nothing, take ${traces.map((t) => basename(t)).join(" and ")} away.`;
  }
  if (statSync(file).size === 0)
    return `The company's file ${file} is empty. Restore it from a backup, or take it away to begin with nothing.`;
  if (headerOf(file) !== HEADER) return `${file} is no company's file. Restore it from a backup.`;
  const db = new Database(file, { readonly: true, fileMustExist: true });
  try {
    return misfit(db, file);
  } finally {
    db.close();
  }
}

function headerOf(file: string): string {
  const bytes = Buffer.alloc(HEADER.length);
  const open = openSync(file, "r");
  try {
    readSync(open, bytes, 0, bytes.length, 0);
  } finally {
    closeSync(open);
  }
  return bytes.toString("latin1");
}

/** A file of another program, of a newer Wharf Tally, or of one that was changed after it ran. */
function misfit(db: Db, file: string): string | null {
  let ran: { name: string; hash: string }[];
  try {
    ran = db.prepare<[], { name: string; hash: string }>("SELECT name, hash FROM migration").all();
  } catch {
    return `${file} is no company's file, or is damaged. Restore it from a backup.`;
  }
  const folder = join(home(), "server/db/migrations");
  const known = new Set(readdirSync(folder));
  const newer = ran.find((m) => !known.has(m.name));
  if (newer)
    return `${file} was written by a newer Wharf Tally (${newer.name} is not known here). Start that one, or restore a backup from before.`;
  const other = ran.find(
    (m) =>
      createHash("sha256")
        .update(readFileSync(join(folder, m.name)))
        .digest("hex") !== m.hash,
  );
  return other
    ? `${file} was brought up by another ${other.name} than stands here. Start the Wharf Tally that wrote it.`
    : null;
}

/** Opens the company's file for serving, or throws an `UnfitFile` that says why not. */
export function openCompany(file: string): Db {
  const why = unfit(file);
  if (why !== null) throw new UnfitFile(why);
  return openDatabase(file);
}

/** Opens the file only to read it: it is never made, and never brought up. */
export function openToRead(file: string): Db {
  if (!existsSync(file)) throw new UnfitFile(`There is no file ${file}.`);
  const why = unfit(file);
  if (why !== null) throw new UnfitFile(why);
  const db = new Database(file, { readonly: true, fileMustExist: true });
  const ran = db.prepare<[], { n: number }>("SELECT count(*) AS n FROM migration").get()!.n;
  const behind = readdirSync(join(home(), "server/db/migrations")).length - ran;
  if (behind > 0) {
    db.close();
    throw new UnfitFile(`${file} was written by an older Wharf Tally. Start this one once, so that it is brought up.`);
  }
  return db;
}

/** Notes that a company was set up in this file. */
export function noteSetUp(file: string): void {
  const mark = markOf(file);
  if (!existsSync(mark)) writeFileSync(mark, "A company was set up here; its file lies beside this one.\n");
}

/** Whether the file is still the one that was opened: a deleted one still takes what is written, and it is lost. */
export function watch(file: string): () => string | null {
  const { ino } = statSync(file);
  return () => {
    const now = statSync(file, { throwIfNoEntry: false });
    if (!now) return `The company's file was deleted while the server runs. Stop the server, and restore the file.`;
    return now.ino === ino ? null : `The company's file was replaced while the server runs. Start the server again.`;
  };
}

/** Throws where the connection does not answer any more. */
export const isAnswering = (db: Db): boolean => sql(db, "SELECT 1").get() !== undefined;
