import { z } from "zod";
import type { Day } from "../../../core/calendar/day";
import type { SupplierId } from "../../../core/ids";
import { parseDecimal } from "../../../core/numbers/decimal";
import { showDay } from "../../../core/numbers/format";
import { exchanged, exponent, money, moneyText } from "../../../core/numbers/money";
import { earlyDiscount } from "../../../core/settling/due";
import { earlyStill } from "../../../core/settling/pay-list";
import { bookedOf, paymentPostings, paymentTotal, type SettledPart } from "../../../core/settling/payment";
import { turnedRound } from "../../../core/stock/posting";
import { type Db, madeId, sql } from "../../db/open";
import { nextNumber } from "../../db/series";
import { rateOn, theCompany } from "../../queries/company";
import { firstOpen } from "../../queries/settling/books";
import { postingsOf } from "../../queries/settling/journal";
import { type OpenPayable, readOpenPayable, readPayment } from "../../queries/settling/payables";
import { checked, type Desk, type Done, done, once, type Problem, refuse, refuseAll, stale } from "../desk";
import { DayField, Id, text, Version } from "../fields";
import { openEntry, post } from "../stock/post";

export const PayByHand = z.object({
  day: DayField,
  /** What is paid of what is owed; empty: all that is left of it. Credits are set off whole. */
  parts: z
    .array(z.object({ payable: Id, amount: z.string().max(40).default(""), early: z.string().default("") }))
    .min(1, "Say what is paid.")
    .max(200),
});

/** What of an open payable a payment settles. */
export interface Paying extends SettledPart {
  of: OpenPayable;
}

/** So much of a payable, at what it was booked. */
export const payingOf = (of: OpenPayable, minor: number, discount: number): Paying => ({
  of,
  minor,
  discount,
  booked: bookedOf(of.homeTotal, of.total, of.total - of.left, minor + discount),
});

/**
 * Marks what is owed as paid: several papers of one supplier and currency, in part, with credits set off and what is taken
 * off for paying early. Never more than is left of a paper (domain-goods §14).
 */
export function payByHand(desk: Desk, raw: unknown): Done<{ number: string; payment: number }> {
  const input = checked(PayByHand, raw);
  if (!input.ok) return input;
  const { day, parts } = input.value;
  return once(desk, "pay", (tx) => {
    if (day > desk.day) return refuse("day", `${showDay(day, desk.day)} has not come yet.`);
    if (day < firstOpen(tx.db, day)) return refuse("day", `${showDay(day, desk.day)} lies in a period that is closed.`);
    const chosen = chooseParts(tx.db, day, parts);
    if (!chosen.ok) return chosen;
    const { currency, supplier } = chosen.value[0]!.of;
    const total = paymentTotal(chosen.value);
    if (total <= 0)
      return refuse(
        "parts",
        "The credits come to more than what is paid with them: pay something of theirs with them.",
      );
    const listed = chosen.value.find((c) => c.of.onList !== null);
    if (listed)
      return refuse(
        "parts",
        `Pay list ${listed.of.onList} pays ${listed.of.number}: leave it out there, or drop the list.`,
      );
    const made = keepPayment(tx.db, desk, { supplier, currency, day, parts: chosen.value });
    if (!made.ok) return made;
    tx.record("payment.made", `payment ${made.value.payment}`, {
      number: made.value.number,
      day,
      total: moneyText(money(total, currency)),
      parts: chosen.value.map((p) => ({ payable: p.of.id, minor: p.minor, discount: p.discount })),
    });
    return made;
  });
}

/** Books a payment and keeps what it settles, inside the act's transaction. Its parts are within what is left. */
export function keepPayment(
  db: Db,
  by: Pick<Desk, "day" | "now" | "person">,
  { supplier, currency, day, parts }: { supplier: SupplierId; currency: string; day: Day; parts: readonly Paying[] },
): Done<{ number: string; payment: number }> {
  const total = paymentTotal(parts);
  const home = theCompany(db).currency;
  const rate = rateOn(db, currency, home, day);
  if (rate === null) return refuse("day", `No rate for ${currency} is known on this day.`);
  const paid = exchanged(money(total, currency), rate, home).minor;
  const number = nextNumber(db, "payment", by.day);
  const entry = openEntry(db, { ...by, day }, "payment");
  post(db, entry, paymentPostings(parts, paid));
  const payment = Number(
    madeId(
      sql(
        db,
        "INSERT INTO payment (number, supplier, day, currency, total, home, entry, person, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)",
      ).run(number, supplier, day, currency, total, paid, entry, by.person.id, by.now),
    ),
  );
  const add = sql(db, "INSERT INTO payment_part (payment, payable, minor, discount, booked) VALUES (?, ?, ?, ?, ?)");
  for (const p of parts) add.run(payment, p.of.id, p.minor, p.discount, p.booked);
  settleStates(db, by.now, payment);
  return done({ number, payment });
}

