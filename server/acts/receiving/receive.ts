import type { Day } from "../../../core/calendar/day";
import type { ItemId, OrderId, OrderLineId, ReceiptId, StoreId } from "../../../core/ids";
import { lineNet, unitPrice } from "../../../core/numbers/money";
import { factorOf, purchase, toStock } from "../../../core/numbers/quantity";
import type { OrderState } from "../../../core/orders/status";
import type { ControlTotals } from "../../../core/receiving/control-totals";
import type { AsideReason } from "../../../core/receiving/set-aside";
import { DOCK } from "../../../core/stock/bins";
import { type ReceivedLine, receiptPostings } from "../../../core/stock/posting";
import { goodsValue, receivedValue } from "../../../core/stock/value";
import { type Db, sql } from "../../db/open";
import { nextNumber } from "../../db/series";
import { storeStows } from "../../queries/choices";
import { rateOn, theCompany } from "../../queries/company";
import { costLines, type OrderHead, type OrderLine, orderTotals } from "../../queries/orders/order";
import { binFor, binOf } from "../../queries/stock/bins";
import type { Desk } from "../desk";
import { countIntoSchedule } from "../orders/keep-schedule";
import { settleOrder } from "../orders/settle-order";
import { settleRequisitionsOf } from "../requisitions/settle-requisitions";
import { judgeInvoicesOf } from "../settling/match-invoice";
import { selfBill } from "../settling/self-bill";
import { openEntry, post } from "../stock/post";
import { takeIn } from "../stock/stock";
import { settleLetOff } from "./let-off";

/** The lot that goods came in; without a code it is called by the receipt. */
export interface CountedLot {
  code: string;
  expires: Day | null;
}

/** Goods of a line that are taken in, all of one lot: purchase units, above zero. */
export interface TakenIn {
  line: OrderLineId;
  quantity: number;
  /** Of it, what is beyond what was ordered. */
  over: number;
  /** Null where its item is not kept by lot. */
  lot: CountedLot | null;
  /** The bin into which it was put at once; empty: as the store does. */
  bin?: string;
  /** The bin where it lies already, the dock too: the supplier's goods become ours. */
  lies?: string;
  /** Kilograms as weighed, ten-thousandths. */
  weight?: number | null;
  /** It met the order when it was counted, and was set aside until now. */
  wasAside?: boolean;
}

/** Goods of a line that were counted and wait, or go back at once: purchase units, above zero. */
export interface PutAside {
  line: OrderLineId;
  why: AsideReason;
  quantity: number;
  /** They meet the order, which waits for no more of it. */
  ordered: boolean;
  daysEarly: number;
  lot: CountedLot | null;
  note: string;
  turnedAway: boolean;
}

export interface CountedLoad {
  head: OrderHead;
  /** All lines of the order as they stood before. */
  lines: readonly OrderLine[];
  /** What is taken in. */
  came: readonly TakenIn[];
  /** What is not. */
  aside?: readonly PutAside[];
  store: StoreId;
  deliveryNote: string;
  /** What the delivery note says came in all, and why the count says otherwise. */
  said?: ControlTotals & { difference: string };
  /** It never lies in a store: it went to the job or customer at once. */
  passesBy: boolean;
}

/**
 * Counts a load in: the receipt with its lines, their schedules, stock with its movements and value, both sides of the
 * journal, the state of the order and of the requisitions behind it. The one way in for every kind of delivery; who may
 * bring how much has been decided before. Call inside the act's transaction.
 */
