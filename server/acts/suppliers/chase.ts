import { z } from "zod";
import type { Day } from "../../../core/calendar/day";
import type { OrderId, PersonId, SupplierId } from "../../../core/ids";
import { type ChaseLetter, chaseText, writeChaseMail } from "../../../exchange/mail/chase-mail";
import { recordAudit } from "../../db/audit";
import { type Db, madeId, sql } from "../../db/open";
import { theCompany } from "../../queries/company";
import { orderContacts } from "../../queries/orders/document";
import { languageOr } from "../../queries/papers/templates";
import { linkHash } from "../../queries/quotes/quotes";
import { contactsFor } from "../../queries/records/contacts";
import {
  type ChasedLine,
  type ChaseRow,
  readAskedLines,
  readChase,
  readChasedLines,
  readChaseRules,
} from "../../queries/suppliers/chase";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { Id, orNone, TickBox, Whole } from "../fields";
import { keepLink, newLink } from "../orders/order-link";

const Send = z.object({
  /** Keys of the list, such as "o12" and "q5". */
  rows: z
    .array(z.string().regex(/^[oq]\d{1,15}$/, "There is no such row."))
    .min(1, "Tick what you ask about.")
    .max(500, "At most 500 at once."),
});

/** The order of a row, or one supplier's part of a request for prices. */
const orderOf = (r: ChaseRow): OrderId | null => (r.about === "prices" ? null : (Number(r.key.slice(1)) as OrderId)); // as the key says
const askedOf = (r: ChaseRow): number => Number(r.key.slice(1));

interface Prepared {
  supplier: SupplierId;
  rows: ChaseRow[];
  links: Map<string, string>;
  letter: ChaseLetter;
}

/** One letter for each supplier of these rows, signed by `writer`. A link stands in it where `site` is known. */
function lettersFor(
  db: Db,
  rows: readonly ChaseRow[],
  writer: ChaseLetter["writer"],
  linkOf: (row: ChaseRow) => string,
): Prepared[] {
  const company = theCompany(db);
  const by = new Map<SupplierId, ChaseRow[]>();
  for (const r of rows) by.set(r.supplier, [...(by.get(r.supplier) ?? []), r]);
  return [...by].map(([supplier, of]) => {
    const { language } = sql<{ language: string }>(db, "SELECT language FROM supplier WHERE id = ?").get(supplier)!;
    const links = new Map(of.map((r) => [r.key, linkOf(r)]));
    return {
      supplier,
      rows: of,
      links,
      letter: {
        language: languageOr(db, language),
        locale: company.locale,
        company: { name: company.name, mail: company.mail },
        writer,
        contacts: contactsOf(db, supplier, of),
        orders: of.map((r) => ({
          number: r.number,
          about: r.about,
          lines: linesOf(db, r),
          link: links.get(r.key)!,
        })),
      },
    };
  });
}

function linesOf(db: Db, r: ChaseRow): ChasedLine[] {
  const order = orderOf(r);
  return order === null ? readAskedLines(db, askedOf(r)) : readChasedLines(db, order);
}

/** Whoever gets orders, or is asked for prices, by what stands in the letter; each once. */
function contactsOf(db: Db, supplier: SupplierId, rows: readonly ChaseRow[]): { name: string; mail: string }[] {
  const orders = rows.some((r) => r.about !== "prices") ? orderContacts(db, supplier) : [];
  const prices = rows.some((r) => r.about === "prices") ? contactsFor(db, supplier, "quotes") : [];
  const by = new Map([...orders, ...prices].map(({ name, mail }) => [mail, { name, mail }]));
  return [...by.values()];
}

const writerOf = (db: Db, person: PersonId): ChaseLetter["writer"] =>
  sql<ChaseLetter["writer"]>(db, "SELECT name, title, mail FROM person WHERE id = ?").get(person)!;

/** What the letter to a supplier of these orders would say; links are not made for it. */
export function previewChase(
  db: Db,
  person: PersonId,
  supplier: SupplierId,
  keys: readonly string[],
  { now, day }: { now: string; day: Day },
): { subject: string; body: string; to: string[] } | null {
  const chosen = new Set(keys);
  const rows = readChase(db, now, day).filter(
    (r) => r.supplier === supplier && (chosen.size === 0 || chosen.has(r.key)),
  );
  const [prepared] = lettersFor(db, rows, writerOf(db, person), () => "…");
  return prepared ? { ...chaseText(prepared.letter), to: prepared.letter.contacts.map((c) => c.mail) } : null;
}

/** Asks suppliers for a word: one letter to each, about all of their orders that were chosen, with a private link to answer on. */
export async function sendChase(
  desk: Desk,
  raw: unknown,
  { site = "" }: { site?: string } = {},
): Promise<Done<{ letters: number; orders: number; without: string[] }>> {
  const input = checked(Send, raw);
  if (!input.ok) return input;
  const chosen = new Set(input.value.rows);
  const rows = readChase(desk.db, desk.now, desk.day).filter((r) => chosen.has(r.key));
  if (rows.length < chosen.size)
    return refuse("", "Some of these need no word any more: they answered, or the goods are in. Load the page again.");
  const reachable = rows.filter((r) => r.reachable);
  const without = [...new Set(rows.filter((r) => !r.reachable).map((r) => r.supplierName))];
  if (reachable.length === 0)
    return refuse("", `${without.join(", ")}: no e-mail address for orders is known. Add one in the record.`);
  const mails = await written(desk.db, reachable, writerOf(desk.db, desk.person.id), site, desk.now);
  return once(desk, "place", (tx) => {
    keepLetters(tx.db, desk, desk.person.id, mails);
    tx.record("suppliers.asked", mails.map((m) => `supplier ${m.supplier}`).join(", "), {
      about: reachable.map((r) => ({ order: orderOf(r), number: r.number, about: r.about })),
    });
    return done({ letters: mails.length, orders: reachable.length, without });
  });
}

