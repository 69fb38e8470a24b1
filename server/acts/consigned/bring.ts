import type { Day } from "../../../core/calendar/day";
import type { LayerPart } from "../../../core/consigned/layers";
import type { UsedAs } from "../../../core/consigned/use";
import type { BudgetId, ItemId, JobId, OrderId, StoreId } from "../../../core/ids";
import { exchanged, lineNet, money, type UnitPrice } from "../../../core/numbers/money";
import { ONE, purchase } from "../../../core/numbers/quantity";
import type { Picked } from "../../../core/stock/pick";
import { receivedValue } from "../../../core/stock/value";
import { type Db, madeId, sql } from "../../db/open";
import { nextNumber } from "../../db/series";
import { theCompany } from "../../queries/company";
import type { AgreementHead } from "../../queries/consigned/agreement";
import { documentOf } from "../../queries/orders/document";
import { type OrderHead, type OrderLine, readOrder, readOrderHead, readOrderLines } from "../../queries/orders/order";
import type { Desk } from "../desk";
import { insertLine } from "../orders/add-lines";
import { bindRevision } from "../orders/bind-revision";
import { keepTaxes, keepTotals } from "../orders/price-order";
import { settleOrder } from "../orders/settle-order";
import { receive } from "../receiving/receive";
import { move } from "../stock/stock";

/** Goods of a supplier that become ours: all of one item and lot, from which layers and bins. Stock units. */
export interface TheirGoods {
  agreementItem: number;
  item: ItemId;
  name: string;
  unit: string;
  lot: number | null;
  quantity: number;
  /** Per stock unit, as agreed for the day. */
  price: UnitPrice;
  taken: readonly LayerPart[];
  from: readonly Picked[];
}

export interface Bringing {
  agreement: AgreementHead;
  what: Exclude<UsedAs, "taken back">;
  job: JobId | null;
  paper: number | null;
  note: string;
  rows: readonly TheirGoods[];
}

/** What became of one row: the use that was written, and what the goods came in for, home currency. */
export interface NowOurs {
  use: number;
  row: TheirGoods;
  value: number;
}

/**
 * Goods of a supplier become ours: an order at the agreement's price of the day, its receipt, their stock less and ours more,
 * in the bins where they lie (domain-goods §13). What is done with them then (issued, written off, kept) is the caller's.
 * One order for all rows, one line, receipt line and use for each. Call inside the act's transaction.
 */
export function bringTheirs(db: Db, desk: Desk, of: Bringing): { order: OrderId; number: string; ours: NowOurs[] } {
  const { agreement } = of;
  const { head, lines } = writeOrder(db, desk, of);
  const uses = of.rows.map((row, i) => keepUse(db, desk, of, row, lines[i]!, head));
  of.rows.forEach((row, i) => {
    for (const p of row.from)
      move(
        db,
        desk,
        {
          item: row.item,
          store: agreement.store,
          bin: p.bin,
          lot: row.lot,
          owner: agreement.supplier,
          quantity: p.quantity,
          kind: "consigned",
        },
        -p.quantity,
        0,
      );
    takeLayers(db, desk.day, row.taken, { what: of.what, used: uses[i]!, paper: of.paper });
  });
  const codes = lotCodes(db, of.rows);
  receive(db, desk, {
    head,
    lines,
    store: agreement.store,
    deliveryNote: "",
    passesBy: false,
    came: of.rows.flatMap((row, i) =>
      row.from.map((p) => ({
        line: lines[i]!.id,
        quantity: p.quantity,
        over: 0,
        lot: row.lot === null ? null : codes.get(row.lot)!,
        lies: p.bin,
      })),
    ),
  });
  const value = sql<{ n: number }>(db, "SELECT sum(home_value) AS n FROM receipt_line WHERE order_line = ?");
  return {
    order: head.id,
    number: head.number!,
    ours: of.rows.map((row, i) => ({ use: uses[i]!, row, value: value.get(lines[i]!.id)!.n })),
  };
}

