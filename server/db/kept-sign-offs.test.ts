import { createHash } from "node:crypto";
import { mkdtempSync, readdirSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import Database from "better-sqlite3";
import { afterEach, beforeEach, expect, it } from "vitest";
import { toDay } from "../../core/calendar/day";
import { readProcess } from "../queries/signoff/process";
import { rulebookOn } from "../queries/signoff/rulebooks";
import { readSignings } from "../queries/signoff/signings";
import { home } from "./migrate";
import { openDatabase, sql } from "./open";

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), "wharf-"));
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

/** A file as it was before ladders became rulebooks, with a paper signed, one waiting and one sent back. */
function fileOfBefore(): string {
  const file = join(folder, "wharf-tally.db");
  const db = new Database(file);
  db.exec("CREATE TABLE migration (name TEXT PRIMARY KEY, hash TEXT NOT NULL) STRICT, WITHOUT ROWID");
  const migrations = join(home(), "server/db/migrations");
  for (const name of readdirSync(migrations).sort()) {
    if (name >= "009") break;
    const text = readFileSync(join(migrations, name), "utf8");
    db.exec(text);
    db.prepare("INSERT INTO migration (name, hash) VALUES (?, ?)").run(
      name,
      createHash("sha256").update(text).digest("hex"),
    );
  }
  db.exec(`
    INSERT INTO person (id, login, name) VALUES (1, 'ines', 'Ines'), (2, 'maud', 'Maud'), (3, 'halden', 'Halden');
    INSERT INTO store (id, code, name) VALUES (1, 'TQ', 'Tarn Quay');
    INSERT INTO supplier (id, code, name, currency) VALUES (1, 'TTL', 'Tern & Tallow', 'EUR');
    INSERT INTO team (id, name) VALUES (7, 'Yard manager'), (8, 'Finance director');
    INSERT INTO team_member (team, person) VALUES (7, 2), (8, 3);
    INSERT INTO ladder (id, paper, name, position) VALUES (4, 'order', 'Orders', 1);
    INSERT INTO rung (ladder, position, up_to, team, hours) VALUES (4, 1, 80000, NULL, 8), (4, 2, 1250000, 7, 8), (4, 3, NULL, 8, 16);
    INSERT INTO purchase_order (id, number, supplier, store, currency, writer, state, required, written, submitted)
      VALUES (1, '26-1', 1, 1, 'EUR', 1, 'Cleared', '2026-12-01', '2026-11-20', '2026-11-20'),
             (3, '26-3', 1, 1, 'EUR', 1, 'With supplier', '2026-12-01', '2026-11-20', '2026-11-20'),
             (2, '26-2', 1, 1, 'EUR', 1, 'In sign-off', '2026-12-01', '2026-11-20', '2026-11-20');
    INSERT INTO signature (paper, purchase_order, round, position, team, amount, hours, asked, state, person, at, reason) VALUES
      ('order', 1, 1, 1, 7, 500000, 8, '2026-11-20T09:00:00.000Z', 'signed', 2, '2026-11-20T11:00:00.000Z', ''),
      ('order', 2, 1, 1, 7, 2000000, 8, '2026-11-20T09:00:00.000Z', 'sent back', 2, '2026-11-20T11:00:00.000Z', 'too dear'),
      ('order', 2, 1, 2, 8, 2000000, 16, NULL, 'not reached', NULL, NULL, ''),
      ('order', 2, 2, 1, 7, 1900000, 8, '2026-11-20T12:00:00.000Z', 'signed', 2, '2026-11-20T12:30:00.000Z', ''),
      ('order', 2, 2, 2, 8, 1900000, 16, '2026-11-20T12:30:00.000Z', 'waiting', NULL, NULL, '');`);
  db.exec(`
    INSERT INTO audit (at, person, act, subject, detail, before, hash) VALUES
      ('2026-11-20T08:00:00.000Z', 1, 'order.changed', 'order 2', '{}', 'a', 'b'),
      ('2026-11-20T11:00:00.000Z', 2, 'order.sent-back', 'order 2', '{}', 'b', 'c'),
      ('2026-11-20T11:30:00.000Z', 3, 'order.changed', 'order 2', '{}', 'c', 'd');`);
  db.close();
  return file;
}

it("keeps every signature and what still waits, and the ladders become the first rules", () => {
  const db = openDatabase(fileOfBefore());
  const book = rulebookOn(db, toDay("2026-11-24"))!;
  expect(book.ladders).toHaveLength(1);
  expect(book.ladders[0]).toMatchObject({
    name: "Orders",
    papers: ["order", "blanket", "change"],
    rungs: [
      { upTo: 80_000, who: null, hours: 8, climbsTo: null },
      { upTo: 1_250_000, who: { kind: "team", team: 7, all: false } },
      { upTo: null, who: { kind: "team", team: 8, all: false }, hours: 16 },
    ],
  });
  expect(readSignings(db, "order", 1)).toMatchObject([
    { state: "Cleared", amount: 500_000, seats: [{ state: "signed", signatures: [{ person: "Maud", took: 120 }] }] },
  ]);
  expect(readSignings(db, "order", 2)).toMatchObject([
    { state: "Draft", reason: "too dear", seats: [{ state: "sent back" }, { state: "not reached" }] },
    { state: "In sign-off", seats: [{ state: "signed" }, { state: "waiting", called: "the finance director" }] },
  ]);
  expect(readSignings(db, "order", 3)).toMatchObject([{ state: "Cleared", seats: [] }]);
  expect(sql(db, "SELECT count(*) AS n FROM signing WHERE facts IS NULL").get()).toEqual({ n: 0 });
  expect(readProcess(db, "order", 2)!.process.seats[1]!.asked).toEqual([{ id: 3, name: "Halden" }]);
  // Whoever changed what waits does not sign it, and whoever only sent it back may.
  expect(readProcess(db, "order", 2)!.process.hands).toEqual([1, 3]);
  expect(sql(db, "SELECT person, round FROM order_hand WHERE purchase_order = 2 ORDER BY person").all()).toEqual([
    { person: 1, round: 0 },
    { person: 3, round: 1 },
  ]);
  db.close();
});
