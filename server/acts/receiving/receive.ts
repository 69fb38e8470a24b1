import type { OrderLineId, ReceiptId, StoreId } from "../../../core/ids";
import { lineNet, unitPrice } from "../../../core/numbers/money";
import { factorOf, purchase, toStock } from "../../../core/numbers/quantity";
import type { OrderState } from "../../../core/orders/status";
import { type ReceivedLine, receiptPostings } from "../../../core/stock/posting";
import { goodsValue, receivedValue } from "../../../core/stock/value";
import { type Db, sql } from "../../db/open";
import { nextNumber } from "../../db/series";
import { rateOn, theCompany } from "../../queries/company";
import { costLines, type OrderHead, type OrderLine, orderTotals } from "../../queries/orders/order";
import type { Desk } from "../desk";
import { countIntoSchedule } from "../orders/keep-schedule";
import { settleOrder } from "../orders/settle-order";
import { settleRequisitionsOf } from "../requisitions/settle-requisitions";
import { openEntry, post } from "../stock/post";
import { takeIn } from "../stock/stock";

export interface CountedLoad {
  head: OrderHead;
  /** All lines of the order as they stood before. */
  lines: readonly OrderLine[];
  /** What came: purchase units, above zero, each line once. */
  came: readonly { line: OrderLineId; quantity: number }[];
  store: StoreId;
  deliveryNote: string;
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
      "INSERT INTO receipt (number, purchase_order, store, day, delivery_note, person, at) VALUES (?, ?, ?, ?, ?, ?, ?)",
    ).run(number, head.id, load.store, desk.day, load.deliveryNote, desk.person.id, desk.now).lastInsertRowid,
  );
  const entry = openEntry(db, desk, "receipt", receipt);
  const worth = valuesOf(db, desk, load);
  const lines = new Map(load.lines.map((l) => [l.id, l]));
  const brought: ReceivedLine[] = [];
  for (const { line: id, quantity } of load.came) {
    const line = lines.get(id)!;
    const minor = receivedValue(worth.get(id) ?? 0, line.quantity, line.received, quantity);
    const stocked = !load.passesBy && isStocked(db, line);
    takeLine(db, desk, head, line, { receipt, entry, quantity, minor, stocked });
    brought.push({ line: id, minor, stocked, account: line.account });
  }
  post(db, entry, receiptPostings(brought));
  const state = settleOrder(db, head.id);
  sql(db, "UPDATE purchase_order SET version = version + 1 WHERE id = ?").run(head.id);
  settleRequisitionsOf(db, head.id);
  return { receipt, number, state };
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
  came: { receipt: ReceiptId; entry: number; quantity: number; minor: number; stocked: boolean },
): void {
  const inStock = toStock(purchase(came.quantity), factorOf(line.factor));
  const value = lineNet(came.quantity, line.price ?? unitPrice(0), line.standing, line.discount, head.currency).minor;
  const receiptLine = sql(
    db,
    "INSERT INTO receipt_line (receipt, order_line, quantity, stock_quantity, value, home_value) VALUES (?, ?, ?, ?, ?, ?)",
  ).run(came.receipt, line.id, came.quantity, inStock, value, came.minor).lastInsertRowid;
  countIntoSchedule(db, line.id, came.quantity);
  if (!came.stocked) return;
  const { entry } = came;
  takeIn(
    db,
    desk,
    { item: line.item!, store: line.store, quantity: inStock, kind: "receipt", receiptLine, entry },
    came.minor,
  );
}
