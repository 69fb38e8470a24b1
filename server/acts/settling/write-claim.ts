import { z } from "zod";
import type { PersonId } from "../../../core/ids";
import { type ClaimLetter, claimText, writeClaimMail } from "../../../exchange/mail/claim-mail";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../../queries/company";
import { languageOr } from "../../queries/papers/templates";
import { contactsFor } from "../../queries/records/contacts";
import { type ClaimRow, readClaim, readInvoiceHead } from "../../queries/settling/invoices";
import { checked, type Desk, type Done, done, once, refuse, stale } from "../desk";
import { Id, Version } from "../fields";

/** The letter about a claim, to whoever of theirs gets questions about invoices, else orders; by a person. */
function letterOf(db: Db, c: ClaimRow, person: PersonId): ClaimLetter {
  const company = theCompany(db);
  const contacts = contactsFor(db, c.supplier, "invoices");
  const { language } = sql<{ language: string }>(db, "SELECT language FROM supplier WHERE id = ?").get(c.supplier)!;
  const head = readInvoiceHead(db, c.invoice)!;
  return {
    language: languageOr(db, language),
    locale: company.locale,
    company: { name: company.name, mail: company.mail },
    writer: sql<ClaimLetter["writer"]>(db, "SELECT name, title, mail FROM person WHERE id = ?").get(person)!,
    contacts,
    number: c.number,
    invoice: { number: head.number, day: head.day },
    words: c.words,
    reason: c.reason,
    quantity: c.quantity || c.pieces,
    returned: c.returnNumber,
    unit: c.unit,
    currency: c.currency,
    net: c.net,
    tax: c.tax,
    said: c.said,
  };
}

/** What the letter about a claim would say, and to whom. */
export function previewClaim(db: Db, c: ClaimRow, person: PersonId): { subject: string; body: string; to: string } {
  const letter = letterOf(db, c, person);
  return { ...claimText(letter), to: letter.contacts.map((x) => x.mail).join(", ") };
}

export const WriteClaim = z.object({ claim: Id, version: Version });

/** Writes to the supplier what is claimed of them: the letter goes into the outbox. It can be written again while it is open. */
export async function writeClaim(desk: Desk, raw: unknown): Promise<Done<{ number: string; to: string }>> {
  const input = checked(WriteClaim, raw);
  if (!input.ok) return input;
  const { claim, version } = input.value;
  const found = readClaim(desk.db, claim);
  if (!found) return refuse("", "There is no such claim.");
  const letter = letterOf(desk.db, found, desk.person.id);
  if (letter.contacts.length === 0)
    return refuse("", `No e-mail address of ${found.supplierName} is known. Add one in the record.`);
  const message = await writeClaimMail(letter, desk.now);
  return once(desk, "claim", (tx) => {
    const now = readClaim(tx.db, claim)!;
    if (now.version !== version) return stale(`Claim ${now.number} was changed by somebody else meanwhile.`);
    if (now.state !== "Open") return refuse("", `Claim ${now.number} is ${now.state.toLowerCase()}.`);
    const to = letter.contacts.map((c) => c.mail).join(", ");
    sql(tx.db, "INSERT INTO mail (at, recipients, subject, invoice, person, eml) VALUES (?, ?, ?, ?, ?, ?)").run(
      desk.now,
      to,
      message.subject,
      now.invoice,
      desk.person.id,
      message.bytes,
    );
    sql(tx.db, "UPDATE claim SET written = ?, version = version + 1 WHERE id = ?").run(desk.now, claim);
    tx.record("claim.written", `claim ${claim}`, { number: now.number, to });
    return done({ number: now.number, to });
  });
}