function chooseParts(db: Db, day: Day, parts: z.output<typeof PayByHand>["parts"]): Done<Paying[]> {
  const problems: Problem[] = [];
  const chosen: Paying[] = [];
  for (const [i, p] of parts.entries()) {
    const of = readOpenPayable(db, p.payable);
    if (!of || chosen.some((c) => c.of.id === of.id)) return refuse("parts", "This is not owed, or stands here twice.");
    const [first] = chosen;
    if (first && (first.of.supplier !== of.supplier || first.of.currency !== of.currency))
      return refuse("parts", "One payment goes to one supplier, in one currency.");
    const part = partOf(of, p, day);
    if (part.ok) chosen.push(part.value);
    else problems.push({ field: `parts.${i}.amount`, says: part.says });
  }
  return problems.length ? refuseAll(problems) : done(chosen);
}

function partOf(
  of: OpenPayable,
  { amount, early }: { amount: string; early: string },
  day: Day,
): { ok: true; value: Paying } | { ok: false; says: string } {
  const part = (minor: number, discount: number): { ok: true; value: Paying } => ({
    ok: true,
    value: payingOf(of, minor, discount),
  });
  if (of.left === 0) return { ok: false, says: `${of.number} is paid already.` };
  if (early === "yes") {
    if (!earlyStill(of, day)) return { ok: false, says: `Nothing is taken off ${of.number} any more.` };
    const discount = earlyDiscount(of.total, of.earlyPercent);
    return part(of.left - discount, discount);
  }
  if (of.left < 0 || amount.trim() === "") return part(of.left, 0);
  const typed = parseDecimal(amount, exponent(of.currency));
  if (!typed.ok) return typed;
  if (typed.value <= 0) return { ok: false, says: "An amount above zero." };
  if (typed.value > of.left)
    return {
      ok: false,
      says: `Only ${moneyText(money(of.left, of.currency))} ${of.currency} of ${of.number} are left.`,
    };
  return part(typed.value, 0);
}

/** Where the invoices of a payment stand since. */
const settleStates = (db: Db, now: string, payment: number) =>
  sql(
    db,
    `UPDATE invoice SET version = version + 1, since = @now, state = (
       SELECT iif(y.settled = 0, 'Matched', iif(y.settled = y.total, 'Paid', 'Part paid')) FROM payable_now y WHERE y.invoice = invoice.id AND y.ended IS NULL)
     WHERE id IN (SELECT y.invoice FROM payment_part p JOIN payable y ON y.id = p.payable WHERE p.payment = @payment AND y.invoice IS NOT NULL)`,
  ).run({ now, payment });

export const TakePaymentBack = z.object({ payment: Id, version: Version, why: text(300, 3, "Say why.") });

/** Takes a payment back: it did not go out, or came back. What it paid is owed again. */
export function takePaymentBack(desk: Desk, raw: unknown): Done<{ number: string }> {
  const input = checked(TakePaymentBack, raw);
  if (!input.ok) return input;
  const { payment, version, why } = input.value;
  return once(desk, "pay", (tx) => {
    const p = readPayment(tx.db, payment);
    if (!p) return refuse("", "There is no such payment.");
    if (p.takenBack !== null) return refuse("", `Payment ${p.number} was taken back already.`);
    if (p.version !== version) return stale(`Payment ${p.number} was changed by somebody else meanwhile.`);
    const entry = openEntry(tx.db, desk, "payment", null, p.entry);
    post(tx.db, entry, turnedRound(postingsOf(tx.db, p.entry)));
    sql(tx.db, "UPDATE payment SET taken_back = ?, why = ?, version = version + 1 WHERE id = ?").run(
      desk.day,
      why,
      payment,
    );
    settleStates(tx.db, desk.now, payment);
    tx.record("payment.taken-back", `payment ${payment}`, { number: p.number, why });
    return done({ number: p.number });
  });
}
