import type { Day } from "../../../core/calendar/day";
import { signaturesFor } from "../../../core/signoff/ladder";
import { sql } from "../../db/open";
import { nextNumber } from "../../db/series";
import { theCompany } from "../../read/company";
import { type OrderHead, type OrderLine, readOrderHead, readOrderLines } from "../../read/orders/order";
import { readLadder } from "../../read/signoff";
import { checked, type Desk, type Done, done, once, type Problem, refuse, refuseAll } from "../desk";
import { askForSignatures } from "../signoff/ask-for-signatures";
import { orderFor, Which } from "./change-order";
import { priceOrder } from "./price-order";

/** Hands a draft in: numbered, priced once more, then signed by whom the spend ladder says; below its limit it is cleared at once. */
export function submitOrder(
  desk: Desk,
  raw: unknown,
): Done<{ order: number; number: string; waitsFor: string | null }> {
  const input = checked(Which, raw);
  if (!input.ok) return input;
  const { order, version } = input.value;
  return once(desk, "write orders", (tx) => {
    const found = orderFor(tx.db, order, version, "submit");
    if (!found.ok) return found;
    priceOrder(tx.db, order, desk.day);
    const head = readOrderHead(tx.db, order)!;
    const lines = readOrderLines(tx.db, order, head.currency);
    const problems = missing(head, lines, desk.day);
    if (problems.length) return refuseAll(problems);
    const { currency: home } = theCompany(tx.db);
    const { net } = sql<{ net: number }>(tx.db, "SELECT home_net AS net FROM purchase_order WHERE id = ?").get(order)!;
    const needed = signaturesFor(readLadder(tx.db, "order"), net, home, head.writer);
    if (!needed.ok) return refuse("", needed.says);
    const number = head.number ?? nextNumber(tx.db, "order", desk.day);
    const waitsFor = askForSignatures(
      tx,
      desk,
      { paper: "order", id: order, name: `Order ${number}` },
      net,
      needed.rungs,
    );
    sql(
      tx.db,
      "UPDATE purchase_order SET number = ?, state = ?, submitted = ?, cleared = ?, sent_back = NULL, version = version + 1 WHERE id = ?",
    ).run(number, waitsFor ? "In sign-off" : "Cleared", desk.now, waitsFor ? null : desk.now, order);
    tx.record("order.submitted", `order ${order}`, { number, net, waitsFor });
    return done({ order, number, waitsFor });
  });
}

function missing(head: OrderHead, lines: OrderLine[], today: Day): Problem[] {
  const problems: Problem[] = [];
  if (lines.length === 0) problems.push({ field: "lines", says: "An order needs at least one line." });
  if (head.rate === null)
    problems.push({
      field: "",
      says: `No rate for ${head.currency} is known, so nobody can say who must sign. An administrator loads rates under Files.`,
    });
  lines.forEach((l, i) => {
    if (l.price === null) problems.push({ field: `lines.${i}.price`, says: "No price is known. Type one." });
    else if (l.price === 0 && l.priceSource.kind !== "typed")
      problems.push({ field: `lines.${i}.price`, says: "This costs nothing. Type 0 to say that it is meant." });
    if (l.required < today) problems.push({ field: `lines.${i}.required`, says: "This day has passed." });
  });
  return problems;
}
