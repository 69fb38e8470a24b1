import { z } from "zod";
import { giveBackParts, type LayerPart } from "../../../core/consigned/layers";
import type { UsedAs } from "../../../core/consigned/use";
import type { ItemId, JobId, OrderId, OrderLineId, ReceiptId, StoreId } from "../../../core/ids";
import { showDay } from "../../../core/numbers/format";
import { quantityText } from "../../../core/numbers/quantity";
import { stockPostings, undoPostings } from "../../../core/stock/posting";
import { receivedValue } from "../../../core/stock/value";
import { type Db, madeId, sql } from "../../db/open";
import { nextNumber } from "../../db/series";
import { type AgreementHead, boundItem } from "../../queries/consigned/agreement";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { Id, QuantityField, text } from "../fields";
import { wantAgain } from "../jobs/demand";
import { closeSchedule, countOutOfSchedule } from "../orders/keep-schedule";
import { settleOrder } from "../orders/settle-order";
import { BinField, ownStore } from "../stock/bins";
import { openEntry, post } from "../stock/post";
import { move } from "../stock/stock";
import { openStockPaper, stockedItem } from "../stock/stock-paper";
import { takeLayers } from "./bring";
import { ripenTheirs } from "./ripen";
import { binForTheirs } from "./their-bins";

/** A use that may be taken back, and how much of it was not yet. Stock units; money of the agreement and of home. */
export interface OpenUse {
  id: number;
  agreementItem: number;
  what: UsedAs;
  job: JobId | null;
  day: string;
  orderLine: OrderLineId;
  quantity: number;
  left: number;
  price: number;
  net: number;
  homeNet: number;
  taxRate: number;
  lot: number | null;
  receiptLine: number;
  receipt: ReceiptId;
  order: OrderId;
}

const USES = `
  SELECT u.id, u.agreement_item AS agreementItem, u.what, u.job, u.day, u.order_line AS orderLine, u.quantity,
         u.quantity + coalesce((SELECT sum(b.quantity) FROM consigned_use b WHERE b.reverses = u.id), 0) AS "left",
         u.price, u.net, u.home_net AS homeNet, u.tax_rate AS taxRate, x.lot, x.id AS receiptLine, x.receipt, l.purchase_order AS "order"
  FROM consigned_use u JOIN order_line l ON l.id = u.order_line JOIN receipt_line x ON x.order_line = l.id`;

export const readUse = (db: Db, id: number): OpenUse | null =>
  sql<OpenUse>(db, `${USES} WHERE u.id = ? AND u.reverses IS NULL ORDER BY x.id LIMIT 1`).get(id) ?? null;

/** What a job used of an item and lot of suppliers' in a store and did not give back, the last first. */
export const usesOfJob = (db: Db, of: { job: JobId; item: ItemId; store: StoreId; lot: number | null }): OpenUse[] =>
  sql<OpenUse>(
    db,
    `${USES} JOIN agreement_item y ON y.id = u.agreement_item JOIN agreement a ON a.id = y.agreement
     WHERE u.job = @job AND y.item = @item AND a.store = @store AND x.lot IS @lot AND u.what = 'used' AND u.reverses IS NULL ORDER BY u.id DESC`,
  )
    .all(of)
    .filter((u) => u.left > 0);

/** What of each layer a use took and did not give back, in the order in which it took. */
const takenBy = (db: Db, use: number): LayerPart[] =>
  sql<LayerPart>(
    db,
    `SELECT t.layer, y.lot, sum(t.quantity) AS quantity FROM consigned_take t JOIN consigned_layer y ON y.id = t.layer
     WHERE t.used = @use OR t.used IN (SELECT id FROM consigned_use WHERE reverses = @use) GROUP BY t.layer HAVING sum(t.quantity) > 0 ORDER BY min(t.id)`,
  ).all({ use });

/**
 * Takes so much of a use back: the job gives the goods back, the receipt is undone, the order closes that much short, and they
 * are the supplier's again, as old as they were. Every value leaves as it came. Call inside the act's transaction.
 */
