import { z } from "zod";
import type { Day } from "../../../core/calendar/day";
import type { SupplierId } from "../../../core/ids";
import { parseDecimal } from "../../../core/numbers/decimal";
import { showDay } from "../../../core/numbers/format";
import { exchanged, exponent, money, moneyText } from "../../../core/numbers/money";
import { partClaim } from "../../../core/settling/claim";
import { invoiceNumberKey } from "../../../core/settling/invoice";
import { creditPostings } from "../../../core/stock/posting";
import { type Db, madeId, sql } from "../../db/open";
import { nextNumber } from "../../db/series";
import { rateOn, theCompany } from "../../queries/company";
import { type ClaimRow, readClaim } from "../../queries/settling/invoices";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { DayField, Id, text } from "../fields";
import { type Doing, openEntry, post } from "../stock/post";
import { entered } from "./entered";
import { keepInvoiceFile, type NewInvoice } from "./keep-invoice";

export const EnterCredit = z.object({
  supplier: Id.transform((id) => id as SupplierId), // checked to be one by the claims
  number: text(40, 1, "Their number is missing."),
  day: DayField,
  /** What stands on it, with tax. */
  total: z.string().max(40),
  claims: z.array(Id).min(1, "Say which claims it meets.").max(100),
});

/**
 * Enters a credit note that meets claims: they are settled, and what is owed becomes less. It comes to what they ask, or
 * to a part of one claim, of which the rest stays asked or is given up (domain-goods §14).
 */
export function enterCredit(desk: Desk, raw: unknown): Done<{ invoice: number }> {
  const input = checked(EnterCredit, raw);
  if (!input.ok) return input;
  const v = input.value;
  return once(desk, "enter invoices", (tx) => {
    const met = claimsMet(tx.db, v.claims, v.supplier);
    if (!met.ok) return met;
    const total = parseDecimal(v.total, exponent(met.value[0]!.currency));
    if (!total.ok) return refuse("total", total.says);
    const kept = keepCredit(tx.db, desk, { ...v, total: total.value });
    if (!kept.ok) return kept;
    tx.record("credit.entered", `invoice ${kept.value}`, { number: v.number, claims: v.claims, total: v.total });
    return done({ invoice: kept.value });
  });
}

/** A credit note as it will be kept; its total in minor units of the claims' currency. */
export interface NewCredit {
  supplier: SupplierId;
  number: string;
  day: Day;
  total: number;
  claims: readonly number[];
  file?: NewInvoice["file"];
}

/** Keeps a credit note and books it, in the act's transaction: refused where it is more than the claims ask, or less than several do. */
export function keepCredit(db: Db, by: Doing, v: NewCredit): Done<number> {
  const found = claimsMet(db, v.claims, v.supplier);
  if (!found.ok) return found;
  const claims = found.value;
  const { currency } = claims[0]!;
  if (v.day > by.day) return refuse("day", `${showDay(v.day, by.day)} has not come yet.`);
  const taken = entered(db, v.supplier, v.number);
  if (taken) return refuse("number", `${taken.number} of ${showDay(taken.day, by.day)} is here already.`);
  const asked = claims.reduce((a, c) => a + c.net + c.tax, 0);
  if (v.total <= 0) return refuse("total", "A credit note comes to more than nothing.");
  const come = `The claims come to ${moneyText(money(asked, currency))} ${currency}`;
  if (v.total > asked) return refuse("total", `${come}: a credit note larger than what it meets is not taken.`);
  if (v.total < asked && claims.length > 1)
    return refuse("total", `${come}: one over a part of it meets one claim. Choose which.`);
  const home = theCompany(db).currency;
  const rate = rateOn(db, currency, home, v.day);
  if (rate === null) return refuse("day", `No rate for ${currency} is known on this day.`);
  const met = v.total < asked ? [partOf(db, by, claims[0]!, v.total)] : claims;
  const invoice = book(db, by, v, { claims: met, currency, rate, home, asked: v.total });
  if (v.file) keepInvoiceFile(db, by, invoice, v.file);
  return done(invoice);
}

