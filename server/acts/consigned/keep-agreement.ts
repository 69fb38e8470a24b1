import { z } from "zod";
import { addDays, type Day } from "../../../core/calendar/day";
import { BEARS, FIRST, PLACES, SETTLES } from "../../../core/consigned/agreement";
import type { ItemId, StoreId, SupplierId } from "../../../core/ids";
import { parsePrice, type UnitPrice } from "../../../core/numbers/money";
import { naturally } from "../../../core/stock/bins";
import { type Db, madeId, sql } from "../../db/open";
import { type AgreementHead, readAgreementHead } from "../../queries/consigned/agreement";
import { checked, type Desk, type Done, done, once, type Problem, refuse, refuseAll, stale } from "../desk";
import { CountedQuantity, DayField, Id, orNone, QuantityField, text, Version, Whole } from "../fields";
import { stockedItem } from "../stock/stock-paper";

export const StartAgreement = z.object({ supplier: Id, store: Id });

/** Begins an agreement with a supplier about their goods in a store: a draft for a year from today. */
export function startAgreement(desk: Desk, raw: unknown): Done<{ agreement: number }> {
  const input = checked(StartAgreement, raw);
  if (!input.ok) return input;
  const { supplier, store } = input.value;
  return once(desk, "write orders", (tx) => {
    const of = sql<{ name: string; currency: string; blocked: string }>(
      tx.db,
      "SELECT name, currency, blocked FROM supplier WHERE id = ? AND active = 1",
    ).get(supplier);
    if (!of) return refuse("supplier", "Choose a supplier.");
    if (of.blocked) return refuse("supplier", `${of.name} is blocked: ${of.blocked}.`);
    if (!sql(tx.db, "SELECT 1 FROM store WHERE id = ?").get(store)) return refuse("store", "Choose a store.");
    const agreement = newDraft(tx.db, desk, { supplier, store, currency: of.currency });
    tx.record("agreement.begun", `agreement ${agreement}`, { supplier, store });
    return done({ agreement });
  });
}

const newDraft = (
  db: Db,
  desk: Desk,
  of: { supplier: SupplierId; store: StoreId; currency: string; changes?: number },
): number =>
  Number(
    madeId(
      sql(
        db,
        "INSERT INTO agreement (supplier, store, currency, changes, writer, starts, ends, written) VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
      ).run(
        of.supplier,
        of.store,
        of.currency,
        of.changes ?? null,
        desk.person.id,
        desk.day,
        addDays(desk.day, 364),
        desk.now,
      ),
    ),
  );

/** "0.18" or "0.18, from 2027-01-01 0.19": a price, and others with the day from which they hold. */
const PriceRow = z.object({ day: orNone(DayField).default(null), price: z.string().max(40, "At most 40 characters.") });

const ItemRow = z.object({
  item: Id,
  least: CountedQuantity,
  most: QuantityField,
  pack: QuantityField,
  refillDays: Whole(0, 365),
  prices: z.array(PriceRow).min(1, "Type a price.").max(60, "At most 60 prices."),
});

export const KeepAgreement = z.object({
  agreement: Id,
  version: Version,
  starts: DayField,
  ends: DayField,
  /** Days until it becomes ours; empty: at use alone. */
  oursAfter: orNone(Whole(1, 3650)).default(null),
  first: z.enum(FIRST, "Say whose goods are used first."),
  settles: z.enum(SETTLES, "Say how often it is settled."),
  bears: z.enum(BEARS, "Say who bears what is lost."),
  place: z.enum(PLACES, "There is no such choice.").default(""),
  binsFrom: text(20).default(""),
  binsTo: text(20).default(""),
  note: text(2_000).default(""),
  items: z.array(ItemRow).max(500, "At most 500 items."),
});
type Kept = z.output<typeof KeepAgreement>;

/** A draft in the version that the person saw. */
function draftOf(db: Db, id: number, version: number): Done<AgreementHead> {
  const head = readAgreementHead(db, id);
  if (!head) return refuse("", "There is no such agreement.");
  if (head.state !== "Draft")
    return refuse("", `${head.name} is ${head.state.toLowerCase()}: only a draft is written on.`);
  if (head.version !== version) return stale(`${head.name} was changed by somebody else meanwhile.`);
  return done(head);
}

