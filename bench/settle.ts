import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { addDays, type Day } from "../core/calendar/day";
import type { PersonId } from "../core/ids";
import { AGES, ageOf } from "../core/settling/due";
import { readAnyTable } from "../exchange/xlsx/read-workbook";
import type { Desk } from "../server/acts/desk";
import { invoicesFromTable } from "../server/acts/settling/invoices-from-table";
import { readPerson } from "../server/auth/sessions";
import { type Db, openDatabase, sql } from "../server/db/open";
import { forget } from "../server/queries/remember";
import { readPayableSums, summed } from "../server/queries/settling/payables";
import { readNotInvoiced } from "../server/queries/stock/values";
import { fill, LARGE } from "./company";
import { print, time } from "./measure";

const PAPERS = 100_000;
const RECEIPTS = 300_000;

/** 100,000 open papers by age, and 300,000 receipts that are not invoiced, each against its bare statement. */
export async function settleBench(today: Day): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), "wharf-bench-"));
  const db = openDatabase(join(folder, "wharf-tally.db"));
  try {
    console.log(`Filling a company: ${PAPERS} open papers, ${RECEIPTS} receipts not invoiced…`);
    fill(db, today, { ...LARGE, items: 2_000, stores: 5, lines: 60_000, movements: 2_000, demand: 200 });
    fillPapers(db, today);
    const on = addDays(today, -10);
    const owed = db.prepare(
      `SELECT y.due, y.supplier, y.currency, count(*), sum(y.home_total) FROM payable y WHERE y.day <= ? GROUP BY y.due, y.supplier, y.currency`,
    );
    print(
      `Payables by age on a day, ${PAPERS} papers`,
      time(() => {
        const sums = readPayableSums(db, on);
        return [AGES, summed(sums, (s) => ageOf(s.due, on)), summed(sums, (s) => s.supplier)];
      }, 7),
      time(() => owed.all(on), 7),
      2,
      "bare SQL",
    );
    const bare = db.prepare(
      `SELECT p.order_line, -sum(p.minor), min(e.day) FROM posting p JOIN posting_entry e ON e.id = p.entry
       WHERE p.role = 'received not invoiced' AND e.day <= ? GROUP BY p.order_line HAVING sum(p.minor) <> 0`,
    );
    print(
      `Received, not invoiced on a day, ${RECEIPTS}`,
      time(() => {
        forget(db);
        return readNotInvoiced(db, on);
      }, 5),
      time(() => bare.all(on), 5),
      2,
      "bare SQL",
    );
  } finally {
    db.close();
    rmSync(folder, { recursive: true, force: true });
  }
  await fileBench(today);
}

function fillPapers(db: Db, today: Day): void {
  db.transaction(() => {
    const lines = sql<{ id: number }>(db, "SELECT id FROM order_line ORDER BY id LIMIT 60000").all();
    const entry = sql(db, "INSERT INTO posting_entry (day, kind, at) VALUES (?, 'receipt', '')");
    const side = sql(
      db,
      "INSERT INTO posting (entry, position, role, account, minor, order_line) VALUES (?, ?, ?, NULL, ?, ?)",
    );
    for (let i = 0; i < RECEIPTS; i++) {
      const { lastInsertRowid: id } = entry.run(addDays(today, -(i % 400)));
      const line = lines[i % lines.length]!.id;
      side.run(id, 1, "stock", 1_000 + (i % 97), line);
      side.run(id, 2, "received not invoiced", -1_000 - (i % 97), line);
    }
    const invoice = sql(
      db,
      `INSERT INTO invoice (supplier, number, plain, day, currency, rate, net, tax, total, home_total, state, since, due, entry, at)
       VALUES (?, ?, ?, ?, 'EUR', 1000000, 1000, 200, 1200, 1200, 'Matched', '', ?, 1, '')`,
    );
    const owed = sql(
      db,
      "INSERT INTO payable (supplier, invoice, currency, net, tax, total, home_total, due, day, entry) VALUES (?, ?, 'EUR', 1000, 200, 1200, 1200, ?, ?, 1)",
    );
    for (let i = 0; i < PAPERS; i++) {
      const day = addDays(today, -(i % 300));
      const due = addDays(day, 30);
      const supplier = (i % 120) + 1;
      const { lastInsertRowid: id } = invoice.run(supplier, `V-${i}`, `v${i}`, day, due);
      owed.run(supplier, id, due, day);
    }
  })();
}

const FILE_LINES = 5_000;
const PER_INVOICE = 20;

