import { z } from "zod";
import type { Day } from "../../../core/calendar/day";
import { arrival } from "../../../core/calendar/delivery";
import type { BudgetId, ItemId, StoreId } from "../../../core/ids";
import { parsePrice, type UnitPrice } from "../../../core/numbers/money";
import { ONE, parseQuantity, purchase } from "../../../core/numbers/quantity";
import type { AddedToPlaced } from "../../../core/orders/changes";
import { brings, LINE_KINDS, type LineKind } from "../../../core/orders/kinds";
import { type Db, sql } from "../../db/open";
import { readSourcesOf, type Source, wayOf } from "../../queries/needs/positions";
import type { OrderHead } from "../../queries/orders/order";
import { checked, type Desk, type Done, done, once, type Problem, refuse, refuseAll } from "../desk";
import { DayOrNone, Id, orNone, Percent, text } from "../fields";
import { keepSchedule } from "./keep-schedule";
import { lastPosition, orderFor, touchOrder, WhichOrder } from "./order-for";
import { priceOrder } from "./price-order";

/** An order has at most so many lines. */
export const MOST_LINES = 2_000;

const AddedLine = z.object({
  item: orNone(Id).optional(),
  /** Our code, theirs, or a GTIN, where no item was chosen. */
  code: z.string().max(80, "At most 80 characters.").default(""),
  kind: z.enum(LINE_KINDS, "There is no such kind of line.").optional(),
  words: text(300).default(""),
  unit: z.string().max(3, "There is no such unit.").default("C62"),
  quantity: z.string().max(40).default(""),
  price: z.string().max(40).default(""),
  discount: Percent.default(0),
  required: DayOrNone.optional(),
  note: text(500).default(""),
  blanketLine: orNone(Id).optional(),
});
export type AddedLine = z.output<typeof AddedLine>;
export const AddLines = WhichOrder.extend({
  add: z.array(AddedLine).min(1, "Type a code or a few words.").max(MOST_LINES, `At most ${MOST_LINES} lines at once.`),
});

/** A line as it is written; `account`, `budget` and the like follow with what is typed later. */
export interface DraftLine extends Omit<AddedToPlaced, "price" | "source" | "taxRate" | "spread"> {
  price: UnitPrice | null;
  typed: boolean;
  /** A rate that is typed; else it follows the item. */
  taxTyped?: number | null;
  blanketLine: number | null;
  account?: string | null;
  budget?: BudgetId | null;
  spread?: string;
  /** Where it comes to another store than the order does. */
  store?: StoreId;
}

/** Adds typed or pasted lines to a draft; either all of them, or none with a sentence at each that cannot be. */
export function addLines(desk: Desk, raw: unknown): Done<{ version: number; lines: number[] }> {
  const input = checked(AddLines, raw);
  if (!input.ok) return input;
  const { order, version, add } = input.value;
  return once(desk, "write orders", (tx) => {
    const found = orderFor(tx.db, desk, order, version, "edit");
    if (!found.ok) return found;
    const head = found.value;
    const last = lastPosition(tx.db, order);
    if (last + add.length > MOST_LINES) return refuse("", `An order has at most ${MOST_LINES} lines.`);
    const problems: Problem[] = [];
    const lines = add.map((a, i) => lineFor(tx.db, desk, head, a, `add.${i}`, problems));
    if (problems.length) return refuseAll(problems);
    const ids = lines.map((l, i) => insertLine(tx.db, head, l!, last + i + 1));
    const next = touchOrder(tx.db, order, version);
    priceOrder(tx.db, order, desk.day, new Set(lines.map((l) => l!.sourcing).filter((s) => s !== null)));
    tx.record("order.lines-added", `order ${order}`, { lines: add });
    return done({ version: next, lines: ids });
  });
}

