import { copyFileSync, mkdirSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { toDay } from "../core/calendar/day";
import type { BasisPoints } from "../core/numbers/money";
import type { Role } from "../core/people/roles";
import { type Ladder, type Rules, WIDE } from "../core/signoff/rulebook";
import type { FileKind } from "../exchange/csv/kinds";
import type { Desk, Done } from "./acts/desk";
import { loadFile } from "./acts/files/load-file";
import { readPerson } from "./auth/sessions";
import { home } from "./db/migrate";
import { type Db, openBeside, openDatabase, sql } from "./db/open";
import { csvParts, type FileColumn, workbookParts } from "./queries/file-columns";

/** A small company in a real file, for tests of what the desk does. */
export const TODAY = toDay("2026-11-24");

const PEOPLE: Record<string, Role[]> = {
  ines: ["buyer"],
  joss: ["requester"],
  anders: ["requester"],
  maud: ["approver"],
  halden: ["approver"],
  tobias: ["dock hand"],
  osk: ["administrator"],
  lena: ["accounts"],
};

const FILES: [FileKind, string][] = [
  [
    "stores",
    "code,name,receives\nTQ,Tarn Quay,mon tue wed thu fri sat sun\nHS,Holm Slip,mon tue wed thu fri sat sun\n",
  ],
  [
    "items",
    "code,name,unit,gtin,reference_cost\nOIL,Hydraulic oil,L,,3.12\nANO,Hull anode,each,4006381333931,31.20\nROP,Mooring rope,m,,5.90\n",
  ],
  [
    "suppliers",
    "code,name,currency,delivers,contact,order_mails\nTTL,Tern & Tallow,EUR,mon tue wed thu fri sat sun,Dorrit Pell,orders@ttl.example\nBAW,Brannock,EUR,mon tue wed thu fri sat sun,Elspeth,orders@baw.example\n",
  ],
  [
    "sourcing",
    "item,supplier,their_code,unit,factor,lead_days\nOIL,TTL,TT-46,drum,200,10\nANO,BAW,ZW-110,each,1,12\nROP,TTL,TT-R48,coil,220,5\n",
  ],
  [
    "prices",
    "item,supplier,from,price\nOIL,TTL,1,660.00\nOIL,TTL,5,624.00\nOIL,TTL,10,588.00\nANO,BAW,1,31.20\nROP,TTL,1,1298.00\n",
  ],
  [
    "stock",
    "item,store,on_hand,policy,reorder_point,lot,level\nOIL,TQ,340,larger of,400,1600,\nANO,TQ,60,top up,18,,60\nANO,HS,18,top up,12,,48\nROP,TQ,440,larger of,220,220,\n",
  ],
  ["jobs", "job,name,vessel,item,store,due,quantity\n2291,Winter refit,Marram,OIL,TQ,2026-12-01,260\n"],
];

export interface TestHouse {
  db: Db;
  folder: string;
  /** A desk of a person with a key of its own, or the one given. */
  desk: (login: string, key?: string) => Desk;
  id: (table: "item" | "supplier" | "store" | "person", code: string) => number;
  close: () => void;
}

/** Where the image lies that a run of the tests makes once. */
export const IMAGE = join(home(), "tests/.out/image.db");

/** A file of its own, copied from the image: making one anew takes a hundred times as long. */
export function testHouse(): TestHouse {
  const folder = mkdtempSync(join(tmpdir(), "wharf-"));
  const file = join(folder, "wharf-tally.db");
  copyFileSync(IMAGE, file);
  const db = openBeside(file);
  db.pragma("busy_timeout = 5000");
  db.pragma("synchronous = OFF");
  return {
    ...deskIn(db),
    db,
    folder,
    close() {
      db.close();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

/** Sets the small company up, once for all tests. */
export function makeImage(): void {
  mkdirSync(dirname(IMAGE), { recursive: true });
  for (const end of ["", "-wal", "-shm"]) rmSync(IMAGE + end, { force: true });
  const db = openDatabase(IMAGE);
  db.pragma("synchronous = OFF");
  sql(
    db,
    "INSERT INTO company (id, name, address, currency, valued) VALUES (1, 'Kelpholm Ferries', '1 Tarn Quay', 'EUR', '2026-11-01')",
  ).run();
  for (const [login, roles] of Object.entries(PEOPLE)) {
    const id = sql(db, "INSERT INTO person (login, name, mail) VALUES (?, ?, ?)").run(
      login,
      login[0]!.toUpperCase() + login.slice(1),
      `${login}@kelpholm.example`,
    ).lastInsertRowid;
    for (const r of roles) sql(db, "INSERT INTO person_role (person, role) VALUES (?, ?)").run(id, r);
  }
  const { desk, id } = deskIn(db, 0);
  const team = (name: string, login: string) => {
    const made = Number(sql(db, "INSERT INTO team (name) VALUES (?)").run(name).lastInsertRowid);
    sql(db, "INSERT INTO team_member (team, person) VALUES (?, ?)").run(made, id("person", login));
    return made;
  };
  keepRules(db, twoRungs(team("Yard manager", "maud"), team("Finance director", "halden")));
  for (const [kind, text] of FILES) must(loadFile(desk("osk"), kind, Buffer.from(text), ".") as Done<unknown>);
  db.pragma("wal_checkpoint(TRUNCATE)");
  db.close();
}

/** Desks of the company's people, each with a key of its own; the files that it was set up from have had the first. */
function deskIn(db: Db, used = FILES.length): Pick<TestHouse, "desk" | "id"> {
  const id = (table: string, code: string) =>
    sql<{ id: number }>(db, `SELECT id FROM ${table} WHERE ${table === "person" ? "login" : "code"} = ?`).get(code)!.id;
  let keys = used;
  const desk = (login: string, key?: string): Desk => {
    keys++;
    return {
      db,
      person: readPerson(db, id("person", login))!,
      day: TODAY,
      hour: 9,
      now: `${TODAY}T09:${String(keys % 60).padStart(2, "0")}:00.000Z`,
      key: key ?? `test-key-${keys}`,
    };
  };
  return { desk, id };
}

/** None up to 800; yard manager up to 12,500; finance director above: for requisitions and for all that is ordered. */
function twoRungs(yard: number, finance: number): Rules {
  const ladder = (id: number, name: string, papers: Ladder["papers"]): Ladder => ({
    id,
    name,
    papers,
    ...WIDE,
    rungs: [
      { upTo: 80_000, who: null, hours: 8, climbsTo: null },
      { upTo: 1_250_000, who: { kind: "team", team: yard, all: false }, hours: 8, climbsTo: null },
      { upTo: null, who: { kind: "team", team: finance, all: false }, hours: 8, climbsTo: null },
    ],
  });
  return {
    allowance: { percent: 200 as BasisPoints, amount: 10_000 },
    ladders: [ladder(1, "Orders", ["order", "blanket"]), ladder(2, "Requisitions", ["requisition"])],
  };
}

/** Rules that hold from long ago on. */
export function keepRules(db: Db, rules: Rules): void {
  sql(
    db,
    "INSERT INTO rulebook (version, starts, rules, kept) VALUES ((SELECT coalesce(max(version), 0) + 1 FROM rulebook), '2000-01-01', ?, ?)",
  ).run(JSON.stringify(rules), `${TODAY}T06:00:00.000Z`);
}

/** The value of an act that must go through. */
export function must<T>(answer: Done<T>): T {
  if (!answer.ok) throw new Error(answer.problems.map((p) => `${p.field}: ${p.says}`).join("; "));
  return answer.value;
}

/** What a refused act said, as "field: sentence"; fails where it went through. */
export function refusal(answer: Done<unknown>): string[] {
  if (answer.ok) throw new Error("This should have been refused.");
  return answer.problems.map((p) => (p.field ? `${p.field}: ${p.says}` : p.says));
}

/** What is kept of a paper that tests ask for again and again. */
export const versionOf = (db: Db, table: "purchase_order" | "requisition", paper: number) =>
  sql<{ version: number }>(db, `SELECT version FROM ${table} WHERE id = ?`).get(paper)!.version;
export const stateOf = (db: Db, table: "purchase_order" | "requisition", paper: number) =>
  sql<{ state: string }>(db, `SELECT state FROM ${table} WHERE id = ?`).get(paper)!.state;

/** What was used on a day of before, in stock units; what is on hand stays. */
export const used = (h: TestHouse, item: string, store: string, day: string, quantity: number): void => {
  const file = `item,store,day,quantity\n${item},${store},${day},${quantity}\n`;
  must(loadFile(h.desk("osk"), "usage", Buffer.from(file), "."));
};

/** Rows as the files that leave the house. */
export const csvOf = <R>(columns: readonly FileColumn<R>[], rows: readonly R[]): string =>
  [...csvParts(columns, [rows])].join("");
export async function workbookOf<R>(columns: readonly FileColumn<R>[], rows: readonly R[]): Promise<Buffer> {
  const pieces: Uint8Array[] = [];
  await workbookParts("rows", columns, [rows], (piece) => pieces.push(piece));
  return Buffer.concat(pieces);
}