export function receive(
  db: Db,
  desk: Desk,
  load: CountedLoad,
): { receipt: ReceiptId; number: string; state: OrderState } {
  const { head } = load;
  const number = nextNumber(db, "receipt", desk.day);
  const receipt = Number(
    sql(
      db,
      `INSERT INTO receipt (number, purchase_order, store, day, delivery_note, said_lines, said_pieces, said_weight, difference, person, at)
       VALUES (@number, @order, @store, @day, @deliveryNote, @lines, @pieces, @weight, @difference, @person, @at)`,
    ).run({
      number,
      order: head.id,
      store: load.store,
      day: desk.day,
      deliveryNote: load.deliveryNote,
      ...(load.said ?? { lines: null, pieces: null, weight: null, difference: "" }),
      person: desk.person.id,
      at: desk.now,
    }).lastInsertRowid,
  );
  takeGoods(db, desk, load, receipt);
  for (const aside of load.aside ?? []) putAside(db, desk, receipt, aside);
  const touched = [...new Set([...load.came, ...(load.aside ?? [])].map((c) => c.line))];
  settleLetOff(db, touched);
  settleReplacements(db, desk, touched);
  judgeInvoicesOf(db, desk, touched);
  selfBill(db, desk, head.id);
  const state = settleOrder(db, head.id);
  sql(db, "UPDATE purchase_order SET version = version + 1 WHERE id = ?").run(head.id);
  settleRequisitionsOf(db, head.id);
  return { receipt, number, state };
}

/** What is taken in: stock with its movements and value, and both sides of the journal. */
function takeGoods(db: Db, desk: Desk, load: CountedLoad, receipt: ReceiptId): void {
  if (load.came.length === 0) return;
  const entry = openEntry(db, desk, "receipt", receipt);
  const worth = valuesOf(db, desk, load);
  const before = takenBefore(db, load.head.id);
  const lines = new Map(load.lines.map((l) => [l.id, l]));
  const brought: ReceivedLine[] = [];
  for (const came of load.came) {
    const line = lines.get(came.line)!;
    const minor = receivedValue(worth.get(line.id) ?? 0, line.quantity, before.get(line.id) ?? 0, came.quantity);
    const stocked = !load.passesBy && isStocked(db, line);
    before.set(line.id, (before.get(line.id) ?? 0) + came.quantity);
    const lot = came.lot && line.item !== null ? lotOf(db, line.item, came.lot, receipt) : null;
    takeLine(db, desk, load.head, line, { ...came, receipt, entry, minor, stocked, lotId: lot });
    brought.push({ line: line.id, minor, stocked, account: line.account });
  }
  post(db, entry, receiptPostings(brought));
}

/** A lot of an item by its code, made where it is new; one without a code is called by the receipt. */
function lotOf(db: Db, item: ItemId, { code, expires }: CountedLot, receipt: ReceiptId): number {
  const named = code || sql<{ number: string }>(db, "SELECT number FROM receipt WHERE id = ?").get(receipt)!.number;
  return sql<{ id: number }>(
    db,
    `INSERT INTO lot (item, code, expires) VALUES (?, ?, ?)
     ON CONFLICT (item, code) DO UPDATE SET expires = coalesce(expires, excluded.expires) RETURNING id`,
  ).get(item, named, expires)!.id;
}

/** What was taken in of each line of an order so far. */
const takenBefore = (db: Db, order: OrderId): Map<OrderLineId, number> =>
  new Map(
    sql<{ line: OrderLineId; quantity: number }>(
      db,
      `SELECT x.order_line AS line, sum(x.quantity - x.undone) AS quantity FROM receipt r JOIN receipt_line_now x ON x.receipt = r.id
       WHERE r.purchase_order = ? GROUP BY x.order_line`,
    )
      .all(order)
      .map((r) => [r.line, r.quantity]),
  );

/** Keeps what was counted and is not taken in; what was turned away is decided with it. */
function putAside(db: Db, desk: Desk, receipt: ReceiptId, a: PutAside): void {
  const { lastInsertRowid: id } = sql(
    db,
    `INSERT INTO set_aside (receipt, order_line, why, ordered, quantity, days_early, lot, expires, note, undecided)
     VALUES (@receipt, @line, @why, @ordered, @quantity, @daysEarly, @lot, @expires, @note, @quantity)`,
  ).run({
    receipt,
    line: a.line,
    why: a.why,
    ordered: a.ordered ? 1 : 0,
    quantity: a.quantity,
    daysEarly: a.daysEarly,
    lot: a.lot?.code ?? "",
    expires: a.lot?.expires ?? null,
    note: a.note,
  });
  if (a.ordered) countIntoSchedule(db, a.line, a.quantity);
  if (a.turnedAway)
    sql(
      db,
      "INSERT INTO set_aside_decision (set_aside, what, quantity, reason, person, at) VALUES (?, 'turned away', ?, ?, ?, ?)",
    ).run(id, a.quantity, a.note, desk.person.id, desk.now);
}

