import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { addDays, type Day } from "../core/calendar/day";
import type { OrderId } from "../core/ids";
import { keepCommitments } from "../server/acts/budgets/keep-commitments";
import { tryAnswers } from "../server/acts/suppliers/try-answer";
import { openDatabase, sql } from "../server/db/open";
import { usualPlan } from "../server/queries/needs/need";
import { groundOf, planPair } from "../server/queries/needs/plan";
import { readOpenAnswers } from "../server/queries/suppliers/answers";
import { leastChances, readOpenInstalments } from "../server/queries/suppliers/open-lines";
import { fill, LARGE } from "./company";
import { print, time } from "./measure";

/** Answers that wait, what is still to come with its chances, and what taking one answer does, on 50,000 pairs. */
export function answersBench(today: Day): void {
  const folder = mkdtempSync(join(tmpdir(), "wharf-bench-"));
  const db = openDatabase(join(folder, "wharf-tally.db"));
  try {
    console.log("Filling a company: 50000 item-store pairs, 40000 order lines of which half are open, 5000 answers…");
    fill(db, today, { ...LARGE, lines: 40_000, openEvery: 2, movements: 200_000, demand: 40_000 });
    const lines = sql<{ id: number; order: OrderId; quantity: number }>(
      db,
      `SELECT l.id, l.purchase_order AS "order", l.quantity FROM order_line l JOIN purchase_order o ON o.id = l.purchase_order
       WHERE l.open = 1 AND o.stage = 'placed' AND l.received = 0 AND l.quantity >= 20000 ORDER BY l.id LIMIT 5000`,
    ).all();
    const answer = sql(
      db,
      "INSERT INTO answer (purchase_order, revision, way, said_by, said_on, at) VALUES (?, 1, 'file', 'Bench', ?, ?)",
    );
    const said = sql(db, "INSERT INTO answer_line (answer, order_line, open, said) VALUES (?, ?, ?, ?)");
    db.transaction(() => {
      for (const l of lines) {
        const { lastInsertRowid } = answer.run(l.order, today, `${today}T08:00:00.000Z`);
        const half = Math.floor(l.quantity / 20_000) * 10_000;
        const parts = [
          { quantity: half, day: addDays(today, 5) },
          { quantity: l.quantity - half, day: addDays(today, 40) },
        ];
        said.run(
          lastInsertRowid,
          l.id,
          l.quantity,
          JSON.stringify({ parts, price: null, discount: null, instead: "", remark: "" }),
        );
      }
    }).immediate();

    // As the house does when it opens: else every trial would work out all of it.
    db.transaction(() => keepCommitments(db)).immediate();
    const bareAnswers = [
      `SELECT w.*, a.*, l.*, o.number, s.name, t.name AS store_name, i.name AS item_name, u.name AS unit_name FROM answer_line w JOIN answer a ON a.id = w.answer
       JOIN order_line l ON l.id = w.order_line JOIN purchase_order o ON o.id = a.purchase_order JOIN supplier s ON s.id = o.supplier
       JOIN store t ON t.id = l.store JOIN unit u ON u.code = l.unit LEFT JOIN item i ON i.id = l.item WHERE w.state = 'waits'`,
      "SELECT s.* FROM answer_line w JOIN order_schedule s ON s.order_line = w.order_line WHERE w.state = 'waits'",
      "SELECT w.id, t.* FROM answer_line w JOIN need_tie t ON t.order_line = w.order_line WHERE w.state = 'waits'",
      "SELECT w.id, d.due, j.code FROM answer_line w JOIN order_line l ON l.id = w.order_line JOIN job_demand d ON d.item = l.item AND d.store = l.store AND d.issued < d.quantity JOIN job j ON j.id = d.job WHERE w.state = 'waits'",
    ].map((q) => db.prepare(q));
    print(
      `The sheet of ${lines.length} open answers`,
      time(() => readOpenAnswers(db, today), 7),
      time(() => bareAnswers.map((s) => s.all().length), 7),
      2,
    );

    const bareOpen = db.prepare(
      `SELECT s.*, o.number, p.code, p.name, t.code AS store_code, i.code AS item_code, i.name AS item_name FROM open_schedule s JOIN order_line l ON l.id = s.order_line
       JOIN purchase_order o ON o.id = l.purchase_order JOIN supplier p ON p.id = o.supplier JOIN store t ON t.id = l.store LEFT JOIN item i ON i.id = l.item WHERE o.stage = 'placed'
       ORDER BY s.due`,
    );
    const open = readOpenInstalments(db, today).length;
    print(
      `${open} open instalments with their chances`,
      time(() => readOpenInstalments(db, today), 7),
      time(() => bareOpen.all().length, 7),
      2,
    );

    const bareRows = db.prepare(
      `SELECT s.purchase_order, s.due, s.requested, o.supplier, l.item, l.kind FROM open_schedule s JOIN order_line l ON l.id = s.order_line JOIN purchase_order o ON o.id = s.purchase_order WHERE o.stage = 'placed'`,
    );
    print(
      "With suppliers: the least likely part of each order",
      time(() => leastChances(db, today), 7),
      time(() => bareRows.all().length, 7),
      2,
    );

    const some = readOpenAnswers(db, today).slice(0, 40);
    const when = { now: `${today}T09:00:00.000Z`, day: today, hour: 9 };
    const plan = usualPlan(today, 9);
    print(
      "What 40 answers do, one by one",
      time(() => some.map((a) => tryAnswers(db, a.order, [a.id], when)?.effects.length), 7),
      time(() => {
        // The touched pairs alone, as they stand and once more as they would.
        for (const a of some)
          for (let i = 0; i < 2; i++) planPair(groundOf(db, plan, false), { item: a.item!, store: a.store });
      }, 7),
      2,
      "the pairs",
    );
  } finally {
    db.close();
    rmSync(folder, { recursive: true, force: true });
  }
}
