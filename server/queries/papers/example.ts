import type { Day } from "../../../core/calendar/day";
import type { OrderId } from "../../../core/ids";
import type { Language, PaperKind, PaperLayout, PaperTexts } from "../../../core/orders/papers";
import type { OrderDocument } from "../../../exchange/pdf/order-document";
import { type Db, sql } from "../../db/open";
import { documentOf } from "../orders/document";
import { readOrder } from "../orders/order";
import { logoNow } from "./templates";

/**
 * An order of ours to show a kind of paper with: the newest of the kind, else the newest of any, drawn as one of the kind.
 * Null where there are no orders yet.
 */
export function exampleDocument(
  db: Db,
  kind: PaperKind,
  language: Language,
  look: PaperLayout & Pick<PaperTexts, "above" | "below" | "foot">,
  day: Day,
): OrderDocument | null {
  const row = sql<{ id: OrderId }>(
    db,
    `SELECT id FROM purchase_order WHERE kind <> 'standing' AND agreement IS NULL AND EXISTS (SELECT 1 FROM order_line l WHERE l.purchase_order = purchase_order.id)
     ORDER BY kind = ? DESC, number IS NOT NULL DESC, id DESC LIMIT 1`,
  ).get(kind);
  const sheet = row && readOrder(db, row.id);
  if (!sheet) return null;
  const document = documentOf(db, sheet, day);
  const dates = kind === "blanket" ? { starts: sheet.head.starts ?? day, ends: sheet.head.ends ?? day } : {};
  return { ...document, kind, ...dates, look: { ...look, language, logo: logoNow(db) } };
}
