import { z } from "zod";
import { addDays, type Day } from "../../../core/calendar/day";
import { lastPeriodEnd, type StatementState, statementTotals } from "../../../core/consigned/statement";
import { decimalText } from "../../../core/numbers/decimal";
import { showDay } from "../../../core/numbers/format";
import { exchanged, money, moneyText, priceText } from "../../../core/numbers/money";
import { quantityText } from "../../../core/numbers/quantity";
import { payBy } from "../../../core/orders/terms";
import { settlementPostings } from "../../../core/stock/posting";
import { csvText } from "../../../exchange/csv/write";
import type { StatementPaper } from "../../../exchange/pdf/consigned-paper";
import { consignedWords } from "../../../exchange/pdf/consigned-words";
import { readPerson } from "../../auth/sessions";
import { recordAudit } from "../../db/audit";
import { type Db, madeId, sql } from "../../db/open";
import { nextNumber } from "../../db/series";
import { rateOn, theCompany } from "../../queries/company";
import { type AgreementHead, readAgreementHead } from "../../queries/consigned/agreement";
import { ofAgreement, payTerms, selfBilled, statementPaper } from "../../queries/consigned/papers";
import { readStatement, type StatementHead, type UseRow, unsettledUses } from "../../queries/consigned/statements";
import { logoNow, readLogo } from "../../queries/papers/templates";
import { checked, type Desk, type Done, done, once, refuse, stale } from "../desk";
import { DayOrNone, Id, text, Version } from "../fields";
import { tell } from "../notices";
import { newLink } from "../orders/order-link";
import { openEntry, post } from "../stock/post";
import { type DrawConsigned, drawConsignedHere, keepLetter, writeLetter } from "./letters";
import { ripenTheirs } from "./ripen";

export const MakeStatement = z.object({
  agreement: Id,
  /** The last day of it; empty: the end of the last period that is over. */
  until: DayOrNone.optional(),
});

/** Makes the use statement of an agreement: all that is on none yet, up to a day (domain-goods §13). */
export function makeStatement(desk: Desk, raw: unknown): Done<{ statement: number; number: string }> {
  const input = checked(MakeStatement, raw);
  if (!input.ok) return input;
  ripenTheirs(desk);
  return once(desk, "settle statements", (tx) => {
    const a = readAgreementHead(tx.db, input.value.agreement);
    if (!a || a.revision === 0) return refuse("", "There is no such agreement.");
    const until = input.value.until ?? lastPeriodEnd(a.settles, desk.day);
    if (until > desk.day) return refuse("until", "This day has not come yet.");
    const made = writeStatement(tx.db, desk, a, until);
    if (made.ok) tx.record("statement.made", `agreement ${a.id}`, { ...made.value, until });
    return made;
  });
}

/** Writes a statement. Inside a transaction. */
function writeStatement(db: Db, desk: Desk, a: AgreementHead, until: Day): Done<{ statement: number; number: string }> {
  const uses = unsettledUses(db, a.id, until);
  if (uses.length === 0)
    return refuse("until", `Nothing was used up to ${showDay(until, desk.day)} that is on no statement yet.`);
  const totals = statementTotals(uses);
  if (totals.net < 0)
    return refuse(
      "until",
      "More was taken back than used: it goes onto the next statement, with what is used by then.",
    );
  const since = sinceOf(db, a, uses);
  const number = nextNumber(db, "use statement", desk.day);
  const document: StatementPaper = {
    ...ofAgreement(db, a, desk.person.name),
    kind: "use statement",
    number,
    day: desk.day,
    agreement: a.number ?? "",
    since,
    until,
    lines: uses.map(lineOf),
    taxes: totals.taxes,
    net: totals.net,
    total: totals.total,
    taxed: sql<{ taxed: number }>(db, "SELECT taxed FROM supplier WHERE id = ?").get(a.supplier)!.taxed === 1,
  };
  const statement = Number(
    madeId(
      sql(
        db,
        `INSERT INTO use_statement (number, agreement, since, until, net, tax, total, home_net, state, document, day, person, at)
         VALUES (@number, @agreement, @since, @until, @net, @tax, @total, @homeNet, 'Made', @document, @day, @person, @at)`,
      ).run({
        number,
        agreement: a.id,
        since,
        until,
        net: totals.net,
        tax: totals.tax,
        total: totals.total,
        homeNet: totals.homeNet,
        document: JSON.stringify(document),
        day: desk.day,
        person: desk.person.id,
        at: desk.now,
      }),
    ),
  );
  const take = sql(db, "UPDATE consigned_use SET statement = ? WHERE id = ?");
  for (const u of uses) take.run(statement, u.id);
  return done({ statement, number });
}

/** The day after the statement before ended, or the first use on it where that is earlier. */
function sinceOf(db: Db, a: AgreementHead, uses: readonly UseRow[]): Day {
  const before = sql<{ until: Day | null }>(
    db,
    "SELECT max(until) AS until FROM use_statement WHERE agreement = ? AND state <> 'Withdrawn'",
  ).get(a.id)!.until;
  const from = before === null ? a.starts : addDays(before, 1);
  return [uses[0]!.day, from].sort()[0]!;
}

