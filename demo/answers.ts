import { addDays, type Day } from "../core/calendar/day";
import type { OrderId, OrderLineId } from "../core/ids";
import { priceText } from "../core/numbers/money";
import { quantityText } from "../core/numbers/quantity";
import type { Desk, Done } from "../server/acts/desk";
import { makeLink } from "../server/acts/orders/order-link";
import { answerByLink, writeDownAnswer } from "../server/acts/suppliers/answer-order";
import { type Db, sql } from "../server/db/open";

interface Tools {
  db: Db;
  today: Day;
  desk: (login: string, day: Day, time?: string) => Desk;
  must: <T>(answer: Done<T>) => T;
}

interface Line {
  id: OrderLineId;
  quantity: number;
  price: number;
  due: Day;
}

/** What suppliers said yesterday and today of orders that are under way: a split, a later day, a dearer price. */
export function hearAnswers({ db, today, desk, must }: Tools): void {
  const yesterday = addDays(today, -1);
  const orderOf = (supplier: string): { order: OrderId; revision: number; who: string; lines: [Line, ...Line[]] } => {
    const { order, revision, who } = sql<{ order: OrderId; revision: number; who: string }>(
      db,
      `SELECT o.id AS "order", o.binding AS revision, (SELECT c.name FROM supplier_contact c WHERE c.supplier = s.id ORDER BY c.id LIMIT 1) AS who FROM purchase_order o JOIN supplier s ON s.id = o.supplier
       WHERE s.code = ? AND o.state = 'With supplier' AND o.kind <> 'blanket' ORDER BY o.id DESC LIMIT 1`,
    ).get(supplier)!;
    const [first, ...rest] = sql<Line>(
      db,
      "SELECT id, quantity, price, due FROM order_line WHERE purchase_order = ? AND open = 1 ORDER BY position",
    ).all(order);
    return { order, revision, who, lines: [first!, ...rest] };
  };
  const byLink = (supplier: string, at: string, differs: (l: Line) => object) => {
    const { order, revision, who, lines } = orderOf(supplier);
    const { link } = must(makeLink(desk("ines", yesterday, "08:10"), { order }));
    const [first, ...rest] = lines;
    const said = [{ line: first.id, ...differs(first) }, ...rest.map((l) => ({ line: l.id }))];
    must(answerByLink(db, link, { revision, by: who, lines: said }, { now: `${today}T${at}:00.000Z`, day: today }));
  };
  // A third of the anodes comes weeks later.
  byLink("BAW", "07:20", (l) => {
    const later = Math.floor(l.quantity / 30_000) * 10_000;
    return {
      parts: [
        { quantity: quantityText(l.quantity - later), day: l.due },
        { quantity: quantityText(later), day: addDays(l.due, 19) },
      ],
      remark: "The second heat is cast in December.",
    };
  });
  // Hand flares that a job waits for: one box now, the others after it is due.
  const flares = sql<{ order: OrderId; revision: number; line: OrderLineId }>(
    db,
    `SELECT o.id AS "order", o.binding AS revision, l.id AS line FROM order_line l JOIN purchase_order o ON o.id = l.purchase_order
     JOIN item i ON i.id = l.item WHERE i.code = 'FLR-HND' AND l.open = 1 AND o.stage = 'placed' AND o.kind <> 'blanket' ORDER BY o.id DESC LIMIT 1`,
  ).get()!;
  must(
    writeDownAnswer(desk("ines", today, "08:05"), {
      order: flares.order,
      revision: flares.revision,
      way: "e-mail",
      saidBy: "Lene Puffin",
      saidOn: today,
      lines: [
        {
          line: flares.line,
          parts: [
            { quantity: "1", day: addDays(today, 3) },
            { quantity: "3", day: addDays(today, 41) },
          ],
        },
      ],
    }),
  );
  byLink("CGG", "07:45", (l) => ({ price: priceText(Math.round(l.price / 10_000) * 10_400) }));
  const { order, revision, who, lines } = orderOf("OSD");
  must(
    writeDownAnswer(desk("ines", today, "08:30"), {
      order,
      revision,
      way: "phone",
      saidBy: who,
      saidOn: yesterday,
      lines: lines.map((l, i) =>
        i === 0 ? { line: l.id, parts: [{ quantity: "", day: addDays(l.due, 3) }] } : { line: l.id },
      ),
    }),
  );
}
