import type { Day } from "../../../core/calendar/day";
import type { OrderId, OrderLineId, PersonId } from "../../../core/ids";
import { openOf, openOfAll, type Scheduled } from "../../../core/orders/schedule";
import { answerDifferences, type SaidOfLine, saidFault, sameWords } from "../../../core/suppliers/answer";
import { count } from "../../../core/text";
import type { AnswerFaults } from "../../../exchange/pdf/answer-words";
import { readColumn, SaidColumn } from "../../db/json-columns";
import { type Db, madeId, sql } from "../../db/open";
import { readOrderHead } from "../../queries/orders/order";
import { readSchedule } from "../../queries/orders/schedule";
import { chargesOn } from "../../queries/suppliers/answers";
import { type Done, done, type Problem, refuse, refuseAll } from "../desk";
import { tell } from "../notices";
import { markEvent } from "../orders/marks";
import { settleOrder } from "../orders/settle-order";
import type { ReadLine } from "./answer-fields";
import { bindTaken } from "./bind-taken";
import { faultWords } from "./fault-words";
import { keepPromises } from "./promises";
import { readWaiting, takeLines } from "./take-lines";

/** How an answer came: from whom, when, and who wrote it down. */
export interface HowSaid {
  way: "private link" | "file" | "phone" | "e-mail" | "in person";
  saidBy: string;
  saidOn: Day;
  remark: string;
  /** Who wrote it down; null where they did so themselves. */
  person: PersonId | null;
  orderLink: number | null;
  /** The version that it speaks of. */
  revision: number;
  /** The number that they gave it themselves; the same one is not kept twice for an order. */
  document: string | null;
  /** What came with it, kept with the order. */
  file?: number | null;
}

interface Answerable {
  id: OrderLineId;
  position: number;
  price: number | null;
  discount: number;
  /** Their word on it was taken, and nothing that they said of it since waits. */
  settled: 0 | 1;
}

/** What an answer came to: lines that were as ordered, and lines that wait for the buyer. */
export interface KeptAnswer {
  answer: number;
  asOrdered: OrderLineId[];
  wait: OrderLineId[];
}

const isUnpromised = (s: Scheduled) => openOf(s) > 0 && s.promised === null;

/** The lines of an order of which something is still to come. */
export const answerableLines = (db: Db, order: OrderId): Answerable[] =>
  sql<Answerable>(
    db,
    `SELECT id, position, price, discount,
            answered IS NOT NULL AND NOT EXISTS (SELECT 1 FROM answer_line w WHERE w.order_line = l.id AND w.state = 'waits') AS settled
     FROM order_line l WHERE purchase_order = ? AND open = 1 ORDER BY position`,
  ).all(order);

/**
 * Keeps an answer to a placed order. What is as ordered is taken at once: there is nothing to decide. Everything else waits
 * for the buyer, who is told, and changes nothing until then. What waited before of the same lines is replaced. Call inside
 * the act's transaction, which writes the audit row.
 */
