import { z } from "zod";
import { type Day, toDay } from "../../../core/calendar/day";
import type { OrderId, OrderLineId } from "../../../core/ids";
import type { DecimalMark } from "../../../core/numbers/decimal";
import { decimalMarkOf } from "../../../core/numbers/format";
import { openOfAll } from "../../../core/orders/schedule";
import { type AnswerFaults, answerWords } from "../../../exchange/pdf/answer-words";
import { localeIn, lookOf } from "../../../exchange/pdf/order-document";
import { recordAudit } from "../../db/audit";
import { type Db, sql } from "../../db/open";
import { readLinked } from "../../queries/orders/link";
import { readSchedule } from "../../queries/orders/schedule";
import { linkHash } from "../../queries/quotes/quotes";
import { readSaid } from "../../queries/suppliers/answers";
import { keepCommitments } from "../budgets/keep-commitments";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { DayField, Id, OrderIdField, orNone, text } from "../fields";
import { acceptFile } from "../files/accept-file";
import { keepOrderFile } from "../orders/order-files";
import { type ReadLine, readTyped, SaidLineFields } from "./answer-fields";
import { HOUSE_FAULTS } from "./fault-words";
import { answerableLines, type KeptAnswer, keepAnswer } from "./keep-answer";

/** What is said of lines. */
export const SaidLines = z.array(SaidLineFields).max(2000, "At most 2,000 lines.");

/** What of a line is still to come; null where nothing is. */
export const openQuantity = (db: Db) => (line: OrderLineId) => openOfAll(readSchedule(db, line)) || null;

/** Whoever holds a link may answer so often of one order on one day. */
const MOST_A_DAY = 50;

/** All that is open is as ordered. */
export const asOrdered = (db: Db, order: OrderId) =>
  answerableLines(db, order).map((l) => SaidLineFields.parse({ line: l.id }));

const Answer = z.object({
  /** Of the version that they looked at. */
  revision: z.coerce.number().int().positive("Load the page again."),
  /** All as ordered; else what is said of lines. */
  all: z.boolean().default(false),
  lines: SaidLines.default([]),
  /** The answer of theirs whose place we proposed something in: they agree to it as it stands. */
  agree: orNone(Id).optional(),
  by: text(80).default(""),
  remark: text(1000).default(""),
});

/**
 * A supplier answers through a private link, without an account: all as ordered, or line by line. In one transaction with
 * its audit row. Numbers are read as their page writes them.
 */
export function answerByLink(
  db: Db,
  link: string,
  raw: unknown,
  { now, day }: { now: string; day: Day },
): Done<Omit<KeptAnswer, "answer">> {
  const input = checked(Answer, raw);
  if (!input.ok) return input;
  const v = input.value;
  const run = db.transaction((): Done<Omit<KeptAnswer, "answer">> => {
    const found = readLinked(db, link, day);
    if (!found) return refuse("", "This link does not lead to an order of ours.");
    if ("says" in found) return refuse("", found.says);
    const { order, document } = found;
    const { faults } = answerWords(lookOf(document).language);
    const mark = decimalMarkOf(localeIn(document));
    const read = v.agree
      ? proposed(db, order, v.agree, faults)
      : readTyped(v.all ? asOrdered(db, order) : v.lines, openQuantity(db), mark, faults);
    if (!read.ok) return read;
    const { sent } = sql<{ sent: number }>(
      db,
      "SELECT count(*) AS sent FROM answer WHERE purchase_order = ? AND said_on = ? AND person IS NULL",
    ).get(order, day)!;
    if (sent >= MOST_A_DAY) return refuse("", faults.tooMany);
    const { id } = sql<{ id: number }>(db, "SELECT id FROM order_link WHERE link = ?").get(linkHash(link))!;
    const kept = keepAnswer(
      db,
      order,
      read.value,
      {
        way: "private link",
        saidBy: v.by,
        saidOn: day,
        remark: v.remark,
        person: null,
        orderLink: id,
        revision: v.revision,
        document: null,
      },
      { now, day },
      faults,
    );
    if (!kept.ok) return kept;
    keepCommitments(db);
    const { answer, ...rest } = kept.value;
    recordAudit(db, now, null, "order.answered", `order ${order}`, { answer, ...rest, by: v.by });
    return done(rest);
  });
  return run.immediate();
}

/** What we proposed in the place of one of their answers, as if they had said it. */
function proposed(db: Db, order: OrderId, answer: number, faults: AnswerFaults): Done<ReadLine[]> {
  const row = readSaid(db, order).find((s) => s.id === answer);
  return row?.state === "countered" && row.counter
    ? done([{ line: row.line, said: row.counter }])
    : refuse("", faults.empty);
}

const Written = Answer.omit({ by: true, agree: true }).extend({
  order: OrderIdField,
  way: z.enum(["phone", "e-mail", "in person"], "Say how they said it."),
  saidBy: text(80, 2, "Say who of theirs said it."),
  saidOn: DayField,
});

/** The buyer writes down what a supplier said: by whom, how and when; `file` is what came with it, such as their letter. */
export function writeDownAnswer(
  desk: Desk,
  raw: unknown,
  { mark = ".", file = null }: { mark?: DecimalMark; file?: { name: string; bytes: Uint8Array } | null } = {},
): Done<Omit<KeptAnswer, "answer">> {
  const input = checked(Written, raw);
  if (!input.ok) return input;
  const v = input.value;
  const accepted = file && acceptFile(file.name, file.bytes);
  if (accepted && !accepted.ok) return accepted;
  return once(desk, "write orders", (tx) => {
    if (v.saidOn > desk.day) return refuse("saidOn", "This day is still to come.");
    const placed = sql<{ placed: string | null }>(tx.db, "SELECT placed FROM purchase_order WHERE id = ?").get(v.order);
    if (placed?.placed && v.saidOn < dayOf(placed.placed))
      return refuse("saidOn", "That is before the order was with them.");
    const read = readTyped(v.all ? asOrdered(tx.db, v.order) : v.lines, openQuantity(tx.db), mark, HOUSE_FAULTS);
    if (!read.ok) return read;
    const { way, saidBy, saidOn, remark, revision } = v;
    const attached = accepted ? keepOrderFile(tx.db, desk, v.order, accepted.value) : done({ file: undefined });
    if (!attached.ok) return attached;
    const how = { way, saidBy, saidOn, remark, revision, person: desk.person.id, orderLink: null, document: null };
    const kept = keepAnswer(
      tx.db,
      v.order,
      read.value,
      { ...how, file: attached.value.file ?? null },
      desk,
      HOUSE_FAULTS,
    );
    if (!kept.ok) return kept;
    const { answer, ...rest } = kept.value;
    tx.record("order.answered", `order ${v.order}`, { answer, ...rest, way, saidBy, saidOn });
    return done(rest);
  });
}

const dayOf = (moment: string): Day => toDay(moment.slice(0, 10));
