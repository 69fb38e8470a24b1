import { z } from "zod";
import { addDays, type Day } from "../../../core/calendar/day";
import type { StoreId } from "../../../core/ids";
import { keysOf } from "../../../core/keys";
import { isPlain, ORDER_KINDS } from "../../../core/orders/kinds";
import { INCOTERM_CODES } from "../../../core/orders/terms";
import { type Db, sql } from "../../db/open";
import { rateOn, theCompany } from "../../queries/company";
import type { OrderHead } from "../../queries/orders/order";
import type { Desk, Problem } from "../desk";
import { DayField, DayOrNone, Id, orNone, Percent, text, Whole } from "../fields";

export const TermsFields = z.object({
  days: Whole(0, 365),
  from: z.enum(["invoice", "end of month"], "From the invoice or from the end of its month."),
  earlyPercent: Percent,
  earlyDays: Whole(0, 365),
});
export const DeliveryFields = z.object({
  rule: z.enum(["", ...INCOTERM_CODES], "There is no such rule in Incoterms 2020."),
  place: text(120),
});

/** What may be typed in the head of an order; what is left out stays. Null goes back to the supplier's record. */
export const HeadFields = z
  .object({
    kind: z.enum(ORDER_KINDS, "There is no such kind of order."),
    title: text(120),
    note: text(1000),
    discount: Percent,
    contact: orNone(Id),
    ourReference: text(60),
    theirReference: text(60),
    brought: text(40),
    currency: z.string().regex(/^[A-Z]{3}$/, "A currency has three letters, such as EUR."),
    store: Id,
    buyer: Id,
    /** The day that all its goods are wanted by; a line may say another one afterwards. */
    required: DayField,
    validUntil: DayOrNone,
    terms: TermsFields.nullable(),
    delivery: DeliveryFields.nullable(),
    carrier: text(80).nullable(),
    texts: text(2000).nullable(),
    deliverName: text(120),
    deliverAddress: text(300),
    job: orNone(Id),
    department: orNone(Id),
    starts: DayField,
    ends: DayField,
  })
  .partial();
export type TypedHead = z.output<typeof HeadFields>;

const COLUMNS: Partial<Record<keyof TypedHead, string>> = {
  title: "title",
  note: "note",
  discount: "discount",
  contact: "contact",
  ourReference: "our_reference",
  theirReference: "their_reference",
  currency: "currency",
  validUntil: "valid_until",
  carrier: "carrier",
  texts: "texts",
  deliverName: "deliver_name",
  deliverAddress: "deliver_address",
  job: "job",
  department: "department",
};

/** Keeps what was typed in a draft's head; returns what is wrong, and then nothing of the act stands. */
export function keepHead(db: Db, desk: Desk, head: OrderHead, typed: TypedHead): Problem[] {
  const problems: Problem[] = [];
  const set = (column: string, value: unknown) =>
    sql(db, `UPDATE purchase_order SET ${column} = ? WHERE id = ?`).run(value, head.id);
  for (const field of keysOf(COLUMNS)) {
    const value = typed[field];
    if (value !== undefined && !wrong(db, desk, head, field, value, problems)) set(COLUMNS[field]!, value);
  }
  const t = typed.terms;
  if (t !== undefined) {
    set("terms_days", t?.days ?? null);
    set("terms_from", t?.from ?? null);
    set("early_percent", t?.earlyPercent ?? null);
    set("early_days", t?.earlyDays ?? null);
  }
  const d = typed.delivery;
  if (d !== undefined) {
    if (d?.rule && !d.place)
      problems.push({ field: "delivery.place", says: `${d.rule} is agreed with a place: say which.` });
    set("delivery_terms", d?.rule ?? null);
    set("delivery_place", d?.place ?? null);
  }
  if (typed.required !== undefined) keepRequired(db, desk, head, typed.required, problems);
  if (typed.brought !== undefined) keepForeign(db, head, typed.brought, problems);
  if (typed.store !== undefined && typed.store !== head.store) moveToStore(db, head, typed.store, problems);
  if (typed.buyer !== undefined && typed.buyer !== head.writer) keepBuyer(db, desk, head, typed.buyer, problems);
  if (typed.kind !== undefined && typed.kind !== head.kind) keepKind(db, desk, head, typed.kind, problems);
  const starts = typed.starts ?? head.starts;
  const ends = typed.ends ?? head.ends;
  if ((typed.starts || typed.ends) && starts && ends) {
    if (ends < starts) problems.push({ field: "ends", says: "The last day lies before the first." });
    else sql(db, "UPDATE purchase_order SET starts = ?, ends = ? WHERE id = ?").run(starts, ends, head.id);
  }
  return problems;
}

