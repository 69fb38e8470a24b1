import { z } from "zod";
import type { Day } from "../../../core/calendar/day";
import { isRecord } from "../../../core/keys";
import { brings, isPlain, KIND_WORDS } from "../../../core/orders/kinds";
import { planInstalments, refitInstalments } from "../../../core/orders/schedule";
import { type Db, sql } from "../../db/open";
import { type OrderHead, type OrderLine, readOrderHead, readOrderLines } from "../../queries/orders/order";
import { checked, type Desk, type Done, done, once, type Problem, refuseAll } from "../desk";
import { Id } from "../fields";
import { settleRequisitionsOf } from "../requisitions/settle-requisitions";
import { HeadFields, keepHead } from "./head-fields";
import { keepSchedule } from "./keep-schedule";
import { LineFields, type TypedLine, typedAmount, wrongPointers } from "./line-fields";
import { orderFor, touchOrder, WhichOrder } from "./order-for";
import { type OrderNow, priceAgain } from "./price-order";
import { refitTies } from "./ties";

export const ChangeOrder = WhichOrder.extend(HeadFields.shape).extend({
  lines: z
    .array(LineFields.extend({ line: Id }))
    .max(2000, "At most 2,000 lines.")
    .default([]),
});

/** Problems of lines are told by the line's id, "line.17.quantity", wherever it stood in what was sent. */
export function byLine(problems: Problem[], raw: unknown): Problem[] {
  const lines = isRecord(raw) ? raw.lines : null;
  return problems.map((p) => {
    const [, index, field] = /^lines\.(\d+)\.(.+)$/.exec(p.field) ?? [];
    if (index === undefined || !Array.isArray(lines)) return p;
    const at: unknown = lines[Number(index)];
    return { ...p, field: `line.${String(isRecord(at) ? at.line : undefined)}.${field}` };
  });
}

/**
 * Keeps what was typed in a draft: of its head and of its lines, only what is sent. A price that differs from the one
 * shown becomes a typed price; an empty one is looked up again. Says which lines may read otherwise now.
 */
export function changeOrder(
  desk: Desk,
  raw: unknown,
  /** Is told the order as it stands then, so that whoever answers need not read it again. */
  seen: (now: OrderNow) => void = () => {},
): Done<{ version: number; lines: number[] }> {
  const input = checked(ChangeOrder, raw);
  if (!input.ok) return { ...input, problems: byLine(input.problems, raw) };
  const { order, version, lines, ...fields } = input.value;
  return once(desk, "write orders", (tx) => {
    const found = orderFor(tx.db, desk, order, version, "edit");
    if (!found.ok) return found;
    const problems = keepHead(tx.db, desk, found.value, fields);
    // The head may have changed the lines: a day, a store or a kind. What is typed in a line goes on from there.
    const head = Object.keys(fields).length > 0 ? readOrderHead(tx.db, order)! : found.value;
    const before = readOrderLines(tx.db, order, head.currency);
    const known = new Map(before.map((l) => [l.id, l]));
    for (const { line, ...typed } of lines) {
      const was = known.get(line);
      if (was) problems.push(...keepLine(tx.db, head, was, typed));
      else problems.push({ field: `line.${line}.quantity`, says: "This line is not on this order." });
    }
    if (problems.length) return refuseAll(problems);
    for (const { line, quantity } of lines)
      if (quantity !== undefined && known.get(line)!.serves.length > 0) refitTies(tx.db, line);
    if (lines.length > 0 && before.some((l) => l.serves.some((s) => s.requisition !== null)))
      settleRequisitionsOf(tx.db, order);
    const next = touchOrder(tx.db, order, version);
    const records = new Set(lines.map((l) => known.get(l.line)!.sourcing).filter((s) => s !== null));
    const now = priceAgain(
      tx.db,
      { head: { ...head, version: next }, lines: readOrderLines(tx.db, order, head.currency) },
      desk.day,
      fields.currency === undefined && fields.kind === undefined ? records : undefined,
    );
    now.head.required = earliest(now);
    seen(now);
    tx.record("order.changed", `order ${order}`, { ...fields, lines });
    const { currency, kind, store, required } = fields;
    const all = [currency, kind, store, required].some((f) => f !== undefined);
    const touched = new Set(lines.map((l) => l.line));
    return done({
      version: next,
      lines: before
        .filter((l) => all || touched.has(l.id) || (l.sourcing !== null && records.has(l.sourcing)))
        .map((l) => l.id),
    });
  });
}

/** As `keepWanted` keeps it. */
const earliest = ({ head, lines }: OrderNow): Day =>
  lines
    .filter((l) => l.kind !== "charge")
    .flatMap((l) => (l.instalments.length ? l.instalments.map((p) => p.required) : [l.required]))
    .sort()[0] ?? head.required;

