import type { OrderId, OrderLineId } from "../../../core/ids";
import { sql } from "../../db/open";
import { must, type TestHouse, versionOf } from "../../testing";
import { addLines } from "../orders/add-lines";
import { placeOrder } from "../orders/place-order";
import { startOrder } from "../orders/start-order";
import { submitOrder } from "../orders/submit-order";
import { sign } from "../signoff/sign";
import { receiveGoods } from "./receive-goods";

/** An order as an act names it, in the version in which it stands. */
export const orderAt = (h: TestHouse, order: OrderId) => ({ order, version: versionOf(h.db, "purchase_order", order) });

/** An order to a supplier for the quay, placed; what needs a signature is signed. */
export async function placedOrder(
  h: TestHouse,
  supplier: string,
  add: readonly Record<string, unknown>[],
): Promise<{ order: OrderId; lines: OrderLineId[] }> {
  const { order } = must(
    startOrder(h.desk("ines"), { supplier: h.id("supplier", supplier), store: h.id("store", "TQ"), kind: "one-off" }),
  );
  must(addLines(h.desk("ines"), { ...orderAt(h, order), add }));
  must(submitOrder(h.desk("ines"), orderAt(h, order)));
  for (const who of ["maud", "halden"]) {
    const { stage } = sql<{ stage: string }>(h.db, "SELECT stage FROM purchase_order WHERE id = ?").get(order)!;
    if (stage === "in sign-off")
      sign(h.desk(who), { paper: "order", id: order, version: versionOf(h.db, "purchase_order", order) });
  }
  must(await placeOrder(h.desk("ines"), orderAt(h, order)));
  const lines = sql<{ id: OrderLineId }>(h.db, "SELECT id FROM order_line WHERE purchase_order = ? ORDER BY position")
    .all(order)
    .map((l) => l.id);
  return { order, lines };
}

/** A count of an order as the dock hand sends it. */
export const countIn = (
  h: TestHouse,
  order: OrderId,
  lines: readonly Record<string, unknown>[],
  more: Record<string, unknown> = {},
) => receiveGoods(h.desk("tobias"), { ...orderAt(h, order), deliveryNote: "", lines, ...more });

/** How a line stands: what came, what was let off, what waits. Purchase units. */
export const lineAt = (h: TestHouse, line: OrderLineId) =>
  sql<{ received: number; letOff: number; open: number; aside: number }>(
    h.db,
    `SELECT l.received / 10000.0 AS received, (SELECT sum(s.let_off) FROM order_schedule s WHERE s.order_line = l.id) / 10000.0 AS letOff,
            l.open, (SELECT coalesce(sum(a.undecided), 0) FROM set_aside a WHERE a.order_line = l.id) / 10000.0 AS aside FROM order_line l WHERE l.id = ?`,
  ).get(line)!;

/** What lies of an item at the quay, in stock units, and what it is worth. */
export const stockAt = (h: TestHouse, item: string) =>
  sql<{ quantity: number; value: number }>(
    h.db,
    "SELECT on_hand / 10000.0 AS quantity, value FROM item_store WHERE item = ? AND store = ?",
  ).get(h.id("item", item), h.id("store", "TQ"))!;
