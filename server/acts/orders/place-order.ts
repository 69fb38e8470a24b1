import { showDay } from "../../../core/numbers/format";
import { refuses } from "../../../core/orders/status";
import { writeMail } from "../../../exchange/mail/message";
import { sql } from "../../db/open";
import { documentOf } from "../../queries/orders/document";
import { readOrder } from "../../queries/orders/order";
import { readLogo } from "../../queries/papers/templates";
import { outgrown } from "../../queries/signoff/route";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { retire, servedBy, tellFollowers } from "../notices";
import { bindRevision } from "./bind-revision";
import { type Draw, drawHere, filesOf, keepMail, LetterFields, letterOf, recipients } from "./letters";
import { markEvent } from "./marks";
import { orderFor, WhichOrder } from "./order-for";
import { keepLink, newLink } from "./order-link";
import { keepTaxes, keepTotals } from "./price-order";
import { settleOrder } from "./settle-order";

/**
 * Sends a cleared order to the chosen contacts of the supplier, or to those who get orders: PDF, e-mail and version are
 * made from one document and kept in one transaction with the new state. From here on nothing is deleted. `site` is where
 * the private link in the e-mail leads, such as "https://buying.example"; without it there is none.
 */
export async function placeOrder(
  desk: Desk,
  raw: unknown,
  { site = "", draw = drawHere }: { site?: string; draw?: Draw } = {},
): Promise<Done<{ number: string; recipients: string[] }>> {
  const input = checked(WhichOrder.extend(LetterFields.shape), raw);
  if (!input.ok) return input;
  const { order, version } = input.value;
  const seen = readOrder(desk.db, order);
  if (!seen) return refuse("", "There is no such order.");
  if (seen.head.held) return refuse("", `${seen.head.name} is held: ${seen.head.held}. Let it go first.`);
  const { blocked } = seen.head.orderTerms;
  if (blocked) return refuse("", `${seen.head.supplierName} is blocked: ${blocked}. It cannot be placed.`);
  const to = recipients(desk.db, seen.head, input.value.to);
  if (!to.ok) return to;
  const contacts = to.value;
  const no = refuses(seen.head, "place");
  // The paper takes a moment to draw, so it is drawn before the transaction, from the version that the transaction insists on.
  const document = documentOf(desk.db, seen, desk.day, contacts);
  const letter = letterOf(desk.db, document, input.value);
  if (!letter.ok) return letter;
  const pdf = no ? null : await draw(document, readLogo(desk.db, document.look?.logo));
  const link = site ? newLink() : "";
  const eml = pdf
    ? await writeMail(document, letter.value, pdf, desk.now, {
        files: filesOf(desk.db, order),
        link: link && `${site}/order/${link}`,
      })
    : null;
  return once(desk, "place", (tx) => {
    const head = orderFor(tx.db, desk, order, version, "place");
    if (!head.ok || !eml)
      return head.ok ? refuse("", "The order changed while it was being printed. Place it again.") : head;
    const number = head.value.number!;
    if (readOrder(tx.db, order)!.totals.total.minor !== document.total)
      return refuse("", "Its tax changed while it was being printed. Place it again.");
    // From now on the order is worth what it was on this day.
    keepTotals(tx.db, head.value, seen.lines, desk.day);
    if (outgrown(tx.db, order, desk.day))
      return refuse(
        "",
        "At the rate of today it comes to more than was signed, beyond what may be added. Change it, and hand it in again.",
      );
    keepTaxes(tx.db, head.value);
    bindRevision(tx.db, desk, order, document);
    keepMail(tx.db, desk, order, contacts, eml);
    sql(tx.db, "UPDATE purchase_order SET placed = ?, version = version + 1 WHERE id = ?").run(desk.now, order);
    settleOrder(tx.db, order, "placed");
    if (link) keepLink(tx.db, desk, order, link);
    markEvent(tx.db, desk.now, order, "placed");
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
