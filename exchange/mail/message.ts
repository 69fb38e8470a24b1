import { showDay } from "../../core/numbers/format";
import { fillPlaceholders } from "../../core/orders/papers";
import { lookOf, type OrderDocument, paperValues } from "../pdf/order-document";
import { paperWords } from "../pdf/paper-words";
import type { QuoteDocument } from "../pdf/quote-pdf";
import { quoteWords } from "../pdf/quote-words";

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

/** Subject and text of the e-mail that brings an order; placeholders are filled in from the order. */
export interface Letter {
  subject: string;
  message: string;
}

/**
 * The e-mail that brings an order to its contacts, with the paper attached, and the same as UBL for their system. `link`
 * is the private link to the order; a letter that has no place for it goes without.
 */
export async function writeMail(
  d: OrderDocument,
  letter: Letter,
  pdf: Buffer,
  moment: string,
  { files = [], link = "" }: { files?: readonly Attached[]; link?: string } = {},
): Promise<Message> {
  const values = paperValues(d, link);
  const { orderXml } = await import("../ubl/order-xml"); // takes long to load
  return compose({
    from: { ...d.writer, company: d.company },
    to: d.contacts,
    subject: fillPlaceholders(letter.subject, values).replaceAll("\n", " "),
    body: fillPlaceholders(letter.message, values),
    moment,
    attachments: [
      { name: `order-${d.number}.pdf`, type: "application/pdf", bytes: pdf },
      // UBL has no order without prices, so where the paper shows none, none goes out at all.
      ...(lookOf(d).prices
        ? [{ name: `order-${d.number}.xml`, type: "application/xml", bytes: Buffer.from(orderXml(d)) }]
        : []),
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
  const { mail } = quoteWords(d.language);
  const { dear, goodDay } = paperWords(d.language);
  const body = mail.body({
    greeting: contacts[0]?.name ? dear(contacts[0].name) : goodDay,
    lines: d.lines.length,
    by: showDay(d.answerBy, "0000", d.locale),
    link: d.link,
    note: d.note && `${d.note}\n\n`,
    asker: d.asker.name,
    function: [d.asker.title, d.company.name].filter(Boolean).join(", "),
  });
  return compose({
    from: { ...d.asker, company: d.company },
    to: contacts,
    subject: mail.subject(d.number, d.company.name),
    body,
    moment,
    attachments: [{ name: `request-${d.number}.pdf`, type: "application/pdf", bytes: pdf }],
  });
}

interface Envelope {
  from: { name: string; mail: string; company: { name: string; mail: string } };
  to: { name: string; mail: string }[];
  subject: string;
  body: string;
  moment: string;
  attachments: Attached[];
}

export async function compose({ from, to, subject, body, moment, attachments }: Envelope): Promise<Message> {
  const { default: MailComposer } = await import("nodemailer/lib/mail-composer"); // takes long to load
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
