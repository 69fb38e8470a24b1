import { addDays, type Day } from "../core/calendar/day";
import { chance } from "../demo/chance";
import { recordAudit } from "../server/db/audit";
import { type Db, sql } from "../server/db/open";

export interface Size {
  items: number;
  stores: number;
  suppliers: number;
  /** Order lines; one order in `openEvery` is still open. */
  lines: number;
  openEvery: number;
  /** Lines of each order; 12 where it is not said. */
  perOrder?: number;
  /** Issues over eighteen months. */
  movements: number;
  demand: number;
  /** Share of pairs that lie below their reorder point. */
  short: number;
}
export const SIZE: Size = {
  items: 10_000,
  stores: 2,
  suppliers: 60,
  lines: 60_000,
  openEvery: 12,
  movements: 500_000,
  demand: 6_000,
  short: 0.1,
};
/** Fifty thousand pairs of item and store, two million issues, three hundred thousand rows of open demand and supply. */
export const LARGE: Size = {
  items: 25_000,
  stores: 2,
  suppliers: 120,
  lines: 150_000,
  openEvery: 1,
  movements: 2_000_000,
  demand: 150_000,
  short: 0.1,
};
/** A hundred thousand orders. */
export const MANY_ORDERS: Size = {
  items: 2_500,
  stores: 2,
  suppliers: 60,
  lines: 300_000,
  perOrder: 3,
  openEvery: 40,
  movements: 1_000,
  demand: 500,
  short: 0.1,
};
/** Everything is short: as many needs as pairs. */
export const ALL_SHORT: Size = { ...LARGE, lines: 12_000, movements: 200_000, demand: 12_000, short: 1 };

/** What the planner is told of each row would be told a million times over: it begins after the filling. */
function withoutTriggers(db: Db, fillIt: () => void): void {
  const triggers = sql<{ name: string; sql: string }>(
    db,
    "SELECT name, sql FROM sqlite_master WHERE type = 'trigger' AND name LIKE 'touch_%'",
  ).all();
  for (const t of triggers) db.exec(`DROP TRIGGER ${t.name}`);
  fillIt();
  for (const t of triggers) db.exec(t.sql);
}

/** Fills a company of a size; the same size is the same company every time. */
export function fill(db: Db, today: Day, size: Size = SIZE): void {
  db.pragma("synchronous = OFF");
  withoutTriggers(db, () => fillTables(db, today, size));
  db.exec("ANALYZE");
}

function fillTables(db: Db, today: Day, SIZE: Size): void {
  const roll = chance(7);
  db.transaction(() => {
    sql(db, "INSERT INTO company (id, name, currency) VALUES (1, 'Bench', 'EUR')").run();
    const at = `${today}T08:00:00.000Z`;
    for (const role of ["buyer", "dock hand"]) {
      const id = sql(db, "INSERT INTO person (login, name) VALUES (?, ?)").run(role, role).lastInsertRowid;
      sql(db, "INSERT INTO person_role (person, role) VALUES (?, ?)").run(id, role);
    }
    for (let s = 1; s <= SIZE.stores; s++)
      sql(db, "INSERT INTO store (code, name, receives) VALUES (?, ?, 127)").run(`S${s}`, `Store ${s}`);
    for (let s = 1; s <= SIZE.suppliers; s++)
      sql(db, "INSERT INTO supplier (code, name, currency, delivers) VALUES (?, ?, 'EUR', 127)").run(
        `V${s}`,
        `Supplier ${s}`,
      );
    sql(db, "INSERT INTO job (code, name, vessel) VALUES ('1', 'Refit', 'Marram')").run();
    const item = sql(
      db,
      "INSERT INTO item (code, name, kind, unit, reference_cost) VALUES (?, ?, 'stocked', 'C62', 1000000)",
    );
    const source = sql(
      db,
      "INSERT INTO sourcing (item, supplier, unit, factor, lead_days, rank) VALUES (?, ?, 'XBX', 100000, ?, ?)",
    );
    const price = sql(db, "INSERT INTO price_break (sourcing, from_quantity, price) VALUES (?, ?, ?)");
    const pair = sql(
      db,
      "INSERT INTO item_store (item, store, policy, reorder_point, lot, on_hand) VALUES (?, ?, 'larger of', ?, ?, ?)",
    );
    for (let i = 1; i <= SIZE.items; i++) {
      item.run(`IT-${i}`, `Item number ${i}`);
      for (let rank = 1; rank <= 2; rank++) {
        const id = source.run(
          i,
          roll.whole(1, SIZE.suppliers / 2) + (rank - 1) * (SIZE.suppliers / 2),
          roll.whole(3, 20),
          rank,
        ).lastInsertRowid;
        price.run(id, 10_000, 12_000_000);
        price.run(id, 100_000, 11_000_000);
      }
    }
    const move = sql(
      db,
      "INSERT INTO movement (item, store, day, kind, quantity, at) VALUES (?, ?, ?, 'issue', -10000, ?)",
    );
    for (let m = 0; m < SIZE.movements; m++)
      move.run(roll.whole(1, SIZE.items), roll.whole(1, SIZE.stores), addDays(today, -roll.whole(0, 540)), at);
    // Kept from now on: what was used before is history.
    for (let i = 1; i <= SIZE.items; i++)
      for (let s = 1; s <= SIZE.stores; s++)
        pair.run(i, s, 200_000, 500_000, roll.next() < SIZE.short ? 150_000 : roll.whole(220_000, 900_000));
    const demand = sql(db, "INSERT OR IGNORE INTO job_demand (job, item, store, due, quantity) VALUES (1, ?, ?, ?, ?)");
    for (let d = 0; d < SIZE.demand; d++)
      demand.run(
        roll.whole(1, SIZE.items),
        roll.whole(1, SIZE.stores),
        addDays(today, roll.whole(0, 180)),
        roll.whole(1, 20) * 10_000,
      );
    const order = sql(
      db,
      "INSERT INTO purchase_order (number, supplier, store, currency, writer, stage, state, required, written, placed) VALUES (?, ?, ?, 'EUR', 1, ?, ?, ?, ?, ?)",
    );
    const line = sql(
      db,
      `INSERT INTO order_line (purchase_order, position, item, sourcing, words, unit, factor, quantity, price, price_source, store)
       VALUES (?, ?, ?, ?, 'Item', 'XBX', 100000, 50000, 11000000, '{"kind":"price list","from":10000}', ?)`,
    );
    const schedule = sql(
      db,
      "INSERT INTO order_schedule (order_line, position, quantity, requested, received) VALUES (?, 1, 50000, ?, ?)",
    );
    const PER_ORDER = SIZE.perOrder ?? 12;
    for (let o = 1; o <= SIZE.lines / PER_ORDER; o++) {
      const open = o % SIZE.openEvery === 0;
      const store = roll.whole(1, SIZE.stores);
      const due = addDays(today, open ? roll.whole(-5, 180) : -roll.whole(10, 500));
      order.run(
        `26-${o}`,
        roll.whole(1, SIZE.suppliers),
        store,
        open ? "placed" : "closed",
        open ? "With supplier" : "All in",
        due,
        at,
        at,
      );
      for (let p = 1; p <= PER_ORDER; p++) {
        const i = roll.whole(1, SIZE.items);
        const { lastInsertRowid } = line.run(o, p, i, i * 2 - 1, store);
        schedule.run(lastInsertRowid, due, open ? 0 : 50_000);
      }
    }
    recordAudit(db, at, null, "bench.filled", "company", SIZE);
  })();
}
