import { createHash } from "node:crypto";
import { existsSync, readdirSync, readFileSync } from "node:fs";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";
import type Database from "better-sqlite3";

/** The project's own folder, found from here whether this runs as source or as a bundle. */
export function home(): string {
  let at = dirname(fileURLToPath(import.meta.url));
  while (!existsSync(join(at, "server/db/migrations"))) {
    const up = dirname(at);
    if (up === at) throw new Error("The folder of Wharf Tally was not found.");
    at = up;
  }
  return at;
}

/**
 * Runs what has not been run yet, each migration in a transaction of its own; refuses one that was edited after it ran.
 * A table that others point at can only be rebuilt while keys are not enforced, so they are checked at each end instead.
 */
export function migrate(db: Database.Database): void {
  db.pragma("foreign_keys = OFF");
  try {
    runMissing(db);
  } finally {
    db.pragma("foreign_keys = ON");
  }
}

function runMissing(db: Database.Database): void {
  db.exec("CREATE TABLE IF NOT EXISTS migration (name TEXT PRIMARY KEY, hash TEXT NOT NULL) STRICT, WITHOUT ROWID");
  const folder = join(home(), "server/db/migrations");
  const ran = new Map(
    db
      .prepare<[], { name: string; hash: string }>("SELECT name, hash FROM migration")
      .all()
      .map((m) => [m.name, m.hash]),
  );
  for (const name of readdirSync(folder).sort()) {
    const text = readFileSync(join(folder, name), "utf8");
    const hash = createHash("sha256").update(text).digest("hex");
    const before = ran.get(name);
    if (before === hash) continue;
    if (before) throw new Error(`Migration ${name} was changed after it ran.`);
    db.transaction(() => {
      db.exec(text);
      const loose = db.pragma("foreign_key_check") as { table: string }[]; // as SQLite documents it
      if (loose.length) throw new Error(`Migration ${name} leaves ${loose[0]!.table} pointing at nothing.`);
      db.prepare("INSERT INTO migration (name, hash) VALUES (?, ?)").run(name, hash);
    }).immediate();
  }
}
