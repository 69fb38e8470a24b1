import type { Day } from "../../../core/calendar/day";
import type { BenchId, DemandId, ItemId, OrderId, OrderLineId, StoreId, TransferId } from "../../../core/ids";
import { showDay } from "../../../core/numbers/format";
import { type PurchaseQty, quantityText, type StockQty, stock, toStock } from "../../../core/numbers/quantity";
import type { LineKind } from "../../../core/orders/kinds";
import { amount, type Step, type Sum } from "../../../core/sums/sum";
import { type SaidOfLine, type SaidPart, standingParts } from "../../../core/suppliers/answer";
import { type Effect, effectsOf } from "../../../core/suppliers/effects";
import {
  askedSooner,
  byRank,
  cutLater,
  type LeftShort,
  shortageOf,
  type WayOut,
} from "../../../core/suppliers/ways-out";
import { unitWords } from "../../../core/text";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../../queries/company";
import { usualPlan } from "../../queries/needs/need";
import { needNow } from "../../queries/needs/one";
import type { Source } from "../../queries/needs/positions";
import { type OrderHead, readOrderHead, readOrderLines } from "../../queries/orders/order";
import { readSchedule } from "../../queries/orders/schedule";
import { lineChance } from "../../queries/suppliers/chances";
import { standingOf } from "../../queries/suppliers/standing";
import { type Candidate, waysToMeet } from "../../queries/suppliers/ways-out";
import { keepCommitments } from "../budgets/keep-commitments";
import type { Desk } from "../desk";
import { insertLine } from "../orders/add-lines";
import { newDraft } from "../orders/order-for";
import { priceOrder } from "../orders/price-order";
import { layOutFor } from "../placing/lay-out";
import { planTransfer } from "../stock/transfers";
import { tried } from "../tried";
import { readWaiting, takeLines, type WaitingAnswer } from "./take-lines";
import { type TriedAnswer, tryAnswers } from "./try-answer";

/** What was written beside the order when a way out was taken. */
export interface FollowedWay {
  /** What was taken of the line, where it is not all that they said. */
  said: SaidOfLine | null;
  draft: OrderId | null;
  transfer: TransferId | null;
  /** The bench on which what is not awaited here was laid out. */
  bench: BenchId | null;
}

/**
 * The ways out of what one answer leaves short, each tried as it would be taken: what it costs at home beyond taking it and
 * waiting, and whether anybody still waits then. The best first.
 */
export function waysOut(db: Db, desk: Desk, order: OrderId, answer: number, found: TriedAnswer): WayOut[] {
  const [waiting] = readWaiting(db, order, [answer]);
  const head = readOrderHead(db, order);
  if (!waiting || !head) return [];
  const shortage = shortageOf(found.effects);
  const wait: WayOut = {
    key: "wait",
    what: shortage ? "Take it and wait" : "Take it as it is",
    note: shortage ? waitWords(shortage, desk.day) : "",
    cost: 0,
    day: shortage?.until ?? null,
    inTime: shortage === null,
    chance: null,
    sum: null,
  };
  if (!shortage) return [wait];
  const ways = candidatesOf(db, desk, head, waiting.line, shortage).map((c) =>
    tryWay(db, desk, head, waiting, c, shortage, found),
  );
  const more = [benchWay(db, waiting, shortage), askWay(db, waiting, shortage, desk.day)];
  return [...ways, ...more, wait].filter((w) => w !== null).sort(byRank);
}

const units = (q: number, unit: string) => `${quantityText(q)} ${unitWords(q, unit)}`;
const waitWords = (s: LeftShort, today: Day) =>
  `${s.who.join(", ")} ${s.until ? `waits until ${showDay(s.until, today)}` : "goes without"}`;

function askWay(db: Db, w: WaitingAnswer, shortage: LeftShort, today: Day): WayOut | null {
  const parts = w.said.parts ?? standingParts(readSchedule(db, w.line));
  const line = lineOf(db, w.line);
  const most = Math.ceil(shortage.quantity / line.perUnit) * 10_000;
  const { cut } = cutLater(parts, shortage.due, most);
  return cut === 0
    ? null
    : {
        key: "ask",
        what: `Ask for ${units(cut, line.unit)} by ${showDay(shortage.due, today)}`,
        note: "they answer it as any other",
        cost: null,
        day: null,
        inTime: null,
        chance: null,
        sum: null,
      };
}

