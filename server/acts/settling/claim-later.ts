import { z } from "zod";
import { parseDecimal } from "../../../core/numbers/decimal";
import { exchanged, exponent, money, moneyText } from "../../../core/numbers/money";
import { quantityText } from "../../../core/numbers/quantity";
import { billedFor, LATER_REASONS } from "../../../core/settling/claim";
import { countsStill, taxOn } from "../../../core/settling/invoice";
import { laterClaimPostings } from "../../../core/stock/posting";
import { type Db, madeId, sql } from "../../db/open";
import { nextNumber } from "../../db/series";
import { theCompany } from "../../queries/company";
import { type InvoiceLineRow, type InvoiceSheet, readClaims, readInvoice } from "../../queries/settling/invoices";
import { returnsToCredit } from "../../queries/settling/returned";
import { checked, type Desk, type Done, done, once, refuse, stale } from "../desk";
import { Id, orNone, QuantityOrNone, text, Version } from "../fields";
import { openEntry, post } from "../stock/post";

export const ClaimLater = z.object({
  invoice: Id,
  version: Version,
  position: Id,
  reason: z.enum(LATER_REASONS, "Say why it is claimed."),
  /** Of goods that are not good: so many purchase units. */
  pieces: QuantityOrNone.default(null),
  /** Net; empty: what the pieces were billed at. */
  amount: z.string().trim().max(40).default(""),
  /** The return with which they went back. */
  goodsReturn: orNone(Id).default(null),
  said: text(300, 3, "Say why: they read it in the letter."),
});

/** What is left of a line that nobody claimed yet: net, and purchase units that are here. */
function unclaimed(db: Db, { head }: InvoiceSheet, l: InvoiceLineRow): { net: number; pieces: number } {
  const claims = readClaims(db, head.id).filter(
    (c) => c.position === l.position && c.state !== "Withdrawn" && c.state !== "Dropped",
  );
  return claims.reduce((a, c) => ({ net: a.net - c.net, pieces: a.pieces - c.quantity - c.pieces }), {
    net: l.net,
    pieces: l.quantity,
  });
}

/** How much is asked: an amount that was typed, or what the pieces were billed at; never more than is left of the line. */
function askedFor(
  { head }: InvoiceSheet,
  l: InvoiceLineRow,
  left: { net: number; pieces: number },
  v: z.output<typeof ClaimLater>,
): Done<{ net: number; tax: number }> {
  const pieces = v.pieces ?? 0;
  if (pieces > left.pieces)
    return refuse("pieces", `Of this line ${quantityText(left.pieces)} are left to be claimed.`);
  if (pieces === 0 && v.amount === "") return refuse("amount", "Say how many are not good, or how much is asked back.");
  const typed = v.amount === "" ? null : parseDecimal(v.amount, exponent(head.currency));
  if (typed && !typed.ok) return refuse("amount", typed.says);
  const net = typed ? typed.value : Math.min(left.net, billedFor(l, pieces, head.currency));
  if (net <= 0) return refuse("amount", "A claim asks for more than nothing.");
  if (net > left.net)
    return refuse(
      "amount",
      `Of this line ${moneyText(money(left.net, head.currency))} ${head.currency} are left to be claimed.`,
    );
  return done({ net, tax: taxOn(net, l.taxRate) });
}

/**
 * Asks something back of an invoice that matched: goods that turned out not good, or what they agreed to. It is booked at
 * once, at the invoice's rate, and is settled as every claim is: credited, or given up (domain-goods §14).
 */
export function claimLater(desk: Desk, raw: unknown): Done<{ number: string }> {
  const input = checked(ClaimLater, raw);
  if (!input.ok) return input;
  const v = input.value;
  return once(desk, "claim", (tx) => {
    const sheet = readInvoice(tx.db, v.invoice);
    if (sheet?.head.kind !== "invoice") return refuse("", "There is no such invoice.");
    const { head } = sheet;
    if (head.version !== v.version) return stale(`Invoice ${head.number} was changed by somebody else meanwhile.`);
    if (!countsStill(head.state)) return refuse("", `Invoice ${head.number} is ${head.state.toLowerCase()}.`);
    if (head.entry === null)
      return refuse("", `Invoice ${head.number} has not matched: claim what is held, or send it back.`);
    const line = sheet.lines.find((l) => l.position === v.position);
    if (!line) return refuse("position", "Choose the line that it is about.");
    const asked = askedFor(sheet, line, unclaimed(tx.db, sheet, line), v);
    if (!asked.ok) return asked;
    if (v.goodsReturn !== null && !returnsToCredit(tx.db, v.invoice).some((r) => r.id === v.goodsReturn))
      return refuse("goodsReturn", "This return is of another order, or is settled or claimed already.");
    const home = theCompany(tx.db).currency;
    const inHome = (minor: number) => exchanged(money(minor, head.currency), head.rate, home).minor;
    const tax = inHome(asked.value.tax);
    const entry = openEntry(tx.db, desk, "claim");
    post(tx.db, entry, laterClaimPostings(inHome(asked.value.net) + tax, tax));
    const number = nextNumber(tx.db, "claim", desk.day);
    const claim = madeId(
      sql(
        tx.db,
        `INSERT INTO claim (number, supplier, invoice, invoice_line, reason, pieces, goods_return, currency, net, tax, home, entry, state, said, day, person, at)
         VALUES (@number, @supplier, @invoice, @line, @reason, @pieces, @goodsReturn, @currency, @net, @tax, @home, @entry, 'Open', @said, @day, @person, @now)`,
      ).run({
        ...asked.value,
        number,
        supplier: head.supplier,
        invoice: head.id,
        line: line.id,
        reason: v.reason,
        pieces: v.pieces ?? 0,
        goodsReturn: v.goodsReturn,
        currency: head.currency,
        home: inHome(asked.value.net) + tax,
        entry,
        said: v.said,
        day: desk.day,
        person: desk.person.id,
        now: desk.now,
      }),
    );
    sql(tx.db, "UPDATE invoice SET version = version + 1 WHERE id = ?").run(head.id);
    const { position, reason, pieces, goodsReturn } = v;
    tx.record("claim.made", `claim ${claim}`, {
      number,
      invoice: head.id,
      position,
      reason,
      pieces,
      goodsReturn,
      ...asked.value,
    });
    return done({ number });
  });
}
