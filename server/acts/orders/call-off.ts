import { z } from "zod";
import { addDays, laterOf } from "../../../core/calendar/day";
import { arrival } from "../../../core/calendar/delivery";
import type { OrderId } from "../../../core/ids";
import { isRecord } from "../../../core/keys";
import { lineNet } from "../../../core/numbers/money";
import { purchase } from "../../../core/numbers/quantity";
import { leftOf, refusesCall } from "../../../core/orders/blanket";
import { sql } from "../../db/open";
import { readSource, wayOf } from "../../queries/needs/positions";
import { readBlanketLine, readCalls } from "../../queries/orders/calls";
import { readOrderHead, readOrderLines } from "../../queries/orders/order";
import { checked, type Desk, type Done, done, once, type Problem, refuse, refuseAll, stale } from "../desk";
import { DayField, DayOrNone, Id, OrderIdField, QuantityField, QuantityOrNone } from "../fields";
import { insertLine } from "./add-lines";
import { keepWanted, newDraft, WhichOrder } from "./order-for";
import { priceOrder } from "./price-order";

const CallOff = z.object({
  /** The blanket order. */
  order: OrderIdField,
  lines: z.array(z.object({ line: Id, quantity: QuantityOrNone })).max(500),
  store: Id.optional(),
  required: DayOrNone.optional(),
  /** The planned call-off that it makes. */
  planned: Id.optional(),
});

/** A call-off is a draft order whose lines are drawn from a blanket order, at its prices; it goes on like any order. */
export function callOff(desk: Desk, raw: unknown): Done<{ order: OrderId }> {
  const input = checked(CallOff, linesOf(raw));
  if (!input.ok) return input;
  const v = input.value;
  return once(desk, "write orders", (tx) => {
    const head = readOrderHead(tx.db, v.order);
    if (head?.kind !== "blanket" || !head.placed) return refuse("", "There is no such blanket order.");
    if (head.stage === "closed") return refuse("", `${head.name} was closed: ${head.closedWhy}.`);
    const wanted = v.lines.flatMap(({ line, quantity }) =>
      quantity === null ? [] : [{ line, quantity: purchase(quantity) }],
    );
    if (wanted.length === 0) return refuse("", "Say how much of which line.");
    const store = v.store ?? head.store;
    const to = sql<{ receives: number; region: string }>(tx.db, "SELECT receives, region FROM store WHERE id = ?").get(
      store,
    );
    if (!to) return refuse("store", "There is no such store.");
    const lines = new Map(readOrderLines(tx.db, v.order, head.currency).map((l) => [l.id, l]));
    const problems: Problem[] = [];
    for (const { line, quantity } of wanted) {
      const l = lines.get(line);
      const terms = readBlanketLine(tx.db, line);
      if (!l || !terms || l.price === null) {
        problems.push({ field: `call.${line}`, says: "This line is not on the blanket order, or has no price." });
        continue;
      }
      const value = lineNet(quantity!, l.price, l.standing, l.discount, head.currency).minor;
      const says = refusesCall(terms, leftOf(terms, readCalls(tx.db, line)), {
        quantity,
        value,
        day: desk.day,
      });
      if (says) problems.push({ field: `call.${line}`, says });
    }
    if (problems.length) return refuseAll(problems);
    const order = newDraft(tx.db, desk, { id: head.supplier, currency: head.currency }, store, desk.day);
    sql(tx.db, "UPDATE purchase_order SET kind = 'call-off' WHERE id = ?").run(order);
    const draft = readOrderHead(tx.db, order)!;
    wanted.forEach(({ line, quantity }, i) => {
      const l = lines.get(line)!;
      const source = l.sourcing === null ? null : readSource(tx.db, l.sourcing);
      const comes = source ? arrival(desk.day, wayOf(source, to, desk.day, desk.hour)) : null;
      insertLine(
        tx.db,
        draft,
        {
          kind: l.kind,
          item: l.item,
          sourcing: l.sourcing,
          words: l.words,
          theirCode: l.theirCode,
          unit: l.unitCode,
          factor: l.factor,
          quantity,
          price: l.price,
          typed: false,
          standing: l.standing,
          discount: l.discount,
          taxTyped: l.taxTyped,
          required: v.required ?? comes ?? addDays(desk.day, 7),
          note: "",
          blanketLine: line,
          account: l.account,
          budget: l.budget,
        },
        i + 1,
      );
    });
    // A line in words has no record to be priced from again: its source says where the price came from.
    for (const l of readOrderLines(tx.db, order, head.currency))
      if (l.sourcing === null)
        sql(tx.db, "UPDATE order_line SET price_source = ? WHERE id = ?").run(
          JSON.stringify({ kind: "blanket", order: head.name, line: l.blanketLine, until: head.ends }),
          l.id,
        );
    keepWanted(tx.db, order);
    priceOrder(tx.db, order, desk.day);
    if (v.planned) sql(tx.db, "UPDATE planned_call SET made = ? WHERE id = ? AND made IS NULL").run(order, v.planned);
    tx.record("blanket.called-off", `order ${v.order}`, { order, lines: wanted });
    return done({ order });
  });
}

