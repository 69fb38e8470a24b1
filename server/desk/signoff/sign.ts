import { z } from "zod";
import { type Act, decide, type Process } from "../../../core/signoff/process";
import { spoken } from "../../../core/signoff/rulebook";
import { type Db, sql } from "../../db/open";
import { linkHash } from "../../read/quotes/quotes";
import { findSignLink } from "../../read/signoff/link";
import { readProcess } from "../../read/signoff/process";
import { COLUMN, type Paper } from "../../read/signoff/signings";
import { readRoster } from "../../read/signoff/staff";
import { checked, type Desk, type Done, done, once, refuse, stale, type Tx } from "../desk";
import { Id, text, Version } from "../fields";
import { retire, retireFor, tell } from "../notices";
import { keepProcess, paperHref, tellAsked } from "./keep-process";

const Which = z.object({
  paper: z.enum(["requisition", "order"], "There is no such paper."),
  id: Id,
  version: Version,
});
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

function signOne(tx: Tx, desk: Desk, which: z.output<typeof Which>): Done<{ number: string; next: string | null }> {
  const { paper, id } = which;
  const acted = actOn(tx, desk, which, { kind: "sign", person: desk.person.id });
  if (!acted.ok) return acted;
  const { process, name, number } = acted.value;
  retire(tx.db, desk.now, paperHref(paper, id));
  const next = tellAsked(tx.db, desk.now, process, { paper, id, name, from: writerName(tx.db, process.writer) });
  if (process.state === "Cleared") {
    if (paper === "order")
      sql(tx.db, "UPDATE purchase_order SET state = 'Cleared', cleared = ? WHERE id = ?").run(desk.now, id);
    else sql(tx.db, "UPDATE requisition SET state = 'Open' WHERE id = ?").run(id);
    tell(
      tx.db,
      desk.now,
      process.writer,
      paper === "order" ? `${name} is cleared to be placed` : `${name} is signed off`,
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
    sql(tx.db, `UPDATE ${table(paper)} SET state = 'Draft', sent_back = ? WHERE id = ?`).run(says, id);
    tell(tx.db, desk.now, process.writer, `${name} was sent back`, says, paperHref(paper, id));
    tx.record(`${paper}.sent-back`, `${paper} ${id}`, { number, reason });
    return done({ number });
  });
}

export const AskQuestion = Which.extend({ text: text(500, 3, "Ask something.") });

/** Asks the writer something about a paper; it waits on meanwhile, and so do the hours. */
export function askQuestion(desk: Desk, raw: unknown): Done<{ number: string }> {
  const input = checked(AskQuestion, raw);
  if (!input.ok) return input;
  const { paper, id, text: asks } = input.value;
  return once(desk, "sign", (tx) => {
    const acted = actOn(tx, desk, input.value, { kind: "ask", person: desk.person.id, text: asks });
    if (!acted.ok) return acted;
    const { process, name, number } = acted.value;
    tell(tx.db, desk.now, process.writer, `${desk.person.name} asks about ${name}`, asks, paperHref(paper, id));
    tx.record(`${paper}.asked-about`, `${paper} ${id}`, { number, asks });
    return done({ number });
  });
}

export const AnswerQuestion = Which.extend({
  question: z.coerce.number().int().min(0).max(1000),
  text: text(1000, 1, "Write an answer."),
});

/** The writer answers what somebody asked; `question` counts from the first of this round. */
export function answerQuestion(desk: Desk, raw: unknown): Done<{ number: string }> {
  const input = checked(AnswerQuestion, raw);
  if (!input.ok) return input;
  const { paper, id, question, text: says } = input.value;
  return once(desk, "ask", (tx) => {
    const acted = actOn(tx, desk, input.value, { kind: "answer", person: desk.person.id, question, text: says });
    if (!acted.ok) return acted;
    const { process, name, number } = acted.value;
    tell(
      tx.db,
      desk.now,
      process.questions[question]!.by,
      `${desk.person.name} answered about ${name}`,
      says,
      paperHref(paper, id),
    );
    tx.record(`${paper}.answered`, `${paper} ${id}`, { number, question, says });
    return done({ number });
  });
}

