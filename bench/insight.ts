import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { addDays, type Day, yearBefore } from "../core/calendar/day";
import type { SupplierId } from "../core/ids";
import type { BreakdownAsked } from "../core/insight/breakdown";
import { keysOf } from "../core/keys";
import { type Db, openDatabase, sql } from "../server/db/open";
import { readBreakdown } from "../server/queries/insight/breakdown";
import { readSupplierRecord } from "../server/queries/insight/record";
import { readStock, stockAsked } from "../server/queries/insight/stock";
import { fill, LARGE } from "./company";
import { print, time } from "./measure";

const LINES = 500_000;
const RECEIVED = 300_000;
const MOVED = 300_000;

/** 500,000 order lines, 300,000 receipts, invoices and movements: breakdowns, stock and a supplier's record against their bare statements. */
export async function insightBench(today: Day): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), "wharf-bench-"));
  const db = openDatabase(join(folder, "wharf-tally.db"));
  try {
    console.log(`Filling a company: ${LINES} order lines, ${RECEIVED} receipts and invoices…`);
    fill(db, today, { ...LARGE, items: 5_000, stores: 5, lines: LINES, movements: MOVED, demand: 100 });
    dealAll(db, today);
    const asked: BreakdownAsked = {
      measure: "received",
      count: "value",
      rows: "supplier",
      columns: "month",
      from: yearBefore(today),
      until: today,
      filters: {},
    };
    const bare = {
      ordered: db.prepare(
        "SELECT o.supplier, substr(o.placed, 1, 7), sum(l.home_net) FROM purchase_order o JOIN order_line l ON l.purchase_order = o.id WHERE o.placed >= @from AND o.placed < date(@until, '+1 day') GROUP BY 1, 2",
      ),
      received: db.prepare(
        "SELECT o.supplier, substr(r.day, 1, 7), sum(x.home_value) FROM receipt r JOIN receipt_line x ON x.receipt = r.id JOIN order_line l ON l.id = x.order_line JOIN purchase_order o ON o.id = l.purchase_order WHERE r.day BETWEEN @from AND @until GROUP BY 1, 2",
      ),
      invoiced: db.prepare(
        "SELECT v.supplier, substr(v.day, 1, 7), sum(b.home_net) FROM invoice v JOIN invoice_line b ON b.invoice = v.id WHERE v.day BETWEEN @from AND @until AND v.state NOT IN ('Held', 'Sent back', 'Taken off') GROUP BY 1, 2",
      ),
    };
    const days = { from: asked.from, until: asked.until };
    for (const measure of keysOf(bare))
      print(
        `A year of what was ${measure}, by supplier and month`,
        time(() => readBreakdown(db, { ...asked, measure }), 5),
        time(() => bare[measure].all(days), 5),
        3,
        "bare SQL",
      );
    print(
      "A year of what was received, by category and vessel",
      time(() => readBreakdown(db, { ...asked, rows: "category", columns: "vessel" }), 5),
      time(() => bare.received.all(days), 5),
      3,
      "bare SQL",
    );
    const stock = stockAsked(new URLSearchParams({ by: "category" }), today);
    const worth = db.prepare(
      "SELECT i.category, sum(m.value) FROM movement m JOIN item i ON i.id = m.item WHERE m.owner IS NULL AND m.day <= @on GROUP BY 1",
    );
    print(
      "Stock of a day by category, with its year",
      time(() => readStock(db, stock), 5),
      time(() => worth.all({ on: stock.on }), 5),
      3,
      "bare SQL",
    );
    const supplier = 1 as SupplierId; // the first that was filled in
    const period = { from: asked.from, until: today };
    const before = { from: addDays(yearBefore(asked.from), -1), until: addDays(asked.from, -1) };
    const loads = db.prepare(
      `SELECT l.id, l.item, i.name, r.day, x.quantity, s.requested, s.promised FROM purchase_order o JOIN order_line l ON l.purchase_order = o.id JOIN order_schedule s ON s.order_line = l.id
       JOIN receipt_line x ON x.order_line = l.id JOIN receipt r ON r.id = x.receipt LEFT JOIN item i ON i.id = l.item WHERE o.supplier = ?`,
    );
    print(
      "A supplier's record over two years",
      time(() => readSupplierRecord(db, supplier, { period, before }), 5),
      time(() => loads.all(supplier), 5),
      2,
      "bare SQL",
    );
  } finally {
    db.close();
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Receives and bills what was ordered, a line with each paper, over two years. */
function dealAll(db: Db, today: Day): void {
  db.transaction(() => {
    sql(db, "UPDATE order_line SET home_net = 5500, received = 10000").run();
    sql(db, "UPDATE purchase_order SET placed = date(?, '-' || (id % 700) || ' days') || 'T08:00:00.000Z'").run(today);
    const receipt = sql(
      db,
      "INSERT INTO receipt (number, purchase_order, store, day, person, at) VALUES (?, ?, 1, ?, 1, '')",
    );
    const line = sql(
      db,
      "INSERT INTO receipt_line (receipt, order_line, quantity, stock_quantity, value, home_value) VALUES (?, ?, 10000, 10000, 5500, 5500)",
    );
    const invoice = sql(
      db,
      `INSERT INTO invoice (supplier, number, plain, day, currency, rate, net, tax, total, home_total, state, since, due, entry, at)
       VALUES (?, ?, ?, ?, 'EUR', 1000000, 5500, 0, 5500, 5500, 'Matched', '', ?, NULL, '')`,
    );
    const billed = sql(
      db,
      "INSERT INTO invoice_line (invoice, position, order_line, quantity, price, net, tax_rate, home_net) VALUES (?, 1, ?, 10000, 55000000, 5500, 0, 5500)",
    );
    const lines = sql<{ id: number; order: number; supplier: number }>(
      db,
      `SELECT l.id, o.id AS "order", o.supplier FROM order_line l JOIN purchase_order o ON o.id = l.purchase_order ORDER BY l.id LIMIT ${RECEIVED}`,
    ).all();
    for (const [i, l] of lines.entries()) {
      const day = addDays(today, -(i % 690));
      line.run(receipt.run(`B26-${i}`, l.order, day).lastInsertRowid, l.id);
      billed.run(invoice.run(l.supplier, `V${i}`, `v${i}`, day, day).lastInsertRowid, l.id);
    }
  })();
  db.exec("ANALYZE");
}
