import { z } from "zod";
import { exchanged, money } from "../../../core/numbers/money";
import { may } from "../../../core/people/roles";
import { countsStill } from "../../../core/settling/invoice";
import { HOLDS, type Hold, type HoldReason, TURN_OF } from "../../../core/settling/match";
import { droppedClaimPostings, turnedRound } from "../../../core/stock/posting";
import { type Db, madeId, sql } from "../../db/open";
import { nextNumber } from "../../db/series";
import { theCompany } from "../../queries/company";
import { claimableOf } from "../../queries/settling/claimable";
import { type InvoiceSheet, readClaim, readClaims, readInvoice } from "../../queries/settling/invoices";
import { postingsOf } from "../../queries/settling/journal";
import { mayAccept } from "../../queries/settling/limit";
import { payListOf } from "../../queries/settling/pay-lists";
import { paymentsOf } from "../../queries/settling/payables";
import { returnOfLine } from "../../queries/settling/returned";
import { readProcess } from "../../queries/signoff/process";
import { checked, type Desk, type Done, done, once, refuse, stale } from "../desk";
import { Id, orNone, text, Version } from "../fields";
import { openEntry, post } from "../stock/post";
import { isAccount, isBudget } from "./keep-invoice";
import { judgeInvoice, judgeInvoicesOf, turnMatchBack } from "./match-invoice";

const Which = z.object({ invoice: Id, version: Version });

/** An invoice in the version that the person saw. */
function found(db: Db, id: number, version: number): Done<InvoiceSheet> {
  const sheet = readInvoice(db, id);
  if (!sheet) return refuse("", "There is no such invoice.");
  if (!countsStill(sheet.head.state))
    return refuse("", `Invoice ${sheet.head.number} is ${sheet.head.state.toLowerCase()}.`);
  if (sheet.head.version !== version)
    return stale(`Invoice ${sheet.head.number} was changed by somebody else meanwhile.`);
  if (readProcess(db, "invoice", id))
    return refuse("", `Invoice ${sheet.head.number} waits for a signature: whoever handed it up takes it back first.`);
  return done(sheet);
}

function held(db: Db, id: number, version: number): Done<InvoiceSheet> {
  const sheet = found(db, id, version);
  if (sheet.ok && sheet.value.head.state !== "Held")
    return refuse("", `Invoice ${sheet.value.head.number} has matched: nothing of it is held.`);
  return sheet;
}

const WhichHold = Which.extend({
  reason: z.enum(HOLDS),
  position: z.coerce.number().int().positive().nullable().catch(null),
});

const holdIn = (sheet: InvoiceSheet, reason: HoldReason, position: number | null): Hold | undefined =>
  sheet.open.find((h) => h.reason === reason && h.position === position);
const GONE = "This is not held any more.";

export const PassHold = WhichHold.extend({
  said: text(300, 3, "Say why it is accepted."),
  /** Of what no order has: where it is booked, and against which budget line; empty: as it was entered. */
  account: text(40).default(""),
  budget: orNone(Id).default(null),
});

/**
 * Lets pass what is held: a price or a charge, by a buyer within what they may sign; another tax rate or sums that do not add
 * up, by accounts; what no order has, by whoever may sign as much. What is not here is never let pass: it is claimed, or
 * waits.
 */
export function passHold(desk: Desk, raw: unknown): Done<{ state: string }> {
  const input = checked(PassHold, raw);
  if (!input.ok) return input;
  const { invoice, version, reason, position, said, account, budget } = input.value;
  const turn = TURN_OF[reason];
  const act = turn === "supplier" ? "enter invoices" : "accept prices";
  return once(desk, act, (tx) => {
    const sheet = held(tx.db, invoice, version);
    if (!sheet.ok) return sheet;
    const hold = holdIn(sheet.value, reason, position);
    if (!hold) return stale(GONE);
    if (reason === "quantity")
      return refuse("", "What is not here is not paid: it waits, is claimed, or they send a new invoice.");
    if (turn !== "supplier") {
      const accepts = mayAccept(tx.db, sheet.value, hold, desk.person.id, desk.day);
      if (!accepts.ok) return refuse("said", accepts.says);
    }
    if (reason === "other") {
      const placed = placeOther(tx.db, invoice, position, account, budget);
      if (!placed.ok) return placed;
    }
    pass(tx.db, desk, invoice, hold, said, null);
    const state = judgeInvoice(tx.db, desk, invoice);
    tx.record("invoice.accepted", `invoice ${invoice}`, {
      reason,
      position,
      beyond: hold.beyond,
      said,
      account,
      budget,
      state,
    });
    return done({ state });
  });
}

