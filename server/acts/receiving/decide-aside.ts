import { z } from "zod";
import type { Day } from "../../../core/calendar/day";
import type { OrderId, OrderLineId, ReceiptId, StoreId } from "../../../core/ids";
import { quantityText } from "../../../core/numbers/quantity";
import { orderedOf, receivedOfLine } from "../../../core/receiving/count";
import { AWAITS, type Awaits, afterDecision } from "../../../core/receiving/set-aside";
import { type Db, madeId, sql } from "../../db/open";
import { nextNumber } from "../../db/series";
import { type OrderHead, type OrderLine, readOrderHead, readOrderLines } from "../../queries/orders/order";
import { readCountedLines } from "../../queries/receiving/counted-lines";
import { checked, type Desk, type Done, done, once, refuse, refuseAll, stale, type Tx } from "../desk";
import { DayField, Id, orNone, QuantityOrNone, text } from "../fields";
import { servedBy, tellFollowers } from "../notices";
import { closePart, countOutOfSchedule, dueAnew } from "../orders/keep-schedule";
import { settleOrder } from "../orders/settle-order";
import { openNeedsAgain } from "../orders/ties";
import { settleRequisitionsOf } from "../requisitions/settle-requisitions";
import { settleLetOff } from "./let-off";
import { receive } from "./receive";
import { tellJobs, tellOfGoods } from "./tell-of-goods";

const Rows = z
  .array(
    z.object({
      aside: Id,
      /** So much is undecided, as the person saw it. */
      seen: z.coerce.number().int().positive(),
      /** Less than all of it. */
      quantity: QuantityOrNone.default(null),
    }),
  )
  .min(1, "Choose what you decide about.")
  .max(200, "At most 200 at once.");

interface Aside {
  id: number;
  receipt: ReceiptId;
  deliveryNote: string;
  store: StoreId;
  order: OrderId;
  line: OrderLineId;
  why: string;
  ordered: number;
  undecided: number;
  lot: string;
  expires: Day | null;
  /** Its item is kept by lot. */
  kept: number;
  /** What is decided about now. */
  quantity: number;
}

/** What was chosen, as it stands; or what is wrong with it. All of it is of one order and one store. */
function chosen(db: Db, rows: z.output<typeof Rows>): Done<{ head: OrderHead; asides: Aside[] }> {
  const read = sql<Omit<Aside, "quantity">>(
    db,
    `SELECT a.id, a.receipt, r.delivery_note AS deliveryNote, r.store, r.purchase_order AS "order", a.order_line AS line, a.why, a.ordered, a.undecided, a.lot, a.expires,
            coalesce(i.by_lot + i.by_serial, 0) > 0 AS kept
     FROM set_aside a JOIN receipt r ON r.id = a.receipt JOIN order_line l ON l.id = a.order_line LEFT JOIN item i ON i.id = l.item WHERE a.id = ?`,
  );
  const asides: Aside[] = [];
  for (const [i, row] of rows.entries()) {
    const a = read.get(row.aside);
    if (!a) return refuse("", "There are no such goods set aside.");
    if (a.undecided !== row.seen) return stale("Somebody else decided about these goods meanwhile.");
    const quantity = row.quantity ?? a.undecided;
    if (quantity > a.undecided)
      return refuseAll([
        { field: `rows.${i}.quantity`, says: `Only ${quantityText(a.undecided)} of it is undecided.` },
      ]);
    asides.push({ ...a, quantity });
  }
  if (new Set(asides.map((a) => a.id)).size < asides.length) return refuse("", "The same goods were chosen twice.");
  const [first] = asides;
  if (asides.some((a) => a.order !== first!.order || a.store !== first!.store))
    return refuse("", "These goods came with different orders, or to different stores. Decide about each on its own.");
  return done({ head: readOrderHead(db, first!.order)!, asides });
}

const keepDecision = (
  tx: Tx,
  desk: Desk,
  a: Aside,
  what: string,
  reason: string,
  papers: { receipt?: ReceiptId; goodsReturn?: number },
): void => {
  sql(
    tx.db,
    `INSERT INTO set_aside_decision (set_aside, what, quantity, reason, receipt, goods_return, person, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?)`,
  ).run(a.id, what, a.quantity, reason, papers.receipt ?? null, papers.goodsReturn ?? null, desk.person.id, desk.now);
};