const SET = `
  UPDATE order_line SET quantity = @quantity, price = @price, price_source = @source, discount = @discount, words = @words, unit = @unit, kind = @kind,
    spread = @spread, tax_rate = coalesce(@taxRate, tax_rate), tax_typed = iif(@taxRate IS NULL, tax_typed, @taxRate IS NOT coalesce((SELECT i.tax_rate FROM item i WHERE i.id = order_line.item), (SELECT tax_rate FROM company))), account = @account, budget = @budget, job = @job, note = @note, own_note = @ownNote, store = @store, bin = @bin, limits = @limits,
    committed_value = @committedValue, least = @least, blanket_line = @blanketLine, awaited = @awaited WHERE id = @id`;

/** What of a line a change may not do, each at its field. */
function wrongInLine(head: OrderHead, was: OrderLine, typed: TypedLine): Problem[] {
  const problems: Problem[] = [];
  const no = (field: string, says: string) => problems.push({ field: `line.${was.id}.${field}`, says });
  if (typed.taxRate && !head.taxed)
    no("taxRate", `We account for the tax of what ${head.supplierName} sells: no rate stands on the line.`);
  if (was.item !== null && typed.unit !== undefined && typed.unit !== was.unitCode)
    no("unit", "Its unit is the one that the supplier sells it in.");
  if (typed.store !== undefined && typed.store !== was.store) {
    if (!isPlain(head.kind)) no("store", `A ${KIND_WORDS[head.kind]} does not bring goods to a store.`);
    else if (was.serves.length) no("store", `It serves a need at ${was.storeName}. Take it off first.`);
  }
  return problems;
}

/** Up to which value a blanket line goes, and by what it is limited. */
function limitsOf(
  head: OrderHead,
  was: OrderLine,
  typed: TypedLine,
): { ok: true; limits: OrderLine["limits"]; committedValue: number | null } | { ok: false; says: string } {
  const limits = typed.limits ?? was.limits;
  if (typed.committedValue === undefined) return { ok: true, limits, committedValue: was.committedValue };
  const amount = typedAmount(typed.committedValue, head.currency);
  if (!amount.ok) return amount;
  if (limits !== "quantity" && amount.value === null) return { ok: false, says: "Say up to which value." };
  return { ok: true, limits, committedValue: amount.value };
}

/** The price as it is given, and where it comes from: one that differs was typed; an empty one is looked up again. */
function pricedAs(was: OrderLine, typed: TypedLine): { price: number | null; source: object; typed: boolean } {
  const price = typed.price === undefined ? was.price : typed.price;
  const before = was.priceSource.kind === "typed";
  const isTyped = price !== null && (price !== was.price || before);
  const lookedUp = before && !isTyped;
  const source = isTyped ? { kind: "typed" } : lookedUp ? { kind: "reference cost" } : was.priceSource;
  return { price, source, typed: isTyped };
}

/** What is typed, where something is; else what it was. */
const or = <T>(typed: T | undefined, was: T): T => (typed === undefined ? was : typed);

/** Keeps one line; returns what is wrong with it, and then nothing of the act stands. */
export function keepLine(db: Db, head: OrderHead, was: OrderLine, typed: TypedLine): Problem[] {
  const at = `line.${was.id}`;
  const problems = [...wrongPointers(db, typed, at), ...wrongInLine(head, was, typed)];
  const quantity = or(typed.quantity, was.quantity);
  const limited = limitsOf(head, was, typed);
  if (!limited.ok) problems.push({ field: `${at}.committedValue`, says: limited.says });
  const loads = instalmentsFor(was, typed, quantity);
  if (!loads.ok) problems.push({ field: `${at}.instalments`, says: loads.says });
  if (problems.length || !loads.ok || !limited.ok) return problems;
  const { price, source, typed: isTyped } = pricedAs(was, typed);
  const own = was.item === null; // an item's words and kind are its own
  const kind = own ? or(typed.kind, was.kind) : was.kind;
  sql(db, SET).run({
    id: was.id,
    quantity,
    price,
    source: JSON.stringify(source),
    discount: or(typed.discount, was.discount),
    words: own ? or(typed.words, was.words) : was.words,
    unit: or(typed.unit, was.unitCode),
    kind,
    spread: or(typed.spread, was.spread),
    taxRate: typed.taxRate ?? null,
    account: or(typed.account, was.account) || null,
    budget: or(typed.budget, was.budget),
    job: or(typed.job, was.job),
    note: or(typed.note, was.note),
    ownNote: or(typed.ownNote, was.ownNote),
    store: or(typed.store, was.store),
    bin: or(typed.bin, was.bin),
    limits: limited.limits,
    committedValue: limited.committedValue,
    least: or(typed.least, was.least),
    // A price that somebody typed is no longer the blanket order's.
    blanketLine: isTyped ? null : or(typed.blanketLine, was.blanketLine),
    awaited: brings(head.kind) && kind !== "charge" ? 1 : 0,
  });
  keepSchedule(db, was.id, { quantity, required: typed.required ?? was.required }, loads.plan, was.instalments.length);
  return problems;
}

/** Instalments as typed; where only the quantity changed, the last of them takes the difference. */
const instalmentsFor = (was: OrderLine, typed: TypedLine, quantity: number) =>
  typed.instalments ? planInstalments(typed.instalments, quantity) : refitInstalments(was.instalments, quantity);
