import type { SelfBilled } from "../../../exchange/ubl/self-billed-invoice";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../company";
import { readInvoice } from "./invoices";

/** An invoice that we wrote for its supplier, as it goes to them; null where they wrote it. */
export function selfBilledInvoice(db: Db, id: number): SelfBilled | null {
  const sheet = readInvoice(db, id);
  const of = sql<{ name: string; address: string; taxNumber: string; taxed: number; ours: number }>(
    db,
    `SELECT s.name, iif(s.pay_address = '', s.address, s.pay_address) AS address, s.tax_number AS taxNumber, s.taxed, v.ours
     FROM invoice v JOIN supplier s ON s.id = v.supplier WHERE v.id = ?`,
  ).get(id);
  if (!sheet || of?.ours !== 1) return null;
  const { head, lines, taxes } = sheet;
  const company = theCompany(db);
  const more = new Map(
    sql<{ id: number; unit: string; theirCode: string; position: number }>(
      db,
      "SELECT l.id, d.unit, d.their_code AS theirCode, d.position FROM invoice_line l JOIN order_line d ON d.id = l.order_line WHERE l.invoice = ?",
    )
      .all(id)
      .map((l) => [l.id, l]),
  );
  return {
    statement: {
      number: head.number,
      day: head.day,
      currency: head.currency,
      taxed: of.taxed === 1,
      since: head.day,
      until: head.day,
      agreement: "",
      net: head.net,
      total: head.total,
      taxes: taxes.map((t) => ({ rate: t.rate, net: t.base, tax: t.tax })),
      lines: lines.map((l) => {
        const at = more.get(l.id)!;
        return {
          job: "",
          unit: at.unit,
          quantity: l.quantity,
          net: l.net,
          day: head.day,
          order: l.orderNumber,
          orderLine: at.position,
          name: l.words,
          code: l.code,
          theirCode: at.theirCode,
          taxRate: l.taxRate,
          price: l.standing === 0 && l.discount === 0 ? l.price : null,
        };
      }),
    },
    supplier: { name: of.name, address: of.address, country: "", taxNumber: of.taxNumber },
    customer: {
      name: company.name,
      address: company.address,
      country: company.country,
      taxNumber: company.taxNumber,
    },
    due: head.due,
  };
}
