import { createHash } from "node:crypto";
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import Database from "better-sqlite3";
import { describe, expect, it } from "vitest";
import { brokenTruths } from "../queries/always-true";
import { recordAudit } from "./audit";
import { home, migrate } from "./migrate";

const FOLDER = join(home(), "server/db/migrations");
const ALL = readdirSync(FOLDER).sort();

/** A company's file as an earlier house left it, with what every version knew. */
function fileOf(version: number): Database.Database {
  const db = new Database(":memory:");
  db.pragma("foreign_keys = OFF");
  db.exec("CREATE TABLE migration (name TEXT PRIMARY KEY, hash TEXT NOT NULL) STRICT, WITHOUT ROWID");
  for (const name of ALL.slice(0, version)) {
    const text = readFileSync(join(FOLDER, name), "utf8");
    db.exec(text);
    db.prepare("INSERT INTO migration (name, hash) VALUES (?, ?)").run(
      name,
      createHash("sha256").update(text).digest("hex"),
    );
  }
  db.pragma("foreign_keys = ON");
  db.exec(`
    INSERT INTO company (id, name, currency) VALUES (1, 'Kelpholm Ferries', 'EUR');
    INSERT INTO store (code, name) VALUES ('TQ', 'Tarn Quay');
    INSERT INTO person (login, name) VALUES ('ines', 'Ines');
    INSERT INTO person_role (person, role) VALUES (1, 'buyer');
    INSERT INTO session (id, person, started, ends) VALUES ('s', 1, '2026-11-24T08:00:00.000Z', '2026-12-08T08:00:00.000Z');
    INSERT INTO supplier (code, name, currency) VALUES ('TTL', 'Tern & Tallow', 'EUR');
    INSERT INTO item (code, name, kind, unit) VALUES ('OIL', 'Hydraulic oil', 'stocked', 'LTR');
    INSERT INTO sourcing (item, supplier, unit, factor, lead_days) VALUES (1, 1, 'LTR', 10000, 3);
    INSERT INTO item_store (item, store, policy, on_hand) VALUES (1, 1, 'to order', 50000);
    INSERT INTO movement (item, store, day, kind, quantity, person, at) VALUES (1, 1, '2026-11-24', 'opening', 50000, 1, '2026-11-24T08:00:00.000Z');
    INSERT INTO submission (key, person, act, answer, at) VALUES ('a-key-of-then', 1, 'plan', '{}', '2026-11-24T08:00:00.000Z');
  `);
  recordAudit(db, "2026-11-24T08:00:00.000Z", 1, "test.done", "a thing", {});
  return db;
}

/** Tables, columns, indexes and triggers, however they came about. */
const shapeOf = (db: Database.Database) =>
  db
    .prepare<[], { type: string; name: string }>(
      "SELECT type, name FROM sqlite_master WHERE name NOT LIKE 'sqlite_%' ORDER BY 1, 2",
    )
    .all()
    .map((o) => ({
      ...o,
      columns:
        o.type === "table"
          ? db.prepare(`SELECT name, type FROM pragma_table_info('${o.name}') ORDER BY name`).all()
          : [],
    }));

describe("a file of an earlier house", () => {
  const now = fileOf(ALL.length);

  it.each(ALL.slice(1).map((name, i) => [i + 1, name]))(
    "of version %i is brought up by %s and what came after",
    (version) => {
      const db = fileOf(version);
      migrate(db);
      expect(shapeOf(db)).toEqual(shapeOf(now));
      expect(brokenTruths(db)).toEqual([]);
      expect(db.pragma("foreign_key_check")).toEqual([]);
      expect(db.prepare("SELECT on_hand FROM item_store").pluck().all()).toEqual([50_000]);
      migrate(db); // again changes nothing
      db.close();
    },
  );
});
