import type { Day } from "../../../core/calendar/day";
import { showDay } from "../../../core/numbers/format";
import { refuses } from "../../../core/orders/state";
import { writeMail } from "../../../exchange/mail/message";
import { type OrderDocument, orderDocument } from "../../../exchange/pdf/order-document";
import { orderPdf } from "../../../exchange/pdf/order-pdf";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../../read/company";
import { type OrderSheet, readOrder } from "../../read/orders/order";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { retire, servedBy, tellFollowers } from "../notices";
import { orderFor, Which } from "./change-order";

/** The contacts of a supplier who get orders. */
export const orderContacts = (db: Db, supplier: number) =>
  sql<{ name: string; mail: string }>(
    db,
    "SELECT name, mail FROM supplier_contact WHERE supplier = ? AND for_orders = 1 ORDER BY id",
  ).all(supplier);

/** What goes onto the paper, from the order as it stands. */
export function documentOf(
  db: Db,
  sheet: OrderSheet,
  day: Day,
  contacts = orderContacts(db, sheet.head.supplier),
): OrderDocument {
  const company = theCompany(db);
  const writer = sql<{ name: string; mail: string; title: string }>(
    db,
    "SELECT name, mail, title FROM person WHERE id = ?",
  ).get(sheet.head.writer)!;
  return orderDocument(company, sheet.head, sheet.lines, sheet.totals, contacts, writer, day);
}

/**
 * Sends a cleared order to the supplier's contacts: PDF, e-mail and version are made from one document and kept in one
 * transaction with the new state. From here on nothing is deleted.
 */
export async function placeOrder(desk: Desk, raw: unknown): Promise<Done<{ number: string; recipients: string[] }>> {
  const input = checked(Which, raw);
  if (!input.ok) return input;
  const { order, version } = input.value;
  const seen = readOrder(desk.db, order);
  if (!seen) return refuse("", "There is no such order.");
  const contacts = orderContacts(desk.db, seen.head.supplier);
  if (contacts.length === 0)
    return refuse(
      "",
      `${seen.head.supplierName} has no e-mail address for orders. An administrator adds one with the suppliers file.`,
    );
  const no = refuses(seen.head.state, "place", seen.head.name);
  // The paper takes a moment to draw, so it is drawn before the transaction, from the version that the transaction insists on.
  const document = documentOf(desk.db, seen, desk.day, contacts);
  const pdf = no ? null : await orderPdf(document);
  const eml = pdf ? await writeMail(document, pdf, desk.now) : null;
  return once(desk, "place", (tx) => {
    const head = orderFor(tx.db, order, version, "place");
    if (!head.ok || !eml)
      return head.ok ? refuse("", "The order changed while it was being printed. Place it again.") : head;
    const number = head.value.number!;
    sql(tx.db, "INSERT INTO order_version (purchase_order, version, at, person, document) VALUES (?, 1, ?, ?, ?)").run(
      order,
      desk.now,
      desk.person.id,
      JSON.stringify(document),
    );
    sql(tx.db, "INSERT INTO mail (at, recipients, subject, purchase_order, person, eml) VALUES (?, ?, ?, ?, ?, ?)").run(
      desk.now,
      contacts.map((c) => c.mail).join(", "),
      eml.subject,
      order,
      desk.person.id,
      eml.bytes,
    );
    sql(tx.db, "UPDATE purchase_order SET state = 'With supplier', placed = ?, version = version + 1 WHERE id = ?").run(
      desk.now,
      order,
    );
    retire(tx.db, desk.now, `/orders/${order}`);
    for (const a of servedBy(tx.db, order)) {
      tellFollowers(
        tx.db,
        desk.now,
        a.requisition,
        `Ordered: ${a.what}`,
        `order ${number} to ${head.value.supplierName}, due ${showDay(head.value.required, desk.day)}`,
      );
    }
    tx.record("order.placed", `order ${order}`, { number, to: contacts.map((c) => c.mail), total: seen.totals.total });
    return done({ number, recipients: contacts.map((c) => c.mail) });
  });
}
