import type { Day } from "../../../core/calendar/day";
import type { OrderId, PersonId } from "../../../core/ids";
import type { LineChange } from "../../../core/orders/changes";
import { type Effect, effectsOf } from "../../../core/suppliers/effects";
import { differencesOf, type LineDifference } from "../../../exchange/pdf/order-changes";
import { AddedColumn, ChangeColumn, readColumn } from "../../db/json-columns";
import { type Db, sql } from "../../db/open";
import { usualPlan } from "../../queries/needs/need";
import type { Pair } from "../../queries/needs/positions";
import { documentOf } from "../../queries/orders/document";
import { type OrderHead, readOrder, readOrderHead, readOrderLines } from "../../queries/orders/order";
import { outgrown, type Route, routeOrder } from "../../queries/signoff/route";
import { agreedSheet } from "../../queries/suppliers/agreed";
import { standingOf } from "../../queries/suppliers/standing";
import { keepCommitments } from "../budgets/keep-commitments";
import { checked, type Desk, type Done, done, once, refuse, stale } from "../desk";
import { text } from "../fields";
import { servedBy, tellFollowers } from "../notices";
import { settleRequisitionsOf } from "../requisitions/settle-requisitions";
import { askForSignatures } from "../signoff/ask-for-signatures";
import { tellAskers } from "../suppliers/bind-taken";
import { tried } from "../tried";
import { bindRevision } from "./bind-revision";
import { applyChanges, ChangeFields, type Changes, readChanges } from "./change-lines";
import { noteHand, WhichOrder } from "./order-for";
import { settleOrder } from "./settle-order";
import { signedLines } from "./submit-order";

const Change = WhichOrder.extend(ChangeFields).extend({
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
    const read = readChanges(db, desk, head, input.value);
    if (!read.ok) return read;
    noteHand(db, desk, order);
    const asks = mustBeSigned(db, desk, head, read.value);
    if (asks && !asks.route.way.ok) return refuse("", asks.route.way.says);
    const change = Number(
      sql(
        db,
        "INSERT INTO order_change (purchase_order, at, person, reason, lines, added, state) VALUES (?, ?, ?, ?, ?, ?, 'in sign-off')",
      ).run(order, desk.now, desk.person.id, reason, JSON.stringify(read.value.lines), JSON.stringify(read.value.added))
        .lastInsertRowid,
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
      ...read.value,
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

/** Whose signature a change needs; null where nobody's. */
function mustBeSigned(
  db: Db,
  desk: Desk,
  head: OrderHead,
  changes: Changes,
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
  const row = sql<{ order: OrderId; person: PersonId; lines: string; added: string }>(
    db,
    'SELECT purchase_order AS "order", person, lines, added FROM order_change WHERE id = ?',
  ).get(change)!;
  const head = readOrderHead(db, row.order)!;
  if (head.stage !== "placed") {
    sql(db, "UPDATE order_change SET state = 'given up' WHERE id = ?").run(change);
    return null;
  }
  const changes = changesOf(row);
  applyChanges(db, head, changes, at.day);
  settleRequisitionsOf(db, row.order);
  settleOrder(db, row.order);
  const sheet = readOrder(db, row.order)!;
  const document = documentOf(db, agreedSheet(sheet), at.day);
  const revision = bindRevision(db, { now: at.now, person: { id: row.person } }, row.order, document);
  sql(db, "UPDATE order_change SET state = 'made', revision = ? WHERE id = ?").run(revision, change);
  const lines = (of: (c: LineChange) => boolean) => changes.lines.filter(of).map((c) => c.line);
  tellAskers(
    db,
    at,
    head,
    sheet.lines,
    lines((c) => c.parts !== null && c.store === null),
  );
  const leaves = `order ${head.number} goes to another store; it is to be bought again`;
  for (const a of servedBy(
    db,
    row.order,
    lines((c) => c.store !== null),
  ))
    tellFollowers(db, at.now, a.requisition, `Not coming: ${a.what}`, leaves);
  return revision;
}

const changesOf = (row: { lines: string; added: string }): Changes => ({
  lines: readColumn(ChangeColumn, row.lines),
  added: readColumn(AddedColumn, row.added),
});

/** The change of an order that waits for signatures; null where none does. */
export const waitingChange = (db: Db, order: number): number | null =>
  sql<{ id: number }>(db, "SELECT id FROM order_change WHERE purchase_order = ? AND state = 'in sign-off'").get(order)
    ?.id ?? null;

/** What a change would do, before anybody asks for it: tried as it would be made. */
export function tryChange(
  db: Db,
  raw: unknown,
  desk: Pick<Desk, "day" | "hour">,
): Done<{ effects: Effect[]; signs: boolean }> {
  const input = checked(Change.omit({ reason: true, version: true }), raw);
  if (!input.ok) return input;
  const { order } = input.value;
  const head = readOrderHead(db, order);
  if (head?.stage !== "placed") return refuse("", "This order is not with its supplier.");
  const read = readChanges(db, desk, head, input.value);
  if (!read.ok) return read;
  const plan = usualPlan(desk.day, desk.hour);
  const lines = read.value.lines.map((c) => c.line);
  const also = stockTouched(db, head, read.value);
  return tried(db, () => {
    const before = standingOf(db, order, lines, plan, { also });
    applyChanges(db, head, read.value, desk.day);
    keepCommitments(db);
    const after = standingOf(db, order, lines, plan, { also });
    return done({ effects: effectsOf(before, after), signs: after.signOff.again });
  });
}

/** The stock that a change moves beside that of its lines as they stand: where added lines come to, and other stores. */
function stockTouched(db: Db, head: OrderHead, { lines, added }: Changes): Pair[] {
  const by = new Map(readOrderLines(db, head.id, head.currency).map((l) => [l.id, l]));
  return [
    ...lines.flatMap((c) => {
      const l = by.get(c.line);
      if (!l || l.item === null || c.store === null) return [];
      return [l.store, c.store].map((store) => ({ item: l.item!, store }));
    }),
    ...added.flatMap((l) => (l.item === null ? [] : [{ item: l.item, store: head.store }])),
  ];
}

/** Reads something of an order as it would be with the change that waits to be signed; as it is where none does. */
export function withItsChange<T>(db: Db, order: OrderId, today: Day, read: () => T): T {
  const row = sql<{ lines: string; added: string }>(
    db,
    "SELECT lines, added FROM order_change WHERE purchase_order = ? AND state = 'in sign-off'",
  ).get(order);
  if (!row) return read();
  return tried(db, () => {
    applyChanges(db, readOrderHead(db, order)!, changesOf(row), today);
    keepCommitments(db);
    return read();
  });
}

/** The change of an order that waits to be signed, with all in which it would differ; null where none does. */
export function readWaitingChange(db: Db, order: OrderId, today: Day): WaitingChange | null {
  const row = sql<{ reason: string; person: string }>(
    db,
    "SELECT c.reason, p.name AS person FROM order_change c JOIN person p ON p.id = c.person WHERE c.purchase_order = ? AND c.state = 'in sign-off'",
  ).get(order);
  if (!row) return null;
  const documentNow = () => documentOf(db, agreedSheet(readOrder(db, order)!), today);
  const before = documentNow();
  const after = withItsChange(db, order, today, documentNow);
  const { reason, person } = row;
  return { reason, person, differences: differencesOf(before, after), net: [before.net, after.net] };
}

/** A change that waits to be signed: who asked for it and why, the lines that differ, and the order's worth before and after. */
export interface WaitingChange {
  reason: string;
  person: string;
  differences: LineDifference[];
  net: [number, number];
}
