import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Day } from "../core/calendar/day";
import type { OrderId } from "../core/ids";
import { keepSchedule } from "../server/acts/orders/keep-schedule";
import { priceOrder } from "../server/acts/orders/price-order";
import { type Db, madeId, openDatabase, sql } from "../server/db/open";
import { draftChoices, readDraftPart } from "../server/queries/orders/draft";
import { findOrders, orderFacets, orderQuery } from "../server/queries/orders/finder";
import { readOrder } from "../server/queries/orders/order";
import { fill, MANY_ORDERS } from "./company";
import { editOfADraft } from "./draft";
import { print, time } from "./measure";
import { inChromium } from "./scrolling";
import { served } from "./serve";

const LINES = 1_500;

/** A draft of 1,500 lines, for one supplier. */
function longDraft(db: Db, today: Day): OrderId {
  const order = madeId<"order">(
    sql(
      db,
      "INSERT INTO purchase_order (supplier, store, currency, writer, required, written) VALUES (1, 1, 'EUR', 1, ?, ?)",
    ).run(today, `${today}T08:00:00.000Z`),
  );
  const add = sql(
    db,
    `INSERT INTO order_line (purchase_order, position, item, sourcing, words, unit, factor, quantity, price, price_source, store)
     SELECT ?, ?, i.id, (SELECT c.id FROM sourcing c WHERE c.item = i.id ORDER BY c.rank LIMIT 1), i.name, 'XBX', 100000, 50000, 11000000, '{"kind":"price list","from":10000}', 1
     FROM item i WHERE i.id = ?`,
  );
  db.transaction(() => {
    for (let n = 1; n <= LINES; n++)
      keepSchedule(db, Number(add.run(order, n, n).lastInsertRowid), { quantity: 50_000, required: today });
    priceOrder(db, order, today);
  })();
  return order;
}

/** A hundred thousand orders found and narrowed, and an order of 1,500 lines read and typed in. */
export async function ordersBench(today: Day): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), "wharf-bench-"));
  const db = openDatabase(join(folder, "wharf-tally.db"));
  try {
    fill(db, today, MANY_ORDERS);
    const order = longDraft(db, today);
    db.exec("ANALYZE");
    // What is remembered between two acts is forgotten here before each reading.
    const forget = () => sql(db, "UPDATE company SET name = name").run();
    const bare = [
      "SELECT count(*), sum(home_net) FROM purchase_order o WHERE o.kind <> 'standing'",
      "SELECT count(*) FROM purchase_order WHERE kind <> 'standing'",
      "SELECT state, count(*) FROM purchase_order WHERE kind <> 'standing' GROUP BY state",
      `SELECT o.*, s.name, t.name, w.name FROM purchase_order o JOIN supplier s ON s.id = o.supplier JOIN store t ON t.id = o.store JOIN person w ON w.id = o.writer
       WHERE o.kind <> 'standing' ORDER BY o.id DESC LIMIT 80`,
    ].map((q) => db.prepare(q));
    const all = orderQuery(new URLSearchParams());
    print(
      "100,000 orders: the loader",
      time(() => {
        forget();
        return [findOrders(db, all, today, { from: 0, most: 80 }), orderFacets(db)];
      }),
      time(() => {
        forget();
        return bare.map((s) => s.all().length);
      }),
      2,
    );
    const late = orderQuery(new URLSearchParams("late=yes&supplier=3,4,5&sort=-net"));
    const bareLate = [
      `SELECT count(*), sum(o.home_net) FROM purchase_order o WHERE o.kind <> 'standing' AND o.supplier IN (3, 4, 5) AND o.placed IS NOT NULL
        AND EXISTS (SELECT 1 FROM order_line l WHERE l.purchase_order = o.id AND l.open = 1 AND l.due < '${today}')`,
      `SELECT o.*, s.name, t.name, w.name FROM purchase_order o JOIN supplier s ON s.id = o.supplier JOIN store t ON t.id = o.store JOIN person w ON w.id = o.writer
       WHERE o.kind <> 'standing' AND o.supplier IN (3, 4, 5) AND o.placed IS NOT NULL
        AND EXISTS (SELECT 1 FROM order_line l WHERE l.purchase_order = o.id AND l.open = 1 AND l.due < '${today}') ORDER BY o.home_net DESC LIMIT 80`,
    ].map((q) => db.prepare(q));
    print(
      "The overdue ones of three suppliers",
      time(() => {
        forget();
        return findOrders(db, late, today, { from: 0, most: 80 }).rows.length;
      }),
      time(() => {
        forget();
        return bareLate.map((s) => s.all().length);
      }),
      2,
    );
    const bareOrder = [
      "SELECT o.*, s.name FROM purchase_order o JOIN supplier s ON s.id = o.supplier WHERE o.id = ?",
      `SELECT l.*, i.code, i.weight, u.name AS unit_name, su.name AS stock_unit, p.bin AS usual_bin FROM order_line l JOIN unit u ON u.code = l.unit LEFT JOIN item i ON i.id = l.item
       LEFT JOIN unit su ON su.code = i.unit LEFT JOIN item_store p ON p.item = l.item AND p.store = l.store WHERE l.purchase_order = ? ORDER BY l.position`,
      "SELECT t.* FROM order_line l JOIN need_tie t ON t.order_line = l.id WHERE l.purchase_order = ?",
    ].map((q) => db.prepare(q));
    print(
      "A draft of 1,500 lines: the loader",
      time(() => [readOrder(db, order), draftChoices(db, 1, today)]),
      time(() => bareOrder.map((s) => s.all(order).length)),
      2,
    );
    print(
      "What a typed quantity comes to",
      time(() => readDraftPart(db, order, [1], today)),
      time(() => bareOrder.map((s) => s.all(order).length)),
      2,
    );
    editOfADraft(db, today);
    db.pragma("wal_checkpoint(TRUNCATE)");
    await served(folder, async ({ url, cookie }) => {
      await inChromium({ url, cookie, path: `/orders/${order}` }, async (page, measure) => {
        await measure("Typing in an order of 1,500 lines", async () => {
          for (const line of [1, 2, 3]) {
            await page.getByLabel(`Line ${line}: quantity in box`).fill("");
            await page.getByLabel(`Line ${line}: quantity in box`).pressSequentially("127", { delay: 90 });
          }
          await page.waitForTimeout(1_500);
        });
        await measure("Scrolling through its lines", async () => {
          await page.getByRole("table", { name: "Lines" }).hover();
          for (let i = 0; i < 40; i++) {
            await page.mouse.wheel(0, i < 30 ? 400 : 4_000);
            await page.waitForTimeout(40);
          }
        });
      });
    });
  } finally {
    db.close();
    rmSync(folder, { recursive: true, force: true });
  }
}
