import { addDays, type Day } from "../core/calendar/day";
import type { BudgetId, ItemId, OrderId, StoreId } from "../core/ids";
import type { Desk, Done } from "../server/acts/desk";
import { addLines } from "../server/acts/orders/add-lines";
import { callOff, planCall } from "../server/acts/orders/call-off";
import { changeOrder } from "../server/acts/orders/change-order";
import { keepMark, putMark, sweepMarks } from "../server/acts/orders/marks";
import { placeOrder } from "../server/acts/orders/place-order";
import { startOrder } from "../server/acts/orders/start-order";
import { submitOrder } from "../server/acts/orders/submit-order";
import { receiveGoods } from "../server/acts/receiving/receive-goods";
import { sign } from "../server/acts/signoff/sign";
import { takeOut } from "../server/acts/stock/stock";
import { type Db, sql } from "../server/db/open";
import { readOrder } from "../server/queries/orders/order";

interface Tools {
  db: Db;
  today: Day;
  desk: (login: string, day: Day, time?: string) => Desk;
  must: <T>(answer: Done<T>) => T;
  idOf: (table: "supplier" | "store", code: string) => number;
  item: (code: string) => number;
}

/**
 * What was agreed for longer: a blanket order that will run out before its end, one that will not be used up, lists that
 * are kept to make orders from, and what stands on every order.
 */
