import { z } from "zod";
import type { OrderLineId, SourcingId } from "../../../core/ids";
import { type Db, sql } from "../../db/open";
import { readAskable, readTheirStock } from "../../queries/suppliers/their-stock";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { Id, OrderIdField, Version } from "../fields";
import { orderFor, touchOrder } from "../orders/order-for";
import { priceOrder } from "../orders/price-order";

/** From now on a price that a supplier said holds as an accepted quote does, from the quantity that was asked for. */
export function holdSaid(db: Db, desk: Desk, said: number): Done<{ sourcing: SourcingId }> {
  const row = sql<{ sourcing: SourcingId }>(db, "SELECT sourcing FROM said_stock WHERE id = ?").get(said);
  const now = row && readTheirStock(db, row.sourcing, desk.day);
  if (!row || !now) return refuse("", "What they said is not of today any more. Ask them again.");
  if (now.said !== said) return refuse("", "They were asked again meanwhile: look at what they say now.");
  if (now.not) return refuse("", now.not);
  sql(db, "INSERT INTO said_price (said, sourcing, accepted, person) VALUES (?, ?, ?, ?) ON CONFLICT DO NOTHING").run(
    said,
    row.sourcing,
    desk.now,
    desk.person.id,
  );
  return done({ sourcing: row.sourcing });
}

const TakeSaid = z.object({ order: OrderIdField, version: Version, line: Id, said: Id });

/** Takes over, on the line of a draft, the price that its supplier said today: it is priced again, and what was typed goes. */
export function takeSaid(desk: Desk, raw: unknown): Done<{ version: number; line: OrderLineId }> {
  const input = checked(TakeSaid, raw);
  if (!input.ok) return input;
  const { order, version, line, said } = input.value;
  return once(desk, "write orders", (tx) => {
    const found = orderFor(tx.db, desk, order, version, "edit");
    if (!found.ok) return found;
    const held = holdSaid(tx.db, desk, said);
    if (!held.ok) return held;
    const { sourcing } = held.value;
    const own = sql(tx.db, "SELECT 1 FROM order_line WHERE id = ? AND purchase_order = ? AND sourcing = ?").get(
      line,
      order,
      sourcing,
    );
    if (!own) return refuse("", "This line is not of what they were asked about.");
    sql(
      tx.db,
      `UPDATE order_line SET price_source = '{"kind":"reference cost"}', blanket_line = NULL WHERE id = ?`,
    ).run(line);
    const next = touchOrder(tx.db, order, version);
    priceOrder(tx.db, order, desk.day, new Set([sourcing]));
    tx.record("order.said-price", `order ${order}`, {
      line,
      said,
      supplier: readAskable(tx.db, sourcing)?.supplierName,
    });
    return done({ version: next, line });
  });
}
