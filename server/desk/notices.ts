import { type Db, sql } from "../db/open";

/** Tells a person something in their inbox on Today. Call inside the act's transaction. */
export function tell(db: Db, at: string, person: number, text: string, detail: string, href: string): void {
  sql(db, "INSERT INTO notice (person, at, text, detail, href) VALUES (?, ?, ?, ?, ?)").run(
    person,
    at,
    text,
    detail,
    href,
  );
}

/** Puts away what was said of a paper once it has moved on: nobody is asked to do what is done. */
export function retire(db: Db, at: string, href: string): void {
  sql(db, "UPDATE notice SET read = ? WHERE href = ? AND read IS NULL").run(at, href);
}

/** The askers whose requisitions an order serves, with what it serves for each. */
export function askersOf(
  db: Db,
  order: number,
): { asker: number; requisition: number; number: string; what: string }[] {
  return sql<{ asker: number; requisition: number; number: string; what: string }>(
    db,
    `SELECT r.asker, r.id AS requisition, r.number, group_concat(coalesce(i.name, l.words), ', ') AS what
     FROM order_line l JOIN need_tie t ON t.order_line = l.id JOIN requisition_line q ON q.id = t.requisition_line
     JOIN requisition r ON r.id = q.requisition LEFT JOIN item i ON i.id = l.item
     WHERE l.purchase_order = ? GROUP BY r.id`,
  ).all(order);
}
