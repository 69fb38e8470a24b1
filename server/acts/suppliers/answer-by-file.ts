import { z } from "zod";
import { type Day, parseDay, toDay } from "../../../core/calendar/day";
import type { OrderId, OrderLineId, PersonId } from "../../../core/ids";
import { clip } from "../../../core/numbers/decimal";
import { type Responded, readOrderResponse } from "../../../exchange/ubl/order-response";
import { recordAudit } from "../../db/audit";
import { type Db, sql } from "../../db/open";
import { orderByNumber } from "../../queries/orders/order";
import { bindingOf } from "../../queries/suppliers/answers";
import { keepCommitments } from "../budgets/keep-commitments";
import { checked, type Desk, type Done, done, once, type Problem, refuse, refuseAll } from "../desk";
import { DayOrNone, orNone, text } from "../fields";
import { type ReadLine, readTyped, SaidLineFields } from "./answer-fields";
import { asOrdered, openQuantity } from "./answer-order";
import { HOUSE_FAULTS } from "./fault-words";
import { type KeptAnswer, keepAnswer } from "./keep-answer";
import { linesOf } from "./response-lines";

/** What became of an answer that came as a file or from a program. */
export interface FiledAnswer {
  order: OrderId;
  number: string;
  asOrdered: OrderLineId[];
  wait: OrderLineId[];
}

/** When it came, and who brought it; nobody did where it lay in the inbox. */
interface Brought {
  now: string;
  day: Day;
  person: PersonId | null;
}

/** Keeps the answer that a UBL 2.1 OrderResponse or OrderResponseSimple holds, brought by a buyer or by another program. */
export function answerByFile(desk: Desk, bytes: Uint8Array): Done<FiledAnswer> {
  const read = readOrderResponse(bytes);
  if (!read.ok) return refuse("file", read.says);
  return once(desk, "write orders", (tx) => {
    const kept = keepResponse(tx.db, read.response, { now: desk.now, day: desk.day, person: desk.person.id });
    if (kept.ok) tx.record("order.answered", `order ${kept.value.order}`, { ...kept.value, file: read.response.id });
    return kept;
  });
}

/** The same for a file that lay in the inbox. */
export function answerFromInbox(db: Db, bytes: Uint8Array, { now, day }: { now: string; day: Day }): Done<FiledAnswer> {
  const read = readOrderResponse(bytes);
  if (!read.ok) return refuse("file", read.says);
  class Refused extends Error {
    constructor(readonly answer: Done<FiledAnswer>) {
      super("refused");
    }
  }
  const run = db.transaction(() => {
    const kept = keepResponse(db, read.response, { now, day, person: null });
    if (!kept.ok) throw new Refused(kept);
    keepCommitments(db);
    recordAudit(db, now, null, "order.answered", `order ${kept.value.order}`, {
      ...kept.value,
      file: read.response.id,
    });
    return kept;
  });
  try {
    return run.immediate();
  } catch (e) {
    if (e instanceof Refused) return e.answer;
    throw e;
  }
}

const OfProgram = z.object({
  /** Our number of the order. */
  order: text(60, 1, "Say of which order it speaks."),
  /** The version of the order; left out, the one that holds. */
  version: orNone(z.coerce.number().int().positive("There is no such version.")).optional(),
  /** Their own number of the answer: the same one is kept once. */
  id: text(80).default(""),
  by: text(80).default(""),
  saidOn: DayOrNone.optional(),
  remark: text(1000).default(""),
  /** All as ordered; else what is said of lines, by their place on the order. */
  all: z.boolean().default(false),
  lines: z
    .array(
      SaidLineFields.omit({ line: true }).extend({
        position: z.coerce.number().int().positive("There is no such line."),
      }),
    )
    .max(2000, "At most 2,000 lines.")
    .default([]),
});