/** Keeps a draft as it is typed: its terms, and its items with what they cost from which day. */
export function keepAgreement(desk: Desk, raw: unknown): Done<{ version: number }> {
  const input = checked(KeepAgreement, raw);
  if (!input.ok) return input;
  const v = input.value;
  return once(desk, "write orders", (tx) => {
    const draft = draftOf(tx.db, v.agreement, v.version);
    if (!draft.ok) return draft;
    const problems = wrongTerms(v);
    const rows = v.items.map((r, i) => pricedRow(tx.db, v, r, i, problems));
    v.items.forEach((r, i) => {
      if (v.items.findIndex((x) => x.item === r.item) !== i)
        problems.push({ field: `items.${i}.item`, says: "This item stands here twice." });
    });
    if (problems.length) return refuseAll(problems);
    sql(
      tx.db,
      `UPDATE agreement SET starts = @starts, ends = @ends, ours_after = @oursAfter, first = @first, settles = @settles, bears = @bears, place = @place,
         bins_from = @binsFrom, bins_to = @binsTo, note = @note, version = version + 1 WHERE id = @agreement`,
    ).run({
      agreement: v.agreement,
      starts: v.starts,
      ends: v.ends,
      oursAfter: v.oursAfter,
      first: v.first,
      settles: v.settles,
      bears: v.bears,
      place: v.place,
      binsFrom: v.place === "bins" ? v.binsFrom : "",
      binsTo: v.place === "bins" ? v.binsTo : "",
      note: v.note,
    });
    sql(tx.db, "DELETE FROM agreement_item WHERE agreement = ?").run(v.agreement);
    writeItems(tx.db, v.agreement, rows);
    tx.record("agreement.kept", `agreement ${v.agreement}`, { ...v, items: v.items.length });
    return done({ version: v.version + 1 });
  });
}

function wrongTerms(v: Kept): Problem[] {
  const problems: Problem[] = [];
  if (v.ends < v.starts) problems.push({ field: "ends", says: "It ends before it begins." });
  if (v.place === "bins" && v.binsFrom === "") problems.push({ field: "binsFrom", says: "Say from which bin." });
  if (v.place === "bins" && v.binsTo !== "" && naturally(v.binsFrom, v.binsTo) > 0)
    problems.push({ field: "binsTo", says: "This bin comes before the first." });
  return problems;
}

export interface WrittenItem {
  item: ItemId;
  least: number;
  most: number;
  pack: number;
  refillDays: number;
  prices: { day: Day; price: UnitPrice }[];
}

/** A row with its prices; what is wrong with it goes to `problems`. The first price holds from the first day on. */
function pricedRow(db: Db, v: Kept, r: Kept["items"][number], i: number, problems: Problem[]): WrittenItem {
  const no = (field: string, says: string) => problems.push({ field: `items.${i}.${field}`, says });
  if (!stockedItem(db, r.item)) no("item", "Choose an item of which stock is kept.");
  if (r.most < r.least) no("most", "The most is less than the least.");
  const prices: WrittenItem["prices"] = [];
  r.prices.forEach((p, n) => {
    const price = parsePrice(p.price);
    const day = p.day ?? v.starts;
    if (!price.ok) no(`prices.${n}.price`, price.says);
    else if (prices.some((x) => x.day === day)) no(`prices.${n}.day`, "Two prices begin on this day.");
    else if (day > v.ends) no(`prices.${n}.day`, "This is after the last day.");
    else prices.push({ day, price: price.value });
  });
  return { item: r.item, least: r.least, most: r.most, pack: r.pack, refillDays: r.refillDays, prices };
}

/** Writes items with their prices into an agreement that has none of them. */
export function writeItems(db: Db, agreement: number, rows: readonly WrittenItem[]): void {
  const add = sql(
    db,
    "INSERT INTO agreement_item (agreement, item, least, most, pack, refill_days) VALUES (?, ?, ?, ?, ?, ?)",
  );
  const price = sql(db, "INSERT INTO agreement_price (agreement_item, day, price) VALUES (?, ?, ?)");
  for (const r of rows) {
    const id = add.run(agreement, r.item, r.least, r.most, r.pack, r.refillDays).lastInsertRowid;
    for (const p of r.prices) price.run(id, p.day, p.price);
  }
}

const Which = z.object({ agreement: Id, version: Version });