export function insertLine(db: Db, head: OrderHead, l: DraftLine, position: number): number {
  const line = Number(
    sql(
      db,
      `INSERT INTO order_line (purchase_order, position, kind, item, sourcing, words, their_code, unit, factor, quantity, price, price_source, standing_discount, discount,
         tax_rate, tax_typed, store, awaited, note, blanket_line, account, budget, spread)
       VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
    ).run(
      head.id,
      position,
      l.kind,
      l.item,
      l.sourcing,
      l.words,
      l.theirCode,
      l.unit,
      l.factor,
      l.quantity,
      l.price,
      JSON.stringify({ kind: l.typed ? "typed" : "reference cost" }),
      l.standing,
      l.discount,
      l.taxTyped ?? 0,
      l.taxTyped == null ? 0 : 1,
      l.store ?? head.store,
      brings(head.kind) && l.kind !== "charge" ? 1 : 0,
      l.note,
      l.blanketLine,
      l.account ?? null,
      l.budget ?? null,
      l.spread ?? "expense",
    ).lastInsertRowid,
  );
  keepSchedule(db, line, { quantity: l.quantity, required: l.required });
  return line;
}

interface ItemRow {
  id: ItemId;
  name: string;
  kind: LineKind;
  unit: string;
}
const ITEM = "SELECT i.id, i.name, i.kind, i.unit FROM item i";

/** An item by our code, this supplier's code or its GTIN; several of one code are none. */
export function itemOf(db: Db, head: OrderHead, code: string): ItemRow[] {
  const ours = sql<ItemRow>(db, `${ITEM} WHERE i.code = ? AND i.active = 1`).all(code);
  if (ours.length) return ours;
  return sql<ItemRow>(
    db,
    `${ITEM} WHERE i.active = 1 AND (i.gtin = @code OR i.id IN (SELECT c.item FROM sourcing c WHERE c.their_code = @code COLLATE NOCASE AND c.supplier = @supplier AND c.active = 1))`,
  ).all({ code, supplier: head.supplier });
}

/** A line from what was typed of it; null where something is wrong, with a sentence at each field. */
export function lineFor(
  db: Db,
  desk: Pick<Desk, "day" | "hour">,
  head: OrderHead,
  a: AddedLine,
  at: string,
  problems: Problem[],
): DraftLine | null {
  const before = problems.length;
  const no = (field: string, says: string) => {
    problems.push({ field: `${at}.${field}`, says });
  };
  let item: ItemRow | undefined;
  if (a.item) item = sql<ItemRow>(db, `${ITEM} WHERE i.id = ? AND i.active = 1`).get(a.item);
  else if (a.code.trim()) {
    const found = itemOf(db, head, a.code.trim());
    item = found[0];
    if (found.length > 1) no("code", "Several items have this code. Choose one from the list.");
  }
  const inWords = !item && a.kind !== undefined && a.kind !== "stocked";
  if (!item && !inWords) no("code", "We know no such item. For goods or a service in words, choose which it is.");
  if (inWords && !(a.words || a.code).trim()) no("words", "Say what it is.");
  const source = item ? readSourcesOf(db, [item.id]).find((s) => s.supplier === head.supplier) : undefined;
  const unit = source ? unitOf(db, source) : item ? item.unit : a.unit;
  if (!sql(db, "SELECT 1 FROM unit WHERE code = ?").get(unit)) no("unit", "There is no such unit.");
  const quantity = a.quantity.trim()
    ? parseQuantity(a.quantity)
    : { ok: true as const, value: Math.max(source?.packing.minimum ?? 0, source?.packing.multiple ?? 0) || ONE };
  if (!quantity.ok) no("quantity", quantity.says);
  const price = priceOf(a.price, head.currency);
  if (!price.ok) no("price", price.says);
  if (problems.length > before || !quantity.ok || !price.ok) return null;
  return {
    kind: item?.kind ?? a.kind!,
    item: item?.id ?? null,
    sourcing: source?.id ?? null,
    words: item?.name ?? (a.words || a.code).trim(),
    theirCode: source?.theirCode ?? "",
    unit,
    factor: source?.packing.factor ?? ONE,
    quantity: purchase(quantity.value),
    price: price.value,
    typed: price.value !== null,
    standing: source?.standing ?? 0,
    discount: a.discount,
    required: a.required ?? comesOn(db, desk, head, source) ?? head.required,
    note: a.note,
    blanketLine: a.blanketLine ?? null,
  };
}

const unitOf = (db: Db, source: Source) =>
  sql<{ unit: string }>(db, "SELECT unit FROM sourcing WHERE id = ?").get(source.id)!.unit;

/** The day on which it would come if it were ordered now; null where nobody can say. */
function comesOn(db: Db, desk: Pick<Desk, "day" | "hour">, head: OrderHead, source: Source | undefined): Day | null {
  if (!source) return null;
  const store = sql<{ receives: number; region: string }>(db, "SELECT receives, region FROM store WHERE id = ?").get(
    head.store,
  )!;
  return arrival(desk.day, wayOf(source, store, desk.day, desk.hour));
}

/** A price as it was typed or pasted; one in another currency has no place on this order. */
function priceOf(given: string, currency: string): { ok: true; value: UnitPrice | null } | { ok: false; says: string } {
  const sign = { "€": "EUR", "£": "GBP", $: "USD", "¥": "JPY" }[/[€£$¥]/.exec(given)?.[0] ?? ""];
  const named = sign ?? /\b([A-Z]{3})\b/.exec(given.toUpperCase())?.[1];
  if (named && named !== currency)
    return {
      ok: false,
      says: `This order is in ${currency}, and has no place for a price in ${named}. Write another order.`,
    };
  const bare = given.replace(/[€£$¥]|[A-Za-z]{3}/g, "").trim();
  if (bare === "") return { ok: true, value: null };
  return parsePrice(bare);
}
