import { z } from "zod";
import { sql } from "../../db/open";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { Id } from "../fields";

export const MOST_IN_BATCH = 500;

export const StartBatch = z.object({
  what: z.enum(["print", "mail", "place"], "Print, send or place them."),
  orders: z
    .array(Id)
    .min(1, "Tick the orders first.")
    .max(MOST_IN_BATCH, `At most ${MOST_IN_BATCH} orders at once: narrow the list.`),
  prices: z.boolean().default(true),
});

/** Begins to print, send or place many orders; they are worked through one by one, each an act of its own. */
export function startBatch(desk: Desk, raw: unknown, site = ""): Done<{ batch: number }> {
  const input = checked(StartBatch, raw);
  if (!input.ok) return input;
  const { what, prices } = input.value;
  const orders = [...new Set(input.value.orders)];
  return once(desk, what === "print" ? "see orders" : "place", (tx) => {
    const running = sql<{ id: number }>(tx.db, "SELECT id FROM batch WHERE person = ? AND ended IS NULL").get(
      desk.person.id,
    );
    if (running) return refuse("", "Your batch before is still being worked through. Wait for it, or stop it.");
    for (const order of orders)
      if (!sql(tx.db, "SELECT 1 FROM purchase_order WHERE id = ? AND kind <> 'standing'").get(order))
        return refuse("orders", "One of these orders is not there any more. Load the list again.");
    const batch = Number(
      sql(tx.db, "INSERT INTO batch (what, prices, site, person, at) VALUES (?, ?, ?, ?, ?)").run(
        what,
        prices ? 1 : 0,
        site,
        desk.person.id,
        desk.now,
      ).lastInsertRowid,
    );
    const add = sql(tx.db, "INSERT INTO batch_order (batch, position, purchase_order) VALUES (?, ?, ?)");
    for (const [i, order] of orders.entries()) add.run(batch, i, order);
    tx.record("batch.started", `batch ${batch}`, { what, orders: orders.length });
    return done({ batch });
  });
}

/** Stops a batch after the order that is being worked on; what is done stays done. */
export function stopBatch(desk: Desk, raw: unknown): Done<{ batch: number }> {
  const input = checked(z.object({ batch: Id }), raw);
  if (!input.ok) return input;
  const { batch } = input.value;
  return once(desk, "see orders", (tx) => {
    const stopped = sql(
      tx.db,
      "UPDATE batch SET stopped = ? WHERE id = ? AND person = ? AND ended IS NULL AND stopped IS NULL",
    ).run(desk.now, batch, desk.person.id);
    if (stopped.changes === 0) return refuse("", "This batch has ended already.");
    tx.record("batch.stopped", `batch ${batch}`, {});
    return done({ batch });
  });
}