export async function makeAgreements({ db, today, desk, must, idOf, item }: Tools): Promise<void> {
  const version = (order: OrderId) =>
    sql<{ version: number }>(db, "SELECT version FROM purchase_order WHERE id = ?").get(order)!.version;
  const place = async (order: OrderId, day: Day) => {
    let waits = must(submitOrder(desk("sunniva", day, "09:10"), { order, version: version(order) })).waitsFor;
    while (waits)
      waits = must(
        sign(desk(waits === "Yard manager" ? "maud" : "halden", day, "11:40"), {
          paper: "order",
          id: order,
          version: version(order),
        }),
      ).left;
    must(await placeOrder(desk("sunniva", day, "14:20"), { order, version: version(order) }));
  };
  const blanket = async (
    of: { supplier: string; store: string; title: string; from: number; to: number; note: string },
    lines: { item: string; quantity: string; price: string; least: string }[],
  ) => {
    const day = addDays(today, of.from);
    const { order } = must(
      startOrder(desk("sunniva", day, "08:40"), {
        supplier: idOf("supplier", of.supplier),
        store: idOf("store", of.store),
        kind: "blanket",
        title: of.title,
      }),
    );
    must(
      addLines(desk("sunniva", day, "08:44"), {
        order,
        version: version(order),
        add: lines.map((l) => ({ item: item(l.item), quantity: l.quantity, price: l.price })),
      }),
    );
    const ids = readOrder(db, order)!.lines.map((l) => l.id);
    must(
      changeOrder(desk("sunniva", day, "08:50"), {
        order,
        version: version(order),
        note: of.note,
        starts: day,
        ends: addDays(today, of.to),
        lines: lines.map((l, i) => ({ line: ids[i], least: l.least })),
      }),
    );
    await place(order, day);
    return { order, lines: ids };
  };
  const call = async (from: { order: OrderId; lines: number[] }, line: number, quantity: number, back: number) => {
    const day = addDays(today, -back);
    const { order } = must(
      callOff(desk("ines", day, "09:30"), {
        order: from.order,
        lines: [{ line: from.lines[line], quantity: String(quantity) }],
        required: addDays(day, 10),
      }),
    );
    await place(order, day);
    if (back < 14) return;
    const [l] = readOrder(db, order)!.lines;
    const came = addDays(day, 9);
    // Where it comes to the other yard, Tobias is lent there for the day.
    const dock = desk("tobias", came, "10:20");
    must(
      receiveGoods(
        { ...dock, person: { ...dock.person, store: l!.store } },
        {
          order,
          version: version(order),
          deliveryNote: "",
          lines: [{ line: l!.id, counted: String(quantity) }],
        },
      ),
    );
    use(db, order, came);
  };

  const surveys = await blanket(
    {
      supplier: "EIS",
      store: "HS",
      title: "Survey visits",
      from: -321,
      to: 44,
      note: "Two weeks’ notice for each visit.",
    },
    [
      { item: "SRV-CLS", quantity: "14", price: "1720.00", least: "1" },
      { item: "SRV-UTM", quantity: "18", price: "1150.00", least: "1" },
    ],
  );
  for (const [quantity, back] of [
    [4, 280],
    [3, 190],
    [4, 95],
    [2, 24],
  ] as const)
    await call(surveys, 0, quantity, back);
  for (const [quantity, back] of [
    [3, 240],
    [2, 120],
  ] as const)
    await call(surveys, 1, quantity, back);
  must(
    planCall(desk("ines", today, "08:05"), {
      order: surveys.order,
      version: version(surveys.order),
      line: surveys.lines[1],
      quantity: "2",
      due: addDays(today, 20),
    }),
  );
  const safety = await blanket(
    { supplier: "PUF", store: "TQ", title: "Extinguisher refills", from: -200, to: 165, note: "" },
    [{ item: "EXT-CO2", quantity: "80", price: "22.60", least: "4" }],
  );
  await call(safety, 0, 12, 150);
  await call(safety, 0, 8, 80);

  // Lists that Ines makes orders from.
  const list = (title: string, supplier: string, lines: [code: string, quantity: string][]) => {
    const { order } = must(
      startOrder(desk("ines", addDays(today, -60), "15:30"), {
        supplier: idOf("supplier", supplier),
        store: idOf("store", "TQ"),
        kind: "standing",
        title,
      }),
    );
    must(
      addLines(desk("ines", addDays(today, -60), "15:40"), {
        order,
        version: version(order),
        add: lines.map(([code, quantity]) => ({ item: item(code), quantity })),
      }),
    );
  };
  list("Galley, every fortnight", "CGG", [
    ["GAL-COF", "6"],
    ["GAL-TEA", "4"],
    ["GAL-SUG", "4"],
  ]);
  // Marks that Sunniva follows orders by; what is overdue bears one already.
  const mark = (name: string, event: string, least = "") =>
    must(keepMark(desk("sunniva", addDays(today, -40), "16:10"), { name, event, least })).mark;
  mark("Chase them", "overdue");
  mark("Large", "placed", "5000");
  const freight = mark("Ask for freight", "");
  sweepMarks(db, today, `${today}T06:00:00.000Z`);
  const asked = sql<{ id: number }>(
    db,
    "SELECT id FROM purchase_order WHERE stage = 'placed' AND kind = 'one-off' ORDER BY id DESC LIMIT 2",
  ).all();
  must(putMark(desk("ines", today, "08:07"), { orders: asked.map((o) => o.id), mark: freight, note: "" }));

  // The season's refits are paid from their own budget, and what is being written for the slip goes against it.
  const refit = sql<{ id: BudgetId; starts: Day }>(db, "SELECT id, starts FROM budget WHERE code = 'REFIT'").get()!;
  sql(
    db,
    `UPDATE order_line SET budget = ? WHERE store = ? AND purchase_order IN (SELECT id FROM purchase_order WHERE written >= ? AND kind = 'one-off' AND placed IS NOT NULL)`,
  ).run(refit.id, idOf("store", "HS"), refit.starts);
  for (const { id } of sql<{ id: OrderId }>(
    db,
    "SELECT id FROM purchase_order WHERE stage = 'draft' AND kind = 'one-off' ORDER BY id",
  ).all())
    must(
      changeOrder(desk("ines", today, "08:02"), {
        order: id,
        version: version(id),
        lines: readOrder(db, id)!.lines.map((l) => ({ line: l.id, budget: String(refit.id) })),
      }),
    );
  const text = sql(db, "INSERT INTO standing_text (kind, supplier, text) VALUES (?, ?, ?)");
  text.run(null, null, "Goods are taken in at our gate from 7:30 to 15:00. Pallets are exchanged.");
  text.run("call-off", null, "The prices and terms of the blanket order hold.");
}

/** What came was used at once, so that the shelf is as it was counted. */
function use(db: Db, order: OrderId, day: Day): void {
  const moved = sql<{ item: ItemId; store: StoreId; quantity: number }>(
    db,
    `SELECT m.item, m.store, m.quantity FROM movement m JOIN receipt_line x ON x.id = m.receipt_line JOIN receipt r ON r.id = x.receipt WHERE r.purchase_order = ?`,
  ).all(order);
  for (const m of moved) {
    takeOut(db, { day, now: `${day}T14:00:00.000Z`, person: null }, m);
  }
}
