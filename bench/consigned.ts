import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { addDays, type Day } from "../core/calendar/day";
import { stockPostings } from "../core/stock/posting";
import type { Desk } from "../server/acts/desk";
import { IssueGoods, issueRows } from "../server/acts/stock/issue-goods";
import { readPerson } from "../server/auth/sessions";
import { type Db, openDatabase, sql } from "../server/db/open";
import { LAYERS, readConsigned, SHELVES, withWorth } from "../server/queries/consigned/shelves";
import { fill, LARGE } from "./company";
import { median, print, time, tried } from "./measure";

/** 10,000 item-stores of suppliers' goods: the shelves as they load, and a use of 200 lines. */
export async function consignedBench(today: Day): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), "wharf-bench-"));
  const db = openDatabase(join(folder, "wharf-tally.db"));
  try {
    console.log("Filling a company: 10,000 items of suppliers on 5 stores, two deliveries each…");
    fill(db, today, { ...LARGE, items: 2_000, stores: 5, lines: 1_000, movements: 2_000, demand: 200 });
    fillShelves(db, today);
    const since = addDays(today, -30);
    const bare = () => [
      db.prepare(SHELVES).all({ store: null, agreement: null, since }).length,
      db.prepare(LAYERS).all().length,
      db.prepare("SELECT agreement_item AS of_item, day, price FROM agreement_price").all().length,
    ];
    print(
      "Shelves with 10,000 item-stores, priced",
      time(() => withWorth(db, readConsigned(db, today), today), 7),
      time(bare, 7),
      2,
      "bare SQL",
    );
    takeOf200(db, today);
  } finally {
    db.close();
    rmSync(folder, { recursive: true, force: true });
  }
}

function fillShelves(db: Db, today: Day): void {
  db.transaction(() => {
    const items = sql<{ id: number }>(db, "SELECT id FROM item ORDER BY id LIMIT 2000").all();
    const begun = addDays(today, -100);
    for (let store = 1; store <= 5; store++) {
      const agreement = sql(
        db,
        `INSERT INTO agreement (number, supplier, store, currency, writer, state, starts, ends, ours_after, written, revision)
         VALUES (?, ?, ?, 'EUR', 1, 'Running', ?, ?, 365, '', 1)`,
      ).run(`A26-${2000 + store}`, store, store, begun, addDays(today, 265)).lastInsertRowid;
      for (const { id } of items) {
        const item = sql(
          db,
          "INSERT INTO agreement_item (agreement, item, least, most) VALUES (?, ?, 100000, 5000000)",
        ).run(agreement, id).lastInsertRowid;
        sql(db, "INSERT INTO agreement_price VALUES (?, ?, 180000)").run(item, begun);
        for (const ago of [90, 20]) {
          const day = addDays(today, -ago);
          sql(
            db,
            "INSERT INTO movement (item, store, bin, owner, day, kind, quantity, at) VALUES (?, ?, '', ?, ?, 'consigned', 1000000, '')",
          ).run(id, store, store, day);
          sql(
            db,
            "INSERT INTO consigned_layer (agreement_item, item, store, owner, day, quantity, rest, ours_on) VALUES (?, ?, ?, ?, ?, 1000000, 1000000, ?)",
          ).run(item, id, store, store, day, addDays(day, 365));
        }
      }
    }
  })();
  db.exec("ANALYZE");
}

/** A use of 200 lines, beside the rows that it writes by themselves. */
function takeOf200(db: Db, today: Day): void {
  const desk: Desk = {
    db,
    person: readPerson(db, sql<{ id: never }>(db, "SELECT id FROM person WHERE login = 'dock hand'").get()!.id)!,
    day: today,
    hour: 9,
    now: `${today}T09:00:00.000Z`,
    key: "bench",
  };
  const items = sql<{ id: number }>(db, "SELECT id FROM item ORDER BY id LIMIT 200")
    .all()
    .map((i) => i.id);
  const input = IssueGoods.parse({
    store: 1,
    job: 1,
    rows: items.map((item) => ({ item, quantity: "5", whose: 1 })),
  });
  const used = () =>
    tried(db, () => {
      const answer = issueRows(db, desk, input);
      if (!answer.ok) throw new Error(JSON.stringify(answer.problems));
    });
  used();
  print(
    "A use of 200 lines",
    median(7, used),
    median(7, () => tried(db, () => bareRows(db, today, items))),
    4,
    "bare inserts",
  );
}