/** What of an answer comes too late, in whole purchase units: at most what is short. */
function tooLate(db: Db, w: WaitingAnswer, shortage: LeftShort): { parts: SaidPart[]; cut: number } {
  const parts = w.said.parts ?? standingParts(readSchedule(db, w.line));
  return cutLater(parts, shortage.due, Math.ceil(shortage.quantity / lineOf(db, w.line).perUnit) * 10_000);
}

function benchWay(db: Db, w: WaitingAnswer, shortage: LeftShort): WayOut | null {
  const { unit, item } = lineOf(db, w.line);
  const { cut } = tooLate(db, w, shortage);
  return cut === 0 || item === null
    ? null
    : {
        key: "bench",
        what: `Buy ${units(cut, unit)} elsewhere, by the Bench`,
        note: "not awaited here; the need is laid out with its day",
        cost: null,
        day: null,
        inTime: null,
        chance: null,
        sum: null,
      };
}

/**
 * Takes an answer without what comes too late, and lays out on a bench what is needed again for it. Null where nothing is.
 * Call inside a transaction.
 */
export function followToBench(
  db: Db,
  desk: Desk,
  head: OrderHead,
  waiting: WaitingAnswer,
  shortage: LeftShort,
): FollowedWay | null {
  const { parts } = tooLate(db, waiting, shortage);
  const said = { ...waiting.said, parts };
  const { item, store } = lineOf(db, waiting.line);
  if (item === null) return null;
  const plan = usualPlan(desk.day, desk.hour);
  const ofStock = `s:${item}:${store}`;
  const wanted = () => needNow(db, plan, ofStock)?.wanted ?? 0;
  const [ties, stockBefore] = [tiesOf(db, waiting.line), wanted()];
  takeLines(db, head, [{ ...waiting, said }], desk);
  const left = new Map(tiesOf(db, waiting.line).map((t) => [t.at, t.quantity]));
  const freed = ties.map((t) => ({ key: needOfTie(t), quantity: t.quantity - (left.get(t.at) ?? 0) }));
  const keys = freed.flatMap((f) => (f.quantity > 0 && f.key ? [f.key] : []));
  const rest = shortage.quantity - freed.reduce((a, f) => a + f.quantity, 0);
  // What stock planning asks for by itself is laid out as that; else what is short is noted, with its day.
  if (wanted() > stockBefore) keys.push(ofStock);
  else if (rest > 0) keys.push(noteShort(db, desk, { item, store, quantity: rest, due: shortage.due, head }));
  const bench = layOutFor(db, desk, keys, `Instead of ${head.name}`);
  return bench === null ? null : { said, draft: null, transfer: null, bench };
}

/** A need for what does not come in time: by its key. */
function noteShort(
  db: Db,
  desk: Desk,
  n: { item: ItemId; store: StoreId; quantity: number; due: Day; head: OrderHead },
): string {
  const { lastInsertRowid } = sql(
    db,
    `INSERT INTO noted_need (source, item, code, store, quantity, needed_by, note, person, at)
     VALUES ('repeat', @item, (SELECT code FROM item WHERE id = @item), @store, @quantity, @due, @note, @person, @now)`,
  ).run({
    ...{ item: n.item, store: n.store, quantity: n.quantity, due: n.due, person: desk.person.id, now: desk.now },
    note: `${n.head.supplierName} has it too late, on ${n.head.name}`,
  });
  return `n:${Number(lastInsertRowid)}`;
}

/** The need behind a tie, by its key. */
const needOfTie = (t: TieRow): string | null => {
  if (t.requisition !== null) return `r:${t.requisition}`;
  if (t.demand !== null) return `j:${t.demand}`;
  return t.noted === null ? null : `n:${t.noted}`;
};

/** What we propose in the place of an answer: what is short comes on the day on which it is wanted. */
export function proposalFor(db: Db, w: WaitingAnswer, shortage: LeftShort): SaidOfLine {
  const parts = w.said.parts ?? standingParts(readSchedule(db, w.line));
  const most = Math.ceil(shortage.quantity / lineOf(db, w.line).perUnit) * 10_000;
  return { ...w.said, parts: askedSooner(parts, shortage.due, most), remark: "" };
}

interface LineOf {
  item: ItemId | null;
  store: StoreId;
  unit: string;
  /** Stock units, ten-thousandths, in one purchase unit. */
  perUnit: number;
}
function lineOf(db: Db, line: OrderLineId): LineOf {
  return sql<LineOf>(
    db,
    "SELECT l.item, l.store, u.name AS unit, l.factor AS perUnit FROM order_line l JOIN unit u ON u.code = l.unit WHERE l.id = ?",
  ).get(line)!;
}

