import type { Day } from "../../../core/calendar/day";
import type { PersonId } from "../../../core/ids";
import { fillPlaceholders, paperKind } from "../../../core/orders/papers";
import { lookOf, paperValues } from "../../../exchange/pdf/order-document";
import { type Db, sql } from "../../db/open";
import { readTexts } from "../papers/templates";
import { documentNow } from "./document";
import type { OrderHead } from "./order";

/** Who may get an order by e-mail, and what the e-mail would say. */
export interface OrderLetter {
  people: { id: PersonId; name: string; title: string; mail: string; usual: boolean }[];
  subject: string;
  /** The private link is only made when it is sent; until then it stands in braces. */
  message: string;
}

export function orderLetter(db: Db, head: OrderHead, day: Day): OrderLetter {
  const people = sql<Omit<OrderLetter["people"][number], "usual"> & { usual: number }>(
    db,
    "SELECT id, name, title, mail, for_orders AS usual FROM supplier_contact WHERE supplier = ? ORDER BY for_orders DESC, id",
  )
    .all(head.supplier)
    .map((p) => ({ ...p, usual: p.usual === 1 }));
  const { document } = documentNow(db, head.id, day)!;
  const texts = readTexts(db, paperKind(head.kind), lookOf(document).language);
  const values = paperValues({ ...document, number: head.number }, "{link}");
  return { people, subject: fillPlaceholders(texts.subject, values), message: fillPlaceholders(texts.message, values) };
}
