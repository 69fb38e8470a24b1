import type { ReceiptId, SupplierId } from "../../../core/ids";
import type { GoodsDocument, GoodsLine } from "../../../exchange/pdf/goods-paper";
import { localeOf } from "../../../exchange/pdf/paper-words";
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