/** Everything that would meet what is short of a line in time. */
export function candidatesOf(db: Db, desk: Desk, head: OrderHead, line: OrderLineId, shortage: LeftShort): Candidate[] {
  const { item, store } = lineOf(db, line);
  if (item === null) return [];
  return waysToMeet(db, { item, store }, shortage, head.supplier, usualPlan(desk.day, desk.hour));
}

interface Homes {
  goods: number;
  freight: number;
}
const homesOf = (db: Db, order: OrderId): Homes =>
  sql<Homes>(db, "SELECT home_net AS goods, home_freight AS freight FROM purchase_order WHERE id = ?").get(order)!;

/** One way, taken for a moment. */
export function tryWay(
  db: Db,
  desk: Desk,
  head: OrderHead,
  waiting: WaitingAnswer,
  c: Candidate,
  shortage: LeftShort,
  found: TriedAnswer,
): WayOut {
  const plan = usualPlan(desk.day, desk.hour);
  const plain = tried(db, () => {
    takeLines(db, { ...head }, [waiting], desk);
    return homesOf(db, head.id);
  });
  const { here, there, priced, left } = tried(db, () => {
    const { draft } = followWay(db, desk, { ...head }, waiting, c, shortage, found.effects);
    keepCommitments(db);
    return {
      here: homesOf(db, head.id),
      there: draft === null ? { goods: 0, freight: 0 } : homesOf(db, draft),
      priced: draft === null || readOrderLines(db, draft, "EUR").every((l) => l.price !== null && !l.priceWarning),
      left: shortageOf(effectsOf(found.before, standingOf(db, head.id, [waiting.line], plan))),
    };
  });
  const { currency } = theCompany(db);
  const step = (op: Step["op"], label: string, minor: number): Step[] =>
    minor === 0 ? [] : [{ op, label, figure: amount(minor, currency) }];
  const cost = here.goods + here.freight + there.goods + there.freight - plain.goods - plain.freight;
  const { what, note } = wordsOf(c, shortage);
  const sum: Sum = {
    title: "What it costs beyond waiting",
    steps: [
      { op: "", label: c.kind === "buy" ? what : "bought", figure: amount(there.goods, currency) },
      ...step("−", "less of this order", plain.goods - here.goods),
      ...step("+", "freight of theirs", there.freight),
      ...step("+", "freight of this order", here.freight - plain.freight),
      { op: "=", label: "more, net of tax", figure: amount(cost, currency) },
    ],
  };
  return {
    key: c.key,
    what,
    note: left ? `${note}; ${units(left.quantity, left.unit)} still short` : note,
    cost: priced ? cost : null,
    day: left ? left.until : c.day,
    inTime: left === null,
    chance:
      c.kind === "buy"
        ? (lineChance(
            db,
            c.source.supplier,
            c.instead?.item ?? c.source.item,
            { promised: c.day, asked: shortage.due },
            desk.day,
          ).chance?.basisPoints ?? null)
        : null,
    sum: priced && c.kind === "buy" ? sum : null,
  };
}

function wordsOf(c: Candidate, { unit }: LeftShort): { what: string; note: string } {
  const note = c.instead?.note ?? "";
  switch (c.kind) {
    case "buy": {
      const of = c.instead ? `${c.instead.name} ` : "";
      return {
        what: `${units(c.buy, c.source.packing.unit)} ${of}from ${c.source.supplierName}`,
        note: note || "a draft order to them",
      };
    }
    case "move":
      return {
        what: `${units(c.quantity, unit)}${c.instead ? ` ${c.instead.name}` : ""} from ${c.storeName}`,
        note: note || "a transfer",
      };
    case "use":
      return { what: `${units(c.quantity, unit)} ${c.instead!.name} from the shelf`, note: note || "in its place" };
  }
}

interface TieRow {
  at: number;
  source: string;
  requisition: number | null;
  demand: number | null;
  noted: number | null;
  quantity: number;
}
const tiesOf = (db: Db, line: OrderLineId) =>
  sql<TieRow>(
    db,
    "SELECT rowid AS at, source, requisition_line AS requisition, job_demand AS demand, noted_need AS noted, quantity FROM need_tie WHERE order_line = ? ORDER BY rowid",
  ).all(line);

/**
 * Takes an answer, and does what a way out asks for beside: what is bought elsewhere is not awaited here, and what it was
 * for goes with it. Call inside a transaction.
 */
