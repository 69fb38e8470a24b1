import { z } from "zod";
import type { Day } from "../../../core/calendar/day";
import type { OrderId } from "../../../core/ids";
import { parseMoney } from "../../../core/numbers/money";
import { MARK_EVENTS, type MarkEvent } from "../../../core/orders/marks";
import { recordAudit } from "../../db/audit";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../../queries/company";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { Id, OrderIdField, orNone, text } from "../fields";

const PutMark = z.object({
  orders: z.array(Id).min(1, "Tick at least one order.").max(2000, "At most 2,000 orders at once."),
  mark: Id,
  note: text(200).default(""),
});

/** Puts a mark on orders by hand. */
export function putMark(desk: Desk, raw: unknown): Done<{ put: number }> {
  const input = checked(PutMark, raw);
  if (!input.ok) return input;
  const { orders, mark, note } = input.value;
  return once(desk, "write orders", (tx) => {
    const known = sql<{ name: string; ended: string | null }>(tx.db, "SELECT name, ended FROM mark WHERE id = ?").get(
      mark,
    );
    if (!known || known.ended) return refuse("mark", "There is no such mark any more.");
    const put = sql(
      tx.db,
      `INSERT INTO order_mark (purchase_order, mark, at, person, note) SELECT id, ?, ?, ?, ? FROM purchase_order WHERE id = ?
       ON CONFLICT DO UPDATE SET at = excluded.at, person = excluded.person, note = excluded.note, taken_off = NULL WHERE taken_off IS NOT NULL`,
    );
    const n = orders.reduce((a, o) => a + put.run(mark, desk.now, desk.person.id, note, o).changes, 0);
    tx.record("mark.put", `mark ${mark}`, { name: known.name, orders, note });
    return done({ put: n });
  });
}

/** Takes a mark off an order; its event does not put it there again. */
export function takeMarkOff(desk: Desk, raw: unknown): Done<{ order: OrderId }> {
  const input = checked(z.object({ order: OrderIdField, mark: Id }), raw);
  if (!input.ok) return input;
  const { order, mark } = input.value;
  return once(desk, "write orders", (tx) => {
    const gone = sql(
      tx.db,
      "UPDATE order_mark SET taken_off = ? WHERE purchase_order = ? AND mark = ? AND taken_off IS NULL",
    ).run(desk.now, order, mark);
    if (gone.changes === 0) return refuse("", "This mark was taken off already.");
    tx.record("mark.taken-off", `order ${order}`, { mark });
    return done({ order });
  });
}

const KeepMark = z.object({
  mark: Id.optional(),
  name: text(40, 2, "What is the mark called?"),
  event: orNone(z.enum(MARK_EVENTS, "There is no such event.")),
  least: z.string().max(30).default(""),
  supplier: orNone(Id).optional(),
});

/** A mark of the company's own, and the rule by which it is put; the lead keeps them. */
export function keepMark(desk: Desk, raw: unknown): Done<{ mark: number }> {
  const input = checked(KeepMark, raw);
  if (!input.ok) return input;
  const v = input.value;
  return once(desk, "keep marks", (tx) => {
    const least = v.least.trim() ? parseMoney(v.least, theCompany(tx.db).currency) : { ok: true as const, value: 0 };
    if (!least.ok) return refuse("least", least.says);
    const twin = sql<{ id: number }>(tx.db, "SELECT id FROM mark WHERE name = ?").get(v.name);
    if (twin && twin.id !== v.mark) return refuse("name", "There is a mark of this name already.");
    const values = [v.name, v.event, least.value, v.supplier ?? null];
    const mark = v.mark
      ? v.mark
      : Number(
          sql(tx.db, "INSERT INTO mark (name, event, least, supplier) VALUES (?, ?, ?, ?)").run(...values)
            .lastInsertRowid,
        );
    if (v.mark)
      sql(tx.db, "UPDATE mark SET name = ?, event = ?, least = ?, supplier = ?, ended = NULL WHERE id = ?").run(
        ...values,
        mark,
      );
    tx.record("mark.kept", `mark ${mark}`, { ...v, least: least.value });
    return done({ mark });
  });
}

/** Ends a mark: it is not put any more; orders that bear it keep it. */
export function endMark(desk: Desk, raw: unknown): Done<{ mark: number }> {
  const input = checked(z.object({ mark: Id }), raw);
  if (!input.ok) return input;
  return once(desk, "keep marks", (tx) => {
    sql(tx.db, "UPDATE mark SET ended = ? WHERE id = ? AND ended IS NULL").run(desk.now, input.value.mark);
    tx.record("mark.ended", `mark ${input.value.mark}`, {});
    return done({ mark: input.value.mark });
  });
}

/** Puts the marks whose event an order has just met. Call inside the act's transaction. */
export function markEvent(db: Db, now: string, order: OrderId, event: MarkEvent): void {
  sql(
    db,
    `INSERT INTO order_mark (purchase_order, mark, at) SELECT o.id, m.id, ? FROM mark m, purchase_order o
     WHERE o.id = ? AND m.event = ? AND m.ended IS NULL AND o.home_net >= m.least AND (m.supplier IS NULL OR m.supplier = o.supplier)
     ON CONFLICT DO NOTHING`,
  ).run(now, order, event);
}

const DUE: Record<"overdue" | "date passed", string> = {
  overdue: `o.stage = 'placed' AND o.kind <> 'blanket'
    AND EXISTS (SELECT 1 FROM order_line l WHERE l.purchase_order = o.id AND l.open = 1 AND l.due < @day)`,
  "date passed": `o.stage = 'placed' AND o.state = 'With supplier' AND o.valid_until < @day`,
};

/** Puts the marks of what only time brings: once a day is enough. Returns how many were put. */
export function sweepMarks(db: Db, day: Day, now: string): number {
  return db
    .transaction(() => {
      let put = 0;
      for (const [event, when] of Object.entries(DUE))
        put += sql(
          db,
          `INSERT INTO order_mark (purchase_order, mark, at) SELECT o.id, m.id, @now FROM mark m JOIN purchase_order o
             ON o.home_net >= m.least AND (m.supplier IS NULL OR m.supplier = o.supplier)
           WHERE m.event = @event AND m.ended IS NULL AND ${when} ON CONFLICT DO NOTHING`,
        ).run({ now, event, day }).changes;
      if (put) recordAudit(db, now, null, "marks.put", "orders", { day, put });
      return put;
    })
    .immediate();
}
