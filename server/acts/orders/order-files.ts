import { z } from "zod";
import type { OrderId } from "../../../core/ids";
import type { OrderStage } from "../../../core/orders/status";
import { type Db, sql } from "../../db/open";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { Id, OrderIdField, TickBox } from "../fields";
import { type AcceptedFile, acceptFile } from "../files/accept-file";

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
    const head = sql<{ stage: OrderStage; placed: string | null }>(
      tx.db,
      "SELECT stage, placed FROM purchase_order WHERE id = ?",
    ).get(order);
    if (!head) return refuse("", "There is no such order.");
    if (head.stage === "in sign-off")
      return refuse("file", "It is being signed off, and nobody can change it meanwhile.");
    const kept = keepOrderFile(tx.db, desk, order, file, sent && head.placed === null);
    if (kept.ok) tx.record("order.file-attached", `order ${order}`, { name: file.name, size: bytes.length, sent });
    return kept;
  });
}

/** Keeps a file with an order. Call inside the act's transaction, which writes the audit row. */
export function keepOrderFile(
  db: Db,
  desk: Desk,
  order: OrderId,
  file: AcceptedFile,
  sent = false,
): Done<{ file: number }> {
  const { files } = sql<{ files: number }>(db, "SELECT count(*) AS files FROM order_file WHERE purchase_order = ?").get(
    order,
  )!;
  if (files >= 20) return refuse("file", "At most 20 files on one order.");
  const id = Number(
    sql(
      db,
      "INSERT INTO order_file (purchase_order, name, type, bytes, sent, person, at) VALUES (?, ?, ?, ?, ?, ?, ?)",
    ).run(order, file.name, file.type, file.bytes, sent ? 1 : 0, desk.person.id, desk.now).lastInsertRowid,
  );
  return done({ file: id });
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
