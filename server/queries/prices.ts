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
  SELECT a.sourcing, q.number AS quote, a.from_quantity AS "from", a.price, a.valid_from AS validFrom, a.valid_to AS validTo
  FROM quote_answer a JOIN quote_line l ON l.id = a.line JOIN quote q ON q.id = l.quote WHERE a.sourcing IS NOT NULL`;

/** Accepted quotes of a sourcing record, the last accepted first: of two that hold from the same quantity, it counts. */
export const readQuotes = (db: Db, sourcing: SourcingId): QuotedPrice[] =>
  sql<QuotedPrice & { sourcing: SourcingId }>(
    db,
    `${QUOTED} AND a.sourcing = ? ORDER BY a.accepted DESC, a.id DESC`,
  ).all(sourcing);

/** All accepted quotes in the file, by sourcing record. */
export function readAllQuotes(db: Db): Map<number, QuotedPrice[]> {
  const by = new Map<number, QuotedPrice[]>();
  const rows = sql<QuotedPrice & { sourcing: SourcingId }>(db, `${QUOTED} ORDER BY a.accepted DESC, a.id DESC`);
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
