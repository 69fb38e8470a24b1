import { z } from "zod";
import { addDays, type Day } from "../../../core/calendar/day";
import { ONE } from "../../../core/numbers/quantity";
import { recordAudit } from "../../db/audit";
import { type Db, sql } from "../../db/open";
import { closedSays, type Invitation, readInvitation } from "../../read/quotes/quotes";
import { checked, type Done, done, type Problem, refuse, refuseAll } from "../desk";
import { CountedQuantity, DayField, Id, PriceOrNone, text } from "../fields";

const LeadDays = z
  .string()
  .max(10)
  .transform((s, ctx): number | null => {
    if (s.trim() === "") return null;
    const days = Number(s);
    if (/^\d{1,3}$/.test(s.trim()) && days <= 730) return days;
    ctx.addIssue({ code: "custom", message: "Whole days, at most 730." });
    return z.NEVER;
  });

export const AnswerQuote = z.object({
  lines: z
    .array(z.object({ line: Id, price: PriceOrNone, from: CountedQuantity, leadDays: LeadDays, note: text(300) }))
    .max(200, "At most 200 lines."),
  validFrom: DayField,
  validTo: DayField,
  conditions: text(1000),
  decline: z.boolean(),
});

/** The first look through a private link is kept, so that the buyer knows it arrived. */
export function noteOpened(db: Db, { asked }: Invitation, now: string): void {
  if (asked.opened === null)
    sql(db, "UPDATE quote_asked SET opened = ? WHERE id = ? AND opened IS NULL").run(now, asked.id);
}

/**
 * A supplier answers through a private link, without an account, once: in one transaction with its audit row. Lines
 * without a price are left out; at least one has one, or the whole is declined.
 */
export function answerQuote(
  db: Db,
  link: string,
  raw: unknown,
  { now, day }: { now: string; day: Day },
): Done<{ lines: number }> {
  const input = checked(AnswerQuote, raw);
  if (!input.ok) return input;
  const { lines, validFrom, validTo, conditions, decline } = input.value;
  return db
    .transaction((): Done<{ lines: number }> => {
      const invitation = readInvitation(db, link, day);
      if (!invitation) return refuse("", "This link does not lead to a request of ours.");
      const closed = closedSays(invitation);
      if (closed) return refuse("", closed);
      const priced = decline ? [] : lines.filter((l) => l.price !== null);
      const problems = wrong(invitation, priced, { validFrom, validTo, day, decline });
      if (problems.length) return refuseAll(problems);
      const { asked } = invitation;
      const add = sql(
        db,
        `INSERT INTO quote_answer (asked, line, price, unit, factor, from_quantity, lead_days, valid_from, valid_to, note)
         VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
      );
      for (const l of priced) {
        const line = invitation.lines.find((x) => x.id === l.line)!;
        const { sold } = line;
        add.run(
          asked.id,
          l.line,
          l.price,
          sold?.unitCode ?? line.unitCode,
          sold?.factor ?? ONE,
          l.from,
          l.leadDays,
          validFrom,
          validTo,
          l.note,
        );
      }
      sql(db, "UPDATE quote_asked SET answered = ?, declined = ?, conditions = ? WHERE id = ?").run(
        now,
        decline ? 1 : 0,
        conditions,
        asked.id,
      );
      sql(db, "INSERT INTO notice (person, at, text, detail, href) VALUES (?, ?, ?, ?, ?)").run(
        invitation.head.askerId,
        now,
        `${asked.name} ${decline ? "declined" : "answered"} ${invitation.head.number}`,
        decline ? conditions : `${priced.length} of ${invitation.lines.length} lines with a price`,
        `/quotes/${invitation.head.id}`,
      );
      recordAudit(db, now, null, "quote.answered", `quote ${invitation.head.id}`, {
        supplier: asked.supplier,
        lines: priced,
        validFrom,
        validTo,
        conditions,
        decline,
      });
      return done({ lines: priced.length });
    })
    .immediate();
}

function wrong(
  invitation: Invitation,
  priced: readonly { line: number; price: number | null }[],
  of: { validFrom: Day; validTo: Day; day: Day; decline: boolean },
): Problem[] {
  if (of.decline) return [];
  const problems: Problem[] = [];
  if (priced.length === 0)
    problems.push({ field: "", says: "Give a price for one line at least, or say that you cannot supply any of it." });
  if (priced.some((l) => !invitation.lines.some((x) => x.id === l.line)))
    problems.push({ field: "", says: "One of the lines does not belong to this request. Load the page again." });
  if (of.validTo < of.validFrom) problems.push({ field: "validTo", says: "The last day lies before the first." });
  else if (of.validTo < of.day) problems.push({ field: "validTo", says: "This day has passed." });
  else if (of.validTo > addDays(of.day, 1_100)) problems.push({ field: "validTo", says: "At most three years ahead." });
  return problems;
}
