import { z } from "zod";
import type { BenchId, OrderId, TransferId } from "../../../core/ids";
import type { DecimalMark } from "../../../core/numbers/decimal";
import { openOfAll } from "../../../core/orders/schedule";
import { type SaidOfLine, saidFault, sameWords } from "../../../core/suppliers/answer";
import { type Db, sql } from "../../db/open";
import { type OrderHead, readOrderHead } from "../../queries/orders/order";
import { readSchedule } from "../../queries/orders/schedule";
import { countOpenAnswers } from "../../queries/suppliers/answers";
import { checked, type Desk, type Done, done, once, refuse, stale } from "../desk";
import { DayOrNone, Id, orNone, text } from "../fields";
import { retire } from "../notices";
import { changeWaits } from "../orders/change-placed";
import { WhichOrder } from "../orders/order-for";
import { type ReadLine, readTyped, SaidLineFields } from "./answer-fields";
import { bindTaken } from "./bind-taken";
import { faultWords, HOUSE_FAULTS } from "./fault-words";
import { readWaiting, takeLines, type WaitingAnswer } from "./take-lines";
import { candidatesOf, type FollowedWay, followToBench, followWay, shortageNow, tryWay } from "./way-out";

const Which = WhichOrder.extend({ lines: z.array(Id).min(1, "Choose what is decided.").max(2000) });
const Refuse = Which.extend({ why: text(300, 3, "Say why: they will read it.") });

/** What waits of these answers, all of one order in the version that the person looked at. */
function waitingOf(
  db: Db,
  { order, version, lines }: z.output<typeof Which>,
): Done<{ head: OrderHead; waiting: WaitingAnswer[] }> {
  const head = readOrderHead(db, order);
  if (!head) return refuse("", "There is no such order.");
  if (head.version !== version) return stale(`${head.name} was changed by somebody else meanwhile.`);
  if (head.stage !== "placed")
    return refuse("", `${head.name} is ${head.state.toLowerCase()}: nothing of it is to be decided.`);
  const waiting = readWaiting(db, order, lines);
  if (waiting.length < new Set(lines).size)
    return refuse("", "Some of this was decided meanwhile, or they have said something else. Load the page again.");
  return done({ head, waiting });
}

/** Takes the lines, by the way out that was chosen. */
function follow(
  db: Db,
  desk: Desk,
  head: OrderHead,
  waiting: readonly WaitingAnswer[],
  { way, cost, day }: z.output<typeof Take>,
): Done<FollowedWay> {
  const [first, more] = waiting;
  if (way === "wait") {
    takeLines(db, head, waiting, desk);
    return done({ said: null, draft: null, transfer: null, bench: null });
  }
  if (!first || more) return refuse("way", "A way out is of one line. Take the others by themselves.");
  const short = shortageNow(db, desk, head.id, first.id);
  if (way === "bench") {
    const laid = short && followToBench(db, desk, head, first, short.shortage);
    return laid ? done(laid) : stale("Nothing is short of it any more. Look again.");
  }
  const candidate = short && candidatesOf(db, desk, head, first.line, short.shortage).find((c) => c.key === way);
  if (!candidate) return stale("This way is no longer open: stock, prices or days have changed. Look again.");
  const now = tryWay(db, desk, head, first, candidate, short.shortage, short.found);
  if ((cost !== undefined && (cost ?? null) !== now.cost) || (day && day !== now.day))
    return stale("This way comes to something else than a moment ago. Look again.");
  return done(followWay(db, desk, head, first, candidate, short.shortage, short.found.effects));
}

/** Keeps what was decided; once nothing of the order is left to decide, nobody is asked to any more. */
function decide(
  db: Db,
  desk: Desk,
  order: OrderId,
  waiting: readonly WaitingAnswer[],
  state: "taken" | "refused" | "countered",
  why = "",
  counter: SaidOfLine | null = null,
) {
  const set = sql(
    db,
    "UPDATE answer_line SET state = ?, decided = ?, decided_by = ?, why = ?, counter = ? WHERE id = ?",
  );
  for (const w of waiting) set.run(state, desk.now, desk.person.id, why, counter && JSON.stringify(counter), w.id);
  if (countOpenAnswers(db, order) === 0) retire(db, desk.now, `/answers?order=${order}`);
}

/** Where a way out is taken, it is what the person saw. */
const Take = Which.extend({
  way: z.string().max(60).default("wait"),
  cost: orNone(z.coerce.number().int()).optional(),
  day: DayOrNone.optional(),
});

/** What taking an answer came to: a draft or a transfer where a way out wrote one. */
export interface Taken {
  version: number;
  revision: number;
  draft: OrderId | null;
  transfer: TransferId | null;
  bench: BenchId | null;
}

/** What one order's answers came to once they were taken: what the act answers, and what the trail keeps. */
interface TakenOfOrder extends Taken {
  number: string | null;
  state: string;
  lines: { line: number; said: SaidOfLine; by: string }[];
}

function takeOfOrder(db: Db, desk: Desk, asked: z.output<typeof Take>): Done<TakenOfOrder> {
  const { order } = asked;
  const found = waitingOf(db, asked);
  if (!found.ok) return found;
  const { head, waiting } = found.value;
  if (changeWaits(db, order))
    return refuse("", `A change of ${head.name} waits to be signed. Wait for it, or give it up first.`);
  const followed = follow(db, desk, head, waiting, asked);
  if (!followed.ok) return followed;
  const { said, draft, transfer, bench } = followed.value;
  decide(db, desk, order, waiting, "taken", "", said);
  const bound = bindTaken(db, desk, head, waiting);
  if (!bound.ok) return bound;
  const lines = waiting.map((w) => ({ line: w.line, said: w.said, by: w.by }));
  return done({ version: head.version + 1, ...bound.value, draft, transfer, bench, number: head.number, lines });
}