/** A file of 5,000 invoice lines against reading it and writing its rows alone. */
async function fileBench(today: Day): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), "wharf-bench-"));
  const db = openDatabase(join(folder, "wharf-tally.db"));
  try {
    fill(db, today, {
      ...LARGE,
      items: 2_000,
      stores: 1,
      lines: FILE_LINES * 2,
      perOrder: PER_INVOICE,
      movements: 0,
      demand: 0,
    });
    receiveAll(db, today);
    const person = readPerson(db, sql<{ id: PersonId }>(db, "SELECT id FROM person LIMIT 1").get()!.id)!;
    const desk = (key: string): Desk => ({
      db,
      person: { ...person, roles: ["accounts"] },
      day: today,
      hour: 9,
      now: `${today}T09:00:00.000Z`,
      key,
    });
    const [warm, file] = [0, FILE_LINES].map((from) => invoiceFile(db, today, from));
    const enter = async (bytes: Buffer, key: string) => {
      const from = performance.now();
      const told = await invoicesFromTable(desk(key), bytes);
      if (!told.ok) throw new Error(told.problems[0]?.says);
      return { took: performance.now() - from, ...told.value };
    };
    await enter(warm!, "bench-warm-up");
    const { took, invoices, held } = await enter(file!, "bench-measured");
    const floor = await bareFile(db, file!);
    print(`A file of ${FILE_LINES} lines, ${invoices} invoices, ${held} held`, took, floor, 3, "read and insert");
  } finally {
    db.close();
    rmSync(folder, { recursive: true, force: true });
  }
}

/** All that was ordered came today, with its entry in the journal. */
function receiveAll(db: Db, today: Day): void {
  db.transaction(() => {
    sql(db, "UPDATE supplier SET active = 1").run();
    const receipt = sql(
      db,
      "INSERT INTO receipt (number, purchase_order, store, day, person, at) VALUES (?, ?, 1, ?, 1, '')",
    );
    const line = sql(
      db,
      "INSERT INTO receipt_line (receipt, order_line, quantity, stock_quantity, value) VALUES (?, ?, 50000, 50000, 5500)",
    );
    const entry = sql(db, "INSERT INTO posting_entry (day, kind, receipt, at) VALUES (?, 'receipt', ?, '')");
    const side = sql(
      db,
      "INSERT INTO posting (entry, position, role, account, minor, order_line) VALUES (?, ?, ?, NULL, ?, ?)",
    );
    for (const { id } of sql<{ id: number }>(db, "SELECT id FROM purchase_order ORDER BY id").all()) {
      const { lastInsertRowid: r } = receipt.run(`D26-${id}`, id, today);
      const { lastInsertRowid: e } = entry.run(today, r);
      sql<{ id: number }>(db, "SELECT id FROM order_line WHERE purchase_order = ?")
        .all(id)
        .forEach((l, i) => {
          line.run(r, l.id);
          side.run(e, i * 2 + 1, "stock", 5_500, l.id);
          side.run(e, i * 2 + 2, "received not invoiced", -5_500, l.id);
        });
    }
  })();
}

/** An invoice for each order, as a table: `from` skips so many lines. */
function invoiceFile(db: Db, today: Day, from: number): Buffer {
  const rows = sql<{ supplier: string; number: string; position: number }>(
    db,
    `SELECT s.code AS supplier, o.number, l.position FROM order_line l JOIN purchase_order o ON o.id = l.purchase_order JOIN supplier s ON s.id = o.supplier
     ORDER BY o.id, l.position LIMIT ? OFFSET ?`,
  ).all(FILE_LINES, from);
  return Buffer.from(
    [
      "supplier,number,date,order,line,quantity,price",
      ...rows.map(
        (r) =>
          `${r.supplier},V-${r.number},${today},${r.number},${r.position},5,${(1 + (Number(r.number.slice(3)) % 900) / 100).toFixed(2)}`,
      ),
    ].join("\n"),
  );
}

/** Reading the file, and writing as many rows as its invoices and their entries have. */
async function bareFile(db: Db, bytes: Buffer): Promise<number> {
  const from = performance.now();
  const read = await readAnyTable(bytes, ".");
  if (!read.ok) throw new Error("The file cannot be read.");
  db.transaction(() => {
    const line = sql(
      db,
      `INSERT INTO invoice_line (invoice, position, order_line, quantity, price, net, tax_rate) VALUES (1, ?, ?, 50000, 11000000, 5500, 2000)`,
    );
    const side = sql(
      db,
      "INSERT INTO posting (entry, position, role, minor, order_line) VALUES (1, ?, 'payable', 5500, ?)",
    );
    read.table.rows.forEach((_, i) => {
      line.run(10_000 + i, i + 1);
      side.run(10_000 + i, i + 1);
    });
  })();
  return performance.now() - from;
}
