import { writeMail } from "../../../exchange/mail/message";
import { documentNow } from "../../queries/orders/document";
import { readOrderHead } from "../../queries/orders/order";
import { readLogo } from "../../queries/papers/templates";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { type Draw, drawHere, filesOf, keepMail, LetterFields, letterOf, recipients } from "./letters";
import { WhichOrder } from "./order-for";
import { keepLink, newLink } from "./order-link";

/**
 * Sends an order that was placed by e-mail once more, as the version that left the house: to the chosen contacts, or to
 * those who get orders. Where the text has a place for it, a new private link goes along; the ones before hold on.
 */
export async function mailOrder(
  desk: Desk,
  raw: unknown,
  { site = "", draw = drawHere }: { site?: string; draw?: Draw } = {},
): Promise<Done<{ recipients: string[] }>> {
  const input = checked(WhichOrder.pick({ order: true }).extend(LetterFields.shape), raw);
  if (!input.ok) return input;
  const { order } = input.value;
  const head = readOrderHead(desk.db, order);
  const found = documentNow(desk.db, order, desk.day);
  if (!head || !found) return refuse("", "There is no such order.");
  if (!head.placed) return refuse("", `${head.name} was not placed yet: placing it sends it.`);
  if (head.stage === "cancelled") return refuse("", `${head.name} is cancelled, so it is not sent again.`);
  const to = recipients(desk.db, head, input.value.to);
  if (!to.ok) return to;
  const document = { ...found.document, contacts: to.value };
  const letter = letterOf(desk.db, document, input.value);
  if (!letter.ok) return letter;
  const pdf = await draw(document, readLogo(desk.db, document.look?.logo));
  const link = site && letter.value.message.includes("{link}") ? newLink() : "";
  const eml = await writeMail(document, letter.value, pdf, desk.now, {
    files: filesOf(desk.db, order),
    link: link && `${site}/order/${link}`,
  });
  return once(desk, "place", (tx) => {
    keepMail(tx.db, desk, order, to.value, eml);
    if (link) keepLink(tx.db, desk, order, link);
    tx.record("order.mailed", `order ${order}`, { to: to.value.map((c) => c.mail), subject: eml.subject });
    return done({ recipients: to.value.map((c) => c.mail) });
  });
}