export function keepAnswer(
  db: Db,
  order: OrderId,
  lines: readonly ReadLine[],
  how: HowSaid,
  { now, day }: { now: string; day: Day },
  faults: AnswerFaults,
): Done<KeptAnswer> {
  const head = sql<{ stage: string; binding: number | null; writer: PersonId; number: string; supplier: string }>(
    db,
    "SELECT o.stage, o.binding, o.writer, o.number, s.name AS supplier FROM purchase_order o JOIN supplier s ON s.id = o.supplier WHERE o.id = ?",
  ).get(order);
  if (head?.stage !== "placed") return refuse("", faults.notWaiting);
  if (head.binding !== how.revision) return refuse("", faults.version(how.revision, head.binding));
  if (
    how.document !== null &&
    sql(db, "SELECT 1 FROM answer WHERE purchase_order = ? AND document = ?").get(order, how.document)
  )
    return refuse("", `Their answer ${how.document} to ${head.number} was kept already.`);
  const known = new Map(answerableLines(db, order).map((l) => [l.id, l]));
  const charges = chargesOn(db, order);
  const problems: Problem[] = [];
  if (new Set(lines.map((l) => l.line)).size < lines.length) return refuse("", faults.twice);
  const read = lines.flatMap(({ line, said }) => {
    const of = known.get(line);
    const standing = of && { schedule: readSchedule(db, line), price: of.price, discount: of.discount, charges };
    const fault = standing ? saidFault(standing, said, day) : "notOpen";
    if (fault)
      problems.push({ field: `line.${line}.parts`, says: faultWords(faults, fault, standing?.schedule ?? []) });
    return standing && !fault ? [{ line, said, standing, differs: answerDifferences(standing, said).length > 0 }] : [];
  });
  if (problems.length) return refuseAll(problems);
  if (read.length === 0) return refuse("", faults.empty);
  // What was promised already, and is said once more as it stands without a word besides, is no news.
  const news = read.filter(
    (r) =>
      r.differs ||
      !known.get(r.line)!.settled ||
      r.standing.schedule.some(isUnpromised) ||
      r.said.remark !== "" ||
      how.remark !== "",
  );
  if (news.length === 0) return refuse("", faults.already);
  const answer = madeId(
    sql(
      db,
      `INSERT INTO answer (purchase_order, revision, way, said_by, said_on, at, person, order_link, remark, document, file)
       VALUES (@order, @revision, @way, @saidBy, @saidOn, @now, @person, @orderLink, @remark, @document, @file)`,
    ).run({ order, now, file: null, ...how }),
  );
  const add = sql(
    db,
    "INSERT INTO answer_line (answer, order_line, open, said, state, decided) VALUES (?, ?, ?, ?, ?, ?)",
  );
  const replace = sql(
    db,
    "UPDATE answer_line SET state = 'replaced', decided = ? WHERE order_line = ? AND state = 'waits'",
  );
  const kept: KeptAnswer = { answer, asOrdered: [], wait: [] };
  for (const { line, said, standing, differs } of news) {
    replace.run(now, line);
    add.run(
      answer,
      line,
      openOfAll(standing.schedule),
      JSON.stringify(said),
      differs ? "waits" : "taken",
      differs ? null : now,
    );
    if (differs) kept.wait.push(line);
    else {
      keepPromises(db, line, standing.schedule, said.parts, answer, now);
      kept.asOrdered.push(line);
    }
  }
  takeAgreed(db, order, kept, { now, day });
  if (settleOrder(db, order) === "Confirmed" && kept.asOrdered.length > 0) markEvent(db, now, order, "confirmed");
  tell(
    db,
    now,
    head.writer,
    kept.wait.length
      ? `${head.supplier} answered ${head.number}: ${count(kept.wait.length, "line")} to decide`
      : `${head.supplier} confirmed ${count(kept.asOrdered.length, "line")} of ${head.number}`,
    how.remark,
    kept.wait.length ? `/answers?order=${order}` : `/orders/${order}`,
  );
  return done(kept);
}

/** What they say as we proposed it is agreed, and taken at once: whoever proposed it has decided already. */
function takeAgreed(db: Db, order: OrderId, kept: KeptAnswer, { now, day }: { now: string; day: Day }): void {
  const ids = sql<{ id: number }>(db, "SELECT id FROM answer_line WHERE answer = ? AND state = 'waits'").all(
    kept.answer,
  );
  const agreed = readWaiting(
    db,
    order,
    ids.map((r) => r.id),
  ).flatMap((w) => {
    const proposal = proposalTo(db, w.line, kept.answer);
    return proposal && sameWords(proposal.said, w.said) ? [{ w, by: proposal.by }] : [];
  });
  const [first] = agreed;
  if (!first) return;
  const waiting = agreed.map((a) => a.w);
  const head = readOrderHead(db, order)!;
  const take = db.transaction(() => {
    takeLines(db, head, waiting, { now, day });
    const bound = bindTaken(db, { now, day, person: { id: first.by } }, head, waiting);
    // What has grown too much meanwhile is for the buyer to look at again.
    if (!bound.ok) throw NOT_YET;
    const set = sql(db, "UPDATE answer_line SET state = 'taken', decided = ?, decided_by = ? WHERE id = ?");
    for (const { w, by } of agreed) set.run(now, by, w.id);
  });
  try {
    take();
  } catch (e) {
    if (e !== NOT_YET) throw e;
    return;
  }
  const lines = new Set(waiting.map((w) => w.line));
  kept.wait = kept.wait.filter((l) => !lines.has(l));
  kept.asOrdered.push(...lines);
}
const NOT_YET = new Error("not yet");

/** What we proposed last for a line, and who did; null where something else was said or decided of it since. */
function proposalTo(db: Db, line: OrderLineId, but: number): { said: SaidOfLine; by: PersonId } | null {
  const last = sql<{ state: string; counter: string | null; by: PersonId }>(
    db,
    "SELECT state, counter, decided_by AS by FROM answer_line WHERE order_line = ? AND answer <> ? ORDER BY id DESC LIMIT 1",
  ).get(line, but);
  return last?.state === "countered" && last.counter !== null
    ? { said: readColumn(SaidColumn, last.counter), by: last.by }
    : null;
}
