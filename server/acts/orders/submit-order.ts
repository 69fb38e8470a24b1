import type { Day } from "../../../core/calendar/day";
import type { OrderId } from "../../../core/ids";
import { quantityText } from "../../../core/numbers/quantity";
import { leftOf, refusesCall } from "../../../core/orders/blanket";
import { spreadCharges } from "../../../core/orders/charges";
import type { SignedLine } from "../../../core/signoff/difference";
import { type Db, sql } from "../../db/open";
import { nextNumber } from "../../db/series";
import { readBlanketLine, readCalls } from "../../queries/orders/calls";
import { costLines, type OrderHead, type OrderLine, readOrderHead, readOrderLines } from "../../queries/orders/order";
import { routeOrder } from "../../queries/signoff/route";
import { checked, type Desk, type Done, done, once, type Problem, refuse, refuseAll } from "../desk";
import { askForSignatures } from "../signoff/ask-for-signatures";
import { orderFor, WhichOrder } from "./order-for";
import { priceOrder } from "./price-order";
import { settleOrder } from "./settle-order";

/** Hands a draft in: numbered, priced once more, then signed by whom the spend ladder says; below its limit it is cleared at once. */
export function submitOrder(
  desk: Desk,
  raw: unknown,
): Done<{ order: OrderId; number: string; waitsFor: string | null }> {
  const input = checked(WhichOrder, raw);
  if (!input.ok) return input;
  const { order, version } = input.value;
  return once(desk, "write orders", (tx) => {
    const found = orderFor(tx.db, desk, order, version, "submit");
    if (!found.ok) return found;
    priceOrder(tx.db, order, desk.day);
    const head = readOrderHead(tx.db, order)!;
    const lines = readOrderLines(tx.db, order, head.currency);
    const problems = missing(tx.db, head, lines, desk.day);
    if (head.held) return refuse("", `${head.name} is held: ${head.held}. Let it go first.`);
    if (problems.length) return refuseAll(problems);
    const { blocked } = head.orderTerms;
    if (blocked) return refuse("", `${head.supplierName} is blocked: ${blocked}. Move the lines to another supplier.`);
    const { way, ...route } = routeOrder(tx.db, order, desk.day);
    if (!way.ok) return refuse("", way.says);
    const net = route.facts.amount;
    const number = head.number ?? nextNumber(tx.db, "order", desk.day, seriesOf(tx.db, head.writer));
    const waitsFor = askForSignatures(
      tx,
      desk,
      {
        paper: "order",
        id: order,
        name: `Order ${number}`,
        writer: head.writer,
        lines: signedLines(lines),
      },
      { ...route, way },
    );
    sql(
      tx.db,
      "UPDATE purchase_order SET number = ?, submitted = ?, cleared = ?, sent_back = NULL, version = version + 1 WHERE id = ?",
    ).run(number, desk.now, waitsFor ? null : desk.now, order);
    settleOrder(tx.db, order, waitsFor ? "in sign-off" : "cleared");
    tx.record("order.submitted", `order ${order}`, { number, net, waitsFor, growth: route.growth && net });
    return done({ order, number, waitsFor });
  });
}

/** Lines as whoever signs them sees them. */
export const signedLines = (lines: readonly OrderLine[]): SignedLine[] =>
  lines.map((l) => ({ words: l.words, quantity: `${quantityText(l.quantity)} ${l.unit}`, minor: l.net }));

/** A buyer may have a series of their own; else the company's is used. */
const seriesOf = (db: Db, buyer: number) =>
  sql<{ series: string }>(db, "SELECT series FROM person WHERE id = ?").get(buyer)!.series;

function missing(db: Db, head: OrderHead, lines: OrderLine[], today: Day): Problem[] {
  const problems: Problem[] = [];
  const of = (l: OrderLine, field: string, says: string) => problems.push({ field: `line.${l.id}.${field}`, says });
  if (head.kind === "standing")
    return [{ field: "", says: "A standing list is kept to make orders from. Make one from it." }];
  if (!lines.some((l) => l.kind !== "charge"))
    problems.push({ field: "lines", says: "An order needs at least one line." });
  if (head.rate === null)
    problems.push({
      field: "",
      says: `No rate for ${head.currency} is known, so nobody can say who must sign. An administrator loads rates under Files.`,
    });
  if (head.kind === "direct" && !head.deliverAddress)
    problems.push({ field: "deliverAddress", says: "Say where it is to be delivered." });
  if (head.validUntil && head.validUntil < today)
    problems.push({ field: "validUntil", says: "This day has passed, so the order would be void." });
  if (head.ends && head.ends < today) problems.push({ field: "ends", says: "This day has passed." });
  for (const l of lines) {
    if (l.price === null) of(l, "price", "No price is known. Type one.");
    else if (l.price === 0 && l.priceSource.kind !== "typed")
      of(l, "price", "This costs nothing. Type 0 to say that it is meant.");
    if (l.required < today && head.kind !== "blanket") of(l, "required", "This day has passed.");
    if (l.limits !== "quantity" && head.kind === "blanket" && l.committedValue === null)
      of(l, "committedValue", "Say up to which value.");
  }
  for (const { line, says } of spreadCharges(costLines(lines)).problems)
    problems.push({ field: `line.${line}.spread`, says });
  return [...problems, ...overdrawn(db, lines, today)];
}

/** Call-offs that their blanket order does not allow: beyond what is left, outside its time, under its least. */
export function overdrawn(db: Db, lines: readonly OrderLine[], today: Day): Problem[] {
  const drawn = new Map<number, OrderLine[]>();
  for (const l of lines) if (l.blanketLine !== null) drawn.set(l.blanketLine, [...(drawn.get(l.blanketLine) ?? []), l]);
  const problems: Problem[] = [];
  for (const [id, calls] of drawn) {
    const blanket = readBlanketLine(db, id)!;
    const own = new Set(calls.map((l) => l.id));
    const left = leftOf(
      blanket,
      readCalls(db, id).filter((c) => !own.has(c.line)),
    );
    const call = {
      quantity: calls.reduce((a, l) => a + l.quantity, 0),
      value: calls.reduce((a, l) => a + l.net, 0),
      day: today,
    };
    const says = refusesCall(blanket, left, call);
    if (says) problems.push({ field: `line.${calls[0]!.id}.quantity`, says });
  }
  return problems;
}
