import { z } from "zod";
import { paperHref } from "../../../core/signoff/papers";
import { checked, type Desk, type Done, done, once } from "../desk";
import { text } from "../fields";
import { tell } from "../notices";
import { actOn, Which } from "./act-on";

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
