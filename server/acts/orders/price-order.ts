import type { Day } from "../../../core/calendar/day";
import type { OrderId, SourcingId } from "../../../core/ids";
import { Big, roundToInteger } from "../../../core/numbers/decimal";
import { exchanged, type Money, money, type UnitPrice, unitPrice } from "../../../core/numbers/money";
import { plus, purchase } from "../../../core/numbers/quantity";
import { freightOf } from "../../../core/placing/reckon";
import { type Priced, type PriceSource, priceFor } from "../../../core/pricing/price";
import { type Db, sql } from "../../db/open";
import { rateOn, theCompany } from "../../queries/company";
import { readBlanketLine } from "../../queries/orders/calls";
import {
  blanketOf,
  type OrderHead,
  type OrderLine,
  orderTotals,
  readOrderHead,
  readOrderLines,
  worthOf,
} from "../../queries/orders/order";
import { priceRecords } from "../../queries/prices";
import { keepLineValues } from "../insight/line-values";

/** An order as it stands, with its lines. */
export interface OrderNow {
  head: OrderHead;
  lines: OrderLine[];
}

/**
 * Prices every line again that nobody typed a price for (a break counts all lines of the item on the order), and keeps
 * the order's totals. `only` says whose prices may have changed: sourcing records; left out, all. Call inside the act's
 * transaction after any change of lines. Returns the order as it stands then.
 */
export function priceOrder(db: Db, order: OrderId, day: Day, only?: ReadonlySet<number>): OrderNow {
  const head = readOrderHead(db, order)!;
  return priceAgain(db, { head, lines: readOrderLines(db, order, head.currency) }, day, only);
}

/** The same for an order that was read since its lines last changed. */
export function priceAgain(db: Db, { head, lines: before }: OrderNow, day: Day, only?: ReadonlySet<number>): OrderNow {
  const together = new Map<number, number>();
  for (const l of before) {
    if (l.sourcing !== null)
      together.set(l.sourcing, plus(purchase(together.get(l.sourcing) ?? 0), purchase(l.quantity)));
  }
  const set = sql(db, "UPDATE order_line SET price = ?, price_source = ?, blanket_line = ? WHERE id = ?");
  const rates = crossRates(db, head, day);
  const lines = before.map((l) => {
    if (l.priceSource.kind === "typed" || l.sourcing === null || (only && !only.has(l.sourcing))) return l;
    const found = drawnFrom(db, l) ?? lookUp(db, head, l.sourcing, together.get(l.sourcing)!, day);
    const price = found ? rates(found.price) : null;
    const priceSource: PriceSource = found?.source ?? { kind: "reference cost" };
    const blanketLine = priceSource.kind === "blanket" ? priceSource.line : null;
    if (
      price === l.price &&
      blanketLine === l.blanketLine &&
      JSON.stringify(priceSource) === JSON.stringify(l.priceSource)
    )
      return l;
    set.run(price, JSON.stringify(priceSource), blanketLine, l.id);
    const blanket = blanketLine === l.blanketLine ? l.blanket : blanketOf(db, blanketLine);
    const priced = {
      ...l,
      price,
      priceSource,
      priceWarning: priceSource.kind === "reference cost",
      blanketLine,
      blanket,
    };
    return { ...priced, net: worthOf(priced, head.currency) };
  });
  // An order that draws every line from a blanket order is a call-off, and no other is.
  if (head.kind === "one-off" || head.kind === "call-off") {
    const kind = lines.length > 0 && lines.every((l) => l.blanketLine !== null) ? "call-off" : "one-off";
    if (kind !== head.kind) sql(db, "UPDATE purchase_order SET kind = ? WHERE id = ?").run(kind, head.id);
    head.kind = kind;
  }
  keepTotals(db, head, lines, day);
  return { head, lines };
}

/** A line that is drawn from a blanket order keeps its price, whether or not enough is left: submitting says if not. */
function drawnFrom(db: Db, line: OrderLine): Priced | null {
  const blanket = line.blanketLine === null ? null : readBlanketLine(db, line.blanketLine);
  if (!blanket) return null;
  const { price } = sql<{ price: UnitPrice }>(db, "SELECT price FROM order_line WHERE id = ?").get(line.blanketLine)!;
  return {
    price,
    source: { kind: "blanket", order: blanket.name, line: line.blanketLine!, until: blanket.ends },
    warning: false,
  };
}

