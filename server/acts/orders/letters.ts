import { z } from "zod";
import type { OrderId, PersonId, SupplierId } from "../../../core/ids";
import { paperKind } from "../../../core/orders/papers";
import type { Attached, Letter } from "../../../exchange/mail/message";
import { lookOf, type OrderDocument } from "../../../exchange/pdf/order-document";
import type { Logo } from "../../../exchange/pdf/paper";
import { type Db, sql } from "../../db/open";
import { orderContacts } from "../../queries/orders/document";
import { readTexts } from "../../queries/papers/templates";
import { type Done, done, refuse, refuseAll } from "../desk";
import { Id, text } from "../fields";
import { placeholderProblems } from "../papers/keep-papers";

/** To whom an order goes and what the e-mail says; what is left out is as usual. */
export const LetterFields = z.object({
  to: z
    .union([z.array(Id), Id.transform((id) => [id])])
    .optional()
    .refine((to) => to === undefined || to.length <= 20, "At most 20 people."),
  subject: text(150).optional(),
  message: text(4000).optional(),
});
export type TypedLetter = z.output<typeof LetterFields>;

type Contact = OrderDocument["contacts"][number];

/** The people a letter goes to: those that were chosen, else whoever gets orders. */
export function recipients(
  db: Db,
  supplier: { supplier: SupplierId; supplierName: string },
  chosen: readonly number[] | undefined,
): Done<Contact[]> {
  if (chosen === undefined) {
    const usual = orderContacts(db, supplier.supplier);
    return usual.length
      ? done(usual)
      : refuse("", `${supplier.supplierName} has no e-mail address for orders. Add one in their record.`);
  }
  if (chosen.length === 0) return refuse("to", "Choose at least one person.");
  const found: Contact[] = [];
  for (const id of chosen) {
    const contact = sql<Contact>(db, "SELECT name, mail FROM supplier_contact WHERE id = ? AND supplier = ?").get(
      id,
      supplier.supplier,
    );
    if (!contact) return refuse("to", "Somebody who was chosen is not one of theirs any more. Load the page again.");
    found.push(contact);
  }
  return done(found);
}

/** Subject and text: as typed, else those of the paper's kind in its language. */
export function letterOf(db: Db, document: OrderDocument, typed: TypedLetter): Done<Letter> {
  const usual = readTexts(db, paperKind(document.kind ?? "one-off"), lookOf(document).language);
  const letter = { subject: typed.subject || usual.subject, message: typed.message || usual.message };
  const problems = placeholderProblems(letter);
  return problems.length ? refuseAll(problems) : done(letter);
}

/** The files that go out with an order. */
export const filesOf = (db: Db, order: OrderId): Attached[] =>
  sql<Attached>(db, "SELECT name, type, bytes FROM order_file WHERE purchase_order = ? AND sent = 1 ORDER BY id").all(
    order,
  );

/** Puts a message into the outbox. Call inside the act's transaction. */
export function keepMail(
  db: Db,
  desk: { now: string; person: { id: PersonId } },
  order: OrderId,
  to: readonly Contact[],
  mail: { subject: string; bytes: Buffer },
): void {
  sql(db, "INSERT INTO mail (at, recipients, subject, purchase_order, person, eml) VALUES (?, ?, ?, ?, ?, ?)").run(
    desk.now,
    to.map((c) => c.mail).join(", "),
    mail.subject,
    order,
    desk.person.id,
    mail.bytes,
  );
}

/** Draws a paper: at once, or in a worker. */
export type Draw = (document: OrderDocument, logo: Logo | null) => Promise<Buffer>;
/** What draws papers takes long to load, and a server that starts has none to draw. */
export const drawHere: Draw = async (document, logo) =>
  (await import("../../../exchange/pdf/order-pdf")).orderPdf(document, logo);
