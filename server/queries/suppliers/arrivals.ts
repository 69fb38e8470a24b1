import { type Day, laterOf } from "../../../core/calendar/day";
import type { PersonId, StoreId } from "../../../core/ids";
import { quantityText } from "../../../core/numbers/quantity";
import { may, rolesIn } from "../../../core/people/roles";
import { unitWords } from "../../../core/text";
import type { Arrival } from "../../../exchange/ical/arrivals";
import { type Db, sql } from "../../db/open";
import { linkHash } from "../quotes/quotes";

export interface ArrivalLink {
  id: number;
  /** Null for all stores. */
  store: string | null;
  made: string;
}

/** The calendar links of a person that hold. */
export const readArrivalLinks = (db: Db, person: PersonId): ArrivalLink[] =>
  sql<ArrivalLink>(
    db,
    "SELECT l.id, s.name AS store, l.made FROM arrival_link l LEFT JOIN store s ON s.id = l.store WHERE l.person = ? AND l.ended IS NULL ORDER BY l.id",
  ).all(person);

/** Whom and which store a link is for; null where it was ended, never made, or its person may not see arrivals any more. */
export function arrivalsOfLink(db: Db, link: string): { store: StoreId | null; name: string } | null {
  const row = sql<{ store: StoreId | null; name: string | null; roles: string | null }>(
    db,
    `SELECT l.store, s.name, (SELECT group_concat(r.role) FROM person_role r WHERE r.person = p.id) AS roles
     FROM arrival_link l JOIN person p ON p.id = l.person LEFT JOIN store s ON s.id = l.store WHERE l.link = ? AND l.ended IS NULL AND p.active = 1`,
  ).get(linkHash(link));
  if (!row || !may(rolesIn(row.roles ?? ""), "see dock")) return null;
  return { store: row.store, name: row.name ?? "all stores" };
}

interface Row {
  order: number;
  number: string;
  supplier: string;
  store: StoreId;
  storeName: string;
  due: Day;
  quantity: number;
  unit: string;
  what: string;
  promised: 0 | 1;
}

/** What is expected where: a load for each order, store and day; what is overdue stands on today. No prices. */
export function readArrivals(db: Db, store: StoreId | null, today: Day, site: string): Arrival[] {
  const rows = sql<Row>(
    db,
    `SELECT o.id AS "order", o.number, s.name AS supplier, l.store, t.name AS storeName, c.due, c.quantity, u.name AS unit, coalesce(i.name, l.words) AS what, c.promised IS NOT NULL AS promised
     FROM open_schedule c JOIN order_line l ON l.id = c.order_line JOIN purchase_order o ON o.id = c.purchase_order JOIN supplier s ON s.id = o.supplier
     JOIN store t ON t.id = l.store JOIN unit u ON u.code = l.unit LEFT JOIN item i ON i.id = l.item
     WHERE o.stage = 'placed' AND o.kind NOT IN ('blanket', 'standing', 'direct') AND l.kind <> 'charge' AND (@store IS NULL OR l.store = @store)
     ORDER BY c.due, o.id, l.position, c.position`,
  ).all({ store });
  const loads = new Map<string, Arrival & { lines: string[] }>();
  for (const r of rows) {
    const day = laterOf(r.due, today);
    const id = `order-${r.order}-store-${r.store}-${r.due}@wharf-tally`;
    const overdue = r.due < today ? `, expected ${r.due}` : "";
    const line = `${quantityText(r.quantity)} ${unitWords(r.quantity, r.unit)} ${r.what}${r.promised ? "" : ", not promised"}${overdue}`;
    const known = loads.get(id);
    if (known) known.lines.push(line);
    else
      loads.set(id, {
        id,
        day,
        title: `${r.number} ${r.supplier}`,
        lines: [line],
        place: r.storeName,
        href: `${site}/orders/${r.order}`,
      });
  }
  return [...loads.values()];
}
