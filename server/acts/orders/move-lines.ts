import { z } from "zod";
import type { OrderId, SupplierId } from "../../../core/ids";
import { toBuy } from "../../../core/needs/reorder";
import { factorOf, purchase, toStock } from "../../../core/numbers/quantity";
import { isPlain, KIND_WORDS } from "../../../core/orders/kinds";
import { type Db, sql } from "../../db/open";
import { readSourcesOf } from "../../queries/needs/positions";
import { type OrderHead, type OrderLine, readOrderHead, readOrderLines } from "../../queries/orders/order";
import { readTerms } from "../../queries/records/terms";
import { checked, type Desk, type Done, done, once, type Problem, refuse, refuseAll } from "../desk";
import { Id } from "../fields";
import { settleRequisitionsOf } from "../requisitions/settle-requisitions";
import { keepSchedule } from "./keep-schedule";
import { carryHands, lastPosition, newDraft, noteHand, orderFor, WhichOrder } from "./order-for";
import { priceOrder } from "./price-order";
import { settleOrder } from "./settle-order";
import { refitTies } from "./ties";

export const MoveLines = WhichOrder.extend({
  /** Left out: all lines of the draft. */
  lines: z.array(Id).max(2000).optional(),
  to: z.string().regex(/^(order|supplier):\d{1,15}$/, "Choose where to."),
});

/**
 * Moves lines of a draft onto another draft for the same store, or a new one. At another supplier each line is bought as
 * they sell it: their unit, packs and price. The needs go with the lines; a draft that is left empty ends.
 */
export function moveLines(desk: Desk, raw: unknown): Done<{ order: OrderId }> {
  const input = checked(MoveLines, raw);
  if (!input.ok) return input;
  const { order, version, to } = input.value;
  return once(desk, "write orders", (tx) => {
    const from = orderFor(tx.db, desk, order, version, "edit");
    if (!from.ok) return from;
    if (!isPlain(from.value.kind))
      return refuse("", `The lines of a ${KIND_WORDS[from.value.kind]} belong to it, and do not move.`);
    const all = readOrderLines(tx.db, order, from.value.currency);
    const moved = input.value.lines ? all.filter((l) => input.value.lines!.includes(l.id)) : all;
    if (moved.length === 0) return refuse("", "This line is not on this order any more.");
    const target = targetOf(tx.db, desk, from.value, to);
    if (!target.ok) return target;
    const { head } = target.value;
    noteHand(tx.db, desk, head.id);
    carryHands(tx.db, order, head.id);
    const problems: Problem[] = [];
    let last = lastPosition(tx.db, head.id);
    for (const line of moved) {
      const says = place(tx.db, line, head, ++last, from.value.supplier);
      if (says) problems.push({ field: "to", says });
    }
    if (problems.length) return refuseAll(problems);
    const ends = moved.length === all.length;
    if (ends && from.value.number === null) sql(tx.db, "DELETE FROM purchase_order WHERE id = ?").run(order);
    else {
      sql(tx.db, "UPDATE purchase_order SET version = version + 1 WHERE id = ?").run(order);
      if (ends) settleOrder(tx.db, order, "cancelled");
    }
    if (!ends) priceOrder(tx.db, order, desk.day);
    const days = [...moved.map((l) => l.required), head.required].sort();
    sql(tx.db, "UPDATE purchase_order SET version = version + 1, required = ? WHERE id = ?").run(days[0], head.id);
    priceOrder(tx.db, head.id, desk.day);
    settleRequisitionsOf(tx.db, head.id);
    tx.record("order.lines-moved", `order ${order}`, { lines: moved.map((l) => l.id), to: head.id, ends });
    return done({ order: head.id });
  });
}

function targetOf(db: Db, desk: Desk, from: OrderHead, to: string): Done<{ head: OrderHead }> {
  const [kind, text] = to.split(":");
  if (kind === "order") {
    const head = readOrderHead(db, Number(text) as OrderId); // null where there is none
    if (head?.stage !== "draft" || head.id === from.id || !isPlain(head.kind))
      return refuse("to", "That order is no draft any more. Choose another.");
    if (head.store !== from.store) return refuse("to", `That order goes to ${head.storeName}.`);
    return done({ head });
  }
  const id: SupplierId = Number(text);
  const supplier = sql<{ currency: string; name: string }>(
    db,
    "SELECT currency, name FROM supplier WHERE id = ? AND active = 1",
  ).get(id);
  if (!supplier) return refuse("to", "There is no such supplier.");
  const { blocked } = readTerms(db, id);
  if (blocked) return refuse("to", `${supplier.name} is blocked: ${blocked}.`);
  const made = newDraft(db, desk, { id, currency: supplier.currency }, from.store, from.required);
  return done({ head: readOrderHead(db, made)! });
}

/** Puts a line onto another order; a sentence where its supplier does not sell it. */
function place(db: Db, line: OrderLine, head: OrderHead, position: number, fromSupplier: number): string | null {
  if (head.supplier === fromSupplier) {
    sql(db, "UPDATE order_line SET purchase_order = ?, position = ? WHERE id = ?").run(head.id, position, line.id);
    return null;
  }
  const source = line.item === null ? null : readSourcesOf(db, [line.item]).find((s) => s.supplier === head.supplier);
  if (!source) return `${head.supplierName} does not sell ${line.words}.`;
  const wanted = toStock(purchase(line.quantity), factorOf(line.factor));
  const { buy } = toBuy(wanted, source.packing, line.stockUnit ?? line.unit);
  const { unit } = sql<{ unit: string }>(db, "SELECT unit FROM sourcing WHERE id = ?").get(source.id)!;
  sql(
    db,
    `UPDATE order_line SET purchase_order = ?, position = ?, sourcing = ?, their_code = ?, unit = ?, factor = ?, quantity = ?, price = NULL,
       price_source = '{"kind":"reference cost"}', standing_discount = ?, discount = 0 WHERE id = ?`,
  ).run(head.id, position, source.id, source.theirCode, unit, source.packing.factor, buy, source.standing, line.id);
  keepSchedule(db, line.id, { quantity: buy, required: line.required });
  refitTies(db, line.id);
  return null;
}
