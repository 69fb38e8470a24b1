import { answerByFile } from "../../../server/acts/suppliers/answer-by-file";
import { counterAnswer, refuseAnswers, takeAnswers, takeSeveral } from "../../../server/acts/suppliers/decide-answer";
import { type PageActs, readJson, withSent } from "../../web/page";
import type { Sent } from "../../web/sent";
import { partsSent } from "../orders/heard";

/** The answers that are decided, as a form says them: ids with commas between. */
const chosen = (input: Sent) => ({
  ...input,
  lines: String(input.lines ?? "")
    .split(",")
    .filter(Boolean),
});

/** What is proposed, from a form whose parts are "quantity.0", "day.0", … */
const proposalOf = (input: Sent) => ({
  line: input.line,
  parts: partsSent(input),
  price: input.price ?? "",
  remark: input.remark ?? "",
});

/** What is done to answers that wait. */
export const answerActs = {
  take: (desk, input) => takeAnswers(desk, chosen(input)),
  "take several": (desk, input) => takeSeveral(desk, { orders: readJson(input.orders) }),
  refuse: (desk, input) => refuseAnswers(desk, chosen(input)),
  counter: (desk, input) => counterAnswer(desk, { ...input, proposal: proposalOf(input) }),
  bring: withSent("file", "Choose a file.", (desk, file) => answerByFile(desk, file.bytes)),
} satisfies PageActs;
export type AnswerWord = keyof typeof answerActs;
