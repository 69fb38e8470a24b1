import { existsSync, readFileSync, statSync } from "node:fs";
import { join } from "node:path";
import { z } from "zod";
import { type Db, sql } from "../db/open";
import { readTrailCheck, type TrailCheck } from "./trail";

/** Written beside the company's file by each backup (bin/backup.ts). */
export const BACKUP_NOTE = "last-backup.json";
export const BackupNote = z.object({ at: z.iso.datetime(), to: z.string(), bytes: z.number(), faults: z.number() });
export type BackupNote = z.output<typeof BackupNote>;

/** How the company's file is, as far as it can be seen from here. */
export interface FileState {
  bytes: number;
  /** What was written and is not in the file itself yet. */
  logBytes: number;
  backup: BackupNote | null;
  mail: { waiting: number; oldest: string | null };
  trail: TrailCheck | null;
  rows: { orders: number; movements: number; audit: number };
}

const sizeOf = (path: string): number => (existsSync(path) ? statSync(path).size : 0);

/** The last backup, as it noted itself; null where none did, or its note is none. */
function readBackup(folder: string): BackupNote | null {
  const note = join(folder, BACKUP_NOTE);
  if (!existsSync(note)) return null;
  try {
    return BackupNote.safeParse(JSON.parse(readFileSync(note, "utf8"))).data ?? null;
  } catch {
    return null;
  }
}

export function readFileState(db: Db, folder: string): FileState {
  const last = (table: string) => sql<{ n: number }>(db, `SELECT coalesce(max(rowid), 0) AS n FROM ${table}`).get()!.n;
  return {
    bytes: sizeOf(db.name),
    logBytes: sizeOf(`${db.name}-wal`),
    backup: readBackup(folder),
    mail: sql<{ waiting: number; oldest: string | null }>(
      db,
      "SELECT count(*) AS waiting, min(at) AS oldest FROM mail WHERE file IS NULL",
    ).get()!,
    trail: readTrailCheck(db),
    rows: { orders: last("purchase_order"), movements: last("movement"), audit: last("audit") },
  };
}