/** The rows of a use of these items, written without a question. */
function bareRows(db: Db, today: Day, items: readonly number[]): void {
  const order = sql(
    db,
    "INSERT INTO purchase_order (number, supplier, store, currency, writer, required, written, agreement) VALUES ('K-B', 1, 1, 'EUR', 1, ?, '', 1)",
  ).run(today).lastInsertRowid;
  sql(
    db,
    "INSERT INTO order_revision (purchase_order, revision, at, person, document, format) VALUES (?, 1, '', 1, '{}', 1)",
  ).run(order);
  const paper = sql(
    db,
    "INSERT INTO stock_paper (number, kind, store, reason, day, person, at) VALUES ('M-B', 'issue', 1, '', ?, 1, '')",
  ).run(today).lastInsertRowid;
  const receipt = sql(
    db,
    "INSERT INTO receipt (number, purchase_order, store, day, person, at) VALUES ('D-B', ?, 1, ?, 1, '')",
  ).run(order, today).lastInsertRowid;
  const entry = (kind: string) =>
    sql(db, "INSERT INTO posting_entry (day, kind, at) VALUES (?, ?, '')").run(today, kind).lastInsertRowid;
  const [came, went] = [entry("receipt"), entry("issue")];
  const move = sql(
    db,
    "INSERT INTO movement (item, store, owner, day, kind, quantity, value, entry, receipt_line, paper, at) VALUES (?, 1, ?, ?, ?, ?, ?, ?, ?, ?, '')",
  );
  const posting = sql(db, "INSERT INTO posting (entry, position, role, minor, order_line) VALUES (?, ?, ?, ?, ?)");
  items.forEach((item, i) => {
    const line = sql(
      db,
      `INSERT INTO order_line (purchase_order, position, item, words, unit, factor, quantity, price, price_source, store)
       VALUES (?, ?, ?, 'Item', 'C62', 10000, 50000, 180000, '{"kind":"typed"}', 1)`,
    ).run(order, i + 1, item).lastInsertRowid;
    sql(db, "INSERT INTO order_schedule (order_line, position, quantity, requested) VALUES (?, 1, 50000, ?)").run(
      line,
      today,
    );
    sql(db, "UPDATE order_schedule SET received = 50000 WHERE order_line = ?").run(line);
    const received = sql(
      db,
      "INSERT INTO receipt_line (receipt, order_line, quantity, stock_quantity, value, home_value) VALUES (?, ?, 50000, 50000, 90, 90)",
    ).run(receipt, line).lastInsertRowid;
    move.run(item, 1, today, "consigned", -50_000, 0, null, null, null);
    move.run(item, null, today, "receipt", 50_000, 90, came, received, null);
    move.run(item, null, today, "issue", -50_000, -90, went, null, paper);
    posting.run(came, i * 2 + 1, "stock", 90, line);
    posting.run(came, i * 2 + 2, "received not invoiced", -90, line);
    const use = sql(
      db,
      `INSERT INTO consigned_use (agreement_item, day, what, order_line, quantity, price, net, home_net, tax_rate, paper, person, at)
       VALUES (?, ?, 'used', ?, 50000, 180000, 90, 90, 0, ?, 1, '')`,
    ).run(i + 1, today, line, paper).lastInsertRowid;
    sql(
      db,
      "INSERT INTO consigned_take (layer, what, quantity, used, paper, day) VALUES (?, 'used', 50000, ?, ?, ?)",
    ).run(i * 2 + 1, use, paper, today);
  });
  stockPostings(-90 * items.length, "used").forEach((p, i) => {
    posting.run(went, i + 1, p.role, p.minor, null);
  });
}