export function followWay(
  db: Db,
  desk: Desk,
  head: OrderHead,
  waiting: WaitingAnswer,
  c: Candidate,
  shortage: LeftShort,
  effects: readonly Effect[],
): FollowedWay {
  if (c.instead) standIn(db, effects, c.instead.item);
  if (c.kind !== "buy") {
    takeLines(db, head, [waiting], desk);
    const transfer =
      c.kind === "move"
        ? planTransfer(db, desk, {
            item: c.instead?.item ?? lineOf(db, waiting.line).item!,
            from: c.store,
            to: lineOf(db, waiting.line).store,
            quantity: c.quantity,
          }).transfer
        : null;
    return { said: null, draft: null, transfer, bench: null };
  }
  const { perUnit, store } = lineOf(db, waiting.line);
  const bought = toStock(c.buy, c.source.packing.factor);
  const parts = waiting.said.parts ?? standingParts(readSchedule(db, waiting.line));
  const said = { ...waiting.said, parts: cutLater(parts, shortage.due, Math.floor(bought / perUnit) * 10_000).parts };
  const before = tiesOf(db, waiting.line);
  takeLines(db, head, [{ ...waiting, said }], desk);
  const after = new Map(tiesOf(db, waiting.line).map((t) => [t.at, t.quantity]));
  const draft = draftFor(db, desk, c.source, c.instead, store, c.buy, shortage.due);
  let left: number = bought;
  for (const t of c.instead ? [] : before) {
    const freed = Math.min(left, t.quantity - (after.get(t.at) ?? 0));
    if (freed <= 0) continue;
    left -= freed;
    sql(
      db,
      `INSERT INTO need_tie (order_line, source, requisition_line, job_demand, noted_need, quantity, wanted)
       VALUES (@line, @source, @requisition, @demand, @noted, @freed, @freed)`,
    ).run({ line: draft.line, source: t.source, requisition: t.requisition, demand: t.demand, noted: t.noted, freed });
  }
  return { said, draft: draft.order, transfer: null, bench: null };
}

function draftFor(
  db: Db,
  desk: Desk,
  source: Source,
  instead: { item: ItemId } | null,
  store: number,
  quantity: PurchaseQty,
  required: Day,
): { order: OrderId; line: number } {
  const order = newDraft(db, desk, { id: source.supplier, currency: source.currency }, store, required);
  const item = sql<{ name: string; kind: LineKind; unit: string }>(
    db,
    "SELECT i.name, i.kind, c.unit FROM sourcing c JOIN item i ON i.id = c.item WHERE c.id = ?",
  ).get(source.id)!;
  const line = insertLine(
    db,
    readOrderHead(db, order)!,
    {
      kind: item.kind,
      item: instead?.item ?? source.item,
      sourcing: source.id,
      words: item.name,
      theirCode: source.theirCode,
      unit: item.unit,
      factor: source.packing.factor,
      quantity,
      price: null,
      typed: false,
      standing: source.standing,
      discount: 0,
      required,
      note: "",
      blanketLine: null,
    },
    1,
  );
  priceOrder(db, order, desk.day);
  return { order, line };
}

/** Whoever waits longer is given another item in the place of what they wait for. */
function standIn(db: Db, effects: readonly Effect[], item: ItemId): void {
  for (const e of effects) {
    if (e.kind !== "waits" || e.after.quantity <= e.before.quantity || !e.claim.key.startsWith("d")) continue;
    swapDemand(db, Number(e.claim.key.slice(1)), item, stock(e.after.quantity - e.before.quantity));
  }
}

function swapDemand(db: Db, demand: DemandId, item: ItemId, quantity: StockQty): void {
  const d = sql<{ job: number; store: number; due: Day; quantity: number }>(
    db,
    "SELECT job, store, due, quantity FROM job_demand WHERE id = ?",
  ).get(demand)!;
  sql(
    db,
    `INSERT INTO job_demand (job, item, store, due, quantity) VALUES (@job, @item, @store, @due, @swapped)
     ON CONFLICT (job, item, store, due) DO UPDATE SET quantity = quantity + @swapped`,
  ).run({ job: d.job, item, store: d.store, due: d.due, swapped: quantity });
  if (quantity < d.quantity)
    sql(db, "UPDATE job_demand SET quantity = quantity - ? WHERE id = ?").run(quantity, demand);
  else sql(db, "DELETE FROM job_demand WHERE id = ?").run(demand);
}

/** What an answer leaves short, as it is now: what the ways out are for. */
export function shortageNow(
  db: Db,
  desk: Desk,
  order: OrderId,
  answer: number,
): { found: TriedAnswer; shortage: LeftShort } | null {
  const found = tryAnswers(db, order, [answer], desk);
  const shortage = found && shortageOf(found.effects);
  return shortage && { found, shortage };
}
