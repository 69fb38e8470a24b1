import MailComposer from "nodemailer/lib/mail-composer";
import { showDay } from "../../core/numbers/format";
import { count } from "../../core/text";
import { type OrderDocument, paperTitle, placeOf } from "../pdf/order-document";
import type { QuoteDocument } from "../pdf/quote-pdf";
import { orderXml } from "../ubl/order-xml";

/** A file that goes out with a message. */
export interface Attached {
  name: string;
  type: string;
  bytes: Buffer;
}

export interface Message {
  subject: string;
  /** The whole message as RFC 5322 text, attachment included. */
  bytes: Buffer;
}

/** The e-mail that brings an order to its supplier, with the paper attached, and the same as UBL for their system. */
export async function writeMail(
  d: OrderDocument,
  pdf: Buffer,
  moment: string,
  files: readonly Attached[] = [],
  link = "",
): Promise<Message> {
  const subject = `${paperTitle(d)} from ${d.company.name}`;
  const greeting = d.contacts[0]?.name ? `Dear ${d.contacts[0].name},` : "Good day,";
  const body = [
    greeting,
    "",
    d.kind === "blanket" && d.starts && d.ends
      ? `please find our blanket order ${d.number} attached: ${count(d.lines.length, "line")}, from ${showDay(d.starts, "0000", d.locale)} to ${showDay(d.ends, "0000", d.locale)}. We call off from it as we need the goods.`
      : `please find our order ${d.number} attached: ${count(d.lines.length, "line")}, wanted by ${showDay(d.required, "0000", d.locale)} at ${placeOf(d)}.`,
    "",
    ...(link ? ["You can always read it as it stands here, without an account:", "", link, ""] : []),
    "Please confirm quantities, prices and dates by answering this message, and name the order number on your delivery note and invoice.",
    "",
    "With kind regards",
    d.writer.name,
    [d.writer.title, d.company.name].filter(Boolean).join(", "),
  ].join("\n");
  return compose({
    from: { ...d.writer, company: d.company },
    to: d.contacts,
    subject,
    body,
    moment,
    attachments: [
      { name: `order-${d.number}.pdf`, type: "application/pdf", bytes: pdf },
      { name: `order-${d.number}.xml`, type: "application/xml", bytes: Buffer.from(orderXml(d)) },
      ...files,
    ],
  });
}

/** The e-mail that asks a supplier for prices, with the paper attached and the private link in it. */
export function writeQuoteMail(
  d: QuoteDocument,
  contacts: { name: string; mail: string }[],
  pdf: Buffer,
  moment: string,
): Promise<Message> {
  const body = [
    contacts[0]?.name ? `Dear ${contacts[0].name},` : "Good day,",
    "",
    `please tell us your price and date for ${d.lines.length === 1 ? "one line" : `${d.lines.length} lines`} by ${showDay(d.answerBy, "0000", d.locale)}.`,
    "You can fill them in here, without an account:",
    "",
    d.link,
    "",
    ...(d.note ? [d.note, ""] : []),
    "The same is attached as a paper. This is no order.",
    "",
    "With kind regards",
    d.asker.name,
    [d.asker.title, d.company.name].filter(Boolean).join(", "),
  ].join("\n");
  return compose({
    from: { ...d.asker, company: d.company },
    to: contacts,
    subject: `Request for quotation ${d.number} from ${d.company.name}`,
    body,
    moment,
    attachments: [{ name: `request-${d.number}.pdf`, type: "application/pdf", bytes: pdf }],
  });
}

interface Letter {
  from: { name: string; mail: string; company: { name: string; mail: string } };
  to: { name: string; mail: string }[];
  subject: string;
  body: string;
  moment: string;
  attachments: Attached[];
}

async function compose({ from, to, subject, body, moment, attachments }: Letter): Promise<Message> {
  const composer = new MailComposer({
    from: {
      name: `${from.name}, ${from.company.name}`,
      address: from.mail || from.company.mail || "purchasing@localhost",
    },
    replyTo: from.company.mail || undefined,
    to: to.map((c) => ({ name: c.name, address: c.mail })),
    subject,
    text: body,
    date: new Date(moment),
    attachments: attachments.map((a) => ({ filename: a.name, content: a.bytes, contentType: a.type })),
  });
  return { subject, bytes: await composer.compile().build() };
}