/** What a line of so much would cost on an order, in its currency; null where nobody knows a price. */
export function priceOnOrder(db: Db, head: OrderHead, sourcing: SourcingId, quantity: number, day: Day): Priced | null {
  const found = lookUp(db, head, sourcing, quantity, day);
  const price = found && crossRates(db, head, day)(found.price);
  return found && price ? { ...found, price } : null;
}

/** A blanket order is not drawn from another one. */
function lookUp(db: Db, head: OrderHead, sourcing: SourcingId, quantity: number, day: Day): Priced | null {
  const records = priceRecords(db, sourcing, day);
  const draws = head.kind !== "blanket" && head.kind !== "standing";
  return priceFor(draws ? records : { ...records, blankets: [] }, purchase(quantity), day);
}

/** Prices are in the supplier's currency; an order in another one takes them at the rates of the day, to six places. */
function crossRates(db: Db, head: OrderHead, day: Day): (price: UnitPrice) => UnitPrice | null {
  if (head.theirCurrency === head.currency) return (price) => price;
  const home = theCompany(db).currency;
  const from = rateOn(db, head.theirCurrency, home, day);
  const to = rateOn(db, head.currency, home, day);
  if (from === null || to === null) return () => null;
  return (price) => unitPrice(roundToInteger(new Big(price).times(from).div(to)));
}

/** Keeps what the lines come to, and the rate of the day; once it is placed, that of then is `fixed`. */
export function keepTotals(
  db: Db,
  head: OrderHead,
  lines: readonly OrderLine[],
  day: Day,
  fixed: number | null = null,
): void {
  const t = orderTotals(lines, head.discount, head.currency);
  const { currency: home } = theCompany(db);
  const rate = fixed ?? rateOn(db, head.currency, home, day);
  const homeNet =
    rate === null
      ? 0
      : inHome(
          lines.map((l) => money(l.net, head.currency)),
          t.discount,
          rate,
          home,
        );
  // What brings nothing by itself is carried by nobody.
  const carried = head.kind !== "blanket" && head.kind !== "standing";
  const freight = carried ? freightOf(head.orderTerms, t.net.minor) : 0;
  sql(
    db,
    "UPDATE purchase_order SET net = ?, total = ?, home_net = ?, rate = ?, freight = ?, home_freight = ? WHERE id = ?",
  ).run(
    t.net.minor,
    t.total.minor,
    homeNet,
    rate,
    freight,
    rate === null ? 0 : exchanged(money(freight, head.currency), rate, home).minor,
    head.id,
  );
  keepLineValues(db, lines, homeNet);
  head.rate = rate;
  head.homeNet = homeNet;
  head.freight = freight;
}

/** From the day on which an order is placed, its lines keep their tax, whatever becomes of supplier and item. */
export function keepTaxes(db: Db, head: OrderHead): void {
  const rate = sql(db, "UPDATE order_line SET tax_rate = ? WHERE id = ?");
  for (const l of readOrderLines(db, head.id, head.currency)) rate.run(l.taxRate, l.id);
  sql(db, "UPDATE purchase_order SET taxed = ? WHERE id = ?").run(head.taxed ? 1 : 0, head.id);
}

/** Totals of orders that are not placed follow the tax of their supplier and items: call where those may have changed. */
export function retotalUnplaced(db: Db, day: Day): void {
  const orders = sql<{ id: OrderId }>(
    db,
    "SELECT id FROM purchase_order WHERE placed IS NULL AND stage <> 'cancelled'",
  ).all();
  for (const { id } of orders) {
    const head = readOrderHead(db, id)!;
    keepTotals(db, head, readOrderLines(db, id, head.currency), day);
  }
}

/** Home amounts are per line, rounded; a document's home total is their sum (domain §1). The discount is a line here. */
export function inHome(nets: readonly Money[], discount: Money, rate: number, home: string): number {
  const one = (m: Money) => exchanged(m, rate, home).minor;
  return nets.reduce((a, n) => a + one(n), 0) - one(discount);
}
