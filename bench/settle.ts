import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { addDays, type Day } from "../core/calendar/day";
import { AGES, ageOf } from "../core/settling/due";
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
