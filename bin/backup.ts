// Copies the company's file while it is in use: npm run backup -- data/wharf-tally.db backup/2026-11-24.db
import { mkdirSync } from "node:fs";
import { dirname } from "node:path";
import { openDatabase } from "../server/db/open";
import { brokenTruths } from "../server/read/always-true";

const [from = "data/wharf-tally.db", to = `data/backup-${new Date().toISOString().slice(0, 10)}.db`] =
  process.argv.slice(2);

async function backUp(): Promise<void> {
  mkdirSync(dirname(to), { recursive: true });
  const db = openDatabase(from);
  await db.backup(to);
  db.close();
  const copy = openDatabase(to);
  const found = brokenTruths(copy);
  copy.pragma("journal_mode = DELETE"); // so that the copy is one file
  copy.close();
  for (const f of found) console.error(f);
  console.log(
    found.length ? `Copied to ${to}, but ${found.length} things do not hold in it.` : `Copied to ${to} and checked.`,
  );
  process.exitCode = found.length ? 1 : 0;
}
void backUp();
