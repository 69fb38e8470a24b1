import { existsSync, mkdirSync, renameSync, rmSync, writeFileSync } from "node:fs";
import { dirname, join } from "node:path";
import { addDays, type Day, toDay } from "../core/calendar/day";
import type { PersonId } from "../core/ids";
import type { FileKind } from "../exchange/csv/kinds";
import { keepCommitments } from "../server/acts/budgets/keep-commitments";
import { loadFile } from "../server/acts/files/load-file";
import { valueStock } from "../server/acts/stock/value-stock";
import { readPerson } from "../server/auth/sessions";
import { recordAudit } from "../server/db/audit";
import { type Db, openDatabase, sql } from "../server/db/open";
import { SUPPLIER_BOOK } from "../server/standins/demo-suppliers";
import { BELONGS, COMPANY, DEPARTMENTS, PEOPLE, rulesOf, TEAMS } from "./company";
import { demoFile } from "./files";
import { writeHistory } from "./history";
import { signHistory } from "./signed";
import { askable, supplierBook } from "./supplier-book";
import { leaveWorkWaiting } from "./waiting";

/** Makes the demo company in an empty file, with all its dates relative to `today`. */
export async function loadDemo(db: Db, today: Day): Promise<void> {
  db.transaction(() => {
    const { name, address, taxNumber, mail, currency } = COMPANY;
    sql(db, "INSERT INTO company (id, name, address, tax_number, mail, currency) VALUES (1, ?, ?, ?, ?, ?)").run(
      name,
      address,
      taxNumber,
      mail,
      currency,
    );
    for (const p of PEOPLE) {
      const id = sql(db, "INSERT INTO person (login, name, title, mail) VALUES (?, ?, ?, ?)").run(
        p.login,
        p.name,
        p.title,
        `${p.login}@kelpholm.example`,
      ).lastInsertRowid;
      for (const role of p.roles) sql(db, "INSERT INTO person_role (person, role) VALUES (?, ?)").run(id, role);
    }
    const person = (login: string) => sql<{ id: PersonId }>(db, "SELECT id FROM person WHERE login = ?").get(login)!.id;
    for (const t of TEAMS) {
      const id = sql(db, "INSERT INTO team (name) VALUES (?)").run(t.name).lastInsertRowid;
      for (const login of t.people)
        sql(db, "INSERT INTO team_member (team, person) VALUES (?, ?)").run(id, person(login));
    }
    const team = (name: string) => sql<{ id: number }>(db, "SELECT id FROM team WHERE name = ?").get(name)!.id;
    sql(db, "INSERT INTO rulebook (version, starts, rules, kept, person) VALUES (1, ?, ?, ?, ?)").run(
      addDays(today, -400),
      JSON.stringify(rulesOf(team)),
      `${addDays(today, -401)}T10:00:00.000Z`,
      person("sunniva"),
    );
    for (const name of DEPARTMENTS) sql(db, "INSERT INTO department (name) VALUES (?)").run(name);
    for (const [login, { department, manager }] of Object.entries(BELONGS))
      sql(
        db,
        "UPDATE person SET department = (SELECT id FROM department WHERE name = ?), manager = ?, region = 'IM' WHERE login = ?",
      ).run(department, manager && person(manager), login);
    recordAudit(db, `${today}T06:00:00.000Z`, null, "company.set-up", "company", { company: name, demo: true });
  })();
  const id = (login: string) => sql<{ id: PersonId }>(db, "SELECT id FROM person WHERE login = ?").get(login)!.id;
  const osk = readPerson(db, id("osk"))!;
  const load = (kind: FileKind, person = osk) => {
    const desk = { db, person, day: today, hour: 9, now: `${today}T06:10:00.000Z`, key: `demo-file-${kind}` };
    const answer = loadFile(desk, kind, Buffer.from(demoFile(kind, today)), ".");
    if (!answer.ok)
      throw new Error(`${kind}: ${JSON.stringify("faults" in answer ? answer.faults.slice(0, 5) : answer.problems)}`);
  };
  for (const kind of [
    "stores",
    "rates",
    "accounts",
    "budgets",
    "items",
    "suppliers",
    "sourcing",
    "prices",
    "alternatives",
  ] as const)
    load(kind);
  for (const p of PEOPLE)
    sql(db, "UPDATE person SET store = (SELECT id FROM store WHERE code = ?) WHERE login = ?").run(p.store, p.login);
  db.transaction(() => writeHistory(db, today, id("ines"), id("tobias")))();
  db.transaction(() => signHistory(db, today))();
  valueStock(db, { day: today, now: `${today}T05:00:00.000Z`, person: null });
  for (const kind of ["stock", "lots", "jobs", "outputs"] as const) load(kind);
  askable(db);
  await leaveWorkWaiting(db, today);
  load("needs", readPerson(db, id("ines"))!);
  db.transaction(() => keepCommitments(db))();
  db.exec("ANALYZE");
}

/** Makes the demo in a file, unless it is there already. True where it was made. */
export async function ensureDemo(file: string, today: Day, fresh = false): Promise<boolean> {
  if (fresh) for (const end of ["", "-wal", "-shm"]) rmSync(file + end, { force: true });
  if (existsSync(file)) return false;
  mkdirSync(dirname(file), { recursive: true });
  // Made beside its place and moved there when whole, so that a start cut short leaves no half company.
  const making = `${file}.making`;
  for (const end of ["", "-wal", "-shm"]) rmSync(making + end, { force: true });
  const db = openDatabase(making);
  db.pragma("synchronous = OFF"); // nothing is lost that could not be made again
  await loadDemo(db, today);
  writeFileSync(join(dirname(file), SUPPLIER_BOOK), JSON.stringify(supplierBook(db), null, 1));
  db.pragma("wal_checkpoint(TRUNCATE)");
  db.close();
  renameSync(making, file);
  return true;
}

if (process.argv[1]?.endsWith("demo/load.ts")) {
  const file = process.argv[2] ?? "data/demo/wharf-tally.db";
  const day = toDay(process.env.WHARF_TODAY ?? new Date().toISOString().slice(0, 10));
  const started = Date.now();
  if (await ensureDemo(file, day, process.argv.includes("--fresh")))
    console.log(`The demo company was made in ${((Date.now() - started) / 1000).toFixed(1)} s.`);
}