type Written = Prepared & { mail: { subject: string; bytes: Buffer } };

const written = (
  db: Db,
  rows: readonly ChaseRow[],
  writer: ChaseLetter["writer"],
  site: string,
  now: string,
): Promise<Written[]> =>
  Promise.all(
    lettersFor(db, rows, writer, (r) =>
      site ? `${site}/${r.about === "prices" ? "quote" : "order"}/${newLink()}` : "",
    ).map(async (p) => ({
      ...p,
      mail: await writeChaseMail(p.letter, now),
    })),
  );

/** Puts letters into the outbox and notes who was asked about what. `person` is who sends them; their links are the writer's. */
function keepLetters(
  db: Db,
  { now, day, person }: { now: string; day: Day; person: { id: PersonId } },
  by: PersonId | null,
  mails: readonly Written[],
): void {
  for (const m of mails) {
    const mail = madeId<"mail">(
      sql(db, "INSERT INTO mail (at, recipients, subject, purchase_order, person, eml) VALUES (?, ?, ?, ?, ?, ?)").run(
        now,
        m.letter.contacts.map((c) => c.mail).join(", "),
        m.mail.subject,
        m.rows.length === 1 ? orderOf(m.rows[0]!) : null,
        person.id,
        m.mail.bytes,
      ),
    );
    for (const r of m.rows) {
      const link = m.links.get(r.key)!.split("/").at(-1);
      const order = orderOf(r);
      if (order === null) {
        if (link)
          sql(db, "INSERT INTO quote_link (link, asked, at) VALUES (?, ?, ?)").run(linkHash(link), askedOf(r), now);
        sql(db, "INSERT INTO quote_chase (asked, day, at, person, mail) VALUES (?, ?, ?, ?, ?)").run(
          askedOf(r),
          day,
          now,
          person.id,
          mail,
        );
        continue;
      }
      if (link) keepLink(db, { now, person }, order, link);
      sql(db, "INSERT INTO chase (purchase_order, about, day, at, person, mail) VALUES (?, ?, ?, ?, ?, ?)").run(
        order,
        r.about,
        day,
        now,
        by,
        mail,
      );
    }
  }
}

/**
 * What only time does: letters to suppliers whose rule lets the clock send them, about what is ripe, in the name of whoever
 * wrote the order. One act for each supplier, with its audit row. Returns how many letters were written.
 */
export async function tickChase(db: Db, now: string, day: Day, site: string): Promise<number> {
  const rules = readChaseRules(db);
  const ripe = readChase(db, now, day).filter(
    (r) => r.ripe && r.reachable && (rules.of.get(r.supplier) ?? rules.house).byClock,
  );
  const bySupplier = new Map<string, ChaseRow[]>();
  for (const r of ripe) {
    const key = `${r.supplier}/${r.writer}`;
    bySupplier.set(key, [...(bySupplier.get(key) ?? []), r]);
  }
  let letters = 0;
  for (const rows of bySupplier.values()) {
    const writer = rows[0]!.writer;
    const mails = await written(db, rows, writerOf(db, writer), site, now);
    db.transaction(() => {
      keepLetters(db, { now, day, person: { id: writer } }, null, mails);
      recordAudit(db, now, null, "suppliers.asked", mails.map((m) => `supplier ${m.supplier}`).join(", "), {
        about: rows.map((r) => ({ order: orderOf(r), number: r.number, about: r.about })),
      });
    }).immediate();
    letters += mails.length;
  }
  return letters;
}

const Rule = z.object({
  /** Of which supplier; left out, of the house. */
  supplier: orNone(Id).optional(),
  confirmHours: Whole(1, 400),
  announceDays: Whole(0, 60),
  againDays: Whole(1, 60),
  byClock: TickBox,
});

/** Keeps when suppliers are asked for a word: the house's rule, or that of one supplier. */
export function keepChaseRule(desk: Desk, raw: unknown): Done<{ kept: true }> {
  const input = checked(Rule, raw);
  if (!input.ok) return input;
  const { supplier = null, byClock, ...v } = input.value;
  return once(desk, "keep sourcing", (tx) => {
    if (supplier !== null && !sql(tx.db, "SELECT 1 FROM supplier WHERE id = ?").get(supplier))
      return refuse("supplier", "There is no such supplier.");
    sql(tx.db, "DELETE FROM chase_rule WHERE supplier IS ?").run(supplier);
    sql(
      tx.db,
      "INSERT INTO chase_rule (supplier, confirm_hours, announce_days, again_days, by_clock) VALUES (?, ?, ?, ?, ?)",
    ).run(supplier, v.confirmHours, v.announceDays, v.againDays, byClock ? 1 : 0);
    tx.record("suppliers.chase-rule", supplier === null ? "house" : `supplier ${supplier}`, { ...v, byClock });
    return done({ kept: true });
  });
}