/** Where a line on no order is booked, as whoever accepts it says. */
function placeOther(
  db: Db,
  invoice: number,
  position: number | null,
  account: string,
  budget: number | null,
): Done<undefined> {
  if (account !== "" && !isAccount(db, account)) return refuse("account", `There is no account ${account}.`);
  if (budget !== null && !isBudget(db, budget)) return refuse("budget", "There is no such budget line.");
  sql(
    db,
    "UPDATE invoice_line SET account = coalesce(nullif(@account, ''), account), budget = coalesce(@budget, budget) WHERE invoice = @invoice AND position = @position",
  ).run({ account, budget, invoice, position });
  return done(undefined);
}

function pass(db: Db, desk: Desk, invoice: number, hold: Hold, said: string, claim: number | null): void {
  sql(
    db,
    "INSERT INTO invoice_pass (invoice, reason, position, beyond, claim, said, person, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
  ).run(invoice, hold.reason, hold.position, hold.beyond, claim, said, desk.person.id, desk.now);
}

export const ClaimHold = WhichHold.extend({ said: text(300).default("") });

/** Asks back what is held, and lets the invoice pass with it: what is claimed is no cost (domain-goods §14). */
export function claimHold(desk: Desk, raw: unknown): Done<{ state: string; number: string }> {
  const input = checked(ClaimHold, raw);
  if (!input.ok) return input;
  const { invoice, version, reason, position, said } = input.value;
  return once(desk, "claim", (tx) => {
    const sheet = held(tx.db, invoice, version);
    if (!sheet.ok) return sheet;
    const hold = holdIn(sheet.value, reason, position);
    if (!hold) return stale(GONE);
    const asked = claimableOf(sheet.value, hold);
    if (!asked)
      return refuse("", "Only a quantity, a price or a charge can be asked back: ask for a new invoice instead.");
    const { head, lines } = sheet.value;
    const line = lines.find((l) => l.position === position)!;
    const number = nextNumber(tx.db, "claim", desk.day);
    const claim = Number(
      madeId(
        sql(
          tx.db,
          `INSERT INTO claim (number, supplier, invoice, invoice_line, reason, quantity, goods_return, currency, net, tax, state, said, day, person, at)
           VALUES (@number, @supplier, @invoice, @line, @reason, @quantity, @goodsReturn, @currency, @net, @tax, 'Open', @said, @day, @person, @now)`,
        ).run({
          ...asked,
          number,
          supplier: head.supplier,
          invoice,
          line: line.id,
          goodsReturn: reason === "quantity" && line.orderLine ? returnOfLine(tx.db, invoice, line.orderLine) : null,
          reason,
          currency: head.currency,
          said,
          day: desk.day,
          person: desk.person.id,
          now: desk.now,
        }),
      ),
    );
    pass(tx.db, desk, invoice, hold, said, claim);
    const state = judgeInvoice(tx.db, desk, invoice);
    tx.record("claim.made", `claim ${claim}`, { number, invoice, reason, position, ...asked, state });
    return done({ state, number });
  });
}

export const EndInvoice = Which.extend({ why: text(300, 3, "Say why.") });

/** Sends a held invoice back: a new one is asked for, and its number is free again. */
export function sendInvoiceBack(desk: Desk, raw: unknown): Done<{ number: string }> {
  const input = checked(EndInvoice, raw);
  if (!input.ok) return input;
  const { invoice, version, why } = input.value;
  return once(desk, "claim", (tx) => {
    const sheet = held(tx.db, invoice, version);
    if (!sheet.ok) return sheet;
    withdrawClaims(tx.db, desk, invoice);
    end(tx.db, desk, invoice, "Sent back", why);
    tx.record("invoice.sent-back", `invoice ${invoice}`, { why });
    return done({ number: sheet.value.head.number });
  });
}

const end = (db: Db, desk: Desk, invoice: number, state: "Sent back" | "Taken off", why: string) =>
  sql(db, "UPDATE invoice SET state = ?, turn = '', why = ?, since = ?, version = version + 1 WHERE id = ?").run(
    state,
    why,
    desk.now,
    invoice,
  );

/** Open claims of an invoice that goes are asked for no more; what was booked for one alone is turned round. */
function withdrawClaims(db: Db, desk: Desk, invoice: number): void {
  const open = readClaims(db, invoice).filter((c) => c.state === "Open");
  // Parts of one claim share what was booked.
  for (const entry of new Set(open.flatMap((c) => c.entry ?? [])))
    post(db, openEntry(db, desk, "claim", null, entry), turnedRound(postingsOf(db, entry)));
  sql(
    db,
    "UPDATE claim SET state = 'Withdrawn', ended = ?, how = 'its invoice was taken off', version = version + 1 WHERE invoice = ? AND state = 'Open'",
  ).run(desk.now, invoice);
}

