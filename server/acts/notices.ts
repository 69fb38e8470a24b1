import type { OrderId, OrderLineId, PersonId, RequisitionId } from "../../core/ids";
import { type Db, sql } from "../db/open";

/** Tells a person something in their inbox on Today. Call inside the act's transaction. */
export function tell(db: Db, at: string, person: PersonId, text: string, detail: string, href: string): void {
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

/** The same for one person alone: it waits for somebody else now. */
export function retireFor(db: Db, at: string, href: string, person: PersonId): void {
  sql(db, "UPDATE notice SET read = ? WHERE href = ? AND person = ? AND read IS NULL").run(at, href, person);
}

/** Everybody who is told of a requisition: its asker, and whom the asker named. */
export const toldOf = (db: Db, requisition: RequisitionId): number[] =>
  sql<{ person: PersonId }>(
    db,
    "SELECT asker AS person FROM requisition WHERE id = @id UNION SELECT person FROM requisition_watcher WHERE requisition = @id",
  )
    .all({ id: requisition })
    .map((r) => r.person);

/** Tells everybody who follows a requisition. */
export function tellFollowers(db: Db, at: string, requisition: RequisitionId, text: string, detail: string): void {
  for (const person of toldOf(db, requisition)) tell(db, at, person, text, detail, `/requisitions/${requisition}`);
}

/** The requisitions that an order serves, or only these of its lines, with what it serves for each. */
export function servedBy(
  db: Db,
  order: OrderId,
  lines: readonly OrderLineId[] | null = null,
): { requisition: RequisitionId; number: string; what: string }[] {
  return sql<{ requisition: RequisitionId; number: string; what: string }>(
    db,
    `SELECT r.id AS requisition, r.number, group_concat(coalesce(i.name, l.words), ', ') AS what
     FROM order_line l JOIN need_tie t ON t.order_line = l.id JOIN requisition_line q ON q.id = t.requisition_line
     JOIN requisition r ON r.id = q.requisition LEFT JOIN item i ON i.id = l.item
     WHERE l.purchase_order = @order AND (@lines IS NULL OR l.id IN (SELECT value FROM json_each(@lines))) GROUP BY r.id`,
  ).all({ order, lines: lines && JSON.stringify(lines) });
}
