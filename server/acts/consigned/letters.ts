import { type Attached, compose, type Message } from "../../../exchange/mail/message";
import { type ConsignedPaper, consignedPdf } from "../../../exchange/pdf/consigned-paper";
import { consignedWords } from "../../../exchange/pdf/consigned-words";
import type { Logo } from "../../../exchange/pdf/paper";
import { paperWords } from "../../../exchange/pdf/paper-words";
import { type Db, madeId, sql } from "../../db/open";
import { theCompany } from "../../queries/company";
import type { AgreementHead } from "../../queries/consigned/agreement";
import { ofAgreement } from "../../queries/consigned/papers";
import { orderContacts } from "../../queries/orders/document";
import { linkHash } from "../../queries/quotes/quotes";
import { type Desk, type Done, done, refuse } from "../desk";

/** Draws a paper: in a worker where there is one, else here. */
export type DrawConsigned = (paper: ConsignedPaper, logo: Logo | null) => Promise<Buffer>;
export const drawConsignedHere: DrawConsigned = (paper, logo) => consignedPdf(paper, logo);

/** A letter about a supplier's goods as it will go out: written before its transaction, kept within it. */
export interface Written {
  contacts: { name: string; mail: string }[];
  message: Message;
  link: string;
}

/** Whoever gets orders there; or that nobody does. */
export function contactsOfAgreement(db: Db, a: AgreementHead): Done<{ name: string; mail: string }[]> {
  const contacts = orderContacts(db, a.supplier).map(({ name, mail }) => ({ name, mail }));
  return contacts.length
    ? done(contacts)
    : refuse("", `No e-mail address for orders of ${a.supplierName} is known. Add one in the record.`);
}

/** Writes a letter in the supplier's language, with what is attached and the private link, where `site` is known. */
export async function writeLetter(
  db: Db,
  desk: Desk,
  a: AgreementHead,
  of: { subject: string; body: string; attachments: Attached[]; link: string; site: string },
): Promise<Done<Written>> {
  const contacts = contactsOfAgreement(db, a);
  if (!contacts.ok) return contacts;
  const { language } = ofAgreement(db, a, "");
  const words = consignedWords(language);
  const paper = paperWords(language);
  const company = theCompany(db);
  const writer = sql<{ name: string; mail: string; title: string }>(
    db,
    "SELECT name, mail, title FROM person WHERE id = ?",
  ).get(desk.person.id)!;
  const first = contacts.value[0]?.name;
  const message = await compose({
    from: { ...writer, company: { name: company.name, mail: company.mail } },
    to: contacts.value,
    subject: of.subject,
    body: `${[
      first ? paper.dear(first) : paper.goodDay,
      of.body,
      ...(of.site ? [words.letter.answer(`${of.site}/their-shelf/${of.link}`)] : []),
      [words.letter.close, writer.name, [writer.title, company.name].filter(Boolean).join(", ")].join("\n"),
    ].join("\n\n")}\n`,
    moment: desk.now,
    attachments: of.attachments,
  });
  return done({ contacts: contacts.value, message, link: of.site ? of.link : "" });
}

/** Puts a letter into the outbox, and keeps its link. Inside the act's transaction. */
export function keepLetter(db: Db, desk: Desk, agreement: number, w: Written): void {
  madeId(
    sql(db, "INSERT INTO mail (at, recipients, subject, agreement, person, eml) VALUES (?, ?, ?, ?, ?, ?)").run(
      desk.now,
      w.contacts.map((c) => c.mail).join(", "),
      w.message.subject,
      agreement,
      desk.person.id,
      w.message.bytes,
    ),
  );
  if (w.link)
    sql(db, "INSERT INTO agreement_link (agreement, link, at, person) VALUES (?, ?, ?, ?)").run(
      agreement,
      linkHash(w.link),
      desk.now,
      desk.person.id,
    );
}
