import { z } from "zod";
import type { PersonId } from "../../../core/ids";
import { paperHref, WAITING_WORDS } from "../../../core/signoff/papers";
import { type Db, sql } from "../../db/open";
import { linkHash } from "../../queries/quotes/quotes";
import { findSignLink } from "../../queries/signoff/link";
import { readRoster } from "../../queries/signoff/staff";
import { checked, type Desk, type Done, done, once, refuse, type Tx } from "../desk";
import { text, Version } from "../fields";
import { retire, tell } from "../notices";
import { actOn, nameOf, Which } from "./act-on";
import { tellAsked } from "./keep-process";
import { PAPERS } from "./papers";

export const SendBack = Which.extend({ reason: text(500, 3, "Say why, so that the writer knows what to change.") });

/** Signs a paper at the seat that waits. The last signature clears an order, and opens a requisition to the buyer. */
export function sign(desk: Desk, raw: unknown): Done<{ left: string | null }> {
  const input = checked(Which, raw);
  if (!input.ok) return input;
  return once(desk, "sign", (tx) => {
    const signed = signOne(tx, desk, input.value);
    if (!signed.ok) return signed;
    const { paper, id } = input.value;
    tx.record(`${paper}.signed`, `${paper} ${id}`, signed.value);
    return done({ left: signed.value.next });
  });
}

/**
 * Signs by the private link of an e-mail, as whoever is signed in: it must be theirs, and it works once. The paper may
 * have moved on since it was looked at; then nothing is signed, and the link holds on.
 */
export function signByLink(desk: Desk, raw: unknown): Done<{ left: string | null }> {
  const input = checked(z.object({ link: z.string().max(100), version: Version }), raw);
  if (!input.ok) return input;
  const { link, version } = input.value;
  return once(desk, "sign", (tx) => {
    const found = findSignLink(tx.db, link, desk.person.id, desk.now);
    if ("says" in found) return refuse("", found.says);
    const { paper, id } = found;
    const signed = signOne(tx, desk, { paper, id, version });
    if (!signed.ok) return signed;
    sql(tx.db, "UPDATE sign_link SET used = ? WHERE link = ?").run(desk.now, linkHash(link));
    tx.record(`${paper}.signed`, `${paper} ${id}`, { ...signed.value, by: "link" });
    return done({ left: signed.value.next });
  });
}

const SignMany = z.object({
  papers: z.array(Which).min(1, "Look at a paper first.").max(100, "At most 100 papers at once."),
});

/** Signs several papers at once: all of them, or none. */
export function signMany(desk: Desk, raw: unknown): Done<{ signed: number }> {
  const input = checked(SignMany, raw);
  if (!input.ok) return input;
  const { papers } = input.value;
  return once(desk, "sign", (tx) => {
    const numbers: string[] = [];
    for (const which of papers) {
      const signed = signOne(tx, desk, which);
      if (!signed.ok) {
        const { name } = nameOf(tx.db, which.paper, which.id);
        return { ...signed, problems: signed.problems.map((p) => ({ ...p, says: `${name}: ${p.says}` })) };
      }
      numbers.push(signed.value.number);
    }
    tx.record("papers.signed", papers.map((p) => `${p.paper} ${p.id}`).join(", "), { numbers });
    return done({ signed: papers.length });
  });
}

function signOne(tx: Tx, desk: Desk, which: Which): Done<{ number: string; next: string | null }> {
  const { paper, id } = which;
  const acted = actOn(tx, desk, which, { kind: "sign", person: desk.person.id });
  if (!acted.ok) return acted;
  const { process, name, number } = acted.value;
  retire(tx.db, desk.now, paperHref(paper, id));
  const next = tellAsked(tx.db, desk.now, readRoster(tx.db, desk.day), process, {
    paper,
    id,
    name,
    from: writerName(tx.db, process.writer),
  });
  if (process.state === "Cleared") {
    PAPERS[paper].clear(tx.db, id, desk);
    tell(
      tx.db,
      desk.now,
      process.writer,
      `${name} ${WAITING_WORDS[paper].cleared}`,
      `by ${desk.person.name}`,
      paperHref(paper, id),
    );
  }
  return done({ number, next });
}

/** The approver returns a paper to its writer; it becomes a draft again and keeps the reason. */
export function sendBack(desk: Desk, raw: unknown): Done<{ number: string }> {
  const input = checked(SendBack, raw);
  if (!input.ok) return input;
  const { paper, id, reason } = input.value;
  return once(desk, "sign", (tx) => {
    const acted = actOn(tx, desk, input.value, { kind: "send back", person: desk.person.id, reason });
    if (!acted.ok) return acted;
    const { process, name, number } = acted.value;
    retire(tx.db, desk.now, paperHref(paper, id));
    const says = `${reason} (${desk.person.name})`;
    PAPERS[paper].reopen(tx.db, id, says);
    tell(tx.db, desk.now, process.writer, `${name} was sent back`, says, paperHref(paper, id));
    tx.record(`${paper}.sent-back`, `${paper} ${id}`, { number, reason });
    return done({ number });
  });
}

const writerName = (db: Db, person: PersonId) =>
  sql<{ name: string }>(db, "SELECT name FROM person WHERE id = ?").get(person)!.name;
