import type { Day } from "../../../core/calendar/day";
import type { OrderLineId, SourcingId } from "../../../core/ids";
import type { UnitPrice } from "../../../core/numbers/money";
import { purchase } from "../../../core/numbers/quantity";
import { breakFor, type PriceBreak } from "../../../core/pricing/price";
import { type Db, sql } from "../../db/open";

/** The price of the supplier's list that held for a line of an order, for so much of it on a day. */
export interface ListedPrice {
  sourcing: SourcingId;
  item: string;
  /** Null where the list has none. */
  inForce: (PriceBreak & { id: number }) | null;
}

/** Null where the line is of no item that the supplier sells by a list, or in another pack than the list has. */
export function listedPriceOf(db: Db, line: OrderLineId, quantity: number, day: Day): ListedPrice | null {
  const of = sql<{ sourcing: SourcingId; item: string }>(
    db,
    `SELECT c.id AS sourcing, i.name AS item FROM order_line l JOIN sourcing c ON c.id = l.sourcing JOIN item i ON i.id = c.item
     WHERE l.id = ? AND c.unit = l.unit AND c.factor = l.factor`,
  ).get(line);
  if (!of) return null;
  const breaks = sql<{ id: number; from: number; price: UnitPrice; validFrom: Day | null; validTo: Day | null }>(
    db,
    `SELECT id, from_quantity AS "from", price, valid_from AS validFrom, valid_to AS validTo FROM price_break WHERE sourcing = ? ORDER BY from_quantity`,
  )
    .all(of.sourcing)
    .map((b) => ({ ...b, from: purchase(b.from) }));
  return { ...of, inForce: breakFor(breaks, purchase(quantity), day) };
}