/** A form sends its lines as fields "call.<line>"; a script as a list. */
function linesOf(raw: unknown): unknown {
  if (!isRecord(raw) || Array.isArray(raw.lines)) return raw;
  return {
    ...raw,
    lines: Object.entries(raw)
      .filter(([k]) => k.startsWith("call."))
      .map(([k, quantity]) => ({ line: k.slice(5), quantity })),
  };
}

const PlanCall = WhichOrder.extend({ line: Id, quantity: QuantityField, due: DayField });

/** Plans a call-off on a blanket line, for a day to come. All that are planned together may not pass what is left. */
export function planCall(desk: Desk, raw: unknown): Done<{ planned: number }> {
  const input = checked(PlanCall, raw);
  if (!input.ok) return input;
  const { order, version, line, quantity, due } = input.value;
  return once(desk, "write orders", (tx) => {
    const head = readOrderHead(tx.db, order);
    const terms = readBlanketLine(tx.db, line);
    if (head?.kind !== "blanket" || terms?.order !== order) return refuse("", "There is no such blanket order.");
    if (head.version !== version) return stale(`${head.name} was changed by somebody else meanwhile.`);
    if (due < laterOf(desk.day, terms.starts)) return refuse("due", "This day has passed.");
    const left = leftOf(terms, readCalls(tx.db, line));
    const { planned } = sql<{ planned: number }>(
      tx.db,
      "SELECT coalesce(sum(quantity), 0) AS planned FROM planned_call WHERE line = ? AND made IS NULL",
    ).get(line)!;
    const says = refusesCall(
      terms,
      { left: left.left - planned, leftValue: left.leftValue },
      { quantity, value: 0, day: due },
    );
    if (says) return refuse("quantity", planned ? `${says} What is planned already counts, too.` : says);
    const id = Number(
      sql(tx.db, "INSERT INTO planned_call (line, quantity, due) VALUES (?, ?, ?)").run(line, quantity, due)
        .lastInsertRowid,
    );
    tx.record("blanket.call-planned", `order ${order}`, { line, quantity, due });
    return done({ planned: id });
  });
}

/** Takes a planned call-off away again. */
export function dropCall(desk: Desk, raw: unknown): Done<{ order: OrderId }> {
  const input = checked(z.object({ order: OrderIdField, planned: Id }), raw);
  if (!input.ok) return input;
  const { order, planned } = input.value;
  return once(desk, "write orders", (tx) => {
    const gone = sql(
      tx.db,
      "DELETE FROM planned_call WHERE id = ? AND made IS NULL AND line IN (SELECT id FROM order_line WHERE purchase_order = ?)",
    ).run(planned, order);
    if (gone.changes === 0) return refuse("", "This call-off was made or taken away already.");
    tx.record("blanket.call-dropped", `order ${order}`, { planned });
    return done({ order });
  });
}
