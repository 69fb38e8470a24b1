import { type Day, daysBetween, laterOf } from "../../../core/calendar/day";
import type { ItemId, OrderLineId, RequisitionId, RequisitionLineId, SupplierId } from "../../../core/ids";
import type { Cover } from "../../../core/needs/lacking";
import type { OrderedFrom } from "../../../core/needs/projection";
import { showDay } from "../../../core/numbers/format";
import { factorOf, purchase, toStock } from "../../../core/numbers/quantity";
import { expectedOn, openOf } from "../../../core/orders/schedule";
import { type AwaitedLoad, chanceOf, chanceOfAll, knownDays, type WaitChance } from "../../../core/suppliers/chance";
import { type Db, sql } from "../../db/open";
import { readSchedule } from "../orders/schedule";
import { pastDays } from "./past-days";

const UNKNOWN: WaitChance = { loads: null, basisPoints: null };

/** The chance of one load by a day; null where too little is known of its supplier. */
function loadChance(
  db: Db,
  item: { id: ItemId | null; name: string },
  { supplier, promised }: OrderedFrom,
  by: Day,
  today: Day,
  names = true,
): AwaitedLoad | null {
  const known = knownDays(pastDays(db, supplier, item.id, today));
  if (!known) return null;
  const what = [item.name, names ? nameOf(db, supplier) : "", showDay(promised, today)].filter(Boolean).join(", ");
  return { ...chanceOf(known.days, daysBetween(promised, today), daysBetween(promised, by)), what };
}

const nameOf = (db: Db, supplier: SupplierId): string =>
  sql<{ name: string }>(db, "SELECT name FROM supplier WHERE id = ?").get(supplier)?.name ?? "";

/** The chance of all that a line of a job waits for; null where it waits for nothing. */
export function chanceOfCover(
  db: Db,
  item: { id: ItemId; name: string },
  cover: Cover | null,
  due: Day,
  today: Day,
): WaitChance | null {
  if (!cover || (cover.draws.length === 0 && cover.lacking === 0)) return null;
  const loads = cover.draws.map(({ from }) => from && loadChance(db, item, from, laterOf(due, today), today));
  const known = loads.filter((l) => l !== null && l !== undefined);
  if (known.length < loads.length) return UNKNOWN;
  return { loads: known, basisPoints: cover.lacking > 0 ? null : chanceOfAll(known) };
}

interface AskedTie {
  line: RequisitionLineId;
  name: string;
  item: ItemId | null;
  orderLine: OrderLineId;
  supplier: SupplierId;
  placed: 0 | 1;
  factor: number;
  received: number;
  /** Of the order line's units, in stock units: where this tie begins and ends. */
  starts: number;
  ends: number;
}

/**
 * By line of a requisition: how likely all that it still waits for is here on its day. Units of an order line go to what it
 * was written for in the order in which that was tied to it, the earliest first. Nothing where a line waits for nothing; no
 * figure where some of it is on no placed order.
 */
export function chancesOfAsked(
  db: Db,
  requisition: RequisitionId,
  neededBy: Day | null,
  today: Day,
  /** Whether suppliers are named, for whoever sees orders. */
  names: boolean,
): Record<number, WaitChance> {
  if (neededBy === null) return {};
  const ties = sql<AskedTie>(
    db,
    `SELECT t.requisition_line AS line, coalesce(i.name, l.words) AS name, l.item, l.id AS orderLine, o.supplier, o.stage = 'placed' AS placed, l.factor, l.received, t.starts, t.starts + t.quantity AS ends
     FROM (SELECT n.requisition_line, n.order_line, n.quantity, coalesce(sum(n.quantity) OVER (PARTITION BY n.order_line ORDER BY n.rowid ROWS BETWEEN UNBOUNDED PRECEDING AND 1 PRECEDING), 0) AS starts
           FROM need_tie n WHERE n.order_line IN (SELECT m.order_line FROM need_tie m JOIN requisition_line r ON r.id = m.requisition_line WHERE r.requisition = @requisition)) t
     JOIN requisition_line q ON q.id = t.requisition_line JOIN order_line l ON l.id = t.order_line JOIN purchase_order o ON o.id = l.purchase_order LEFT JOIN item i ON i.id = l.item
     WHERE q.requisition = @requisition AND t.quantity > 0 AND l.kind <> 'charge' ORDER BY l.id`,
  ).all({ requisition });
  const chances: Record<number, WaitChance> = {};
  for (const t of ties) {
    const waits = loadsOfTie(db, t, laterOf(neededBy, today), today, names);
    if (waits !== null) chances[t.line] = together(chances[t.line], waits);
  }
  return chances;
}

/** What of a tie is still to come, load by load; null where all of it came. */
function loadsOfTie(db: Db, t: AskedTie, by: Day, today: Day, names: boolean): WaitChance | null {
  const stockOf = (q: number): number => toStock(purchase(q), factorOf(t.factor));
  let at = stockOf(t.received);
  if (t.ends <= at) return null;
  if (!t.placed) return UNKNOWN;
  const loads: (AwaitedLoad | null)[] = [];
  const open = readSchedule(db, t.orderLine).filter((s) => openOf(s) > 0);
  if (open.length === 0) return null; // what came is enough
  for (const part of [...open].sort((a, b) => (expectedOn(a) < expectedOn(b) ? -1 : 1))) {
    const ends = at + stockOf(openOf(part));
    if (ends > t.starts && at < t.ends)
      loads.push(
        loadChance(
          db,
          { id: t.item, name: t.name },
          { supplier: t.supplier, promised: expectedOn(part) },
          by,
          today,
          names,
        ),
      );
    at = ends;
  }
  const known = loads.filter((l) => l !== null);
  if (known.length < loads.length) return UNKNOWN;
  return { loads: known, basisPoints: at < t.ends ? null : chanceOfAll(known) };
}

function together(a: WaitChance | undefined, b: WaitChance): WaitChance {
  if (!a) return b;
  const loads = a.loads && b.loads && [...a.loads, ...b.loads];
  return { loads, basisPoints: loads && a.basisPoints !== null && b.basisPoints !== null ? chanceOfAll(loads) : null };
}
