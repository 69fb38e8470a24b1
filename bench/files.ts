import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { parse } from "csv-parse/sync";
import { addDays, toDay } from "../core/calendar/day";
import type { FileKind } from "../exchange/csv/kinds";
import type { Desk } from "../server/acts/desk";
import { loadFile } from "../server/acts/files/load-file";
import { readPerson } from "../server/auth/sessions";
import { type Db, openDatabase, sql } from "../server/db/open";
import { print } from "./measure";

const TODAY = toDay("2026-11-24");
const ROWS = 20_000;
const pad = (n: number) => String(n).padStart(5, "0");

/** One file of 20,000 rows for each kind, in the order in which they are loaded. Jobs and orders are large ones. */
const FILES: [FileKind, head: string, row: (i: number) => string][] = [
  ["stores", "code,name", (i) => `S${pad(i)},Store ${i}`],
  [
    "rates",
    "currency,day,rate",
    (i) => `${["NOK", "SEK", "DKK", "GBP", "USD"][i % 5]},${addDays(TODAY, -Math.floor(i / 5))},0.0${1000 + (i % 900)}`,
  ],
  ["accounts", "code,name", (i) => `A${pad(i)},Account ${i}`],
  ["budgets", "code,name,starts,ends,amount", (i) => `B${pad(i)},Budget ${i},2026-01-01,2026-12-31,${1000 + i}.50`],
  [
    "items",
    "code,name,category,unit,reference_cost",
    (i) => `I${pad(i)},Item ${i},Group ${i % 40},each,${1 + (i % 500)}.25`,
  ],
  [
    "suppliers",
    "code,name,currency,terms_days,order_mails",
    (i) => `V${pad(i)},Supplier ${i},EUR,30,orders@v${i}.example`,
  ],
  ["sourcing", "item,supplier,unit,factor,lead_days", (i) => `I${pad(i)},V${pad(i % 300)},box,10,${3 + (i % 20)}`],
  ["prices", "item,supplier,from,price", (i) => `I${pad(i)},V${pad(i % 300)},1,${10 + (i % 700)}.40`],
  ["alternatives", "item,other,both_ways", (i) => `I${pad(i)},I${pad((i + 1) % ROWS)},yes`],
  ["stock", "item,store,on_hand,policy,reorder_point,lot", (i) => `I${pad(i)},S00000,${i % 90},larger of,20,50`],
  ["lots", "item,store,lot,on_hand,expires", (i) => `I${pad(i)},S00000,L${i},${i % 90 > 5 ? 5 : 0},2027-06-30`],
  [
    "usage",
    "item,store,day,quantity",
    (i) => `I${pad(i % 500)},S00000,${addDays(TODAY, -1 - Math.floor(i / 500))},${1 + (i % 9)}`,
  ],
  [
    "jobs",
    "job,name,item,store,due,quantity",
    (i) => `J${Math.floor(i / 8000)},Refit,I${pad(i)},S00000,2026-12-20,${1 + (i % 7)}`,
  ],
  ["outputs", "job,item,store,due,quantity", (i) => `J${Math.floor(i / 8000)},I${pad(i)},S00000,2026-12-28,1`],
  [
    "orders",
    "order,supplier,store,item,quantity,required,price",
    (i) => `P${Math.floor(i / 100)}-${i % 300},V${pad(i % 300)},S00000,I${pad(i)},${1 + (i % 5)},2026-12-10,12.50`,
  ],
  ["needs", "item,store,quantity,needed_by", (i) => `I${pad(i)},S00000,${1 + (i % 9)},2026-12-24`],
];

/** Where the rows of a kind are kept. */
const TABLES: Record<FileKind, readonly string[]> = {
  stores: ["store"],
  rates: ["rate"],
  accounts: ["account"],
  budgets: ["budget"],
  items: ["item"],
  suppliers: ["supplier", "supplier_contact"],
  sourcing: ["sourcing"],
  prices: ["price_break"],
  alternatives: ["alternative"],
  stock: ["item_store", "movement"],
  lots: ["lot", "movement"],
  usage: ["movement"],
  jobs: ["job", "job_demand"],
  outputs: ["job_output"],
  orders: ["purchase_order", "order_line", "order_schedule", "order_revision"],
  needs: ["noted_need"],
};

/**
 * Each kind of file against csv-parse and the bare inserts of what it made, into the same tables of another file, without
 * any check, sum or trail.
 */
export function filesBench(): void {
  const folder = mkdtempSync(join(tmpdir(), "wharf-files-"));
  const [db, bare] = ["wharf-tally.db", "bare.db"].map((name) => company(join(folder, name))) as [Db, Db];
  try {
    const person = readPerson(db, 1)!;
    for (const [kind, head, row] of FILES) {
      const text = `${head}\n${Array.from({ length: ROWS }, (_, i) => row(i)).join("\n")}\n`;
      const desk: Desk = { db, person, day: TODAY, hour: 9, now: `${TODAY}T09:00:00.000Z`, key: `bench-${kind}-key` };
      const ours = took(() => {
        const answer = loadFile(desk, kind, Buffer.from(text), ".");
        if (!answer.ok) throw new Error(JSON.stringify(answer).slice(0, 600));
      });
      const made = TABLES[kind].map((table) => {
        const { n } = sql<{ n: number }>(bare, `SELECT count(*) AS n FROM ${table}`).get()!;
        const rows = sql<object>(db, `SELECT * FROM ${table} LIMIT -1 OFFSET ${n}`).all();
        const columns = Object.keys(rows[0] ?? {});
        const into = `INSERT INTO ${table} (${columns.join(", ")}) VALUES (${columns.map((c) => `@${c}`).join(", ")})`;
        return { insert: bare.prepare(into), rows };
      });
      const floor = took(() => {
        parse(text);
        bare.transaction(() => {
          for (const { insert, rows } of made) for (const r of rows) insert.run(r);
        })();
      });
      print(`Load 20,000 ${kind}`, ours, floor, 3);
    }
  } finally {
    db.close();
    bare.close();
    rmSync(folder, { recursive: true, force: true });
  }
}

function company(file: string): Db {
  const db = openDatabase(file);
  sql(db, "INSERT INTO company (id, name, currency) VALUES (1, 'Kelpholm Ferries', 'EUR')").run();
  sql(db, "INSERT INTO person (id, login, name) VALUES (1, 'osk', 'Osk')").run();
  for (const role of ["administrator", "buyer"])
    sql(db, "INSERT INTO person_role (person, role) VALUES (1, ?)").run(role);
  return db;
}

function took(work: () => void): number {
  const start = performance.now();
  work();
  return performance.now() - start;
}