const lineOf = (u: UseRow): StatementPaper["lines"][number] => ({
  day: u.day,
  what: u.what,
  name: u.name,
  code: u.code,
  theirCode: u.theirCode,
  unit: u.unitCode,
  job: u.job ?? u.note,
  order: u.order,
  quantity: u.quantity,
  price: u.price,
  net: u.net,
  taxRate: u.taxRate,
});

/** A statement as a file: one row for each use, as docs/exchange.md describes it. */
export const statementCsv = (d: StatementPaper): string =>
  csvText([
    [
      "statement",
      "day",
      "what",
      "item",
      "their_code",
      "name",
      "job",
      "order",
      "quantity",
      "unit",
      "price",
      "net",
      "currency",
      "tax_rate",
    ],
    ...d.lines.map((l) => [
      d.number,
      l.day,
      l.what,
      l.code,
      l.theirCode,
      l.name,
      l.job,
      l.order,
      quantityText(l.quantity),
      l.unit,
      priceText(l.price),
      moneyText(money(l.net, d.currency)),
      d.currency,
      decimalText(l.taxRate, 2),
    ]),
  ]);

const Which = z.object({ statement: Id, version: Version });

/** A statement in the version that the person saw, where it may still be decided about. */
function open(db: Db, id: number, version: number, states: readonly StatementState[]): Done<StatementHead> {
  const s = readStatement(db, id);
  if (!s) return refuse("", "There is no such statement.");
  if (!states.includes(s.state)) return refuse("", `Statement ${s.number} is ${s.state.toLowerCase()}.`);
  if (s.version !== version) return stale(`Statement ${s.number} was changed by somebody else meanwhile.`);
  return done(s);
}

const OPEN = ["Made", "Sent", "Questioned"] as const;

/** Sends a statement to its supplier: paper, file and open-standard invoice, with the private link on which they agree. */
export async function sendStatement(
  desk: Desk,
  raw: unknown,
  { site = "", draw = drawConsignedHere }: { site?: string; draw?: DrawConsigned } = {},
): Promise<Done<{ number: string; to: string[] }>> {
  const input = checked(Which, raw);
  if (!input.ok) return input;
  const { statement, version } = input.value;
  const found = open(desk.db, statement, version, OPEN);
  if (!found.ok) return found;
  const s = found.value;
  const a = readAgreementHead(desk.db, s.agreement)!;
  const paper = statementPaper(desk.db, statement)!;
  const { selfBilledInvoiceXml } = await import("../../../exchange/ubl/self-billed-invoice"); // takes long to load
  const words = consignedWords(paper.language).letter;
  const day = (d: string) => showDay(d, "0000", paper.locale, false);
  const letter = await writeLetter(desk.db, desk, a, {
    subject: words.statementSubject(s.number, paper.company.name),
    body: words.statementBody(day(s.since), day(s.until)),
    attachments: [
      {
        name: `statement-${s.number}.pdf`,
        type: "application/pdf",
        bytes: await draw(paper, readLogo(desk.db, logoNow(desk.db))),
      },
      { name: `statement-${s.number}.csv`, type: "text/csv", bytes: Buffer.from(statementCsv(paper)) },
      {
        name: `statement-${s.number}.xml`,
        type: "application/xml",
        bytes: Buffer.from(selfBilledInvoiceXml(selfBilled(desk.db, statement)!)),
      },
    ],
    link: newLink(),
    site,
  });
  if (!letter.ok) return letter;
  return once(desk, "settle statements", (tx) => {
    const again = open(tx.db, statement, version, OPEN);
    if (!again.ok) return again;
    keepLetter(tx.db, desk, s.agreement, letter.value);
    sql(tx.db, "UPDATE use_statement SET state = 'Sent', sent = ?, version = version + 1 WHERE id = ?").run(
      desk.now,
      statement,
    );
    const to = letter.value.contacts.map((c) => c.mail);
    tx.record("statement.sent", `statement ${statement}`, { number: s.number, to });
    return done({ number: s.number, to });
  });
}

export const AgreeStatement = Which.extend({ by: text(80, 2, "Say who agreed.") });

/**
 * Their supplier agrees: what was received is invoiced, and owed by the day that their terms say. Inside a transaction; who
 * did it has been looked at.
 */
