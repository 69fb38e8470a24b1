import { z } from "zod";
import type { ItemId, OrderLineId, ReceiptId, StoreId } from "../../../core/ids";
import { factorOf, purchase, quantityText, toStock } from "../../../core/numbers/quantity";
import { comesWhole } from "../../../core/numbers/units";
import { type StillThere, undoRefusal } from "../../../core/receiving/undo";
import { pickFrom } from "../../../core/stock/pick";
import { type UndoneLine, undoPostings } from "../../../core/stock/posting";
import { receivedValue, valueUndone } from "../../../core/stock/value";
import { unitWords } from "../../../core/text";
import { type Db, madeId, sql } from "../../db/open";
import { nextNumber } from "../../db/series";
import { type OrderHead, readOrderHead } from "../../queries/orders/order";
import {
  billedOf,
  heldByJobs,
  readUndoLines,
  receiptHead,
  stillThere,
  type UndoLine,
} from "../../queries/receiving/undo";
import { checked, type Desk, type Done, done, once, type Problem, refuse, refuseAll, stale, type Tx } from "../desk";
import { CountedQuantity, Id, QuantityField, text } from "../fields";
import { servedBy, tell, tellFollowers } from "../notices";
import { countOutOfSchedule } from "../orders/keep-schedule";
import { settleOrder } from "../orders/settle-order";
import { settleRequisitionsOf } from "../requisitions/settle-requisitions";
import { judgeInvoicesOf } from "../settling/match-invoice";
import { lyingAt } from "../stock/pick";
import { openEntry, post } from "../stock/post";
import { heldAt, move } from "../stock/stock";
import { settleLetOff } from "./let-off";

export const UndoReceipt = z.object({
  receipt: Id.transform((id) => id as ReceiptId), // checked to be one by the act
  reason: text(300, 3, "Say why it is undone."),
  /** What is undone of which lines, with what was not undone yet as the person saw it; none: all of it. */
  lines: z
    .array(z.object({ line: Id, seen: z.coerce.number().int(), quantity: CountedQuantity }))
    .max(2_000)
    .default([]),
});

interface Undoing {
  /** Its place in what was sent. */
  at: number;
  x: UndoLine;
  quantity: number;
}

/**
 * Undoes a receipt, whole, by line or in part: the goods leave the stock from wherever in the store they lie, with the value
 * with which they came; order, requisitions and the supplier's record turn back. Both papers stay (domain-goods §12).
 */
export function undoReceipt(desk: Desk, raw: unknown): Done<{ number: string; reopened: boolean }> {
  const input = checked(UndoReceipt, raw);
  if (!input.ok) return input;
  const { receipt, reason, lines } = input.value;
  return once(desk, "undo receipts", (tx) => {
    const of = receiptHead(tx.db, receipt);
    if (!of) return refuse("", "There is no such receipt.");
    if (desk.person.store !== null && desk.person.store !== of.store)
      return refuse("", `This was counted in at ${of.storeName}, not at your dock.`);
    const head = readOrderHead(tx.db, of.order)!;
    if (sql(tx.db, "SELECT 1 FROM purchase_order WHERE id = ? AND agreement IS NOT NULL").get(of.order))
      return refuse("", "A use of a supplier’s goods wrote this receipt: take the use back, under Consigned shelves.");
    if (head.closed !== null)
      return refuse(
        "",
        `${head.name} was closed by hand: a lead opens it again first, so that what is undone can come again.`,
      );
    const chosen = chooseLines(readUndoLines(tx.db, receipt), lines);
    if (!chosen.ok) return chosen;
    const whole = lines.length === 0;
    const asides = whole ? asidesOf(tx.db, receipt) : [];
    if (chosen.value.length === 0 && asides.length === 0) return refuse("", "All of it is undone already.");
    const problems = refusals(tx.db, head, chosen.value);
    if (problems.length) return refuseAll(problems);
    const number = nextNumber(tx.db, "undo", desk.day);
    const undo = Number(
      madeId(
        sql(tx.db, "INSERT INTO receipt_undo (number, receipt, day, reason, person, at) VALUES (?, ?, ?, ?, ?, ?)").run(
          number,
          receipt,
          desk.day,
          reason,
          desk.person.id,
          desk.now,
        ),
      ),
    );
    takeBack(tx, desk, { undo, receipt, head, lines: chosen.value });
    dropAsides(tx, desk, asides, reason);
    const turned = [...chosen.value.map((l) => l.x.line), ...asides.map((a) => a.line)];
    turnBack(tx, desk, head, receipt, turned);
    judgeInvoicesOf(tx.db, desk, turned);
    tx.record("receipt.undone", `receipt ${receipt}`, {
      number,
      reason,
      lines: chosen.value.map(({ x, quantity }) => ({ line: x.line, quantity })),
      asides: asides.map((a) => a.id),
    });
    return done({ number, reopened: head.stage === "closed" });
  });
}

