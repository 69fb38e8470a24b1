import type { Day } from "../core/calendar/day";
import { keepCommitments } from "../server/acts/budgets/keep-commitments";
import { changeOrder } from "../server/acts/orders/change-order";
import { keepSchedule } from "../server/acts/orders/keep-schedule";
import type { OrderNow } from "../server/acts/orders/price-order";
import { readPerson } from "../server/auth/sessions";
import { recordAudit } from "../server/db/audit";
import { type Db, madeId, sql } from "../server/db/open";
import { readDraftPart } from "../server/queries/orders/draft";
import { print, time } from "./measure";

/** Typing in a short draft where every order line there is has a budget: what it costs beside the bare statements. */
export function editOfADraft(db: Db, today: Day): void {
  db.exec(`INSERT INTO budget (id, code, name, starts, ends, amount) VALUES (1, 'ALL', 'Everything', '2000-01-01', '2099-12-31', 100000000000);
    INSERT INTO person_role (person, role) SELECT 1, 'buyer' ON CONFLICT DO NOTHING; UPDATE order_line SET budget = 1`);
  const { lines } = sql<{ lines: number }>(db, "SELECT count(*) AS lines FROM order_line").get()!;
  const begun = performance.now();
  db.transaction(() => keepCommitments(db))();
  console.log(
    `  ${lines} lines took ${(performance.now() - begun).toFixed(0)} ms to be worked out against their budget, once`,
  );
  const order = madeId<"order">(
    sql(
      db,
      "INSERT INTO purchase_order (supplier, store, currency, writer, required, written) VALUES (1, 1, 'EUR', 1, ?, ?)",
    ).run(today, `${today}T08:00:00.000Z`),
  );
  const add = sql(
    db,
    `INSERT INTO order_line (purchase_order, position, item, sourcing, words, unit, factor, quantity, price, price_source, store, budget)
     SELECT ?, i.id, i.id, (SELECT c.id FROM sourcing c WHERE c.item = i.id ORDER BY c.rank LIMIT 1), i.name, 'XBX', 100000, 50000, 11000000, '{"kind":"price list","from":10000}', 1, 1
     FROM item i WHERE i.id = ?`,
  );
  const ids = [1, 2, 3, 4, 5].map((n) => Number(add.run(order, n).lastInsertRowid));
  for (const id of ids) keepSchedule(db, id, { quantity: 50_000, required: today });
  const desk = { db, day: today, now: `${today}T08:00:00.000Z`, person: readPerson(db, 1)!, site: "" };
  let version = 1;
  let quantity = 5;
  let key = 0;
  const line = ids[0]!;
  const took = time(() => {
    let now: OrderNow | undefined;
    quantity = quantity === 5 ? 6 : 5;
    const kept = changeOrder(
      { ...desk, key: `key-${key++}` } as never,
      { order, version, lines: [{ line, quantity: String(quantity) }] },
      (standing) => {
        now = standing;
      },
    );
    if (!kept.ok) throw new Error(kept.problems[0]!.says);
    version = kept.value.version;
    return readDraftPart(db, order, kept.value.lines, today, now);
  });
  const reads = [
    "SELECT o.*, s.name FROM purchase_order o JOIN supplier s ON s.id = o.supplier WHERE o.id = ?",
    "SELECT l.*, i.code, u.name AS unit_name FROM order_line l JOIN unit u ON u.code = l.unit LEFT JOIN item i ON i.id = l.item WHERE l.purchase_order = ?",
    "SELECT s.* FROM order_schedule s JOIN order_line l ON l.id = s.order_line WHERE l.purchase_order = ?",
    "SELECT t.* FROM order_line l JOIN need_tie t ON t.order_line = l.id WHERE l.purchase_order = ?",
  ].map((q) => db.prepare(q));
  const price = db.prepare("SELECT * FROM price_break WHERE sourcing = ?");
  const left = db.prepare("SELECT figure, minor FROM budget_total WHERE budget = 1");
  const writes = [
    "UPDATE order_line SET quantity = 50000, price = 11000000 WHERE id = @line",
    "UPDATE order_schedule SET quantity = 50000 WHERE order_line = @line",
    "UPDATE purchase_order SET net = 1, total = 1, home_net = 1, version = version + 1 WHERE id = @order",
    "INSERT INTO submission (key, person, act, answer, at) VALUES ('bare' || @n, 1, 'write orders', '{}', @at)",
  ].map((q) => db.prepare(q));
  const bare = time(() => {
    db.transaction(() => {
      for (const r of reads) r.all(order);
      price.all(1);
      for (const w of writes) w.run({ line, order, n: key++, at: desk.now });
      recordAudit(db, desk.now, 1, "order.changed", `order ${order}`, {});
    }).immediate();
    return [...reads.map((r) => r.all(order)), left.all()];
  });
  print("A draft's edit, every line with a budget", took, bare, 3, "bare statements");
}
