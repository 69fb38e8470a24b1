import { z } from "zod";
import { addDays } from "../../../core/calendar/day";
import { arrival } from "../../../core/calendar/delivery";
import type { JobId, OrderId, SupplierId } from "../../../core/ids";
import { isPlain, ORDER_KINDS } from "../../../core/orders/kinds";
import { type Db, sql } from "../../db/open";
import { readNeeds, usualPlan } from "../../queries/needs/needs";
import { needNow } from "../../queries/needs/one";
import { readSource, wayOf } from "../../queries/needs/positions";
import { type OrderHead, type OrderLine, readOrderHead, readOrderLines } from "../../queries/orders/order";
import { readTerms } from "../../queries/records/terms";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { Id, OrderIdField, orNone, text } from "../fields";
import { insertLine } from "./add-lines";
import { lastPosition, newDraft, orderFor, touchOrder, WhichOrder } from "./order-for";
import { priceOrder } from "./price-order";
import { servedByLines, writeLines } from "./write-lines";

export const StartOrder = z.object({
  supplier: orNone(Id).optional(),
  store: orNone(Id).optional(),
  kind: z.enum(ORDER_KINDS, "There is no such kind of order.").default("one-off"),
  title: text(120).default(""),
  /** An earlier order, or a standing list, whose lines it begins with. */
  from: orNone(OrderIdField).optional(),
  job: orNone(Id).optional(),
});

/** Begins an order of any kind: empty, or with the lines of an earlier one, priced as of today. */
export function startOrder(desk: Desk, raw: unknown): Done<{ order: OrderId }> {
  const input = checked(StartOrder, raw);
  if (!input.ok) return input;
  const v = input.value;
  return once(desk, "write orders", (tx) => {
    const source = v.from ? readOrderHead(tx.db, v.from) : null;
    if (v.from && !source) return refuse("from", "There is no such order.");
    const supplierId = source?.supplier ?? v.supplier;
    const storeId = v.store ?? source?.store;
    if (!supplierId) return refuse("supplier", "Choose a supplier.");
    if (!storeId || !sql(tx.db, "SELECT 1 FROM store WHERE id = ?").get(storeId))
      return refuse("store", "Choose a store.");
    const supplier = sql<{ id: SupplierId; name: string; currency: string }>(
      tx.db,
      "SELECT id, name, currency FROM supplier WHERE id = ? AND active = 1",
    ).get(supplierId);
    if (!supplier) return refuse("supplier", "There is no such supplier.");
    const { blocked } = readTerms(tx.db, supplierId);
    if (blocked) return refuse("supplier", `${supplier.name} is blocked: ${blocked}.`);
    if (v.kind === "direct" && !v.job && !source?.job)
      return refuse("job", "Say which job or customer order it is delivered to.");
    const order = newDraft(tx.db, desk, supplier, storeId, addDays(desk.day, 7));
    const blanket = v.kind === "blanket";
    sql(
      tx.db,
      "UPDATE purchase_order SET kind = ?, title = ?, starts = ?, ends = ?, note = ?, discount = ? WHERE id = ?",
    ).run(
      v.kind,
      v.title || (v.kind === "standing" ? (source?.title ?? "") : ""),
      blanket ? desk.day : null,
      blanket ? addDays(desk.day, 364) : null,
      source?.note ?? "",
      source?.discount ?? 0,
      order,
    );
    const job = v.job ?? (v.kind === "direct" ? (source?.job ?? null) : null);
    if (job && !addressTo(tx.db, order, job)) return refuse("job", "There is no such job.");
    if (source) copyLines(tx.db, desk, source, readOrderHead(tx.db, order)!);
    priceOrder(tx.db, order, desk.day);
    sql(tx.db, "UPDATE purchase_order SET version = 1 WHERE id = ?").run(order);
    tx.record("order.started", `order ${order}`, v);
    return done({ order });
  });
}

/** The order goes to where the job's vessel lies or its customer sits. False where there is no such job. */
export function addressTo(db: Db, order: OrderId, job: JobId): boolean {
  const to = sql<{ name: string; address: string }>(
    db,
    "SELECT iif(vessel = '', name, vessel) AS name, address FROM job WHERE id = ?",
  ).get(job);
  if (!to) return false;
  sql(db, "UPDATE purchase_order SET job = ?, deliver_name = ?, deliver_address = ? WHERE id = ?").run(
    job,
    to.name,
    to.address,
    order,
  );
  return true;
}

/** Lines of an earlier order: as much as then, for the day on which it would come now, at today's prices. */
function copyLines(db: Db, desk: Desk, from: OrderHead, to: OrderHead): void {
  const store = sql<{ receives: number; region: string }>(db, "SELECT receives, region FROM store WHERE id = ?").get(
    to.store,
  )!;
  let position = lastPosition(db, to.id);
  for (const l of readOrderLines(db, from.id, from.currency)) {
    const source = l.sourcing === null ? null : readSource(db, l.sourcing);
    const required = source ? arrival(desk.day, wayOf(source, store, desk.day, desk.hour)) : null;
    insertLine(
      db,
      to,
      {
        ...copied(l),
        ...(isPlain(to.kind) && l.store !== from.store ? { store: l.store } : {}),
        sourcing: source?.id ?? null,
        taxTyped: l.taxTyped,
        required: required ?? to.required,
      },
      ++position,
    );
  }
}

/** What a copied line keeps: a price only where nobody could look it up again. */
const copied = (l: OrderLine) => ({
  kind: l.kind,
  item: l.item,
  words: l.words,
  theirCode: l.theirCode,
  unit: l.unitCode,
  factor: l.factor,
  quantity: l.quantity,
  price: l.sourcing === null ? l.price : null,
  typed: l.sourcing === null && l.price !== null,
  standing: l.standing,
  discount: l.discount,
  note: l.note,
  blanketLine: null,
  account: l.account,
  budget: null,
  spread: l.spread,
});

/** Fills in all that this supplier should send to the order's store: every need of the pool that would go there. */
export function fillIn(desk: Desk, raw: unknown): Done<{ version: number; added: number }> {
  const input = checked(WhichOrder, raw);
  if (!input.ok) return input;
  const { order, version } = input.value;
  return once(desk, "write orders", (tx) => {
    const found = orderFor(tx.db, desk, order, version, "edit");
    if (!found.ok) return found;
    const head = found.value;
    if (head.kind === "blanket" || head.kind === "standing")
      return refuse("", "Only an order that brings goods can serve needs.");
    const plan = usualPlan(desk.day, desk.hour);
    const lines = readNeeds(tx.db, plan)
      .filter((n) => n.supplier?.id === head.supplier && n.store === head.store)
      .map((n) => needNow(tx.db, plan, n.key))
      .filter((n) => n !== null && n.supplier?.id === head.supplier)
      .map((need) => ({ need: need!, quantity: need!.buy, serves: servedByLines(need!) }));
    if (lines.length === 0)
      return refuse("", `Nothing that ${head.storeName} needs is bought at ${head.supplierName} now.`);
    writeLines(tx.db, desk, lines, order);
    const next = touchOrder(tx.db, order, version);
    tx.record("order.filled-in", `order ${order}`, { needs: lines.map((l) => l.need.key) });
    return done({ version: next, added: lines.length });
  });
}