/** Keeps an answer that another program sends as JSON (docs/exchange.md). */
export function answerByProgram(desk: Desk, raw: unknown): Done<FiledAnswer> {
  const input = checked(OfProgram, raw);
  if (!input.ok) return input;
  const v = input.value;
  return once(desk, "write orders", (tx) => {
    const { db } = tx;
    const order = orderByNumber(db, v.order);
    if (order === null) return refuse("order", `There is no order ${clip(v.order)} of ours.`);
    const problems: Problem[] = [];
    const lines = v.lines.flatMap(({ position, ...said }, i) => {
      const line = lineAt(db, order, position);
      if (line === null) problems.push({ field: `lines.${i}.position`, says: `There is no line ${position}.` });
      return line === null ? [] : [SaidLineFields.parse({ ...said, line })];
    });
    if (problems.length) return refuseAll(problems);
    const read = readTyped(v.all ? asOrdered(db, order) : lines, openQuantity(db), ".", HOUSE_FAULTS);
    if (!read.ok) return read;
    const kept = keepFiled(
      db,
      order,
      read.value,
      { ...v, version: v.version ?? null, saidOn: v.saidOn ?? desk.day },
      {
        now: desk.now,
        day: desk.day,
        person: desk.person.id,
      },
    );
    if (kept.ok) tx.record("order.answered", `order ${kept.value.order}`, { ...kept.value, program: v.id });
    return kept;
  });
}

const lineAt = (db: Db, order: OrderId, position: number): OrderLineId | null =>
  sql<{ id: OrderLineId }>(db, "SELECT id FROM order_line WHERE purchase_order = ? AND position = ?").get(
    order,
    position,
  )?.id ?? null;

/** Looks whether it can be meant, and keeps it. */
function keepFiled(
  db: Db,
  id: OrderId,
  lines: readonly ReadLine[],
  said: { id: string; version: number | null; by: string; saidOn: Day; remark: string },
  brought: Brought,
): Done<FiledAnswer> {
  const { number, placed, supplier } = sql<{ number: string; placed: string | null; supplier: string }>(
    db,
    "SELECT o.number, o.placed, s.name AS supplier FROM purchase_order o JOIN supplier s ON s.id = o.supplier WHERE o.id = ?",
  ).get(id)!;
  if (said.saidOn > brought.day) return refuse("saidOn", "It is of a day that is still to come.");
  if (placed && said.saidOn < toDay(placed.slice(0, 10)))
    return refuse("saidOn", "It is of a day before the order was with them.");
  const kept = keepAnswer(
    db,
    id,
    lines,
    {
      way: "file",
      saidBy: said.by || supplier,
      saidOn: said.saidOn,
      remark: said.remark,
      person: brought.person,
      orderLink: null,
      revision: said.version ?? bindingOf(db, id),
      document: said.id || null,
    },
    brought,
    HOUSE_FAULTS,
  );
  if (!kept.ok) return kept;
  const { asOrdered: stands, wait }: KeptAnswer = kept.value;
  return done({ order: id, number, asOrdered: stands, wait });
}

/** A response to one of our orders, held against that order. Call inside the act's transaction. */
function keepResponse(db: Db, r: Responded, brought: Brought): Done<FiledAnswer> {
  const order = orderByNumber(db, r.order);
  if (order === null) return refuse("file", `It answers order ${clip(r.order)}, which is none of ours.`);
  const theirs = sql<{ code: string; currency: string }>(
    db,
    "SELECT s.code, o.currency FROM purchase_order o JOIN supplier s ON s.id = o.supplier WHERE o.id = ?",
  ).get(order)!;
  if (r.account && r.account.toLowerCase() !== theirs.code.toLowerCase())
    return refuse("file", `It comes from ${clip(r.account)}, but order ${r.order} is with ${theirs.code}.`);
  if (r.whole === "received") return refuse("file", "It says only that the order came, and confirms nothing.");
  const issued = r.issued === null ? null : parseDay(r.issued);
  if (issued === null) return refuse("file", "IssueDate is missing, or no such day.");
  const version = r.version === null ? null : /^\d{1,6}$/.test(r.version) ? Number(r.version) : 0;
  if (version === 0) return refuse("file", `There is no version ${clip(r.version!)} of an order of ours.`);
  const problems: Problem[] = [];
  const lines = linesOf(db, order, r, theirs.currency, problems);
  if (problems.length) return refuseAll(problems);
  return keepFiled(
    db,
    order,
    lines,
    { id: r.id, version, by: r.by.slice(0, 80), saidOn: issued, remark: r.note.slice(0, 1000) },
    brought,
  );
}
