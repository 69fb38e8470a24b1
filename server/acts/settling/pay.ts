import { z } from "zod";
import type { Day } from "../../../core/calendar/day";
import { parseDecimal } from "../../../core/numbers/decimal";
import { showDay } from "../../../core/numbers/format";
import { exchanged, exponent, money, moneyText } from "../../../core/numbers/money";
import { earlyDiscount } from "../../../core/settling/due";
import { bookedOf, paymentPostings, paymentTotal, type SettledPart } from "../../../core/settling/payment";
import { turnedRound } from "../../../core/stock/posting";
import { type Db, madeId, sql } from "../../db/open";
import { nextNumber } from "../../db/series";
import { rateOn, theCompany } from "../../queries/company";
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

interface Paying extends SettledPart {
  of: OpenPayable;
}

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
    const chosen = chooseParts(tx.db, day, parts);
    if (!chosen.ok) return chosen;
    const { currency, supplier } = chosen.value[0]!.of;
    const total = paymentTotal(chosen.value);
    if (total <= 0)
      return refuse(
        "parts",
        "The credits come to more than what is paid with them: pay something of theirs with them.",
      );
    const home = theCompany(tx.db).currency;
    const rate = rateOn(tx.db, currency, home, day);
    if (rate === null) return refuse("day", `No rate for ${currency} is known on this day.`);
    const paid = exchanged(money(total, currency), rate, home).minor;
    const number = nextNumber(tx.db, "payment", desk.day);
    const entry = openEntry(tx.db, { ...desk, day }, "payment");
    post(tx.db, entry, paymentPostings(chosen.value, paid));
    const payment = Number(
      madeId(
        sql(
          tx.db,
          "INSERT INTO payment (number, supplier, day, currency, total, home, entry, person, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)",
        ).run(number, supplier, day, currency, total, paid, entry, desk.person.id, desk.now),
      ),
    );
    const add = sql(
      tx.db,
      "INSERT INTO payment_part (payment, payable, minor, discount, booked) VALUES (?, ?, ?, ?, ?)",
    );
    for (const p of chosen.value) add.run(payment, p.of.id, p.minor, p.discount, p.booked);
    settleStates(tx.db, desk.now, payment);
    tx.record("payment.made", `payment ${payment}`, {
      number,
      day,
      total: moneyText(money(total, currency)),
      parts: chosen.value.map((p) => ({ payable: p.of.id, minor: p.minor, discount: p.discount })),
    });
    return done({ number, payment });
  });
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
  const settled = of.total - of.left;
  const part = (minor: number, discount: number): { ok: true; value: Paying } => ({
    ok: true,
    value: { of, minor, discount, booked: bookedOf(of.homeTotal, of.total, settled, minor + discount) },
  });
  if (of.left === 0) return { ok: false, says: `${of.number} is paid already.` };
  if (early === "yes") {
    if (of.earlyBy === null || day > of.earlyBy || settled !== 0)
      return { ok: false, says: `Nothing is taken off ${of.number} any more.` };
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
