import type { ReceiptId, SupplierId } from "../../../core/ids";
import type { GoodsDocument, GoodsLine } from "../../../exchange/pdf/goods-paper";
import { localeOf } from "../../../exchange/pdf/paper-words";
import type { AdvisedLine, ReceiptAdvice } from "../../../exchange/ubl/receipt-advice";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../company";
import { languageOr } from "../papers/templates";
import { readReceipt } from "./dock";
import { asidesOfReceipt, readReturn } from "./set-aside";

/** What papers to a supplier have in common. */
function between(db: Db, order: number) {
  const company = theCompany(db);
  const supplier = sql<{ id: SupplierId; name: string; address: string; returns: string; language: string }>(
    db,
    `SELECT s.id, s.name, s.address, s.return_address AS returns, s.language FROM purchase_order o JOIN supplier s ON s.id = o.supplier WHERE o.id = ?`,
  ).get(order)!;
  return { company: { name: company.name, address: company.address }, supplier, own: company.locale };
}

/** A receipt as it is printed for the house itself, in its own language. Null where there is none. */
export function receiptDocument(db: Db, id: ReceiptId): GoodsDocument | null {
  const r = readReceipt(db, id);
  if (!r) return null;
  const { company, supplier, own } = between(db, r.order);
  const line = {
    position: 0,
    code: null,
    theirCode: "",
    lot: "",
    expires: null,
    over: 0,
    rack: "",
    why: null,
    remark: "",
  };
  return {
    kind: "receipt",
    number: r.number,
    day: r.day,
    orderNumber: r.orderNumber,
    deliveryNote: r.note,
    company,
    supplier: { name: supplier.name, address: supplier.address },
    store: r.storeName,
    by: r.person,
    language: languageOr(db, ""),
    locale: own,
    lines: r.lines.map(
      (l, i): GoodsLine => ({
        ...line,
        position: i + 1,
        name: l.name,
        code: l.code,
        quantity: l.quantity,
        unit: l.unit,
        lot: l.lot ?? "",
        expires: l.expires,
        over: l.over,
        rack: l.bin,
      }),
    ),
    aside: asidesOfReceipt(db, id).map(
      (a, i): GoodsLine => ({
        ...line,
        position: i + 1,
        name: a.name,
        quantity: a.quantity,
        unit: a.unit,
        why: a.why,
        remark: a.note,
      }),
    ),
    reason: r.difference,
    awaits: null,
  };
}

/** A return as it goes with the goods, in the supplier's language. Null where there is none. */
export function returnDocument(db: Db, id: number): GoodsDocument | null {
  const r = readReturn(db, id);
  if (!r) return null;
  const { company, supplier, own } = between(db, r.order);
  const language = languageOr(db, supplier.language);
  return {
    kind: "return",
    number: r.number,
    day: r.day,
    orderNumber: r.orderNumber,
    deliveryNote: [...new Set(r.lines.map((l) => l.deliveryNote).filter(Boolean))].join(", "),
    company,
    supplier: { name: supplier.name, address: supplier.returns || supplier.address },
    store: r.storeName,
    by: r.by,
    language,
    locale: localeOf(language, own),
    lines: r.lines.map((l) => ({
      position: l.position,
      name: l.name,
      code: l.code,
      theirCode: l.theirCode,
      quantity: l.quantity,
      unit: l.unit,
      lot: l.lot,
      expires: null,
      over: 0,
      rack: "",
      why: l.why,
      remark: l.note,
    })),
    aside: [],
    reason: r.reason,
    awaits: r.awaits,
  };
}

/** A receipt as it is told to the supplier's system. Null where there is none. */
export function receiptAdvice(db: Db, id: ReceiptId): ReceiptAdvice | null {
  const r = readReceipt(db, id);
  if (!r) return null;
  const head = sql<{ supplier: string; code: string }>(
    db,
    "SELECT s.name AS supplier, s.code FROM purchase_order o JOIN supplier s ON s.id = o.supplier WHERE o.id = ?",
  ).get(r.order)!;
  const lines = sql<Omit<AdvisedLine, "serial"> & { serial: number }>(
    db,
    `SELECT l.position, coalesce(i.name, l.words) AS name, i.code, l.their_code AS theirCode, i.gtin, l.unit, x.received, x.over, x.rejected, x.why, x.lot, coalesce(i.by_serial, 0) AS serial,
            x.expires, x.note
     FROM (SELECT y.order_line, y.quantity AS received, y.over, 0 AS rejected, NULL AS why, coalesce(k.code, '') AS lot, k.expires, '' AS note, 0 AS kind, y.id
           FROM receipt_line y LEFT JOIN lot k ON k.id = y.lot WHERE y.receipt = @id
           UNION ALL SELECT a.order_line, 0, 0, a.quantity, a.why, a.lot, a.expires, a.note, 1, a.id FROM set_aside a WHERE a.receipt = @id) x
     JOIN order_line l ON l.id = x.order_line LEFT JOIN item i ON i.id = l.item ORDER BY l.position, x.kind, x.id`,
  ).all({ id });
  return {
    number: r.number,
    day: r.day,
    orderNumber: r.orderNumber,
    deliveryNote: r.note,
    note: r.difference,
    company: theCompany(db).name,
    supplier: { name: head.supplier, code: head.code },
    lines: lines.map((l) => ({ ...l, serial: l.serial === 1 })),
  };
}
