import { z } from "zod";
import { type Day, earlierOf } from "../../../core/calendar/day";
import { showDay } from "../../../core/numbers/format";
import { type BankAnswer, readBankAnswer } from "../../../exchange/iso20022/credit-transfer";
import { recordAudit } from "../../db/audit";
import { type Db, sql } from "../../db/open";
import { firstOpen } from "../../queries/settling/books";
import { type PayLine, type PayListSheet, readPayList, readPayListByNumber } from "../../queries/settling/pay-lists";
import { readOpenPayable } from "../../queries/settling/payables";
import { checked, type Desk, type Done, done, once, refuse, stale } from "../desk";
import { DayField, Id, text, Version } from "../fields";
import { keepPayment, payingOf } from "./pay";

/** Who it is done for: payments that a bank's file says were made bear the name of whoever released them. */
type Doer = Pick<Desk, "day" | "now" | "person">;

/** What ours is called in the bank's file and in its answer. */
export const referenceOf = (list: string, line: Pick<PayLine, "position">) => `${list}-${line.position}`;

/** A transfer was executed: what it pays is paid, in the transaction that is open. */
function execute(db: Db, by: Doer, line: PayLine, day: Day): Done<{ number: string }> {
  const parts = [];
  for (const p of line.parts) {
    const of = readOpenPayable(db, p.payable);
    if (!of || Math.abs(of.left) < Math.abs(p.minor + p.discount))
      return refuse("", `${p.number} is not owed as it was when the list was written.`);
    parts.push(payingOf(of, p.minor, p.discount));
  }
  const made = keepPayment(db, by, { supplier: line.supplier, currency: line.currency, day, parts });
  if (!made.ok) return made;
  sql(db, "UPDATE pay_line SET state = 'Executed', payment = ? WHERE id = ?").run(made.value.payment, line.id);
  return done({ number: made.value.number });
}

const reject = (db: Db, line: PayLine, why: string) =>
  sql(db, "UPDATE pay_line SET state = 'Rejected', why = ? WHERE id = ?").run(why, line.id);

/** A list ends with its last transfer. */
const endWhereDone = (db: Db, list: number) =>
  sql(
    db,
    "UPDATE pay_list SET version = version + 1, state = iif(EXISTS (SELECT 1 FROM pay_line WHERE list = pay_list.id AND state = 'Listed'), state, 'Answered') WHERE id = ?",
  ).run(list);

/** What was answered of a list: so many executed, so many rejected. */
export interface Answered {
  number: string;
  executed: number;
  rejected: number;
}

/** Takes over what a bank's report says of a list that it has; what was answered before is left as it is. */
function takeOver(db: Db, by: Doer, sheet: PayListSheet, answer: BankAnswer): Done<Answered> {
  const { head, lines } = sheet;
  const told: Answered = { number: head.number, executed: 0, rejected: 0 };
  for (const line of lines.filter((l) => l.state === "Listed")) {
    const said = answer.statuses.find((s) => s.reference === referenceOf(head.number, line));
    if (answer.allRejected !== null || said?.status === "rejected") {
      reject(db, line, answer.allRejected ?? (said?.why || "no reason was given"));
      told.rejected++;
    } else if (said?.status === "executed") {
      const paid = execute(db, by, line, firstOpen(db, earlierOf(head.day, by.day)));
      if (!paid.ok) return paid;
      told.executed++;
    }
  }
  const unknown = answer.statuses.find((s) => !lines.some((l) => referenceOf(head.number, l) === s.reference));
  if (unknown) return refuse("file", `The report names transfer ${unknown.reference}, which is not on ${head.number}.`);
  endWhereDone(db, head.id);
  return done(told);
}

/** The list that a report is of, which the bank has. */
function listOf(db: Db, answer: BankAnswer): Done<PayListSheet> {
  const sheet = readPayListByNumber(db, answer.number);
  if (!sheet) return refuse("file", `There is no pay list ${answer.number}.`);
  if (sheet.head.state !== "With the bank" && sheet.head.state !== "Released")
    return refuse(
      "file",
      `Pay list ${answer.number} is ${sheet.head.state.toLowerCase()}: the bank has nothing of it.`,
    );
  return done(sheet);
}

