import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import bwip from "bwip-js/node";
import type { Day } from "../core/calendar/day";
import type { OrderId, OrderLineId, StoreId } from "../core/ids";
import { labelCode } from "../core/stock/label";
import { readScan } from "../exchange/gs1/scan";
import { labelsPdf } from "../exchange/labels/label-pdf";
import { keepCommitments } from "../server/acts/budgets/keep-commitments";
import type { Desk } from "../server/acts/desk";
import { takeOrder } from "../server/acts/receiving/receive-goods";
import { readPerson } from "../server/auth/sessions";
import { type Db, openDatabase, sql } from "../server/db/open";
import { findOpenLines } from "../server/queries/receiving/open-count";
import { fill, LARGE } from "./company";
import { median, print, time, tried } from "./measure";

const NOBODY_SAID = { lines: null, pieces: null, weight: null };

/** A scan over 20,000 open instalments of one store, and a load of 500 lines that is taken in. */
export async function dockBench(today: Day): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), "wharf-bench-"));
  const db = openDatabase(join(folder, "wharf-tally.db"));
  try {
    console.log("Filling a company: one store, 40000 order lines of which half are open…");
    fill(db, today, { ...LARGE, stores: 1, lines: 40_000, openEvery: 2, movements: 20_000, demand: 2_000 });
    db.transaction(() => keepCommitments(db)).immediate();
    const store = 1 as StoreId; // the one that was filled
    const codes = sql<{ code: string }>(
      db,
      "SELECT i.code FROM order_line l JOIN item i ON i.id = l.item WHERE l.open = 1 ORDER BY l.id LIMIT 400",
    )
      .all()
      .map((r) => r.code);
    const bare = db.prepare(
      `SELECT l.*, o.number, o.version, s.name AS supplier, w.name AS writer, i.code, i.name, i.gtin, u.name AS unit_name, c.requested, c.promised, c.received AS came
       FROM item i JOIN order_line l ON l.item = i.id AND l.open = 1 AND l.store = ? JOIN purchase_order o ON o.id = l.purchase_order JOIN supplier s ON s.id = o.supplier
       JOIN person w ON w.id = o.writer JOIN unit u ON u.code = l.unit JOIN order_schedule c ON c.order_line = l.id WHERE i.code = ? ORDER BY l.due`,
    );
    print(
      `${codes.length} scans of an open count`,
      time(() => {
        for (const c of codes) {
          const scanned = readScan(c);
          if (scanned.ok) findOpenLines(db, store, scanned.value);
        }
      }, 7),
      time(() => codes.map((c) => bare.all(store, c).length), 7),
      2,
      "bare lookup",
    );
    loadOf500(db, today, store);
    await labelsOf5000(today);
  } finally {
    db.close();
    rmSync(folder, { recursive: true, force: true });
  }
}

/** 5,000 labels, each with a code of its own, beside the codes alone. */
async function labelsOf5000(today: Day): Promise<void> {
  const goods = Array.from({ length: 5_000 }, (_, i) => ({
    of: {
      texts: { name: "Hull anode, 11 kg weld-on", code: `ANO-${i}`, lot: `L${i}`, quantity: "12 each" },
      code: `ANO-${i}`,
      gtin: "4006381333931",
      lot: `L${i}`,
      serial: false,
      expires: null,
    },
    copies: 1,
  }));
  const fields = (["name", "code", "lot", "quantity"] as const).map((field) => ({ field, size: 8, bold: false }));
  const layout = { kind: "lot" as const, width: 890, height: 360, code: "GS1 matrix" as const, fields, sheet: null };
  const from = performance.now();
  for (const { of } of goods) bwip.raw({ bcid: "gs1datamatrix", text: labelCode("GS1 matrix", of)!.text });
  const bare = performance.now() - from;
  const begun = performance.now();
  await labelsPdf({ layout, goods, skip: 0, day: today });
  print("5,000 labels as PDF", performance.now() - begun, bare, 2, "codes alone");
}

function loadOf500(db: Db, today: Day, store: StoreId): void {
  const order = Number(
    sql(
      db,
      "INSERT INTO purchase_order (number, supplier, store, currency, rate, writer, stage, state, required, written, placed) VALUES ('26-L', 1, 1, 'EUR', 1000000, 1, 'placed', 'With supplier', ?, ?, ?)",
    ).run(today, today, today).lastInsertRowid,
  ) as OrderId; // just made
  const line = sql(
    db,
    `INSERT INTO order_line (purchase_order, position, item, words, unit, factor, quantity, price, price_source, store)
     VALUES (?, ?, ?, 'Item', 'C62', 10000, 50000, 11000000, '{"kind":"typed","by":"Bench"}', 1)`,
  );
  const schedule = sql(
    db,
    "INSERT INTO order_schedule (order_line, position, quantity, requested) VALUES (?, 1, 50000, ?)",
  );
  const lines: OrderLineId[] = [];
  db.transaction(() => {
    for (let i = 1; i <= 500; i++) {
      const id = line.run(order, i, i * 7).lastInsertRowid;
      lines.push(Number(id) as OrderLineId); // just made
      schedule.run(id, today);
    }
  })();
  const desk: Desk = {
    db,
    person: readPerson(db, sql<{ id: never }>(db, "SELECT id FROM person WHERE login = 'dock hand'").get()!.id)!,
    day: today,
    hour: 9,
    now: `${today}T09:00:00.000Z`,
    key: "bench",
  };
  const part = { counted: 50_000, faulty: 0, fault: null, note: "", lot: "", bin: "", weight: null, expires: null };
  const taken = () =>
    tried(db, () => {
      const answer = takeOrder(db, desk, {
        order,
        version: 1,
        deliveryNote: "",
        said: NOBODY_SAID,
        difference: "",
        lines: lines.map((l) => ({ line: l, ...part })),
      });
      if (!answer.ok) throw new Error(JSON.stringify(answer.problems));
    });
  const inserts = () =>
    tried(db, () => {
      const receipt = sql(
        db,
        "INSERT INTO receipt (number, purchase_order, store, day, person, at) VALUES ('D-L', ?, ?, ?, 1, '')",
      ).run(order, store, today).lastInsertRowid;
      const entry = sql(db, "INSERT INTO posting_entry (day, kind, receipt, at) VALUES (?, 'receipt', ?, '')").run(
        today,
        receipt,
      ).lastInsertRowid;
      const received = sql(
        db,
        "INSERT INTO receipt_line (receipt, order_line, quantity, stock_quantity, value, home_value) VALUES (?, ?, 50000, 50000, 5500, 5500)",
      );
      const came = sql(db, "UPDATE order_schedule SET received = received + 50000 WHERE order_line = ?");
      const moved = sql(
        db,
        "INSERT INTO movement (item, store, day, kind, quantity, value, entry, receipt_line, at) VALUES (?, ?, ?, 'receipt', 50000, 5500, ?, ?, '')",
      );
      const posted = sql(db, "INSERT INTO posting (entry, position, role, minor, order_line) VALUES (?, ?, ?, ?, ?)");
      lines.forEach((l, i) => {
        const of = received.run(receipt, l).lastInsertRowid;
        came.run(l);
        moved.run((i + 1) * 7, store, today, entry, of);
        posted.run(entry, i * 2 + 1, "stock", 5_500, l);
        posted.run(entry, i * 2 + 2, "received not invoiced", -5_500, l);
      });
    });
  taken();
  inserts();
  print("A load of 500 lines taken in", median(7, taken), median(7, inserts), 3, "bare inserts");
}
