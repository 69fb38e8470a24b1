import { createHash } from "node:crypto";
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import Database from "better-sqlite3";
import { describe, expect, it } from "vitest";
import { keepCommitments } from "../acts/budgets/keep-commitments";
import { brokenTruths } from "../queries/always-true";
import { recordAudit } from "./audit";
import { home, migrate } from "./migrate";

const FOLDER = join(home(), "server/db/migrations");
const ALL = readdirSync(FOLDER).sort();

/** An empty file of each version. */
const EMPTY = emptyFiles();
function emptyFiles(): Buffer[] {
  const db = new Database(":memory:");
  db.pragma("foreign_keys = OFF");
  db.exec("CREATE TABLE migration (name TEXT PRIMARY KEY, hash TEXT NOT NULL) STRICT, WITHOUT ROWID");
  return [
    db.serialize(),
    ...ALL.map((name) => {
      const text = readFileSync(join(FOLDER, name), "utf8");
      db.exec(text);
      db.prepare("INSERT INTO migration (name, hash) VALUES (?, ?)").run(
        name,
        createHash("sha256").update(text).digest("hex"),
      );
      return db.serialize();
    }),
  ];
}

/** A company's file as an earlier house left it, with what every version knew. */
function fileOf(version: number): Database.Database {
  const db = new Database(EMPTY[version]!);
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
    INSERT INTO movement (item, store, day, kind, quantity, person, at) VALUES (1, 1, '2026-11-24', 'opening', 50000, 1, '2026-11-24T08:00:00.000Z');
    INSERT INTO item_store (item, store, policy, on_hand) VALUES (1, 1, 'to order', 50000);
    INSERT INTO submission (key, person, act, answer, at) VALUES ('a-key-of-then', 1, 'plan', '{}', '2026-11-24T08:00:00.000Z');
  `);
  if (version < SCHEDULED) db.exec(ORDER_OF_THEN);
  recordAudit(db, "2026-11-24T08:00:00.000Z", 1, "test.done", "a thing", {});
  return db;
}

/** The version in which every line got a schedule, and an order a stage. */
const SCHEDULED = 18;
/** An order that was confirmed, and of which six of eight litres came. */
const ORDER_OF_THEN = `
  INSERT INTO purchase_order (number, supplier, store, currency, writer, state, required, written, submitted, cleared, placed)
    VALUES ('26-1042', 1, 1, 'EUR', 1, 'Part in', '2026-12-10', '2026-11-20', '2026-11-20', '2026-11-20', '2026-11-20');
  INSERT INTO order_version (purchase_order, version, at, person, document) VALUES (1, 1, '2026-11-20', 1, '{}');
  INSERT INTO order_line (purchase_order, position, item, sourcing, words, unit, factor, quantity, price_source, required, promised, received, store)
    VALUES (1, 1, 1, 1, 'Hydraulic oil', 'LTR', 10000, 80000, '{"kind":"reference cost"}', '2026-12-10', '2026-12-14', 60000, 1);
  INSERT INTO receipt (number, purchase_order, store, day, person, at) VALUES ('D26-1001', 1, 1, '2026-11-24', 1, '2026-11-24');
  INSERT INTO receipt_line (receipt, order_line, quantity, stock_quantity, value) VALUES (1, 1, 60000, 60000, 0);
  INSERT INTO movement (item, store, day, kind, quantity, receipt_line, person, at) VALUES (1, 1, '2026-11-24', 'receipt', 60000, 1, 1, '2026-11-24');
  UPDATE item_store SET on_hand = on_hand + 60000;`;

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
  const now = shapeOf(fileOf(ALL.length));

  it.each(ALL.slice(1).map((name, i) => [i + 1, name]))(
    "of version %i is brought up by %s and what came after",
    (version) => {
      const db = fileOf(version);
      migrate(db);
      keepCommitments(db);
      expect(shapeOf(db)).toEqual(now);
      expect(brokenTruths(db)).toEqual([]);
      expect(db.pragma("foreign_key_check")).toEqual([]);
      const came = version < SCHEDULED ? 60_000 : 0;
      expect(db.prepare("SELECT on_hand FROM item_store").pluck().all()).toEqual([50_000 + came]);
      if (came) {
        expect(db.prepare("SELECT stage, state, binding FROM purchase_order").get()).toEqual({
          stage: "placed",
          state: "Part in",
          binding: 1,
        });
        expect(db.prepare("SELECT quantity, due FROM open_schedule").all()).toEqual([
          { quantity: 20_000, due: "2026-12-14" },
        ]);
      }
      migrate(db); // again changes nothing
      db.close();
    },
  );

  it("has its loads in the schedule, the earliest of them filled with what came", () => {
    const db = fileOf(SCHEDULED - 1);
    db.exec(`INSERT INTO instalment (order_line, position, quantity, upto, required, promised) VALUES
      (1, 1, 40000, 40000, '2026-12-10', NULL), (1, 2, 30000, 70000, '2027-01-10', '2027-01-20'), (1, 3, 10000, 80000, '2027-02-10', NULL)`);
    migrate(db);
    keepCommitments(db);
    expect(
      db.prepare("SELECT quantity, requested, promised, received FROM order_schedule ORDER BY position").all(),
    ).toEqual([
      { quantity: 40_000, requested: "2026-12-10", promised: null, received: 40_000 },
      { quantity: 30_000, requested: "2027-01-10", promised: "2027-01-20", received: 20_000 },
      { quantity: 10_000, requested: "2027-02-10", promised: null, received: 0 },
    ]);
    expect(brokenTruths(db)).toEqual([]);
    db.close();
  });
});