/** The lines that are undone, and how much of each. */
function chooseLines(all: readonly UndoLine[], asked: z.output<typeof UndoReceipt>["lines"]): Done<Undoing[]> {
  if (asked.length === 0)
    return done(all.filter((x) => x.undone < x.quantity).map((x, at) => ({ at, x, quantity: x.quantity - x.undone })));
  const problems: Problem[] = [];
  const chosen: Undoing[] = [];
  for (const [i, a] of asked.entries()) {
    const x = all.find((l) => l.id === a.line);
    if (!x) return refuse("", "This line is not on this receipt.");
    if (a.seen !== x.quantity - x.undone) return stale("Somebody else undid a part of this receipt meanwhile.");
    if (a.quantity === 0) continue;
    if (chosen.some((c) => c.x.id === x.id))
      problems.push({ field: `lines.${i}.quantity`, says: "This line stands here twice." });
    else chosen.push({ at: i, x, quantity: a.quantity });
  }
  if (problems.length) return refuseAll(problems);
  return chosen.length ? done(chosen) : refuse("", "Say how much of which line is undone.");
}

/** Why so much of a line may not be taken back: an invoice bills it. Null where none does. */
function takenBackBilled(db: Db, x: UndoLine, quantity: number): string | null {
  const of = billedOf(db, x.line);
  const free = of.taken - of.invoiced;
  if (of.invoiced === 0 || quantity <= free) return null;
  return `${quantityText(of.invoiced)} ${unitWords(of.invoiced, x.unit)} of it are invoiced${of.numbers ? ` (${of.numbers})` : ""}: ${free > 0 ? `${quantityText(free)} can be undone` : "nothing of it can be undone"} until the invoice is taken off.`;
}

/** What stands in the way, each at its line. */
function refusals(db: Db, head: OrderHead, lines: readonly Undoing[]): Problem[] {
  // Two lines may be of one item: what the first takes back is not there for the second.
  const gone = new Map<string, number>();
  const take = (key: string, quantity: number) => gone.set(key, (gone.get(key) ?? 0) + quantity);
  return lines.flatMap(({ at, x, quantity }) => {
    const line = {
      left: x.quantity - x.undone,
      factor: x.factor,
      whole: comesWhole(x.unitCode),
      unit: x.unit,
      stockUnit: x.stockUnit,
    };
    const says =
      x.movement !== null
        ? undoRefusal(less(stillThere(db, x, quantity), gone.get(lotKey(x)), gone.get(String(x.item))), line, quantity)
        : quantity > line.left
          ? `Only ${quantityText(line.left)} of it is not undone yet.`
          : head.kind === "direct" && quantity < line.left
            ? "What went to the job at once is undone whole or not at all."
            : null;
    const billed = takenBackBilled(db, x, quantity + (gone.get(`line ${x.line}`) ?? 0));
    take(`line ${x.line}`, quantity);
    if (billed) return [{ field: `lines.${at}.quantity`, says: lines.length > 1 ? `${x.name}: ${billed}` : billed }];
    take(lotKey(x), stockPart(x, quantity));
    take(String(x.item), stockPart(x, quantity));
    return says === null
      ? []
      : [{ field: `lines.${at}.quantity`, says: lines.length > 1 ? `${x.name}: ${says}` : says }];
  });
}

