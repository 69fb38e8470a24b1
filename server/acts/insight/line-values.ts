import type { OrderId } from "../../../core/ids";
import { exchanged, money, share } from "../../../core/numbers/money";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../../queries/company";
import { readOrderLines } from "../../queries/orders/order";

/** Keeps what each line of an order comes to at home: parts of the whole order's, less its discount, to the cent. */
export function keepLineValues(db: Db, lines: readonly { id: number; net: number }[], homeNet: number): void {
  const parts = share(
    homeNet,
    lines.map((l) => l.net),
  );
  sql(
    db,
    "UPDATE order_line SET home_net = j.value ->> 1 FROM json_each(?) j WHERE order_line.id = j.value ->> 0 AND home_net IS NOT j.value ->> 1",
  ).run(JSON.stringify(lines.map((l, i) => [l.id, parts[i]])));
}

/** What a file of an earlier house did not keep: once for each paper. Returns how many papers it was. */
export function fillLineValues(db: Db): number {
  return db
    .transaction(() => {
      const orders = sql<{ id: OrderId; currency: string; homeNet: number }>(
        db,
        `SELECT id, currency, home_net AS homeNet FROM purchase_order o
         WHERE id IN (SELECT purchase_order FROM order_line WHERE home_net IS NULL)`,
      ).all();
      for (const o of orders) keepLineValues(db, readOrderLines(db, o.id, o.currency), o.homeNet);
      const { currency: home } = theCompany(db);
      const billed = sql<{ id: number; net: number; currency: string; rate: number }>(
        db,
        "SELECT b.id, b.net, v.currency, v.rate FROM invoice_line b JOIN invoice v ON v.id = b.invoice WHERE b.home_net IS NULL",
      ).all();
      const keep = sql(db, "UPDATE invoice_line SET home_net = ? WHERE id = ?");
      for (const b of billed) keep.run(exchanged(money(b.net, b.currency), b.rate, home).minor, b.id);
      return orders.length + billed.length;
    })
    .immediate();
}
