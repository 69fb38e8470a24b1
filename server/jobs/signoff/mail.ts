import { type Day, toDay } from "../../../core/calendar/day";
import type { PersonId } from "../../../core/ids";
import { paperName } from "../../../core/signoff/papers";
import { barredFrom } from "../../../core/signoff/process";
import { type SignOffLetter, writeSignOffMail } from "../../../exchange/mail/sign-off-mail";
import { newLink } from "../../acts/orders/order-link";
import { recordAudit } from "../../db/audit";
import { Ids, readColumn, SignedLines } from "../../db/json-columns";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../../queries/company";
import { linkHash } from "../../queries/quotes/quotes";
import { JOIN_PAPER, PAPER_ABOUT, type PaperRow, WHICH_PAPER } from "../../queries/signoff/papers";
import { readRoster } from "../../queries/signoff/staff";

/** How long a link in an e-mail holds. */
const LINK_DAYS = 14;

interface ToTell {
  at: number;
  seat: number;
  how: "asked" | "handed over" | "climbed";
  person: PersonId;
  signing: number;
  hands: string;
  own: number;
}

/**
 * Writes an e-mail with a private link to everybody who is asked and was not told yet. The message, its link and the mark
 * that it was written are kept together; an address that is missing is passed over.
 */
export async function mailSignOff(db: Db, now: string, day: Day, site: string): Promise<number> {
  const rows = sql<ToTell>(
    db,
    `SELECT a.id AS at, a.seat, a.how, p.id AS person, t.signing, g.hands, g.own
     FROM seat t JOIN signing g ON g.id = t.signing JOIN seat_person a ON a.seat = t.id JOIN person p ON p.id = a.person
     WHERE t.state = 'waiting' AND g.state = 'In sign-off' AND a.handed_on IS NULL AND a.mailed IS NULL
       AND p.active = 1 AND a.person <> g.writer
       AND a.person NOT IN (SELECT coalesce(x.for_whom, x.person) FROM signature x WHERE x.seat = t.id)`,
  ).all();
  const roster = readRoster(db, day);
  let written = 0;
  for (const row of rows) {
    // Whoever stands in for somebody who is away gets it in their place, with a link of their own.
    const to = roster
      .toldFor(row.person, barredFrom({ hands: readColumn(Ids, row.hands), own: row.own === 1 }))
      .filter((p) => p.mail !== "");
    const { letter, writer } = letterOf(db, day, row);
    const mails = await Promise.all(
      to.map(async (person) => {
        const link = newLink();
        const own = { ...letter, to: person, link: `${site}/sign-off/link/${link}` };
        return { person, link, mail: await writeSignOffMail(own, now) };
      }),
    );
    const kept = db
      .transaction(() => {
        const marked = sql(db, "UPDATE seat_person SET mailed = ? WHERE id = ? AND mailed IS NULL").run(now, row.at);
        if (marked.changes === 0) return 0;
        for (const { person, link, mail } of mails) {
          sql(db, "INSERT INTO sign_link (link, seat, person, ends) VALUES (?, ?, ?, ?)").run(
            linkHash(link),
            row.seat,
            person.id,
            new Date(new Date(now).getTime() + LINK_DAYS * 86_400_000).toISOString(),
          );
          sql(db, "INSERT INTO mail (at, recipients, subject, person, eml) VALUES (?, ?, ?, ?, ?)").run(
            now,
            person.mail,
            mail.subject,
            writer,
            mail.bytes,
          );
        }
        recordAudit(db, now, null, "sign-off.mailed", `signing ${row.signing}`, { to: to.map((p) => p.mail) });
        return mails.length;
      })
      .immediate();
    written += kept;
  }
  return written;
}

function letterOf(db: Db, day: Day, row: ToTell): { letter: Omit<SignOffLetter, "to" | "link">; writer: number } {
  const p = sql<
    PaperRow & {
      about: string;
      writer: string;
      writerId: number;
      minor: number;
      due: string;
      reminded: string | null;
      required: string | null;
      lines: string;
      currency: string | null;
    }
  >(
    db,
    `SELECT ${WHICH_PAPER}, ${PAPER_ABOUT}, w.name AS writer, w.id AS writerId,
            g.amount AS minor, t.due, t.reminded, g.lines, o.currency
     FROM seat t JOIN signing g ON g.id = t.signing JOIN person w ON w.id = g.writer
     ${JOIN_PAPER}
     WHERE t.id = ?`,
  ).get(row.seat)!;
  const { name, mail, currency, locale } = theCompany(db);
  return {
    writer: p.writerId,
    letter: {
      company: { name, mail },
      paper: paperName(p.paper, p.number),
      about: p.about,
      writer: p.writer,
      minor: p.minor,
      currency,
      locale,
      today: day,
      due: p.due,
      required: p.required === null ? null : toDay(p.required),
      lines: readColumn(SignedLines, p.lines),
      lineCurrency: p.currency ?? currency,
      why: p.reminded !== null && row.how === "asked" ? "reminded" : row.how,
    },
  };
}
