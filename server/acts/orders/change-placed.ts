import { z } from "zod";
import type { Day } from "../../../core/calendar/day";
import type { OrderId, PersonId } from "../../../core/ids";
import { changedSchedule, type LineChange } from "../../../core/orders/changes";
import { openOfAll } from "../../../core/orders/schedule";
import { partsLeft, saidFault } from "../../../core/suppliers/answer";
import { type Effect, effectsOf } from "../../../core/suppliers/effects";
import { ChangeColumn, readColumn } from "../../db/json-columns";
import { type Db, sql } from "../../db/open";
import { usualPlan } from "../../queries/needs/need";
import { documentOf } from "../../queries/orders/document";
import { type OrderHead, readOrder, readOrderHead, readOrderLines } from "../../queries/orders/order";
import { readSchedule } from "../../queries/orders/schedule";
import { outgrown, type Route, routeOrder } from "../../queries/signoff/route";
import { agreedSheet } from "../../queries/suppliers/agreed";
import { standingOf } from "../../queries/suppliers/standing";
import { keepCommitments } from "../budgets/keep-commitments";
import { checked, type Desk, type Done, done, once, type Problem, refuse, refuseAll, stale } from "../desk";
import { text } from "../fields";
import { settleRequisitionsOf } from "../requisitions/settle-requisitions";
import { askForSignatures } from "../signoff/ask-for-signatures";
import { readTyped, SaidLineFields } from "../suppliers/answer-fields";
import { faultWords, HOUSE_FAULTS } from "../suppliers/fault-words";
import { writeSchedule } from "../suppliers/promises";
import { tried } from "../tried";
import { bindRevision } from "./bind-revision";
import { noteHand, WhichOrder } from "./order-for";
import { keepTotals } from "./price-order";
import { settleOrder } from "./settle-order";
import { signedLines } from "./submit-order";
import { openNeedsAgain, refitTies } from "./ties";

const Change = WhichOrder.extend({
  lines: z.array(SaidLineFields).min(1, "Change at least one line.").max(2000),
  reason: text(300, 3, "Say why, so that others understand it later."),
});

/** What a change came to: the new version, or whose signature it waits for. */
export interface Changed {
  version: number;
  revision: number | null;
  waitsFor: string | null;
}

/**
 * Changes an order that its supplier has: how much is still to come and when, in which parts, at which price; or that
 * nothing more of a line is wanted. It makes one new version, which binds and is to be confirmed again. What makes the order
 * grow beyond what was signed for waits for signatures first, and changes nothing until then.
 */
export function changePlaced(desk: Desk, raw: unknown): Done<Changed> {
  const input = checked(Change, raw);
  if (!input.ok) return input;
  const { order, version, reason } = input.value;
  return once(desk, "write orders", (tx) => {
    const { db } = tx;
    const found = changeable(db, order, version);
    if (!found.ok) return found;
    const head = found.value;
    const read = readChanges(db, order, input.value.lines, desk.day);
    if (!read.ok) return read;
    noteHand(db, desk, order);
    const asks = mustBeSigned(db, desk, head, read.value);
    if (asks && !asks.route.way.ok) return refuse("", asks.route.way.says);
    const change = Number(
      sql(
        db,
        "INSERT INTO order_change (purchase_order, at, person, reason, lines, state) VALUES (?, ?, ?, ?, ?, 'in sign-off')",
      ).run(order, desk.now, desk.person.id, reason, JSON.stringify(read.value)).lastInsertRowid,
    );
    const { route } = asks ?? {};
    const waitsFor =
      route?.way.ok === true
        ? askForSignatures(
            tx,
            desk,
            {
              paper: "order",
              id: order,
              name: `Order ${head.number}, changed`,
              writer: head.writer,
              lines: asks!.lines,
            },
            { ...route, way: route.way },
          )
        : null;
    const revision = waitsFor ? null : makeChange(db, change, desk);
    sql(db, "UPDATE purchase_order SET version = version + 1 WHERE id = ?").run(order);
    tx.record("order.changed", `order ${order}`, {
      number: head.number,
      reason,
      lines: read.value,
      revision,
      waitsFor,
    });
    return done({ version: version + 1, revision, waitsFor });
  });
}

/** A placed order in the version that was looked at, of which no change waits for signatures. */
function changeable(db: Db, order: OrderId, version: number): Done<OrderHead> {
  const head = readOrderHead(db, order);
  if (!head) return refuse("", "There is no such order.");
  if (head.version !== version) return stale(`${head.name} was changed by somebody else meanwhile.`);
  if (head.stage !== "placed" || head.kind === "blanket")
    return refuse("", `${head.name} is ${head.state.toLowerCase()}: it is not changed this way.`);
  if (changeWaits(db, order))
    return refuse("", "An earlier change of it waits to be signed. Give that up first, or wait for it.");
  return done(head);
}

/** Does a change of an order wait for signatures? */
export const changeWaits = (db: Db, order: OrderId): boolean =>
  sql(db, "SELECT 1 FROM order_change WHERE purchase_order = ? AND state = 'in sign-off'").get(order) !== undefined;

