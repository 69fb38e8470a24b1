import { paperHref } from "../../../core/signoff/papers";
import { readRoster } from "../../queries/signoff/staff";
import { checked, type Desk, type Done, done, once, refuse } from "../desk";
import { Id } from "../fields";
import { retire, retireFor, tell } from "../notices";
import { actOn, Which } from "./act-on";
import { PAPERS } from "./papers";

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
    PAPERS[paper].reopen(tx.db, id, null);
    tx.record(`${paper}.taken-back`, `${paper} ${id}`, { number: acted.value.number });
    return done({ number: acted.value.number });
  });
}