/** Throws a draft away that was never handed in. */
export function dropAgreement(desk: Desk, raw: unknown): Done<{ dropped: true }> {
  const input = checked(Which, raw);
  if (!input.ok) return input;
  return once(desk, "write orders", (tx) => {
    const draft = draftOf(tx.db, input.value.agreement, input.value.version);
    if (!draft.ok) return draft;
    if (draft.value.number !== null)
      return refuse("", "It was handed in before, and stays. Change it, or hand it in again.");
    sql(tx.db, "DELETE FROM agreement WHERE id = ?").run(input.value.agreement);
    tx.record("agreement.dropped", `agreement ${input.value.agreement}`, { supplier: draft.value.supplier });
    return done({ dropped: true });
  });
}

/** Begins the next version of a running agreement: a draft that holds what holds now. One at a time. */
export function changeAgreement(desk: Desk, raw: unknown): Done<{ agreement: number }> {
  const input = checked(z.object({ agreement: Id }), raw);
  if (!input.ok) return input;
  return once(desk, "write orders", (tx) => {
    const now = readAgreementHead(tx.db, input.value.agreement);
    if (now?.state !== "Running") return refuse("", "Only an agreement that runs is changed.");
    const other = sql<{ id: number }>(
      tx.db,
      "SELECT id FROM agreement WHERE changes = ? AND state IN ('Draft', 'In sign-off')",
    ).get(now.id);
    if (other) return refuse("", `A change of it is being written already: Draft ${other.id}.`);
    const draft = newDraft(tx.db, desk, { ...now, changes: now.id });
    sql(
      tx.db,
      `UPDATE agreement SET (starts, ends, ours_after, first, settles, bears, place, bins_from, bins_to, note) =
         (SELECT starts, ends, ours_after, first, settles, bears, place, bins_from, bins_to, note FROM agreement WHERE id = @from) WHERE id = @to`,
    ).run({ from: now.id, to: draft });
    copyItems(tx.db, now.id, draft);
    tx.record("agreement.change-begun", `agreement ${now.id}`, { draft });
    return done({ agreement: draft });
  });
}

function copyItems(db: Db, from: number, to: number): void {
  sql(
    db,
    `INSERT INTO agreement_item (agreement, item, least, most, pack, refill_days)
     SELECT @to, item, least, most, pack, refill_days FROM agreement_item WHERE agreement = @from AND gone = 0`,
  ).run({ from, to });
  sql(
    db,
    `INSERT INTO agreement_price (agreement_item, day, price)
     SELECT n.id, p.day, p.price FROM agreement_item x JOIN agreement_price p ON p.agreement_item = x.id JOIN agreement_item n ON n.item = x.item
     WHERE x.agreement = @from AND n.agreement = @to`,
  ).run({ from, to });
}

export const EndAgreement = z.object({ agreement: Id, version: Version, reason: text(300, 3, "Say why it ends.") });

/** Ends an agreement today: nothing more is registered or used under it; what is left is bought or sent back. */
export function endAgreement(desk: Desk, raw: unknown): Done<{ ended: Day }> {
  const input = checked(EndAgreement, raw);
  if (!input.ok) return input;
  const { agreement, version, reason } = input.value;
  return once(desk, "write orders", (tx) => {
    const head = readAgreementHead(tx.db, agreement);
    if (head?.state !== "Running") return refuse("", "Only an agreement that runs is ended.");
    if (head.version !== version) return stale(`${head.name} was changed by somebody else meanwhile.`);
    const yesterday = addDays(desk.day, -1);
    sql(
      tx.db,
      "UPDATE agreement SET state = 'Ended', ended = ?, ended_why = ?, version = version + 1 WHERE id = ?",
    ).run(yesterday, reason, agreement);
    closeRefills(tx.db, agreement, desk.day);
    tx.record("agreement.ended", `agreement ${agreement}`, { reason, lastDay: yesterday });
    return done({ ended: yesterday });
  });
}

/** Nothing that was asked for under an agreement is waited for any more. Inside a transaction. */
export function closeRefills(db: Db, agreement: number, day: Day): void {
  sql(
    db,
    "UPDATE refill SET ended = ?, ended_why = 'the agreement ended', version = version + 1 WHERE agreement = ? AND ended IS NULL AND EXISTS (SELECT 1 FROM refill_line l WHERE l.refill = refill.id AND l.open = 1)",
  ).run(day, agreement);
  sql(
    db,
    "UPDATE refill_line SET open = 0 WHERE open = 1 AND refill IN (SELECT id FROM refill WHERE agreement = ?)",
  ).run(agreement);
}