/** What is asked of lines, looked at as an answer is: nobody asks for a day that has passed. */
function readChanges(
  db: Db,
  order: OrderId,
  lines: readonly z.output<typeof SaidLineFields>[],
  today: Day,
): Done<LineChange[]> {
  const known = new Map(
    sql<{ id: number; position: number; price: number | null; discount: number; waits: 0 | 1 }>(
      db,
      `SELECT id, position, price, discount, EXISTS (SELECT 1 FROM answer_line w WHERE w.order_line = l.id AND w.state = 'waits') AS waits
       FROM order_line l WHERE purchase_order = ? AND open = 1`,
    )
      .all(order)
      .map((l) => [l.id, l]),
  );
  const read = readTyped(lines, (line) => openOfAll(readSchedule(db, line)) || null, ".", HOUSE_FAULTS);
  if (!read.ok) return read;
  const problems: Problem[] = [];
  const changes = read.value.flatMap(({ line, said }): LineChange[] => {
    const of = known.get(line);
    const no = (says: string): LineChange[] => {
      problems.push({ field: `line.${line}.parts`, says });
      return [];
    };
    if (!of) return no(HOUSE_FAULTS.notOpen);
    if (of.waits) return no(`They have said something of line ${of.position} that waits. Decide on it first.`);
    const schedule = readSchedule(db, line);
    const fault =
      said.parts === null ? null : saidFault({ schedule, price: of.price, discount: of.discount }, said, today);
    if (fault) return no(faultWords(HOUSE_FAULTS, fault, schedule));
    if (said.parts === null && said.price === null) return no("Nothing of it is different.");
    return [{ line, open: openOfAll(schedule), parts: said.parts, price: said.price }];
  });
  return problems.length ? refuseAll(problems) : done(changes);
}

/** Lines as we ask for them now, and what the order comes to then. Their supplier has to confirm them again. */
function applyChanges(db: Db, head: OrderHead, changes: readonly LineChange[], day: Day): void {
  const lines = new Map(readOrderLines(db, head.id, head.currency).map((l) => [l.id, l]));
  for (const c of changes) {
    const line = lines.get(c.line);
    const schedule = readSchedule(db, c.line);
    const open = openOfAll(schedule);
    if (!line || open === 0) continue;
    if (c.price !== null)
      sql(db, "UPDATE order_line SET price = ?, price_source = ? WHERE id = ?").run(
        c.price,
        JSON.stringify({ kind: "typed" }),
        c.line,
      );
    const parts = c.parts && partsLeft(c.parts, c.open - open);
    if (parts) {
      const whole = writeSchedule(db, c.line, schedule, changedSchedule(schedule, parts));
      if (parts.length === 0) openNeedsAgain(db, c.line, line.received, line.factor);
      else if (whole !== line.quantity) refitTies(db, c.line);
    }
    sql(db, "UPDATE order_line SET answered = NULL WHERE id = ?").run(c.line);
  }
  keepTotals(db, head, readOrderLines(db, head.id, head.currency), day, head.rate);
}

/** Whose signature a change needs; null where nobody's. */
function mustBeSigned(
  db: Db,
  desk: Desk,
  head: OrderHead,
  changes: readonly LineChange[],
): { route: Route; lines: ReturnType<typeof signedLines> } | null {
  return tried(db, () => {
    applyChanges(db, { ...head }, changes, desk.day);
    keepCommitments(db);
    return outgrown(db, head.id, desk.day)
      ? {
          route: routeOrder(db, head.id, desk.day),
          lines: signedLines(readOrderLines(db, head.id, head.currency)),
        }
      : null;
  });
}

/** Makes a change that nobody has to sign any more: one new version of the order, which binds. Returns its number. */
export function makeChange(db: Db, change: number, at: { now: string; day: Day }): number | null {
  const row = sql<{ order: OrderId; person: PersonId; lines: string }>(
    db,
    'SELECT purchase_order AS "order", person, lines FROM order_change WHERE id = ?',
  ).get(change)!;
  const head = readOrderHead(db, row.order)!;
  if (head.stage !== "placed") {
    sql(db, "UPDATE order_change SET state = 'given up' WHERE id = ?").run(change);
    return null;
  }
  applyChanges(db, head, readColumn(ChangeColumn, row.lines), at.day);
  settleRequisitionsOf(db, row.order);
  settleOrder(db, row.order);
  const document = documentOf(db, agreedSheet(readOrder(db, row.order)!), at.day);
  const revision = bindRevision(db, { now: at.now, person: { id: row.person } }, row.order, document);
  sql(db, "UPDATE order_change SET state = 'made', revision = ? WHERE id = ?").run(revision, change);
  return revision;
}

/** The change of an order that waits for signatures; null where none does. */
export const waitingChange = (db: Db, order: number): number | null =>
  sql<{ id: number }>(db, "SELECT id FROM order_change WHERE purchase_order = ? AND state = 'in sign-off'").get(order)
    ?.id ?? null;

/** What a change would do, before anybody asks for it: tried as it would be made. */
export function tryChange(
  db: Db,
  raw: unknown,
  { day, hour }: { day: Day; hour: number },
): Done<{ effects: Effect[]; signs: boolean }> {
  const input = checked(Change.omit({ reason: true, version: true }), raw);
  if (!input.ok) return input;
  const { order } = input.value;
  const head = readOrderHead(db, order);
  if (head?.stage !== "placed") return refuse("", "This order is not with its supplier.");
  const read = readChanges(db, order, input.value.lines, day);
  if (!read.ok) return read;
  const plan = usualPlan(day, hour);
  const lines = read.value.map((c) => c.line);
  return tried(db, () => {
    const before = standingOf(db, order, lines, plan);
    applyChanges(db, head, read.value, day);
    keepCommitments(db);
    const after = standingOf(db, order, lines, plan);
    return done({ effects: effectsOf(before, after), signs: after.signOff.again });
  });
}