/** What was sent back for goods instead is settled once nothing of its lines is to come any more. */
function settleReplacements(db: Db, desk: Desk, lines: readonly OrderLineId[]): void {
  sql(
    db,
    `UPDATE goods_return SET settled = @day, settled_how = 'the goods came'
     WHERE settled IS NULL AND awaits = 'replacement'
       AND id IN (SELECT d.goods_return FROM set_aside a JOIN set_aside_decision d ON d.set_aside = a.id WHERE a.order_line IN (SELECT value FROM json_each(@lines)))
       AND NOT EXISTS (SELECT 1 FROM set_aside_decision d JOIN set_aside a ON a.id = d.set_aside JOIN order_line l ON l.id = a.order_line
                       WHERE d.goods_return = goods_return.id AND l.open = 1)`,
  ).run({ day: desk.day, lines: JSON.stringify(lines) });
}

/** What each line's goods come to in home currency, at the order's rate, or the day's where it had none. */
function valuesOf(db: Db, desk: Desk, { head, lines }: CountedLoad): Map<number, number> {
  const { currency: home } = theCompany(db);
  const rate = head.rate ?? rateOn(db, head.currency, home, desk.day);
  const ordered = new Map(lines.map((l) => [l.id, l.quantity]));
  const valued = costLines(lines).map((l) => ({ ...l, ordered: ordered.get(l.id)! }));
  return goodsValue(valued, orderTotals(lines, head.discount, head.currency).discount, rate, home);
}

const isStocked = (db: Db, line: OrderLine): boolean =>
  line.item !== null && sql(db, "SELECT 1 FROM item WHERE id = ? AND kind = 'stocked'").get(line.item) !== undefined;

function takeLine(
  db: Db,
  desk: Desk,
  head: OrderHead,
  line: OrderLine,
  came: TakenIn & { receipt: ReceiptId; entry: number; minor: number; stocked: boolean; lotId: number | null },
): void {
  const inStock = toStock(purchase(came.quantity), factorOf(line.factor));
  const value = lineNet(came.quantity, line.price ?? unitPrice(0), line.standing, line.discount, head.currency).minor;
  const bin = came.stocked ? binOfGoods(db, line, came) : DOCK;
  const receiptLine = sql(
    db,
    "INSERT INTO receipt_line (receipt, order_line, quantity, over, lot, bin, weight, stock_quantity, value, home_value) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
  ).run(
    came.receipt,
    line.id,
    came.quantity,
    came.over,
    came.lotId,
    bin,
    came.weight || null,
    inStock,
    value,
    came.minor,
  ).lastInsertRowid;
  if (!came.wasAside) countIntoSchedule(db, line.id, came.quantity);
  if (!came.stocked) return;
  const { entry } = came;
  takeIn(
    db,
    desk,
    {
      item: line.item!,
      store: line.store,
      bin,
      lot: came.lotId,
      quantity: inStock,
      kind: "receipt",
      receiptLine,
      entry,
    },
    came.minor,
  );
}

/** Where goods of a line lie once they are counted in: where they were put, else on the dock, or at once in their bin. */
function binOfGoods(db: Db, line: OrderLine, came: { bin?: string; lies?: string; lotId: number | null }): string {
  const { store } = line;
  if (came.lies !== undefined) return came.lies;
  if (came.bin) return binOf(db, store, came.bin)!.code;
  if (storeStows(db, store)) return DOCK;
  const ordered = line.bin ? binOf(db, store, line.bin) : null;
  return ordered?.closed === "" ? ordered.code : binFor(db, { item: line.item!, store, lot: came.lotId }).bin;
}
