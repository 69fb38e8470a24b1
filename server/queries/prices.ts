import type { Day } from "../../core/calendar/day";
import type { ItemId, SourcingId, SupplierId } from "../../core/ids";
import { Big, roundToInteger } from "../../core/numbers/decimal";
import { type UnitPrice, unitPrice } from "../../core/numbers/money";
import type { PurchaseQty } from "../../core/numbers/quantity";
import type { PriceBreak, PriceRecords, QuotedPrice } from "../../core/pricing/price";
import { type Db, sql } from "../db/open";
import { rateOn, theCompany } from "./company";
import { readBlanketPrices } from "./orders/calls";

interface SourcingRow {
  item: ItemId;
  supplier: SupplierId;
  factor: number;
  unit: string;
  currency: string;
  referenceCost: number | null;
}

/** Everything that a price of this sourcing record could come from, on a day (domain §5). */
export function priceRecords(db: Db, sourcing: SourcingId, day: Day): PriceRecords {
  const row = sql<SourcingRow>(
    db,
    `SELECT c.item, c.supplier, c.factor, c.unit, s.currency, i.reference_cost AS referenceCost
     FROM sourcing c JOIN supplier s ON s.id = c.supplier JOIN item i ON i.id = c.item WHERE c.id = ?`,
  ).get(sourcing);
  if (!row) return { blankets: [], quotes: [], breaks: [], lastPaid: null, reference: null };
  const breaks = sql<PriceBreak>(
    db,
    `SELECT from_quantity AS "from", price, valid_from AS validFrom, valid_to AS validTo FROM price_break WHERE sourcing = ? ORDER BY from_quantity`,
  ).all(sourcing);
  return {
    blankets: readBlanketPrices(db, sourcing),
    quotes: readQuotes(db, sourcing),
    breaks,
    // Looked up only where nothing above has a price.
    get lastPaid() {
      return readLastPaid(db, sourcing);
    },
    get reference() {
      return reference(db, row, day);
    },
  };
}

const QUOTED = `
  SELECT a.sourcing, q.number AS quote, NULL AS said, a.from_quantity AS "from", a.price, a.valid_from AS validFrom, a.valid_to AS validTo, a.accepted, a.id
  FROM quote_answer a JOIN quote_line l ON l.id = a.line JOIN quote q ON q.id = l.quote WHERE a.sourcing IS NOT NULL`;
const SAID = `
  SELECT p.sourcing, NULL AS quote, s.day AS said, s.quantity AS "from", s.listed AS price, s.day AS validFrom, s.valid_to AS validTo, p.accepted, s.id
  FROM said_price p JOIN said_stock s ON s.id = p.said JOIN sourcing c ON c.id = p.sourcing JOIN supplier u ON u.id = c.supplier
  WHERE s.listed IS NOT NULL AND c.unit = s.unit AND c.factor = s.factor AND c.standing_discount = s.standing AND u.currency = s.currency`;
type QuotedRow = QuotedPrice & { sourcing: SourcingId };

/**
 * Accepted quotes of a sourcing record, and prices that were said and taken over; the last accepted first: of two that
 * hold from the same quantity, it counts.
 */
export const readQuotes = (db: Db, sourcing: SourcingId): QuotedPrice[] =>
  sql<QuotedPrice>(
    db,
    `SELECT quote, said, "from", price, validFrom, validTo FROM (${QUOTED} AND a.sourcing = @sourcing UNION ALL ${SAID} AND p.sourcing = @sourcing) ORDER BY accepted DESC, id DESC`,
  ).all({ sourcing });

/** The same of all sourcing records in the file. */
export function readAllQuotes(db: Db): Map<number, QuotedPrice[]> {
  const by = new Map<number, QuotedPrice[]>();
  const rows = sql<QuotedRow>(
    db,
    `SELECT sourcing, quote, said, "from", price, validFrom, validTo FROM (${QUOTED} UNION ALL ${SAID}) ORDER BY accepted DESC, id DESC`,
  );
  for (const { sourcing, ...q } of rows.iterate()) by.set(sourcing, [...(by.get(sourcing) ?? []), q]);
  return by;
}

/** What was last paid to the supplier of this record, in its unit and the supplier's currency. */
export function readLastPaid(db: Db, sourcing: SourcingId): PriceRecords["lastPaid"] {
  const paid = sql<{ price: number; order: string; day: Day }>(
    db,
    `SELECT l.price, o.number AS "order", substr(o.placed, 1, 10) AS day
     FROM sourcing c JOIN supplier s ON s.id = c.supplier JOIN order_line l ON l.item = c.item AND l.unit = c.unit
     JOIN purchase_order o ON o.id = l.purchase_order AND o.supplier = c.supplier AND o.currency = s.currency
     WHERE c.id = ? AND o.placed IS NOT NULL AND l.price IS NOT NULL ORDER BY l.id DESC LIMIT 1`,
  ).get(sourcing);
  return paid ? { ...paid, price: unitPrice(paid.price) } : null;
}

/** The item's reference cost per purchase unit in the supplier's currency; null where it has none or no rate is known. */
function reference(db: Db, row: SourcingRow, day: Day): UnitPrice | null {
  if (row.referenceCost === null) return null;
  const rate = rateOn(db, row.currency, theCompany(db).currency, day);
  if (rate === null) return null;
  return unitPrice(roundToInteger(new Big(row.referenceCost).times(row.factor).div(10_000).times(1_000_000).div(rate)));
}

/** All breaks in the file, by sourcing record: for readings over many needs at once. */
export function readBreaks(db: Db): Map<number, PriceBreak[]> {
  const by = new Map<number, PriceBreak[]>();
  const rows = sql<{
    sourcing: SourcingId;
    from: PurchaseQty;
    price: UnitPrice;
    validFrom: Day | null;
    validTo: Day | null;
  }>(
    db,
    `SELECT sourcing, from_quantity AS "from", price, valid_from AS validFrom, valid_to AS validTo FROM price_break`,
  );
  for (const { sourcing, ...b } of rows.iterate()) {
    const list = by.get(sourcing);
    if (list) list.push(b);
    else by.set(sourcing, [b]);
  }
  return by;
}
