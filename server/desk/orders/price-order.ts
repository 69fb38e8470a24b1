import type { Day } from "../../../core/calendar/day";
import { exchanged, type Money, money } from "../../../core/numbers/money";
import { plus, purchase } from "../../../core/numbers/quantity";
import { priceFor } from "../../../core/pricing/price";
import { type Db, sql } from "../../db/open";
import { rateOn, theCompany } from "../../read/company";
import { orderTotals, readOrderHead, readOrderLines } from "../../read/orders/order";
import { priceRecords } from "../../read/prices";

/**
 * Prices every line again that nobody typed a price for (a break counts all lines of the item on the order), and keeps
 * the order's totals. Call inside the act's transaction after any change of lines.
 */
export function priceOrder(db: Db, order: number, day: Day): void {
  const head = readOrderHead(db, order)!;
  const before = readOrderLines(db, order, head.currency);
  const together = new Map<number, number>();
  for (const l of before) {
    if (l.sourcing !== null)
      together.set(l.sourcing, plus(purchase(together.get(l.sourcing) ?? 0), purchase(l.quantity)));
  }
  const set = sql(db, "UPDATE order_line SET price = ?, price_source = ? WHERE id = ?");
  for (const l of before) {
    if (l.priceSource.kind === "typed" || l.sourcing === null) continue;
    const found = priceFor(priceRecords(db, l.sourcing, day), purchase(together.get(l.sourcing)!), day);
    set.run(found?.price ?? null, JSON.stringify(found?.source ?? { kind: "reference cost" }), l.id);
  }
  const lines = readOrderLines(db, order, head.currency);
  const t = orderTotals(lines, head.discount, head.currency);
  const { currency: home } = theCompany(db);
  const rate = rateOn(db, head.currency, home, day);
  const homeNet =
    rate === null
      ? 0
      : inHome(
          lines.map((l) => money(l.net, head.currency)),
          t.discount,
          rate,
          home,
        );
  sql(db, "UPDATE purchase_order SET net = ?, total = ?, home_net = ?, rate = ? WHERE id = ?").run(
    t.net.minor,
    t.total.minor,
    homeNet,
    rate,
    order,
  );
}

/** Home amounts are per line, rounded; a document's home total is their sum (domain §1). The discount is a line here. */
function inHome(nets: readonly Money[], discount: Money, rate: number, home: string): number {
  const one = (m: Money) => exchanged(m, rate, home).minor;
  return nets.reduce((a, n) => a + one(n), 0) - one(discount);
}