const lotKey = (x: UndoLine) => `${x.item}/${x.lot}`;
const less = (s: StillThere, ofLot = 0, ofItem = 0): StillThere => ({
  ...s,
  there: Math.max(0, s.there - ofLot),
  onHand: s.onHand - ofItem,
});

/** Goods and value leave, from wherever they lie; the journal turns round. */
function takeBack(
  tx: Tx,
  desk: Desk,
  of: { undo: number; receipt: ReceiptId; head: OrderHead; lines: readonly Undoing[] },
): void {
  const { db } = tx;
  const { entry: reverses } = sql<{ entry: number | null }>(
    db,
    "SELECT max(id) AS entry FROM posting_entry WHERE receipt = ? AND kind = 'receipt'",
  ).get(of.receipt)!;
  const entry = openEntry(db, desk, "undo", of.receipt, reverses);
  const undone: UndoneLine[] = [];
  const add = sql(
    db,
    "INSERT INTO receipt_undo_line (receipt_undo, receipt_line, quantity, stock_quantity, value, home_value) VALUES (?, ?, ?, ?, ?, ?)",
  );
  for (const { x, quantity } of of.lines) {
    const inStock = stockPart(x, quantity);
    const minor = receivedValue(x.homeValue, x.quantity, x.undone, quantity);
    const value = receivedValue(x.value, x.quantity, x.undone, quantity);
    const stocked = x.movement !== null;
    const out = stocked ? leaveStock(db, desk, x, { entry, quantity: inStock, value: minor }) : minor;
    undone.push({ line: x.line, minor, stocked, account: x.account, out });
    add.run(of.undo, x.id, quantity, inStock, value, minor);
    countOutOfSchedule(db, x.line, quantity);
    if (of.head.kind === "direct") issueAgain(db, x.line);
  }
  post(db, entry, undoPostings(undone));
}

/** Stock units of a part, so that all parts come to the whole. */
const stockPart = (x: UndoLine, quantity: number): number =>
  toStock(purchase(x.undone + quantity), factorOf(x.factor)) - toStock(purchase(x.undone), factorOf(x.factor));

/** The same lot goes out, bin by bin; the value with which it came goes with it. Returns what of it the stock gave. */
function leaveStock(db: Db, desk: Desk, x: UndoLine, of: { entry: number; quantity: number; value: number }): number {
  const lying = lyingAt(db, x.item!, x.store, desk.day).filter((l) => l.lot === x.lot);
  const held = heldAt(db, x.item!, x.store);
  const { out } = valueUndone(held, of.quantity, of.value);
  let left = of.quantity;
  let given = 0;
  for (const p of pickFrom(lying, of.quantity, "any")!) {
    left -= p.quantity;
    // The last bin gives what is left of the value, so that it comes to the whole.
    const value =
      left === 0 ? out - given : receivedValue(out, of.quantity, of.quantity - left - p.quantity, p.quantity);
    given += value;
    move(
      db,
      desk,
      {
        item: x.item!,
        store: x.store,
        bin: p.bin,
        lot: p.lot,
        quantity: p.quantity,
        kind: "undo",
        entry: of.entry,
        receiptLine: x.id,
        reverses: x.movement!,
      },
      -p.quantity,
      -value,
    );
  }
  return out;
}

/** What a direct delivery gave a job, it did not get. */
function issueAgain(db: Db, line: OrderLineId): void {
  sql(
    db,
    `UPDATE job_demand SET issued = max(0, issued - (SELECT coalesce(sum(t.quantity), 0) FROM need_tie t WHERE t.order_line = @line AND t.job_demand = job_demand.id))
     WHERE id IN (SELECT job_demand FROM need_tie WHERE order_line = @line AND job_demand IS NOT NULL)`,
  ).run({ line });
}

