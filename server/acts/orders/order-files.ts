import { z } from "zod";
import type { OrderId } from "../../../core/ids";
import type { OrderStage } from "../../../core/orders/status";
import { sql } from "../../db/open";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { Id, OrderIdField, TickBox } from "../fields";
import { acceptFile } from "../files/accept-file";

const Attach = z.object({ order: OrderIdField, sent: TickBox });

/** Attaches a file to an order; `sent` sends it out with the order. What has been sent with it stays. */
export function attachToOrder(desk: Desk, raw: unknown, name: string, bytes: Uint8Array): Done<{ file: number }> {
  const input = checked(Attach, raw);
  if (!input.ok) return input;
  const { order, sent } = input.value;
  const accepted = acceptFile(name, bytes);
  if (!accepted.ok) return accepted;
  const file = accepted.value;
  return once(desk, "write orders", (tx) => {
    const head = sql<{ stage: OrderStage; placed: string | null; files: number }>(
      tx.db,
      "SELECT stage, placed, (SELECT count(*) FROM order_file f WHERE f.purchase_order = o.id) AS files FROM purchase_order o WHERE id = ?",
    ).get(order);
    if (!head) return refuse("", "There is no such order.");
    if (head.stage === "in sign-off")
      return refuse("file", "It is being signed off, and nobody can change it meanwhile.");
    if (head.files >= 20) return refuse("file", "At most 20 files on one order.");
    const id = Number(
      sql(
        tx.db,
        "INSERT INTO order_file (purchase_order, name, type, bytes, sent, person, at) VALUES (?, ?, ?, ?, ?, ?, ?)",
      ).run(order, file.name, file.type, file.bytes, sent && head.placed === null ? 1 : 0, desk.person.id, desk.now)
        .lastInsertRowid,
    );
    tx.record("order.file-attached", `order ${order}`, { name: file.name, size: bytes.length, sent });
    return done({ file: id });
  });
}

/** Takes a file off an order that is still being written. */
export function detachFromOrder(desk: Desk, raw: unknown): Done<{ order: OrderId }> {
  const input = checked(z.object({ order: OrderIdField, attachment: Id }), raw);
  if (!input.ok) return input;
  const { order, attachment } = input.value;
  return once(desk, "write orders", (tx) => {
    const row = sql<{ name: string; state: string }>(
      tx.db,
      "SELECT f.name, o.state FROM order_file f JOIN purchase_order o ON o.id = f.purchase_order WHERE f.id = ? AND o.id = ?",
    ).get(attachment, order);
    if (!row) return refuse("", "This file is gone already.");
    if (row.state !== "Draft") return refuse("", "The order was handed in with this file, so it stays.");
    sql(tx.db, "DELETE FROM order_file WHERE id = ?").run(attachment);
    tx.record("order.file-taken-off", `order ${order}`, { name: row.name });
    return done({ order });
  });
}
