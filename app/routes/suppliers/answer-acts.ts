import { refuseAnswers, takeAnswers } from "../../../server/acts/suppliers/decide-answer";
import type { PageActs } from "../../web/page";
import type { Sent } from "../../web/sent";

/** The answers that are decided, as a form says them: ids with commas between. */
const chosen = (input: Sent) => ({
  ...input,
  lines: String(input.lines ?? "")
    .split(",")
    .filter(Boolean),
});

/** What is done to answers that wait. */
export const answerActs = {
  take: (desk, input) => takeAnswers(desk, chosen(input)),
  refuse: (desk, input) => refuseAnswers(desk, chosen(input)),
} satisfies PageActs;
export type AnswerWord = keyof typeof answerActs;
