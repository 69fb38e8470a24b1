import { handOver, takeBack } from "../../../server/acts/signoff/hand-over";
import { answerQuestion, askQuestion } from "../../../server/acts/signoff/questions";
import { sendBack, sign, signMany } from "../../../server/acts/signoff/sign";
import type { PageActs } from "../../web/page";

/** What is done to a paper that waits for signatures, from its own page or from the stop Sign-off. */
export const signingActs = {
  sign,
  "sign many": signMany,
  "send back": sendBack,
  question: askQuestion,
  answer: answerQuestion,
  "hand over": handOver,
  "take back": takeBack,
} satisfies PageActs;
export type SigningWord = keyof typeof signingActs;