export const KeepAside = z.object({ rows: Rows, reason: text(300).default("") });

/**
 * Takes goods in after all: what is beyond what was ordered is let in by the buyer. The receipt names the delivery note with
 * which they came.
 */
export function keepAside(desk: Desk, raw: unknown): Done<{ receipt: ReceiptId; number: string }> {
  const input = checked(KeepAside, raw);
  if (!input.ok) return input;
  const { rows, reason } = input.value;
  return once(desk, "judge goods", (tx) => {
    const found = chosen(tx.db, rows);
    if (!found.ok) return found;
    const { head, asides } = found.value;
    if (head.stage === "cancelled") return refuse("", `${head.name} is cancelled: nothing of it is kept.`);
    const lines = readOrderLines(tx.db, head.id, head.currency);
    const { receipt, number } = receiveAside(tx, desk, head, lines, asides);
    for (const a of asides) keepDecision(tx, desk, a, "keep", reason, { receipt });
    // Only now is nothing of the line undecided that may yet be the rest: what is missing may be let off.
    settleLetOff(
      tx.db,
      asides.map((a) => a.line),
    );
    settleOrder(tx.db, head.id);
    const after = readOrderLines(tx.db, head.id, head.currency);
    tellOfGoods(tx.db, desk, head.id, head, receipt, new Set(asides.map((a) => a.line)), after);
    tellJobs(tx.db, desk, head, receipt);
    tx.record("aside.kept", `order ${head.id}`, { receipt, number, reason, asides: asides.map(shortly) });
    return done({ receipt, number });
  });
}

const shortly = ({ id, line, quantity, why }: Aside) => ({ id, line, quantity, why });

/** One line of the receipt for each line and each kind: what met the order already, and what did not. */
function receiveAside(tx: Tx, desk: Desk, head: OrderHead, lines: readonly OrderLine[], asides: readonly Aside[]) {
  const counted = readCountedLines(
    tx.db,
    asides.map((a) => a.line),
  );
  const room = new Map([...counted].map(([line, of]) => [line, Math.max(0, orderedOf(of) - receivedOfLine(of))]));
  const came = asides.map((a) => {
    const lot = a.kept ? { code: a.lot, expires: a.expires } : null;
    if (a.ordered) return { line: a.line, quantity: a.quantity, over: 0, lot, wasAside: true };
    const within = Math.min(room.get(a.line) ?? 0, a.quantity);
    room.set(a.line, (room.get(a.line) ?? 0) - within);
    return { line: a.line, quantity: a.quantity, over: a.quantity - within, lot };
  });
  return receive(tx.db, desk, {
    head,
    lines,
    came,
    store: asides[0]!.store,
    deliveryNote: asides[0]!.deliveryNote,
    passesBy: false,
  });
}

export const SendBackAside = z.object({
  rows: Rows,
  reason: text(300, 3, "Say why it goes back: the supplier reads it."),
  awaits: z.enum(AWAITS, "Say what is awaited for it."),
  /** When goods instead should be here. */
  due: orNone(DayField).default(null),
});

/**
 * Sends goods back, with a paper: goods instead are to come anew, or the order is that much shorter and a credit is awaited.
 */
export function sendBackAside(desk: Desk, raw: unknown): Done<{ goodsReturn: number; number: string }> {
  const input = checked(SendBackAside, raw);
  if (!input.ok) return input;
  const { rows, reason, awaits, due } = input.value;
  return once(desk, "judge goods", (tx) => {
    const found = chosen(tx.db, rows);
    if (!found.ok) return found;
    const { head, asides } = found.value;
    if (awaits === "replacement" && asides.some((a) => !a.ordered))
      return refuse("awaits", "Some of these goods were not ordered, or not yet: nothing comes instead of them.");
    if (awaits === "replacement" && (due === null || due < desk.day))
      return refuse("due", "Say by when the goods instead should be here.");
    const number = nextNumber(tx.db, "return", desk.day);
    const goodsReturn = Number(
      madeId(
        sql(
          tx.db,
          "INSERT INTO goods_return (number, purchase_order, store, day, reason, awaits, settled, person, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)",
        ).run(
          number,
          head.id,
          asides[0]!.store,
          desk.day,
          reason,
          awaits,
          awaits === "nothing" ? desk.day : null,
          desk.person.id,
          desk.now,
        ),
      ),
    );
    for (const a of asides) {
      keepDecision(tx, desk, a, "send back", reason, { goodsReturn });
      leaveOrder(tx.db, a, awaits, due);
    }
    afterLeaving(tx, desk, head, asides, awaits === "replacement" ? "comes again" : "does not come again");
    tx.record("aside.sent-back", `order ${head.id}`, { number, reason, awaits, due, asides: asides.map(shortly) });
    return done({ goodsReturn, number });
  });
}

