import { randomBytes } from "node:crypto";
import { z } from "zod";
import type { QuoteId, SupplierId } from "../../../core/ids";
import { ONE } from "../../../core/numbers/quantity";
import { writeQuoteMail } from "../../../exchange/mail/message";
import { localeOf } from "../../../exchange/pdf/paper-words";
import type { QuoteDocument } from "../../../exchange/pdf/quote-pdf";
import { type Db, sql } from "../../db/open";
import { comingNumber, nextNumber } from "../../db/series";
import { theCompany } from "../../queries/company";
import { languageTo } from "../../queries/papers/templates";
import { type BenchSheet, readBench } from "../../queries/placing/bench";
import { askedIn, linkHash, unitSoldBy } from "../../queries/quotes/quotes";
import { contactsFor } from "../../queries/records/contacts";
import { checked, type Desk, type Done, done, once, type Problem, refuse, refuseAll } from "../desk";
import { DayField, Id, text } from "../fields";

export const AskForQuotes = z.object({
  bench: Id,
  needs: z.array(z.string().max(60)).min(1, "Tick at least one need.").max(200, "At most 200 lines in one request."),
  suppliers: z.array(Id).min(1, "Tick at least one supplier.").max(20, "At most 20 suppliers at once."),
  answerBy: DayField,
  note: text(1000),
});

interface Letter {
  supplier: SupplierId;
  link: string;
  contacts: { name: string; mail: string }[];
  subject: string;
  bytes: Buffer;
}

/**
 * Asks suppliers for prices of lines on a bench: each gets a paper and an e-mail with a private link of their own. `site`
 * is where the link leads, such as "https://buying.example".
 */
export async function askForQuotes(desk: Desk, raw: unknown, site: string): Promise<Done<{ quote: QuoteId }>> {
  const input = checked(AskForQuotes, raw);
  if (!input.ok) return input;
  const { bench, needs, suppliers, answerBy, note } = input.value;
  const sheet = readBench(desk.db, bench, desk.day, desk.hour);
  if (!sheet || sheet.head.cleared) return refuse("", "This bench was put away meanwhile.");
  const problems: Problem[] = [];
  if (answerBy < desk.day) problems.push({ field: "answerBy", says: "This day has passed." });
  const rows = sheet.problem.rows.filter((r) => needs.includes(r.id) && sheet.rows[r.id]!.item !== null);
  if (rows.length === 0)
    problems.push({ field: "needs", says: "None of these is an item that prices can be asked for." });
  for (const s of suppliers) {
    const found = supplierOf(desk.db, s);
    if (!found) problems.push({ field: "suppliers", says: "One of the suppliers is not there any more." });
    else if (found.blocked) problems.push({ field: "suppliers", says: `${found.name} is blocked: ${found.blocked}.` });
    else if (contactsFor(desk.db, s, "quotes").length === 0)
      problems.push({
        field: "suppliers",
        says: `${found.name} has no e-mail address. An administrator adds one with the suppliers file.`,
      });
  }
  if (problems.length) return refuseAll(problems);
  // The papers take a moment to draw, so they are drawn before the transaction, which insists on their number.
  const number = comingNumber(desk.db, "quote", desk.day);
  const letters: Letter[] = [];
  for (const s of suppliers) letters.push(await letterTo(desk, sheet, rows, { number, answerBy, note, site }, s));
  return once(desk, "write orders", (tx) => {
    if (nextNumber(tx.db, "quote", desk.day) !== number)
      return refuse("", "Somebody asked for a quote at the same moment. Ask again.");
    const quote = Number(
      sql(tx.db, "INSERT INTO quote (number, bench, person, at, answer_by, note) VALUES (?, ?, ?, ?, ?, ?)").run(
        number,
        bench,
        desk.person.id,
        desk.now,
        answerBy,
        note,
      ).lastInsertRowid,
    );
    const addLine = sql(
      tx.db,
      "INSERT INTO quote_line (quote, position, item, store, need, quantity, needed_on) VALUES (?, ?, ?, ?, ?, ?, ?)",
    );
    rows.forEach((r, i) => {
      const about = sheet.rows[r.id]!;
      addLine.run(quote, i + 1, about.item, r.store, r.id, r.wanted, about.neededOn);
    });
    for (const l of letters) {
      sql(
        tx.db,
        "INSERT INTO quote_asked (quote, supplier, link, currency) SELECT ?, id, ?, currency FROM supplier WHERE id = ?",
      ).run(quote, linkHash(l.link), l.supplier);
      sql(tx.db, "INSERT INTO mail (at, recipients, subject, quote, person, eml) VALUES (?, ?, ?, ?, ?, ?)").run(
        desk.now,
        l.contacts.map((c) => c.mail).join(", "),
        l.subject,
        quote,
        desk.person.id,
        l.bytes,
      );
    }
    tx.record("quote.asked", `quote ${quote}`, { number, needs: rows.map((r) => r.id), suppliers, answerBy });
    return done({ quote });
  });
}

const supplierOf = (db: Db, id: SupplierId) =>
  sql<{ name: string; address: string; currency: string; blocked: string }>(
    db,
    "SELECT name, address, currency, blocked FROM supplier WHERE id = ? AND active = 1",
  ).get(id);

async function letterTo(
  desk: Desk,
  sheet: BenchSheet,
  rows: BenchSheet["problem"]["rows"],
  of: { number: string; answerBy: string; note: string; site: string },
  supplier: SupplierId,
): Promise<Letter> {
  const { db } = desk;
  const company = theCompany(db);
  const to = supplierOf(db, supplier)!;
  const contacts = contactsFor(db, supplier, "quotes");
  const asker = sql<{ name: string; title: string; mail: string }>(
    db,
    "SELECT name, title, mail FROM person WHERE id = ?",
  ).get(desk.person.id)!;
  const sold = unitSoldBy(db, supplier);
  const language = languageTo(db, supplier);
  const link = randomBytes(24).toString("base64url");
  const document: QuoteDocument = {
    number: of.number,
    day: desk.day,
    answerBy: of.answerBy,
    company,
    supplier: to,
    asker,
    language,
    locale: localeOf(language, company.locale),
    currency: to.currency,
    note: of.note,
    link: `${of.site}/quote/${link}`,
    lines: rows.map((r, i) => {
      const about = sheet.rows[r.id]!;
      return {
        position: i + 1,
        words: r.name,
        ours: about.code,
        theirs: sold.get(about.item!)?.theirCode ?? "",
        ...askedIn(r.wanted, r.stockUnit, sold.get(about.item!)),
        holds: sold.get(about.item!)?.factor ?? ONE,
        stockUnit: r.stockUnit,
        neededOn: about.neededOn,
        store: about.storeName,
      };
    }),
  };
  const { quotePdf } = await import("../../../exchange/pdf/quote-pdf"); // takes long to load
  const { subject, bytes } = await writeQuoteMail(document, contacts, await quotePdf(document), desk.now);
  return { supplier, link, contacts, subject, bytes };
}
