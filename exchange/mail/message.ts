import MailComposer from "nodemailer/lib/mail-composer";
import { showDay } from "../../core/numbers/format";
import type { OrderDocument } from "../pdf/order-document";

export interface Message {
  subject: string;
  /** The whole message as RFC 5322 text, attachment included. */
  bytes: Buffer;
}

/** The e-mail that brings an order to its supplier, with the paper attached. */
export async function writeMail(d: OrderDocument, pdf: Buffer, moment: string): Promise<Message> {
  const subject = `Purchase order ${d.number} from ${d.company.name}`;
  const greeting = d.contacts[0]?.name ? `Dear ${d.contacts[0].name},` : "Good day,";
  const body = [
    greeting,
    "",
    `please find our order ${d.number} attached: ${d.lines.length} ${d.lines.length === 1 ? "line" : "lines"}, wanted by ${showDay(d.required, "0000", d.locale)} at our store ${d.deliverTo.name}.`,
    "",
    "Please confirm quantities, prices and dates by answering this message, and name the order number on your delivery note and invoice.",
    "",
    "With kind regards",
    d.writer.name,
    [d.writer.title, d.company.name].filter(Boolean).join(", "),
  ].join("\n");
  const composer = new MailComposer({
    from: {
      name: `${d.writer.name}, ${d.company.name}`,
      address: d.writer.mail || d.company.mail || "purchasing@localhost",
    },
    replyTo: d.company.mail || undefined,
    to: d.contacts.map((c) => ({ name: c.name, address: c.mail })),
    subject,
    text: body,
    date: new Date(moment),
    attachments: [{ filename: `order-${d.number}.pdf`, content: pdf, contentType: "application/pdf" }],
  });
  return { subject, bytes: await composer.compile().build() };
}