/** A bank's report (ISO 20022 pain.002), given by a person. */
export function bankAnswered(desk: Desk, bytes: Uint8Array): Done<Answered> {
  const read = readBankAnswer(bytes);
  if (!read.ok) return refuse("file", read.says);
  return once(desk, "pay", (tx) => {
    const sheet = listOf(tx.db, read.value);
    if (!sheet.ok) return sheet;
    const told = takeOver(tx.db, desk, sheet.value, read.value);
    if (told.ok) tx.record("pay-list.answered", `pay list ${sheet.value.head.id}`, told.value);
    return told;
  });
}

class NotTaken extends Error {
  constructor(readonly answer: Done<never>) {
    super("refused");
  }
}

/** The same from the inbox: as whoever released the list, by itself. */
export function bankAnsweredByInbox(db: Db, bytes: Uint8Array, at: { now: string; day: Day }): Done<Answered> {
  const read = readBankAnswer(bytes);
  if (!read.ok) return refuse("file", read.says);
  const run = db.transaction((): Done<Answered> => {
    const sheet = listOf(db, read.value);
    if (!sheet.ok) return sheet;
    const told = takeOver(db, { ...at, person: releaserOf(db, sheet.value) }, sheet.value, read.value);
    if (!told.ok) throw new NotTaken(told);
    recordAudit(db, at.now, null, "pay-list.answered", `pay list ${sheet.value.head.id}`, {
      ...told.value,
      from: "inbox",
    });
    return told;
  });
  try {
    return run.immediate();
  } catch (e) {
    if (e instanceof NotTaken) return e.answer;
    throw e;
  }
}

const releaserOf = (db: Db, sheet: PayListSheet): Desk["person"] => {
  const id = sql<{ id: Desk["person"]["id"] }>(
    db,
    "SELECT coalesce(released_by, person) AS id FROM pay_list WHERE id = ?",
  ).get(sheet.head.id)!.id;
  return { id, login: "", name: "", title: "", roles: [], store: null };
};

export const AnswerByHand = z.object({
  list: Id,
  version: Version,
  line: Id,
  how: z.enum(["executed", "rejected"]),
  day: DayField,
  why: text(200).default(""),
});

/** Says by hand what the bank did of one transfer of a list that was released. */
export function answerByHand(desk: Desk, raw: unknown): Done<{ number: string }> {
  const input = checked(AnswerByHand, raw);
  if (!input.ok) return input;
  const v = input.value;
  return once(desk, "pay", (tx) => {
    const sheet = readPayList(tx.db, v.list);
    if (!sheet) return refuse("", "There is no such pay list.");
    const { head } = sheet;
    if (head.state !== "Released" && head.state !== "With the bank")
      return refuse("", `Pay list ${head.number} is ${head.state.toLowerCase()}.`);
    if (head.version !== v.version) return stale(`Pay list ${head.number} was changed by somebody else meanwhile.`);
    const line = sheet.lines.find((l) => l.id === v.line && l.state === "Listed");
    if (!line) return stale("The bank answered this one already.");
    if (v.day > desk.day) return refuse("day", `${showDay(v.day, desk.day)} has not come yet.`);
    if (v.day < firstOpen(tx.db, v.day))
      return refuse("day", `${showDay(v.day, desk.day)} lies in a period that is closed.`);
    if (v.how === "rejected" && v.why.length < 3) return refuse("why", "Say why the bank rejected it.");
    if (v.how === "rejected") reject(tx.db, line, v.why);
    else {
      const paid = execute(tx.db, desk, line, v.day);
      if (!paid.ok) return paid;
    }
    endWhereDone(tx.db, head.id);
    tx.record("pay-list.answered", `pay list ${head.id}`, { line: line.position, how: v.how, day: v.day, why: v.why });
    return done({ number: head.number });
  });
}