/**
 * Takes what a supplier said of lines: days and parts become their promises, quantities and prices the order's own. What was
 * taken together makes one new version of the order, which binds. It may not grow beyond what was signed for. With a way
 * out of what it leaves short, that is done in the same act.
 */
export function takeAnswers(desk: Desk, raw: unknown): Done<Taken> {
  const input = checked(Take, raw);
  if (!input.ok) return input;
  const { order, way } = input.value;
  return once(desk, "write orders", (tx) => {
    const taken = takeOfOrder(tx.db, desk, input.value);
    if (!taken.ok) return taken;
    const { number, state, lines, ...rest } = taken.value;
    const { revision, version, ...written } = rest;
    tx.record("order.answer-taken", `order ${order}`, {
      ...{ number, revision, state, lines },
      ...(way === "wait" ? {} : { way, ...written }),
    });
    return done(rest);
  });
}

const Several = z.object({ orders: z.array(Which).min(1, "Choose what is taken.").max(200, "At most 200 orders.") });

/** Takes answers of several orders at once, each as it was said; all of them, or none where one cannot be taken. */
export function takeSeveral(desk: Desk, raw: unknown): Done<{ orders: OrderId[] }> {
  const input = checked(Several, raw);
  if (!input.ok) return input;
  return once(desk, "write orders", (tx) => {
    const all: object[] = [];
    for (const which of input.value.orders) {
      const taken = takeOfOrder(tx.db, desk, { ...which, way: "wait" });
      if (!taken.ok) return ofOrder(tx.db, which.order, taken);
      const { number, revision, state, lines } = taken.value;
      all.push({ order: which.order, number, revision, state, lines });
    }
    tx.record("answers.taken", "answers", { orders: all });
    return done({ orders: input.value.orders.map((o) => o.order) });
  });
}

/** A refusal that says of which order it is. */
function ofOrder(db: Db, order: OrderId, no: Extract<Done<never>, { ok: false }>): Done<never> {
  const name = readOrderHead(db, order)?.name ?? `Order ${order}`;
  return {
    ...no,
    problems: no.problems.map((p) => ({ ...p, says: p.says.includes(name) ? p.says : `${name}: ${p.says}` })),
  };
}

/** Does not take what a supplier said of lines, and says why; these stand as they did. */
export function refuseAnswers(desk: Desk, raw: unknown): Done<{ version: number }> {
  const input = checked(Refuse, raw);
  if (!input.ok) return input;
  const { order, why } = input.value;
  return once(desk, "write orders", (tx) => {
    const found = waitingOf(tx.db, input.value);
    if (!found.ok) return found;
    const { head, waiting } = found.value;
    decide(tx.db, desk, order, waiting, "refused", why);
    sql(tx.db, "UPDATE purchase_order SET version = version + 1 WHERE id = ?").run(order);
    tx.record("order.answer-refused", `order ${order}`, {
      number: head.number,
      why,
      lines: waiting.map((w) => ({ line: w.line, said: w.said, by: w.by })),
    });
    return done({ version: head.version + 1 });
  });
}

const Counter = WhichOrder.extend({ answer: Id, proposal: SaidLineFields });

/**
 * Answers an answer: proposes something else in its place, which the supplier sees on the private page. Until they say
 * anything to it the line stands as it did; where they agree, it is taken without anybody being asked again.
 */
export function counterAnswer(desk: Desk, raw: unknown, mark: DecimalMark = "."): Done<{ version: number }> {
  const input = checked(Counter, raw);
  if (!input.ok) return input;
  const { order, version, answer, proposal } = input.value;
  return once(desk, "write orders", (tx) => {
    const found = waitingOf(tx.db, { order, version, lines: [answer] });
    if (!found.ok) return found;
    const { head, waiting } = found.value;
    const [first] = waiting;
    const read = readProposal(tx.db, desk, first!, proposal, mark);
    if (!read.ok) return read;
    decide(tx.db, desk, order, waiting, "countered", proposal.remark, read.value.said);
    sql(tx.db, "UPDATE purchase_order SET version = version + 1 WHERE id = ?").run(order);
    tx.record("order.answer-countered", `order ${order}`, {
      number: head.number,
      line: first!.line,
      said: first!.said,
      proposed: read.value.said,
    });
    return done({ version: head.version + 1 });
  });
}

/** What is proposed, read and looked at as an answer is: nobody proposes a day that has passed. */
function readProposal(
  db: Db,
  desk: Desk,
  w: WaitingAnswer,
  proposal: z.output<typeof SaidLineFields>,
  mark: DecimalMark,
): Done<ReadLine> {
  const schedule = readSchedule(db, w.line);
  const read = readTyped([{ ...proposal, line: w.line }], () => openOfAll(schedule), mark, HOUSE_FAULTS);
  if (!read.ok) return read;
  const line = read.value[0]!;
  const fault = saidFault({ schedule }, line.said, desk.day);
  if (fault) return refuse(`line.${w.line}.parts`, faultWords(HOUSE_FAULTS, fault, schedule));
  if (sameWords(line.said, w.said)) return refuse("", "This is what they said. Take it.");
  return done(line);
}
