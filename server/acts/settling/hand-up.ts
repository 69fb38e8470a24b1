import { z } from "zod";
import type { Day } from "../../../core/calendar/day";
import type { PersonId } from "../../../core/ids";
import { exchanged, money } from "../../../core/numbers/money";
import type { HoldReason } from "../../../core/settling/match";
import { type Db, sql } from "../../db/open";
import { theCompany } from "../../queries/company";
import { readInvoice } from "../../queries/settling/invoices";
import { routeInvoice } from "../../queries/settling/limit";
import { readProcess } from "../../queries/signoff/process";
import { checked, type Desk, type Done, done, once, refuse, stale } from "../desk";
import { Id, text, Version } from "../fields";
import { askForSignatures } from "../signoff/ask-for-signatures";
import { judgeInvoice } from "./match-invoice";

export const HandUp = z.object({ invoice: Id, version: Version, said: text(300, 3, "Say why it should be accepted.") });

/**
 * Asks whoever the spend ladder names to accept what of an invoice is beyond what the buyer may: all that is dearer, and what
 * no order has, together. Signed, it passes up to what was asked; sent back, it stays held.
 */
export function handUp(desk: Desk, raw: unknown): Done<{ waitsFor: string }> {
  const input = checked(HandUp, raw);
  if (!input.ok) return input;
  const { invoice, version, said } = input.value;
  return once(desk, "accept prices", (tx) => {
    const sheet = readInvoice(tx.db, invoice);
    if (sheet?.head.state !== "Held") return refuse("", "Nothing of this invoice is held any more.");
    const { head } = sheet;
    if (head.version !== version) return stale(`Invoice ${head.number} was changed by somebody else meanwhile.`);
    if (readProcess(tx.db, "invoice", invoice))
      return refuse("", `Invoice ${head.number} waits for a signature already.`);
    const { way, holds, ...route } = routeInvoice(tx.db, sheet, desk.person.id, desk.day);
    if (holds.length === 0)
      return refuse("", "Nothing of it is dearer, or on no order: the ladder has nothing to say.");
    if (!way.ok) return refuse("", way.says);
    if (way.seats.length === 0) return refuse("", "Nobody has to sign so much: accept it.");
    const ask = sql(
      tx.db,
      "INSERT INTO invoice_asked (invoice, reason, position, beyond, said, person, at) VALUES (?, ?, ?, ?, ?, ?, ?)",
    );
    for (const h of holds) ask.run(invoice, h.reason, h.position ?? 0, h.beyond, said, desk.person.id, desk.now);
    sql(tx.db, "UPDATE invoice SET version = version + 1 WHERE id = ?").run(invoice);
    const home = theCompany(tx.db).currency;
    const waitsFor = askForSignatures(
      tx,
      desk,
      {
        paper: "invoice",
        id: invoice,
        name: `Invoice ${head.number}`,
        writer: desk.person.id,
        lines: holds.map((h) => ({
          words: h.words,
          quantity: "",
          minor: exchanged(money(h.beyond, head.currency), head.rate, home).minor,
        })),
      },
      { ...route, way },
    );
    tx.record("invoice.handed-up", `invoice ${invoice}`, { said, amount: route.facts.amount, waitsFor });
    return done({ waitsFor: waitsFor ?? "" });
  });
}

interface Asked {
  reason: HoldReason;
  position: number;
  beyond: number;
  said: string;
  person: PersonId;
}
const takeAsked = (db: Db, invoice: number): Asked[] =>
  sql<Asked>(db, "DELETE FROM invoice_asked WHERE invoice = ? RETURNING reason, position, beyond, said, person").all(
    invoice,
  );

/** Everybody signed: what was asked passes, in the name of whoever asked, and the invoice is judged again. */
export function acceptAsked(db: Db, invoice: number, { now, day }: { now: string; day: Day }): void {
  const asked = takeAsked(db, invoice);
  const pass = sql(
    db,
    "INSERT INTO invoice_pass (invoice, reason, position, beyond, said, person, at) VALUES (?, ?, ?, ?, ?, ?, ?)",
  );
  for (const a of asked)
    pass.run(invoice, a.reason, a.position || null, a.beyond, `${a.said} (signed by the ladder)`, a.person, now);
  judgeInvoice(db, { day, now, person: asked[0] ? { id: asked[0].person } : null }, invoice);
}

/** It was sent back, or taken back: what was asked stays held. */
export function dropAsked(db: Db, invoice: number): void {
  takeAsked(db, invoice);
}