export const HandOver = Which.extend({ to: Id });

/** Asks somebody else to sign in one's place; the hours run on. */
export function handOver(desk: Desk, raw: unknown): Done<{ to: string }> {
  const input = checked(HandOver, raw);
  if (!input.ok) return input;
  const { paper, id, to } = input.value;
  return once(desk, "sign", (tx) => {
    const member = readRoster(tx.db, desk.day).membersOf({ kind: "person", person: to }, 0)[0];
    if (!member) return refuse("to", "Choose somebody who may sign.");
    const acted = actOn(tx, desk, input.value, {
      kind: "hand over",
      person: desk.person.id,
      to: { id: member.id, name: member.name },
    });
    if (!acted.ok) return acted;
    const { name, number } = acted.value;
    const href = paperHref(paper, id);
    retireFor(tx.db, desk.now, href, desk.person.id);
    tell(tx.db, desk.now, member.id, `${name} waits for your signature`, `handed over by ${desk.person.name}`, href);
    tx.record(`${paper}.handed-over`, `${paper} ${id}`, { number, to: member.name });
    return done({ to: member.name });
  });
}

/** The writer takes a paper back while it is being signed; it is a draft again, and nothing of what was signed holds. */
export function takeBack(desk: Desk, raw: unknown): Done<{ number: string }> {
  const input = checked(Which, raw);
  if (!input.ok) return input;
  const { paper, id } = input.value;
  return once(desk, "ask", (tx) => {
    const acted = actOn(tx, desk, input.value, { kind: "withdraw", person: desk.person.id });
    if (!acted.ok) return acted;
    retire(tx.db, desk.now, paperHref(paper, id));
    sql(tx.db, `UPDATE ${table(paper)} SET state = 'Draft', sent_back = NULL WHERE id = ?`).run(id);
    tx.record(`${paper}.taken-back`, `${paper} ${id}`, { number: acted.value.number });
    return done({ number: acted.value.number });
  });
}

const table = (paper: Paper) => COLUMN[paper]; // the paper’s table has the name of its column
const writerName = (db: Db, person: number) =>
  sql<{ name: string }>(db, "SELECT name FROM person WHERE id = ?").get(person)!.name;

function nameOf(db: Db, paper: Paper, id: number): { name: string; number: string } {
  const number = sql<{ number: string | null }>(db, `SELECT number FROM ${table(paper)} WHERE id = ?`).get(id)?.number;
  return {
    name: `${paper === "order" ? "Order" : "Requisition"} ${number ?? "without a number"}`,
    number: number ?? "",
  };
}

/** Decides an act on what waits of a paper and keeps what it made of it; the paper has another version then. */
function actOn(
  tx: Tx,
  desk: Desk,
  { paper, id, version }: z.output<typeof Which>,
  act: Act,
): Done<{ process: Process; name: string; number: string }> {
  const kept = readProcess(tx.db, paper, id);
  if (!kept) return refuse("", "This paper is not waiting for a signature any more.");
  const decided = decide(kept.process, act, desk.now, readRoster(tx.db, desk.day));
  if (!decided.ok) return refuse("", decided.says);
  const now = sql<{ version: number }>(tx.db, `SELECT version FROM ${table(paper)} WHERE id = ?`).get(id)!.version;
  if (now !== version) {
    const seat = kept.process.seats.find((s) => s.state === "waiting")!;
    return stale(`Something happened to it meanwhile: it waits for ${spoken(seat)} now. Look at it again.`);
  }
  keepProcess(tx.db, desk.now, kept, decided.process);
  sql(tx.db, `UPDATE ${table(paper)} SET version = version + 1 WHERE id = ?`).run(id);
  return done({ process: decided.process, ...nameOf(tx.db, paper, id) });
}