/**
 * Takes an invoice off: what it booked is turned round, its orders are not invoiced again, nothing is owed for it. Both
 * entries stay. Refused where a claim of it was credited: the credit note goes first.
 */
export function takeInvoiceOff(desk: Desk, raw: unknown): Done<{ number: string }> {
  const input = checked(EndInvoice, raw);
  if (!input.ok) return input;
  const { invoice, version, why } = input.value;
  return once(desk, "enter invoices", (tx) => {
    const sheet = found(tx.db, invoice, version);
    if (!sheet.ok) return sheet;
    const { head } = sheet.value;
    const paid = paymentsOf(tx.db, invoice);
    if (paid) return refuse("", `Payment ${paid} paid it: take that back first.`);
    const list = payListOf(tx.db, invoice);
    if (list) return refuse("", `Pay list ${list} pays it: leave it out there, or drop the list, first.`);
    const met = readClaims(tx.db, invoice).find((c) => c.state === "Credited" || c.state === "Dropped");
    if (met)
      return refuse(
        "",
        `Claim ${met.number} of it was ${met.state.toLowerCase()} already: invoice ${head.number} stays as it is.`,
      );
    if (head.entry !== null) turnMatchBack(tx.db, desk, sheet.value);
    claimAgain(tx.db, invoice);
    withdrawClaims(tx.db, desk, invoice);
    end(tx.db, desk, invoice, "Taken off", why);
    // What it met may be what another one waits for.
    judgeInvoicesOf(
      tx.db,
      desk,
      sheet.value.lines.flatMap((l) => l.orderLine ?? []),
    );
    tx.record("invoice.taken-off", `invoice ${invoice}`, { why, was: head.state });
    return done({ number: head.number });
  });
}

/** What a credit note met is claimed again, and what it settled is awaited again. */
function claimAgain(db: Db, credit: number): void {
  sql(
    db,
    `UPDATE goods_return SET settled = NULL, settled_how = ''
     WHERE id IN (SELECT c.goods_return FROM claim c JOIN goods_return g ON g.id = c.goods_return WHERE c.credit = ? AND g.settled_how = c.how)`,
  ).run(credit);
  sql(
    db,
    "UPDATE claim SET state = 'Open', credit = NULL, how = '', ended = NULL, version = version + 1 WHERE credit = ?",
  ).run(credit);
}

const WhichClaim = z.object({ claim: Id, version: Version });
export const DropClaim = WhichClaim.extend({ how: text(300, 3, "Say why it is dropped.") });

/** Gives a claim up: what it asked for is a cost. */
export function dropClaim(desk: Desk, raw: unknown): Done<{ number: string }> {
  const input = checked(DropClaim, raw);
  if (!input.ok) return input;
  const { claim, version, how } = input.value;
  return once(desk, "claim", (tx) => {
    const c = readClaim(tx.db, claim);
    if (!c) return refuse("", "There is no such claim.");
    if (c.state !== "Open") return refuse("", `Claim ${c.number} is ${c.state.toLowerCase()}.`);
    if (c.version !== version) return stale(`Claim ${c.number} was changed by somebody else meanwhile.`);
    const sheet = readInvoice(tx.db, c.invoice)!;
    if (sheet.head.entry === null)
      return refuse("", `Invoice ${sheet.head.number} has not matched: take it off, or settle what holds it, first.`);
    if (!may(desk.person.roles, "accept prices")) return refuse("", "A buyer gives a claim up: it becomes a cost.");
    const accepts = mayAccept(tx.db, sheet, { position: c.position, beyond: c.net }, desk.person.id, desk.day);
    if (!accepts.ok) return refuse("how", accepts.says);
    const home = theCompany(tx.db).currency;
    const tax = exchanged(money(c.tax, c.currency), sheet.head.rate, home).minor;
    post(tx.db, openEntry(tx.db, desk, "claim"), droppedClaimPostings(c.home, tax));
    sql(tx.db, "UPDATE claim SET state = 'Dropped', how = ?, ended = ?, version = version + 1 WHERE id = ?").run(
      how,
      desk.now,
      claim,
    );
    tx.record("claim.dropped", `claim ${claim}`, { number: c.number, how, home: c.home });
    return done({ number: c.number });
  });
}