function wrong(db: Db, desk: Desk, head: OrderHead, field: string, value: unknown, problems: Problem[]): boolean {
  const says = (text: string) => {
    problems.push({ field, says: text });
    return true;
  };
  if (value === null) return false;
  if (
    field === "contact" &&
    !sql(db, "SELECT 1 FROM supplier_contact WHERE id = ? AND supplier = ?").get(value, head.supplier)
  )
    return says("This person is not one of theirs.");
  if (field === "job" && !sql(db, "SELECT 1 FROM job WHERE id = ?").get(value)) return says("There is no such job.");
  if (field === "department" && !sql(db, "SELECT 1 FROM department WHERE id = ?").get(value))
    return says("There is no such department.");
  if (field === "currency" && rateOn(db, String(value), theCompany(db).currency, desk.day) === null)
    return says(`No rate for ${String(value)} is known. An administrator loads rates under Files.`);
  return false;
}

/** Every line is wanted by the day, but for those that come in several loads, whose days are their own. */
function keepRequired(db: Db, desk: Desk, head: OrderHead, day: Day, problems: Problem[]): void {
  if (day < desk.day) {
    problems.push({ field: "required", says: "This day has passed." });
    return;
  }
  sql(db, "UPDATE purchase_order SET required = ? WHERE id = ?").run(day, head.id);
  sql(
    db,
    `UPDATE order_schedule SET requested = ? WHERE order_line IN (
       SELECT l.id FROM order_line l JOIN order_schedule s ON s.order_line = l.id WHERE l.purchase_order = ? GROUP BY l.id HAVING count(*) = 1)`,
  ).run(day, head.id);
}

function keepForeign(db: Db, head: OrderHead, brought: string, problems: Problem[]): void {
  const taken = brought && sql(db, "SELECT 1 FROM purchase_order WHERE brought = ? AND id <> ?").get(brought, head.id);
  if (taken) problems.push({ field: "brought", says: "Another of our orders has this number there already." });
  else sql(db, "UPDATE purchase_order SET brought = ? WHERE id = ?").run(brought || null, head.id);
}

/** The goods go to another store, and so does what is planned with them. */
function moveToStore(db: Db, head: OrderHead, store: StoreId, problems: Problem[]): void {
  if (!sql(db, "SELECT 1 FROM store WHERE id = ?").get(store)) {
    problems.push({ field: "store", says: "There is no such store." });
    return;
  }
  const { tied } = sql<{ tied: number }>(
    db,
    "SELECT count(*) AS tied FROM need_tie t JOIN order_line l ON l.id = t.order_line WHERE l.purchase_order = ?",
  ).get(head.id)!;
  if (tied > 0) {
    problems.push({ field: "store", says: `Its lines serve needs at ${head.storeName}. Take them off first.` });
    return;
  }
  sql(db, "UPDATE purchase_order SET store = ? WHERE id = ?").run(store, head.id);
  // A line that goes elsewhere goes on doing so.
  sql(db, "UPDATE order_line SET store = ? WHERE purchase_order = ? AND store = ?").run(store, head.id, head.store);
}

/** Somebody may write a draft in a buyer's name: it is the buyer's order, and both names are kept. */
function keepBuyer(db: Db, desk: Desk, head: OrderHead, buyer: number, problems: Problem[]): void {
  const may = sql(
    db,
    "SELECT 1 FROM person p JOIN person_role r ON r.person = p.id WHERE p.id = ? AND p.active = 1 AND r.role IN ('buyer', 'purchasing lead')",
  ).get(buyer);
  if (!may)
    problems.push({ field: "buyer", says: "Only a buyer’s or a purchasing lead’s name can stand on an order." });
  else
    sql(db, "UPDATE purchase_order SET writer = ?, helper = ? WHERE id = ?").run(
      buyer,
      buyer === desk.person.id ? null : desk.person.id,
      head.id,
    );
}

/** What a blanket order or a standing list names is not on its way, so nobody's need can rest on it. */
function keepKind(db: Db, desk: Desk, head: OrderHead, kind: OrderHead["kind"], problems: Problem[]): void {
  if (head.number !== null) {
    problems.push({ field: "kind", says: "It has a number already, so it stays what it is." });
    return;
  }
  const brings = kind !== "blanket" && kind !== "standing";
  const tied = sql(
    db,
    "SELECT 1 FROM need_tie t JOIN order_line l ON l.id = t.order_line WHERE l.purchase_order = ? LIMIT 1",
  ).get(head.id);
  if (!brings && tied) {
    problems.push({ field: "kind", says: "Its lines serve needs, which only an order that brings goods can do." });
    return;
  }
  // What comes to no store of ours, or to none in particular, has none of its own.
  if (!isPlain(kind)) sql(db, "UPDATE order_line SET store = ? WHERE purchase_order = ?").run(head.store, head.id);
  const blanket = kind === "blanket";
  sql(db, "UPDATE purchase_order SET kind = ?, starts = ?, ends = ? WHERE id = ?").run(
    kind,
    blanket ? desk.day : null,
    blanket ? addDays(desk.day, 364) : null,
    head.id,
  );
  sql(
    db,
    "UPDATE order_line SET awaited = iif(? AND kind <> 'charge', 1, 0), blanket_line = iif(?, blanket_line, NULL) WHERE purchase_order = ?",
  ).run(brings ? 1 : 0, brings ? 1 : 0, head.id);
}