/** The claims that it names: open, of one supplier, in one currency, of invoices that matched. */
function claimsMet(db: Db, ids: readonly number[], supplier: SupplierId): Done<ClaimRow[]> {
  const claims: ClaimRow[] = [];
  for (const id of new Set(ids)) {
    const c = readClaim(db, id);
    if (!c || c.supplier !== supplier) return refuse("claims", "This is no claim of theirs.");
    if (c.state !== "Open") return refuse("claims", `Claim ${c.number} is ${c.state.toLowerCase()}.`);
    if (c.home === 0) return refuse("claims", `The invoice of claim ${c.number} has not matched yet.`);
    if (c.currency !== (claims[0]?.currency ?? c.currency))
      return refuse("claims", "Claims in two currencies are met by two credit notes.");
    claims.push(c);
  }
  return done(claims);
}

/** Parts a claim: what is credited becomes one of its own; what is left stays asked. */
function partOf(db: Db, by: Doing, c: ClaimRow, total: number): ClaimRow {
  const { credited, left } = partClaim(c, total);
  sql(db, "UPDATE claim SET net = @net, tax = @tax, home = @home, version = version + 1 WHERE id = @id").run({
    ...left,
    id: c.id,
  });
  const id = madeId(
    sql(
      db,
      `INSERT INTO claim (number, supplier, invoice, invoice_line, reason, goods_return, part_of, currency, net, tax, home, entry, state, said, written, day, person, at)
       SELECT @number, supplier, invoice, invoice_line, reason, goods_return, id, currency, @net, @tax, @home, entry, 'Open', said, written, @day, person, @now
       FROM claim WHERE id = @id`,
    ).run({ ...credited, number: nextNumber(db, "claim", by.day), day: by.day, now: by.now, id: c.id }),
  );
  return readClaim(db, Number(id))!;
}

function book(
  db: Db,
  by: Doing,
  v: NewCredit,
  {
    claims,
    currency,
    rate,
    home,
    asked,
  }: { claims: readonly ClaimRow[]; currency: string; rate: number; home: string; asked: number },
): number {
  const tax = claims.reduce((a, c) => a + c.tax, 0);
  const homeTotal = exchanged(money(asked, currency), rate, home).minor;
  const entry = openEntry(db, by, "invoice");
  const booked = claims.reduce((a, c) => a + c.home, 0);
  post(db, entry, creditPostings(booked, homeTotal));
  const invoice = Number(
    madeId(
      sql(
        db,
        `INSERT INTO invoice (supplier, kind, number, plain, day, currency, rate, net, tax, total, home_total, state, since, due, entry, matched, person, at)
         VALUES (@supplier, 'credit note', @number, @plain, @day, @currency, @rate, @net, @tax, @total, @homeTotal, 'Matched', @now, @day, @entry, @now, @person, @now)`,
      ).run({
        supplier: v.supplier,
        number: v.number,
        plain: invoiceNumberKey(v.number),
        day: v.day,
        currency,
        rate,
        net: tax - asked,
        tax: -tax,
        total: -asked,
        homeTotal: -homeTotal,
        entry,
        now: by.now,
        person: by.person?.id ?? null,
      }),
    ),
  );
  sql(
    db,
    `INSERT INTO payable (supplier, invoice, currency, net, tax, total, home_total, due, day, entry)
     VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
  ).run(v.supplier, invoice, currency, tax - asked, -tax, -asked, -homeTotal, v.day, by.day, entry);
  const meet = sql(
    db,
    "UPDATE claim SET state = 'Credited', credit = ?, how = ?, ended = ?, version = version + 1 WHERE id = ?",
  );
  for (const c of claims) meet.run(invoice, `credit note ${v.number}`, by.now, c.id);
  // A return is settled with the last of what is claimed for it.
  sql(
    db,
    `UPDATE goods_return SET settled = @day, settled_how = @how
     WHERE settled IS NULL AND id IN (SELECT goods_return FROM claim WHERE credit = @invoice)
       AND NOT EXISTS (SELECT 1 FROM claim c WHERE c.goods_return = goods_return.id AND c.state = 'Open')`,
  ).run({ day: by.day, how: `credit note ${v.number}`, invoice });
  return invoice;
}
