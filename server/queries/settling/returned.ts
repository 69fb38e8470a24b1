import type { OrderLineId } from "../../../core/ids";
import type { AsideReason } from "../../../core/receiving/set-aside";
import { type Db, sql } from "../../db/open";

/** Goods of an order line that came and were not taken in, and what became of them; purchase units. */
export interface NotTakenIn {
  line: OrderLineId;
  quantity: number;
  why: AsideReason;
  /** "" while nobody decided. */
  became: string;
  /** The paper with which they went back; null where they did not. */
  goodsReturn: number | null;
  number: string | null;
}

/** Of the lines that an invoice bills, what lies set aside or went: why it is not here. What was kept is here. */
export const notTakenIn = (db: Db, invoice: number): NotTakenIn[] =>
  sql<NotTakenIn>(
    db,
    `SELECT a.order_line AS line, a.undecided AS quantity, a.why, '' AS became, NULL AS goodsReturn, NULL AS number
     FROM set_aside a WHERE a.undecided > 0 AND a.order_line IN (SELECT order_line FROM invoice_line WHERE invoice = @invoice)
     UNION ALL
     SELECT a.order_line, d.quantity, a.why, d.what, g.id, g.number
     FROM set_aside a JOIN set_aside_decision d ON d.set_aside = a.id AND d.what <> 'keep' LEFT JOIN goods_return g ON g.id = d.goods_return
     WHERE a.order_line IN (SELECT order_line FROM invoice_line WHERE invoice = @invoice)
     ORDER BY 1, 5`,
  ).all({ invoice });

/** Returns of an invoice's orders for which a credit is awaited and nobody claimed yet. */
export const returnsToCredit = (db: Db, invoice: number) =>
  sql<{ id: number; number: string; reason: string }>(
    db,
    `SELECT g.id, g.number, g.reason FROM goods_return g
     WHERE g.settled IS NULL AND g.awaits = 'credit'
       AND g.purchase_order IN (SELECT d.purchase_order FROM invoice_line l JOIN order_line d ON d.id = l.order_line WHERE l.invoice = ?)
       AND NOT EXISTS (SELECT 1 FROM claim c WHERE c.goods_return = g.id AND c.state IN ('Open', 'Credited'))
     ORDER BY g.id`,
  ).all(invoice);

/** The return for which a credit is awaited, and which took goods of this order line; null where there is none that nobody claimed. */
export const returnOfLine = (db: Db, invoice: number, line: OrderLineId): number | null =>
  returnsToCredit(db, invoice).find((g) =>
    notTakenIn(db, invoice).some((n) => n.line === line && n.goodsReturn === g.id),
  )?.id ?? null;
