import { z } from "zod";
import { addDays, type Day } from "../../../core/calendar/day";
import { clip, type Parsed, parseDecimal } from "../../../core/numbers/decimal";
import { decimalMarkOf } from "../../../core/numbers/format";
import { PRICE_PLACES } from "../../../core/numbers/money";
import { ONE, QTY_MOST, QTY_PLACES } from "../../../core/numbers/quantity";
import { quoteWords } from "../../../exchange/pdf/quote-words";
import { recordAudit } from "../../db/audit";
import { type Db, sql } from "../../db/open";
import { closedSays, type Invitation, readInvitation } from "../../queries/quotes/quotes";
import { checked, type Done, done, type Problem, refuse, refuseAll } from "../desk";
import { DayField, Id, text } from "../fields";

const figure = z.string().max(60);

export const AnswerQuote = z.object({
  lines: z
    .array(z.object({ line: Id, price: figure, from: figure, leadDays: figure, note: text(300) }))
    .max(200, "At most 200 lines."),
  validFrom: DayField,
  validTo: DayField,
  conditions: text(1000),
  decline: z.boolean(),
  /** What the supplier was shown as understood, as it was given out; it must still be so. */
  seen: z.string().max(200_000).optional(),
});

/** An answer as we read it: what the supplier is shown before it is sent. */
export interface Understood {
  lines: {
    line: number;
    /** Millionths of their currency for one `unit`. */
    price: number;
    unit: string;
    unitCode: string;
    factor: number;
    /** Units from which the price holds; 0 for any quantity. */
    from: number;
    leadDays: number | null;
    note: string;
  }[];
  validFrom: Day;
  validTo: Day;
  conditions: string;
  decline: boolean;
}

/** The first look through a private link is kept, so that the buyer knows it arrived. */
export function noteOpened(db: Db, { asked }: Invitation, now: string): void {
  if (asked.opened === null)
    sql(db, "UPDATE quote_asked SET opened = ? WHERE id = ? AND opened IS NULL").run(now, asked.id);
}

/** Reads an answer by the number format of its page, and keeps nothing: lines without a price are left out. */
export function readAnswer(db: Db, link: string, raw: unknown, day: Day): Done<Understood> {
  const input = checked(AnswerQuote, raw);
  if (!input.ok) return input;
  const invitation = readInvitation(db, link, day);
  if (!invitation) return refuse("", "This link does not lead to a request of ours.");
  const closed = closedSays(invitation);
  return closed ? refuse("", closed) : understand(invitation, input.value, day);
}

/**
 * A supplier answers through a private link, without an account: in one transaction with its audit row. At least one line
 * has a price, or the whole is declined. It may be sent again, and replaces the answer before, until the buyer uses a price
 * of it.
 */
export function answerQuote(
  db: Db,
  link: string,
  raw: unknown,
  { now, day }: { now: string; day: Day },
): Done<{ lines: number }> {
  return db
    .transaction((): Done<{ lines: number }> => {
      const read = readAnswer(db, link, raw, day);
      if (!read.ok) return read;
      const answer = read.value;
      const { asked, head, lines, language } = readInvitation(db, link, day)!;
      const { seen } = AnswerQuote.parse(raw);
      if (seen !== undefined && seen !== JSON.stringify(answer)) return refuse("", quoteWords(language).faults.changed);
      sql(db, "DELETE FROM quote_answer WHERE asked = ?").run(asked.id);
      const add = sql(
        db,
        `INSERT INTO quote_answer (asked, line, price, unit, factor, from_quantity, lead_days, valid_from, valid_to, note)
         VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
      );
      const { validFrom, validTo, conditions, decline } = answer;
      for (const l of answer.lines)
        add.run(asked.id, l.line, l.price, l.unitCode, l.factor, l.from, l.leadDays, validFrom, validTo, l.note);
      sql(db, "UPDATE quote_asked SET answered = ?, declined = ?, conditions = ? WHERE id = ?").run(
        now,
        decline ? 1 : 0,
        conditions,
        asked.id,
      );
      sql(db, "UPDATE quote SET version = version + 1 WHERE id = ?").run(head.id);
      const did = decline ? "declined" : asked.answered ? "corrected their answer to" : "answered";
      sql(db, "INSERT INTO notice (person, at, text, detail, href) VALUES (?, ?, ?, ?, ?)").run(
        head.askerId,
        now,
        `${asked.name} ${did} ${head.number}`,
        decline ? conditions : `${answer.lines.length} of ${lines.length} lines with a price`,
        `/quotes/${head.id}`,
      );
      recordAudit(db, now, null, "quote.answered", `quote ${head.id}`, { supplier: asked.supplier, ...answer });
      return done({ lines: answer.lines.length });
    })
    .immediate();
}

/** Reads what was typed as the page of the supplier writes it; every fault in their words. */
function understand(invitation: Invitation, given: z.infer<typeof AnswerQuote>, today: Day): Done<Understood> {
  const { faults } = quoteWords(invitation.language);
  const { validFrom, validTo, conditions, decline } = given;
  if (decline) return done({ lines: [], validFrom, validTo, conditions, decline });
  const problems: Problem[] = [];
  const mark = decimalMarkOf(invitation.locale);
  const read = (typed: string, places: number, most: number): Parsed<number | null> => {
    if (typed.trim() === "") return { ok: true, value: null };
    const parsed = parseDecimal(typed, places, mark);
    if (!parsed.ok) {
      const finer = parseDecimal(typed, places + 6, mark);
      return {
        ok: false,
        says: finer.ok ? faults.places(places) : faults.number(clip(typed), mark === "," ? "12,5" : "12.5"),
      };
    }
    if (parsed.value < 0) return { ok: false, says: faults.negative };
    return parsed.value > most ? { ok: false, says: faults.large } : parsed;
  };
  const lines: Understood["lines"] = [];
  const met = new Set<number>();
  for (const [i, l] of given.lines.entries()) {
    const line = invitation.lines.find((x) => x.id === l.line);
    if (!line || met.has(l.line)) return refuse("", line ? faults.twice : faults.foreign);
    met.add(l.line);
    const price = read(l.price, PRICE_PLACES, 1_000_000_000 * 1_000_000);
    const from = read(l.from, QTY_PLACES, QTY_MOST);
    const days = l.leadDays.trim();
    const daysRight = days === "" || (/^\d{1,3}$/.test(days) && Number(days) <= 730);
    if (!price.ok) problems.push({ field: `lines.${i}.price`, says: price.says });
    if (!from.ok) problems.push({ field: `lines.${i}.from`, says: from.says });
    if (!daysRight) problems.push({ field: `lines.${i}.leadDays`, says: faults.days });
    if (!price.ok || !from.ok || !daysRight || price.value === null) continue;
    lines.push({
      line: l.line,
      price: price.value,
      unit: line.sold?.unit ?? line.unit,
      unitCode: line.sold?.unitCode ?? line.unitCode,
      factor: line.sold?.factor ?? ONE,
      from: from.value ?? 0,
      leadDays: days === "" ? null : Number(days),
      note: l.note,
    });
  }
  if (lines.length === 0 && problems.length === 0) problems.push({ field: "", says: faults.none });
  if (validTo < validFrom) problems.push({ field: "validTo", says: faults.backwards });
  else if (validTo < today) problems.push({ field: "validTo", says: faults.passed });
  else if (validTo > addDays(today, 1_100)) problems.push({ field: "validTo", says: faults.far });
  return problems.length ? refuseAll(problems) : done({ lines, validFrom, validTo, conditions, decline });
}
