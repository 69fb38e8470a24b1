import type { OrderId, OrderLineId, SupplierId } from "../../../core/ids";
import { exchangedBack, money, type UnitPrice, unitPrice } from "../../../core/numbers/money";
import type { LineKind } from "../../../core/orders/kinds";
import type { OrderedLine } from "../../../core/settling/match";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../company";
import { tolerancesOfLines } from "../receiving/tolerances";

interface Row extends Omit<OrderedLine, "tolerance" | "received"> {
  taken: number;
}

/**
 * What was taken in of a line and not undone: what is set aside is not paid (domain-goods §12). What came before the house
 * kept a journal has no entry, and was settled elsewhere.
 */
const TAKEN =
  "(SELECT coalesce(sum(x.quantity - x.undone), 0) FROM receipt_line_now x WHERE x.order_line = l.id AND EXISTS (SELECT 1 FROM posting_entry e WHERE e.receipt = x.receipt))";

/** These order lines as an invoice in a currency is held against them. `rate` is its home currency for one. */
export function readOrderedLines(
  db: Db,
  lines: readonly OrderLineId[],
  currency: string,
  rate: number,
): Map<OrderLineId, OrderedLine> {
  const home = theCompany(db).currency;
  const tolerances = tolerancesOfLines(db, lines);
  return new Map(
    sql<Row>(
      db,
      `SELECT l.id AS line, l.purchase_order AS "order", l.kind, l.quantity AS ordered, l.invoiced, coalesce(l.price, 0) AS price,
              l.standing_discount AS standing, l.discount, o.discount AS orderDiscount, l.tax_rate AS taxRate, ${TAKEN} AS taken
       FROM json_each(?) j JOIN order_line l ON l.id = j.value JOIN purchase_order o ON o.id = l.purchase_order`,
    )
      .all(JSON.stringify(lines))
      .map(({ taken, ...l }) => {
        const t = tolerances.get(l.line);
        const amount = t?.priceAmount ?? null;
        return [
          l.line,
          {
            ...l,
            price: unitPrice(l.price),
            received: l.kind === "charge" ? l.ordered : taken,
            tolerance: {
              percent: t?.pricePercent ?? null,
              amount: amount === null ? null : exchangedBack(money(amount, home), rate, currency).minor,
            },
          },
        ];
      }),
  );
}

/** A line of an order that may be billed, as whoever enters an invoice sees it. */
export interface BillableLine {
  line: OrderLineId;
  order: OrderId;
  orderNumber: string;
  currency: string;
  kind: LineKind;
  /** Its place on the order, as our papers name it. */
  position: number;
  words: string;
  code: string;
  unit: string;
  unitCode: string;
  ordered: number;
  received: number;
  invoiced: number;
  price: UnitPrice;
  standing: number;
  discount: number;
  orderDiscount: number;
  taxRate: number;
}

const BILLABLE = `
  SELECT l.id AS line, o.id AS "order", o.number AS orderNumber, o.currency, l.kind, l.position, l.words, coalesce(i.code, l.their_code) AS code, u.name AS unit, l.unit AS unitCode,
         l.quantity AS ordered, iif(l.kind = 'charge', l.quantity, ${TAKEN}) AS received, l.invoiced, coalesce(l.price, 0) AS price,
         l.standing_discount AS standing, l.discount, o.discount AS orderDiscount, l.tax_rate AS taxRate
  FROM purchase_order o JOIN order_line l ON l.purchase_order = o.id JOIN unit u ON u.code = l.unit LEFT JOIN item i ON i.id = l.item
  WHERE o.stage IN ('placed', 'closed') AND o.kind <> 'blanket' AND o.kind <> 'standing' AND o.agreement IS NULL`;

/** Such lines by their ids, with whose order they are of. */
export const billableLines = (
  db: Db,
  lines: readonly OrderLineId[],
): Map<OrderLineId, BillableLine & { supplier: number }> =>
  new Map(
    sql<BillableLine & { supplier: number }>(
      db,
      `SELECT x.*, o.supplier FROM (${BILLABLE} AND l.id IN (SELECT value FROM json_each(?))) x JOIN purchase_order o ON o.id = x."order"`,
    )
      .all(JSON.stringify(lines))
      .map((l) => [l.line, l]),
  );

/** What a supplier may bill now: what was received and not invoiced, with the charges of those orders. */
export const billableOf = (db: Db, supplier: SupplierId): BillableLine[] =>
  sql<BillableLine>(
    db,
    `SELECT * FROM (${BILLABLE} AND o.supplier = @supplier) x WHERE x.received > x.invoiced
       AND (x.kind <> 'charge' OR EXISTS (SELECT 1 FROM receipt r WHERE r.purchase_order = x."order"))
     ORDER BY x."order", x.line LIMIT 2000`,
  ).all({ supplier });

/** All lines of one order that are not wholly invoiced, whether or not anything came; or all of them. */
export const billableOfOrder = (db: Db, order: OrderId, all = false): BillableLine[] =>
  sql<BillableLine>(
    db,
    `SELECT * FROM (${BILLABLE} AND o.id = @order) x WHERE @all = 1 OR x.invoiced < max(x.ordered, x.received) ORDER BY x.line`,
  ).all({ order, all: all ? 1 : 0 });