/** The order that a use writes by itself: placed, and in its own series. */
function writeOrder(db: Db, desk: Desk, of: Bringing): { head: OrderHead; lines: OrderLine[] } {
  const { agreement } = of;
  const order = madeId<"order">(
    sql(
      db,
      `INSERT INTO purchase_order (number, supplier, store, currency, writer, required, written, submitted, cleared, agreement)
       VALUES (@number, @supplier, @store, @currency, @writer, @day, @now, @now, @now, @agreement)`,
    ).run({
      number: nextNumber(db, "use order", desk.day),
      supplier: agreement.supplier,
      store: agreement.store,
      currency: agreement.currency,
      writer: desk.person.id,
      day: desk.day,
      now: desk.now,
      agreement: agreement.id,
    }),
  );
  const head = readOrderHead(db, order)!;
  const budget = of.job === null ? null : budgetOf(db, of.job);
  of.rows.forEach((row, i) => {
    insertLine(
      db,
      head,
      {
        kind: "stocked",
        item: row.item,
        sourcing: null,
        words: row.name,
        theirCode: "",
        unit: row.unit,
        factor: ONE,
        quantity: purchase(row.quantity),
        price: row.price,
        typed: true,
        standing: 0,
        discount: 0,
        required: desk.day,
        note: "",
        blanketLine: null,
        budget,
      },
      i + 1,
    );
  });
  if (of.job !== null) sql(db, "UPDATE order_line SET job = ? WHERE purchase_order = ?").run(of.job, order);
  keepTotals(db, head, readOrderLines(db, order, head.currency), desk.day);
  keepTaxes(db, head);
  // It lies here already: nobody carries it.
  sql(db, "UPDATE purchase_order SET freight = 0, home_freight = 0, placed = ? WHERE id = ?").run(desk.now, order);
  const sheet = readOrder(db, order)!;
  bindRevision(db, desk, order, documentOf(db, sheet, desk.day, []));
  settleOrder(db, order, "placed");
  return { head: sheet.head, lines: sheet.lines };
}

const budgetOf = (db: Db, job: JobId): BudgetId | null =>
  sql<{ budget: BudgetId | null }>(db, "SELECT budget FROM job WHERE id = ?").get(job)?.budget ?? null;

function keepUse(db: Db, desk: Desk, of: Bringing, row: TheirGoods, line: OrderLine, head: OrderHead): number {
  const net = lineNet(row.quantity, row.price, 0, 0, head.currency).minor;
  return Number(
    madeId(
      sql(
        db,
        `INSERT INTO consigned_use (agreement_item, day, what, job, order_line, quantity, price, net, home_net, tax_rate, paper, note, person, at)
         VALUES (@agreementItem, @day, @what, @job, @line, @quantity, @price, @net, @homeNet, @taxRate, @paper, @note, @person, @at)`,
      ).run({
        agreementItem: row.agreementItem,
        day: desk.day,
        what: of.what,
        job: of.job,
        line: line.id,
        quantity: row.quantity,
        price: row.price,
        net,
        homeNet: exchanged(money(net, head.currency), head.rate ?? 0, theCompany(db).currency).minor,
        taxRate: line.taxRate,
        paper: of.paper,
        note: of.note,
        person: desk.person.id,
        at: desk.now,
      }),
    ),
  );
}

/** Takes so much of each layer. */
export function takeLayers(
  db: Db,
  day: Day,
  taken: readonly LayerPart[],
  of: { what: string; used?: number; paper?: number | null },
): void {
  const take = sql(
    db,
    "INSERT INTO consigned_take (layer, what, quantity, used, paper, day) VALUES (?, ?, ?, ?, ?, ?)",
  );
  for (const t of taken) take.run(t.layer, of.what, t.quantity, of.used ?? null, of.paper ?? null, day);
}

const lotCodes = (db: Db, rows: readonly TheirGoods[]) =>
  new Map(
    sql<{ id: number; code: string; expires: Day | null }>(
      db,
      "SELECT id, code, expires FROM lot WHERE id IN (SELECT value FROM json_each(?))",
    )
      .all(JSON.stringify(rows.flatMap((r) => r.lot ?? [])))
      .map((l) => [l.id, { code: l.code, expires: l.expires }]),
  );

/**
 * What became ours leaves at once, at what it came in for, bin by bin: our mean cost is as it was. Returns the value that
 * went, below zero.
 */
export function leaveAtOnce(
  db: Db,
  desk: Desk,
  { row, value }: NowOurs,
  of: { store: StoreId; job?: JobId | null; paper: number | null; entry: number; kind: "issue" | "write-off" },
): number {
  let left = row.quantity;
  let gone = 0;
  for (const p of row.from) {
    left -= p.quantity;
    const worth =
      left === 0 ? value - gone : receivedValue(value, row.quantity, row.quantity - left - p.quantity, p.quantity);
    gone += worth;
    move(
      db,
      desk,
      {
        item: row.item,
        store: of.store,
        bin: p.bin,
        lot: row.lot,
        quantity: p.quantity,
        kind: of.kind,
        entry: of.entry,
        ...(of.paper === null ? {} : { paper: of.paper }),
        ...(of.job == null ? {} : { job: of.job }),
      },
      -p.quantity,
      -worth,
    );
  }
  return -value;
}
