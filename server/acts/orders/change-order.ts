import { z } from "zod";
import type { Day } from "../../../core/calendar/day";
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
  const lines = (raw as { lines?: unknown[] } | null)?.lines;
  return problems.map((p) => {
    const [, index, field] = /^lines\.(\d+)\.(.+)$/.exec(p.field) ?? [];
    if (index === undefined || !Array.isArray(lines)) return p;
    const line = (lines[Number(index)] as { line?: unknown } | undefined)?.line;
    return { ...p, field: `line.${String(line)}.${field}` };
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

/** Keeps one line; returns what is wrong with it, and then nothing of the act stands. */
export function keepLine(db: Db, head: OrderHead, was: OrderLine, typed: TypedLine): Problem[] {
  const at = `line.${was.id}`;
  const problems = wrongPointers(db, typed, at);
  const quantity = typed.quantity ?? was.quantity;
  const given = typed.price === undefined ? was.price : typed.price;
  const wasTyped = was.priceSource.kind === "typed";
  const isTyped = given !== null && (given !== was.price || wasTyped);
  const lookedUp = wasTyped && !isTyped;
  // A price that somebody typed is no longer the blanket order's.
  const drawn = typed.blanketLine === undefined ? was.blanketLine : typed.blanketLine;
  const amount = typedAmount(typed.committedValue ?? "", head.currency);
  if (!amount.ok) problems.push({ field: `${at}.committedValue`, says: amount.says });
  const committedValue =
    typed.committedValue === undefined ? was.committedValue : amount.ok ? amount.value : was.committedValue;
  if (typed.taxRate && !head.taxed)
    problems.push({
      field: `${at}.taxRate`,
      says: `We account for the tax of what ${head.supplierName} sells: no rate stands on the line.`,
    });
  const limits = typed.limits ?? was.limits;
  if (limits !== "quantity" && committedValue === null && typed.committedValue !== undefined)
    problems.push({ field: `${at}.committedValue`, says: "Say up to which value." });
  if (was.item !== null && (typed.unit ?? was.unitCode) !== was.unitCode)
    problems.push({ field: `${at}.unit`, says: "Its unit is the one that the supplier sells it in." });
  if (typed.store !== undefined && typed.store !== was.store) {
    if (!isPlain(head.kind))
      problems.push({ field: `${at}.store`, says: `A ${KIND_WORDS[head.kind]} does not bring goods to a store.` });
    else if (was.serves.length)
      problems.push({ field: `${at}.store`, says: `It serves a need at ${was.storeName}. Take it off first.` });
  }
  const kind = was.item === null ? (typed.kind ?? was.kind) : was.kind;
  const loads = instalmentsFor(was, typed, quantity);
  if (!loads.ok) problems.push({ field: `${at}.instalments`, says: loads.says });
  if (problems.length || !loads.ok) return problems;
  sql(db, SET).run({
    id: was.id,
    quantity,
    price: given,
    source: JSON.stringify(isTyped ? { kind: "typed" } : lookedUp ? { kind: "reference cost" } : was.priceSource),
    discount: typed.discount ?? was.discount,
    words: was.item === null ? (typed.words ?? was.words) : was.words,
    unit: typed.unit ?? was.unitCode,
    kind,
    spread: typed.spread ?? was.spread,
    taxRate: typed.taxRate ?? null,
    account: typed.account === undefined ? was.account : typed.account || null,
    budget: typed.budget === undefined ? was.budget : typed.budget,
    job: typed.job === undefined ? was.job : typed.job,
    note: typed.note ?? was.note,
    ownNote: typed.ownNote ?? was.ownNote,
    store: typed.store ?? was.store,
    bin: typed.bin ?? was.bin,
    limits,
    committedValue,
    least: typed.least ?? was.least,
    blanketLine: isTyped ? null : drawn,
    awaited: brings(head.kind) && kind !== "charge" ? 1 : 0,
  });
  keepSchedule(db, was.id, { quantity, required: typed.required ?? was.required }, loads.plan, was.instalments.length);
  return problems;
}

/** Instalments as typed; where only the quantity changed, the last of them takes the difference. */
const instalmentsFor = (was: OrderLine, typed: TypedLine, quantity: number) =>
  typed.instalments ? planInstalments(typed.instalments, quantity) : refitInstalments(was.instalments, quantity);
