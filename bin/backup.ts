// Copies the company's file while it is in use: npm run backup -- data/wharf-tally.db backup/2026-11-24.db
import { existsSync, mkdirSync, renameSync, rmSync, statSync, writeFileSync } from "node:fs";
import { dirname, join } from "node:path";
import Database from "better-sqlite3";
import { openToRead } from "../server/db/company-file";
import { brokenTruths } from "../server/queries/always-true";
import { BACKUP_NOTE, type BackupNote } from "../server/queries/running";

const [from = "data/wharf-tally.db", to = `data/backup-${new Date().toISOString().slice(0, 10)}.db`] =
  process.argv.slice(2);

/** Writes beside the place it is meant for, so that what stands there is whole, or not there. */
async function backUp(): Promise<void> {
  const db = openToRead(from);
  if (existsSync(to)) throw new Error(`${to} is there already. A backup never takes another one's place.`);
  mkdirSync(dirname(to), { recursive: true });
  const part = `${to}.part`;
  for (const end of ["", "-wal", "-shm"]) rmSync(part + end, { force: true });
  await db.backup(part);
  db.close();
  const copy = new Database(part);
  copy.pragma("journal_mode = DELETE"); // so that the copy is one file
  const found = brokenTruths(copy);
  copy.close();
  renameSync(part, to);
  // The administrator's page says how old the last backup is.
  const note: BackupNote = { at: new Date().toISOString(), to, bytes: statSync(to).size, faults: found.length };
  writeFileSync(join(dirname(from), BACKUP_NOTE), JSON.stringify(note));
  for (const f of found) console.error(f);
  console.log(
    found.length ? `Copied to ${to}, but ${found.length} things do not hold in it.` : `Copied to ${to} and checked.`,
  );
  process.exitCode = found.length ? 1 : 0;
}

backUp().catch((e: Error) => {
  console.error(e.message);
  process.exitCode = 2;
});