export function settleStatement(
  db: Db,
  at: { now: string; day: Day; person: Desk["person"] },
  v: z.output<typeof AgreeStatement>,
): Done<{ number: string; due: Day }> {
  const found = open(db, v.statement, v.version, OPEN);
  if (!found.ok) return found;
  const s = found.value;
  const home = theCompany(db).currency;
  const rate = rateOn(db, s.currency, home, at.day);
  if (rate === null) return refuse("", `No rate for ${s.currency} is known. An administrator loads rates under Files.`);
  const inHome = (minor: number) => exchanged(money(minor, s.currency), rate, home).minor;
  const owed = inHome(s.total);
  const entry = openEntry(db, at, "settlement");
  const lines = sql<{ line: number; homeNet: number }>(
    db,
    "SELECT order_line AS line, sum(home_net) AS homeNet FROM consigned_use WHERE statement = ? GROUP BY order_line ORDER BY order_line",
  ).all(s.id);
  post(db, entry, settlementPostings(lines, inHome(s.tax), owed));
  sql(
    db,
    `UPDATE order_line SET invoiced = invoiced + u.quantity
     FROM (SELECT order_line, sum(quantity) AS quantity FROM consigned_use WHERE statement = ? GROUP BY order_line) u WHERE u.order_line = order_line.id`,
  ).run(s.id);
  const due = payBy(payTerms(db, s.supplier), at.day);
  sql(
    db,
    `INSERT INTO payable (supplier, statement, currency, net, tax, total, home_total, due, day, entry)
     VALUES (@supplier, @statement, @currency, @net, @tax, @total, @owed, @due, @day, @entry)`,
  ).run({
    supplier: s.supplier,
    statement: s.id,
    currency: s.currency,
    net: s.net,
    tax: s.tax,
    total: s.total,
    owed,
    due,
    day: at.day,
    entry,
  });
  sql(
    db,
    "UPDATE use_statement SET state = 'Agreed', agreed = ?, agreed_by = ?, version = version + 1 WHERE id = ?",
  ).run(at.now, v.by, s.id);
  return done({ number: s.number, due });
}

/** Writes down that the supplier agreed, as they said it by phone or mail. */
export function agreeStatement(desk: Desk, raw: unknown): Done<{ number: string; due: Day }> {
  const input = checked(AgreeStatement, raw);
  if (!input.ok) return input;
  return once(desk, "settle statements", (tx) => {
    const settled = settleStatement(tx.db, desk, input.value);
    if (settled.ok)
      tx.record("statement.agreed", `statement ${input.value.statement}`, { ...settled.value, by: input.value.by });
    return settled;
  });
}

export const QuestionStatement = Which.extend({ said: text(1_000, 3, "Say what is not right.") });

/** Keeps what a supplier says against a statement. Inside a transaction. */
export function keepQuestion(db: Db, v: z.output<typeof QuestionStatement>): Done<StatementHead> {
  const found = open(db, v.statement, v.version, OPEN);
  if (!found.ok) return found;
  sql(db, "UPDATE use_statement SET state = 'Questioned', said = ?, version = version + 1 WHERE id = ?").run(
    v.said,
    v.statement,
  );
  return found;
}

/** Writes down what the supplier says against a statement. */
export function questionStatement(desk: Desk, raw: unknown): Done<{ number: string }> {
  const input = checked(QuestionStatement, raw);
  if (!input.ok) return input;
  return once(desk, "settle statements", (tx) => {
    const kept = keepQuestion(tx.db, input.value);
    if (!kept.ok) return kept;
    tx.record("statement.questioned", `statement ${input.value.statement}`, { said: input.value.said });
    return done({ number: kept.value.number });
  });
}

/** Withdraws a statement that nobody agreed to: its uses go onto another. */
export function withdrawStatement(desk: Desk, raw: unknown): Done<{ number: string }> {
  const input = checked(Which.extend({ reason: text(300, 3, "Say why it is withdrawn.") }), raw);
  if (!input.ok) return input;
  const { statement, version, reason } = input.value;
  return once(desk, "settle statements", (tx) => {
    const found = open(tx.db, statement, version, OPEN);
    if (!found.ok) return found;
    sql(tx.db, "UPDATE consigned_use SET statement = NULL WHERE statement = ?").run(statement);
    sql(tx.db, "UPDATE use_statement SET state = 'Withdrawn', said = ?, version = version + 1 WHERE id = ?").run(
      reason,
      statement,
    );
    tx.record("statement.withdrawn", `statement ${statement}`, { number: found.value.number, reason });
    return done({ number: found.value.number });
  });
}

/**
 * What only time does: when a period is over, its statement is made, in the name of whoever wrote the agreement, who looks at
 * it and sends it. Each is an act with an audit row. Returns how many were made.
 */
export function tickStatements(db: Db, now: string, day: Day): number {
  const agreements = sql<{ id: number }>(
    db,
    `SELECT DISTINCT x.agreement AS id FROM consigned_use u JOIN agreement_item x ON x.id = u.agreement_item WHERE u.statement IS NULL AND u.day < ?`,
  ).all(day);
  let made = 0;
  for (const { id } of agreements) {
    const a = readAgreementHead(db, id)!;
    const until = lastPeriodEnd(a.settles, day);
    if (unsettledUses(db, id, until).length === 0) continue;
    db.transaction(() => {
      const person = readPerson(db, a.writer)!;
      const desk: Desk = { db, person, day, hour: 0, now, key: "" };
      const written = writeStatement(db, desk, a, until);
      if (!written.ok) return;
      made++;
      tell(
        db,
        now,
        a.writer,
        `Use statement ${written.value.number} is made`,
        `${a.supplierName}, up to ${showDay(until, day)}: look at it and send it`,
        `/statements/${written.value.statement}`,
      );
      recordAudit(db, now, null, "statement.made", `agreement ${a.id}`, { ...written.value, until });
    }).immediate();
  }
  return made;
}