export const Scrap = z.object({ rows: Rows, reason: text(300, 3, "Say why it is thrown away.") });

/** Throws goods away that were set aside: they never were ours, and the order is that much shorter. */
export function scrapAside(desk: Desk, raw: unknown): Done<{ scrapped: number }> {
  const input = checked(Scrap, raw);
  if (!input.ok) return input;
  const { rows, reason } = input.value;
  return once(desk, "judge goods", (tx) => {
    const found = chosen(tx.db, rows);
    if (!found.ok) return found;
    const { head, asides } = found.value;
    for (const a of asides) {
      keepDecision(tx, desk, a, "scrap", reason, {});
      leaveOrder(tx.db, a, "nothing", null);
    }
    afterLeaving(tx, desk, head, asides, "does not come again");
    tx.record("aside.scrapped", `order ${head.id}`, { reason, asides: asides.map(shortly) });
    return done({ scrapped: asides.length });
  });
}

/** What leaves the order with goods that go: they are to come anew, or not any more. */
function leaveOrder(db: Db, a: Aside, awaits: Awaits, due: Day | null): void {
  const after = afterDecision({ ordered: a.ordered === 1 }, "send back", awaits);
  if (after === "open again") dueAnew(db, a.line, a.quantity, due!);
  if (after !== "closed short") return;
  countOutOfSchedule(db, a.line, a.quantity);
  closePart(db, a.line, a.quantity);
  const line = sql<{ stays: number; factor: number }>(
    db,
    "SELECT quantity - closed_short AS stays, factor FROM order_line WHERE id = ?",
  ).get(a.line)!;
  openNeedsAgain(db, a.line, line.stays, line.factor);
}

/** The order, its requisitions and whoever waits hear of goods that went. */
function afterLeaving(tx: Tx, desk: Desk, head: OrderHead, asides: readonly Aside[], what: string): void {
  settleLetOff(
    tx.db,
    asides.map((a) => a.line),
  );
  settleOrder(tx.db, head.id);
  sql(tx.db, "UPDATE purchase_order SET version = version + 1 WHERE id = ?").run(head.id);
  settleRequisitionsOf(tx.db, head.id);
  if (!asides.some((a) => a.ordered)) return;
  for (const s of servedBy(tx.db, head.id))
    tellFollowers(
      tx.db,
      desk.now,
      s.requisition,
      `Not good, and sent back: ${s.what}`,
      `order ${head.number} to ${head.supplierName}; a part of it ${what}`,
    );
}

export const SettleReturn = z.object({ goodsReturn: Id, how: text(120, 2, "Say with which paper it was settled.") });

/** What was awaited for goods that went back has come: a credit note, or goods by another way. */
export function settleReturn(desk: Desk, raw: unknown): Done<{ settled: true }> {
  const input = checked(SettleReturn, raw);
  if (!input.ok) return input;
  const { goodsReturn, how } = input.value;
  return once(desk, "judge goods", (tx) => {
    const found = sql<{ number: string; settled: string | null }>(
      tx.db,
      "SELECT number, settled FROM goods_return WHERE id = ?",
    ).get(goodsReturn);
    if (!found) return refuse("", "There is no such return.");
    if (found.settled) return refuse("", `Return ${found.number} is settled already.`);
    sql(tx.db, "UPDATE goods_return SET settled = ?, settled_how = ? WHERE id = ?").run(desk.day, how, goodsReturn);
    tx.record("return.settled", `return ${goodsReturn}`, { number: found.number, how });
    return done({ settled: true });
  });
}