interface OpenAside {
  id: number;
  line: OrderLineId;
  ordered: number;
  undecided: number;
}
const asidesOf = (db: Db, receipt: ReceiptId): OpenAside[] =>
  sql<OpenAside>(
    db,
    "SELECT id, order_line AS line, ordered, undecided FROM set_aside WHERE receipt = ? AND undecided > 0",
  ).all(receipt);

/** What was set aside with the count and is undecided was not counted either. */
function dropAsides(tx: Tx, desk: Desk, asides: readonly OpenAside[], reason: string): void {
  const decide = sql(
    tx.db,
    "INSERT INTO set_aside_decision (set_aside, what, quantity, reason, person, at) VALUES (?, 'not counted', ?, ?, ?, ?)",
  );
  for (const a of asides) {
    decide.run(a.id, a.undecided, reason, desk.person.id, desk.now);
    if (a.ordered) countOutOfSchedule(tx.db, a.line, a.undecided);
  }
}

/** Order, requisitions and returns stand as before; whoever waited is told. */
function turnBack(tx: Tx, desk: Desk, head: OrderHead, receipt: ReceiptId, lines: OrderLineId[]): void {
  settleLetOff(tx.db, [...new Set(lines)]);
  settleOrder(tx.db, head.id);
  sql(tx.db, "UPDATE purchase_order SET version = version + 1 WHERE id = ?").run(head.id);
  settleRequisitionsOf(tx.db, head.id);
  for (const s of servedBy(tx.db, head.id))
    tellFollowers(
      tx.db,
      desk.now,
      s.requisition,
      `Not in after all: ${s.what}`,
      `what was counted in of order ${head.number} was undone`,
    );
  if (head.writer !== desk.person.id)
    tell(tx.db, desk.now, head.writer, `Undone: a receipt of ${head.name}`, head.supplierName, `/receipts/${receipt}`);
}

export const FreeHeld = z.object({
  receipt: Id.transform((id) => id as ReceiptId), // checked to be one by the act
  line: Id,
  demand: Id,
  quantity: QuantityField,
});

/** Frees goods that a job holds: what it waited for is open again, so that a receipt can be undone. */
export function freeHeld(desk: Desk, raw: unknown): Done<{ freed: number }> {
  const input = checked(FreeHeld, raw);
  if (!input.ok) return input;
  const { receipt, line, demand, quantity } = input.value;
  return once(desk, "undo receipts", (tx) => {
    const x = readUndoLines(tx.db, receipt).find((l) => l.id === line);
    if (!x || x.item === null) return refuse("", "This line is not on this receipt.");
    if (desk.person.store !== null && desk.person.store !== x.store)
      return refuse("", "This was not counted in at your dock.");
    const held = heldByJobs(tx.db, x.item, x.store, null).find((h) => h.demand === demand);
    if (!held) return stale("The job holds nothing of it any more.");
    if (quantity > held.quantity)
      return refuse("quantity", `${held.name} holds only ${quantityText(held.quantity)} ${x.stockUnit} of it.`);
    untie(tx.db, x.item, x.store, demand, quantity);
    tx.record("held.freed", `job ${held.job}`, { demand, item: x.item, quantity, receipt });
    return done({ freed: quantity });
  });
}

/** So much of what came for a demand is not for it any more, what came last first. Stock units. */
function untie(db: Db, item: ItemId, store: StoreId, demand: number, quantity: number): void {
  const ties = sql<{ at: number; quantity: number }>(
    db,
    `SELECT t.rowid AS at, t.quantity FROM need_tie t JOIN order_line l ON l.id = t.order_line
     WHERE t.job_demand = @demand AND l.item = @item AND l.store = @store AND l.received > 0 ORDER BY l.id DESC, t.rowid DESC`,
  ).all({ demand, item, store });
  let left = quantity;
  for (const t of ties) {
    const part = Math.min(left, t.quantity);
    if (part > 0)
      sql(db, "UPDATE need_tie SET quantity = quantity - @part, wanted = wanted - @part WHERE rowid = @at").run({
        part,
        at: t.at,
      });
    left -= part;
  }
}
