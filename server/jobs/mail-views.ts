import { addDays, type Day, daysBetween, monthStart } from "../../core/calendar/day";
import type { PersonId } from "../../core/ids";
import { weekOf } from "../../core/insight/ahead";
import type { BreakdownAsked } from "../../core/insight/breakdown";
import { DIMENSION_WORDS, MEASURE_WORDS } from "../../core/insight/words";
import { may } from "../../core/people/roles";
import { compose, type Message } from "../../exchange/mail/message";
import type { ReportDocument } from "../../exchange/pdf/report-paper";
import type { MailedEvery } from "../acts/views/keep-view";
import { readPerson } from "../auth/sessions";
import { recordAudit } from "../db/audit";
import { type Db, sql } from "../db/open";
import { theCompany } from "../queries/company";
import { workbookParts } from "../queries/file-columns";
import { breakdownColumns, breakdownOf, cellsOf, readBreakdown } from "../queries/insight/breakdown";
import { breakdownReport } from "../queries/insight/breakdown-report";

interface MailedView {
  id: number;
  person: PersonId;
  name: string;
  address: string;
  every: MailedEvery;
  mailed: Day;
}
/** Rows of a breakdown that stand in the letter itself. */
const IN_LETTER = 10;

/** A view goes out once in each week or month, from its first day on: however long the house stood still. */
export const isMailed = (v: Pick<MailedView, "every" | "mailed">, day: Day): boolean =>
  v.mailed < (v.every === "week" ? weekOf(day) : monthStart(day));

/** What is sent on a day: as many days as the view has, up to the day before. */
export function mailedDays(address: string, day: Day): BreakdownAsked {
  const until = addDays(day, -1);
  const search = new URLSearchParams(address);
  const asked = breakdownOf(search, until);
  if (!search.has("from") && !search.has("to")) return asked;
  return { ...asked, from: addDays(until, -daysBetween(asked.from, asked.until)), until };
}

/**
 * Sends breakdowns to those who asked for them each week or month: one message each, with the paper and a workbook, in one
 * transaction with its audit row. Whoever has left, has no address or no right to the figures gets none. Returns how many.
 */
export async function mailViews(
  db: Db,
  { now, day, site }: { now: string; day: Day; site: string },
  draw: (db: Db, document: ReportDocument) => Promise<Buffer>,
): Promise<number> {
  const due = sql<MailedView>(
    db,
    `SELECT v.id, v.person, v.name, v.address, v.mails AS "every", v.mailed FROM sheet_view v WHERE v.mails IS NOT NULL AND v.mailed < ? ORDER BY v.id`,
  )
    .all(day)
    .filter((v) => isMailed(v, day));
  let sent = 0;
  for (const view of due) {
    const person = readPerson(db, view.person);
    const to = sql<{ name: string; mail: string }>(db, "SELECT name, mail FROM person WHERE id = ? AND active = 1").get(
      view.person,
    );
    if (!person || !to?.mail || !may(person.roles, "see insight")) continue;
    const message = await letterOf(db, view, to, { now, day, site }, draw);
    sent += db
      .transaction(() => {
        const kept = sql(db, "UPDATE sheet_view SET mailed = ? WHERE id = ? AND mails IS NOT NULL AND mailed = ?").run(
          day,
          view.id,
          view.mailed,
        );
        if (kept.changes === 0) return 0;
        sql(db, "INSERT INTO mail (at, recipients, subject, person, eml) VALUES (?, ?, ?, ?, ?)").run(
          now,
          to.mail,
          message.subject,
          view.person,
          message.bytes,
        );
        recordAudit(db, now, null, "view.sent", `person ${view.person}`, { name: view.name, every: view.every });
        return 1;
      })
      .immediate();
  }
  return sent;
}

async function letterOf(
  db: Db,
  view: MailedView,
  to: { name: string; mail: string },
  { now, day, site }: { now: string; day: Day; site: string },
  draw: (db: Db, document: ReportDocument) => Promise<Buffer>,
): Promise<Message> {
  const company = theCompany(db);
  const asked = mailedDays(view.address, day);
  const of = readBreakdown(db, asked);
  const report = breakdownReport(db, asked, { name: view.name, of });
  const [table] = report.tables;
  const rows = table!.rows.slice(0, IN_LETTER).map((r) => `${r[0]}: ${r.at(-2)}${r.at(-1) && `, ${r.at(-1)}`}`);
  const pieces: Uint8Array[] = [];
  await workbookParts(view.name, breakdownColumns(db, asked), [cellsOf(of)], (p) => pieces.push(p));
  const search = new URLSearchParams(view.address);
  search.set("from", asked.from);
  search.set("to", asked.until);
  const file = "breakdown";
  return compose({
    from: { name: company.name, mail: company.mail, company: { name: company.name, mail: company.mail } },
    to: [to],
    subject: `${view.name}: ${MEASURE_WORDS[asked.measure]} by ${DIMENSION_WORDS[asked.rows]}`,
    body: `${[
      `${report.facts.map((f) => `${f.title}: ${f.lines.join(", ")}`).join("\n")}`,
      rows.join("\n") || "Nothing in these days.",
      ...(table!.rows.length > IN_LETTER ? [`and ${table!.rows.length - IN_LETTER} rows more in the paper.`] : []),
      ...(site ? [`Each figure down to its papers: ${site}/insight?${search}`] : []),
      `You asked for this each ${view.every}. It ends on the page, beside the name of the view.`,
    ].join("\n\n")}\n`,
    moment: now,
    attachments: [
      { name: `${file}.pdf`, type: "application/pdf", bytes: await draw(db, report) },
      {
        name: `${file}.xlsx`,
        type: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
        bytes: Buffer.concat(pieces),
      },
    ],
  });
}
