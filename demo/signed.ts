import type { Day } from "../core/calendar/day";
import { addDays, toDay, weekday } from "../core/calendar/day";
import type { OrderId } from "../core/ids";
import { dueAt } from "../core/signoff/hours";
import { type Db, sql } from "../server/db/open";
import { routeOrder } from "../server/queries/signoff/route";

const dayBefore = (day: Day): Day => {
  const before = addDays(day, -1);
  return weekday(before) > 5 ? dayBefore(before) : before;
};

/** Who signed the orders of the past: written and handed in the working day before they were placed. */
export function signHistory(db: Db, today: Day): void {
  const orders = sql<{ id: OrderId; writer: number; placed: string }>(
    db,
    `SELECT o.id, o.writer, o.placed FROM purchase_order o WHERE o.placed IS NOT NULL
       AND NOT EXISTS (SELECT 1 FROM signing g WHERE g.purchase_order = o.id) ORDER BY o.id`,
  ).all();
  for (const o of orders) {
    const { way, facts, book } = routeOrder(db, o.id, today);
    if (!way.ok) continue;
    const before = dayBefore(toDay(o.placed.slice(0, 10)));
    const started = way.seats.length ? `${before}T09:20:00.000Z` : o.placed;
    // The yard manager looks in twice a day, the finance director in the afternoon.
    let at = started;
    const signed = way.seats.map((seat, i) => {
      const asked = at;
      at = dueAt(asked, 0.5 + ((o.id * 7 + i * 3) % 9) / 4);
      return { seat, asked, at };
    });
    if (signed.length)
      sql(db, "UPDATE purchase_order SET written = ?, submitted = ?, cleared = ? WHERE id = ?").run(
        `${before}T08:40:00.000Z`,
        started,
        at,
        o.id,
      );
    const signing = sql(
      db,
      `INSERT INTO signing (paper, purchase_order, round, amount, writer, rulebook, ladder, sum, facts, state, started, ended)
       VALUES (?, ?, 1, ?, ?, ?, ?, ?, ?, 'Cleared', ?, ?)`,
    ).run(
      facts.paper,
      o.id,
      facts.amount,
      o.writer,
      book!.version,
      way.ladder.name,
      JSON.stringify(way.sum),
      JSON.stringify(facts),
      started,
      at,
    ).lastInsertRowid;
    signed.forEach(({ seat, asked, at: when }, i) => {
      const id = sql(
        db,
        "INSERT INTO seat (signing, position, rung, who, name, hours, state, asked, half, due) VALUES (?, ?, ?, ?, ?, ?, 'signed', ?, ?, ?)",
      ).run(
        signing,
        i + 1,
        seat.at,
        JSON.stringify(seat.who),
        seat.name,
        seat.hours,
        asked,
        dueAt(asked, seat.hours / 2),
        dueAt(asked, seat.hours),
      ).lastInsertRowid;
      const [member] = seat.members;
      sql(db, "INSERT INTO seat_person (seat, person, since, mailed) VALUES (?, ?, ?, ?)").run(
        id,
        member!.id,
        asked,
        asked,
      );
      sql(db, "INSERT INTO signature (seat, what, person, at) VALUES (?, 'signed', ?, ?)").run(id, member!.id, when);
    });
  }
}