export function giveBackToThem(
  db: Db,
  desk: Desk,
  of: {
    use: OpenUse;
    agreement: AgreementHead;
    item: ItemId;
    quantity: number;
    bin: string;
    paper: number;
    reason: string;
  },
): void {
  const { use, agreement, item, quantity, bin, paper } = of;
  const before = use.quantity - use.left;
  const value = receivedValue(use.homeNet, use.quantity, before, quantity);
  const net = receivedValue(use.net, use.quantity, before, quantity);
  const at = { item, store: agreement.store, lot: use.lot, bin, quantity };
  // Off the job, or found again: ours for a moment.
  const lost = use.what === "lost";
  const back = openEntry(db, desk, lost ? "count" : "issue");
  const { job } = use;
  move(
    db,
    desk,
    { ...at, kind: lost ? "write-off" : "issue", entry: back, paper, ...(job === null ? {} : { job }) },
    quantity,
    value,
  );
  post(db, back, stockPostings(value, lost ? "stock difference" : "used"));
  // Not received after all.
  const undo = Number(
    madeId(
      sql(db, "INSERT INTO receipt_undo (number, receipt, day, reason, person, at) VALUES (?, ?, ?, ?, ?, ?)").run(
        nextNumber(db, "undo", desk.day),
        use.receipt,
        desk.day,
        of.reason,
        desk.person.id,
        desk.now,
      ),
    ),
  );
  const entry = openEntry(db, desk, "undo", use.receipt, entryOf(db, use.receipt));
  const reverses = sql<{ id: number }>(
    db,
    "SELECT id FROM movement WHERE receipt_line = ? AND kind = 'receipt' ORDER BY id LIMIT 1",
  ).get(use.receiptLine)!.id;
  move(db, desk, { ...at, kind: "undo", entry, receiptLine: use.receiptLine, reverses }, -quantity, -value);
  sql(
    db,
    "INSERT INTO receipt_undo_line (receipt_undo, receipt_line, quantity, stock_quantity, value, home_value) VALUES (?, ?, ?, ?, ?, ?)",
  ).run(undo, use.receiptLine, quantity, quantity, net, value);
  post(db, entry, undoPostings([{ line: use.orderLine, minor: value, stocked: true, account: null, out: value }]));
  countOutOfSchedule(db, use.orderLine, quantity);
  closeSchedule(db, use.orderLine);
  settleUseOrder(db, desk, use.order, of.reason);
  // Theirs again.
  const used = Number(
    madeId(
      sql(
        db,
        `INSERT INTO consigned_use (agreement_item, day, what, job, order_line, quantity, price, net, home_net, tax_rate, reverses, paper, note, person, at)
         VALUES (@item, @day, 'taken back', @job, @line, @quantity, @price, @net, @homeNet, @taxRate, @reverses, @paper, @note, @person, @at)`,
      ).run({
        item: use.agreementItem,
        day: desk.day,
        job,
        line: use.orderLine,
        quantity: -quantity,
        price: use.price,
        net: -net,
        homeNet: -value,
        taxRate: use.taxRate,
        reverses: use.id,
        paper,
        note: of.reason,
        person: desk.person.id,
        at: desk.now,
      }),
    ),
  );
  move(db, desk, { ...at, owner: agreement.supplier, kind: "consigned" }, quantity, 0);
  const layers = giveBackParts(takenBy(db, use.id), quantity).map((t) => ({ ...t, quantity: -t.quantity }));
  takeLayers(db, desk.day, layers, { what: "taken back", used, paper });
  if (job !== null) wantAgain(db, job, item, agreement.store, quantity);
}

/** Takes so much of a job's uses back, the last first. Inside the act's transaction. */
export function giveUsesBack(
  db: Db,
  desk: Desk,
  uses: readonly OpenUse[],
  of: { quantity: number; bin: string; paper: number; reason: string },
): Done<null> {
  let rest = of.quantity;
  for (const use of uses) {
    const part = Math.min(rest, use.left);
    if (part <= 0) break;
    const { agreement, item } = boundItem(db, use.agreementItem)!;
    const bin = binForTheirs(db, agreement, { item, lot: use.lot }, of.bin, "bin");
    if (!bin.ok) return bin;
    giveBackToThem(db, desk, { ...of, use, agreement, item, quantity: part, bin: bin.value });
    rest -= part;
  }
  return done(null);
}

/** An order of which everything was taken back is closed short: nobody waits for it. */
function settleUseOrder(db: Db, desk: Desk, order: OrderId, reason: string): void {
  const { live } = sql<{ live: number }>(
    db,
    "SELECT count(*) AS live FROM order_line WHERE purchase_order = ? AND quantity > closed_short",
  ).get(order)!;
  sql(db, "UPDATE purchase_order SET version = version + 1 WHERE id = ?").run(order);
  if (live > 0) {
    settleOrder(db, order);
    return;
  }
  sql(db, "UPDATE purchase_order SET closed = ?, closed_why = ? WHERE id = ?").run(desk.now, reason, order);
  settleOrder(db, order, "closed");
}

const entryOf = (db: Db, receipt: ReceiptId): number | null =>
  sql<{ entry: number | null }>(
    db,
    "SELECT max(id) AS entry FROM posting_entry WHERE receipt = ? AND kind = 'receipt'",
  ).get(receipt)?.entry ?? null;

export const TakeBackUse = z.object({
  use: Id,
  quantity: QuantityField,
  /** Where it is put; empty: where their goods of the item go. */
  bin: BinField,
  reason: text(300, 3, "Say why it is taken back."),
});

/** Takes a use back, whole or in part, with its order, receipt, issue and what the job wanted. */
export function takeBackUse(desk: Desk, raw: unknown): Done<{ number: string }> {
  const input = checked(TakeBackUse, raw);
  if (!input.ok) return input;
  const { quantity, reason } = input.value;
  ripenTheirs(desk);
  return once(desk, "move stock", (tx) => {
    const use = readUse(tx.db, input.value.use);
    const bound = use && boundItem(tx.db, use.agreementItem);
    if (!use || !bound) return refuse("", "There is no such use.");
    const { agreement } = bound;
    const own = ownStore(desk, tx.db, agreement.store);
    if (!own.ok) return own;
    if (use.what !== "used" && use.what !== "lost")
      return refuse("", "What became ours by its age, or was bought, stays ours.");
    if (desk.day < use.day)
      return refuse("", `It was used on ${showDay(use.day, desk.day)}: the day of this house is set back before that.`);
    const item = stockedItem(tx.db, bound.item)!;
    if (quantity > use.left)
      return refuse(
        "quantity",
        use.left > 0
          ? `Only ${quantityText(use.left)} ${item.unit} of it are not taken back yet.`
          : "All of it is taken back already.",
      );
    const bin = binForTheirs(tx.db, agreement, { item: bound.item, lot: use.lot }, input.value.bin, "bin");
    if (!bin.ok) return bin;
    const { paper, number } = openStockPaper(tx.db, desk, {
      kind: use.what === "lost" ? "theirs found" : "from job",
      store: agreement.store,
      job: use.job,
      reason,
      supplier: agreement.supplier,
    });
    giveBackToThem(tx.db, desk, { use, agreement, item: bound.item, quantity, bin: bin.value, paper, reason });
    tx.record("use.taken-back", `agreement ${agreement.id}`, { number, use: use.id, quantity, reason });
    return done({ number });
  });
}
