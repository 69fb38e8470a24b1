import { type Desk, type Done, refuse } from "../../../server/acts/desk";
import { handOver, takeBack } from "../../../server/acts/signoff/hand-over";
import { answerQuestion, askQuestion } from "../../../server/acts/signoff/questions";
import { sendBack, sign, signMany } from "../../../server/acts/signoff/sign";
import type { Sent } from "../../web/sent";

/** What is done to a paper that waits for signatures, from its own page or from the stop Sign-off. */
export function actOnSigning(desk: Desk, input: Sent): Done<unknown> {
  switch (input.do) {
    case "sign":
      return sign(desk, input);
    case "sign many":
      return signMany(desk, input);
    case "send back":
      return sendBack(desk, input);
    case "question":
      return askQuestion(desk, input);
    case "answer":
      return answerQuestion(desk, input);
    case "hand over":
      return handOver(desk, input);
    case "take back":
      return takeBack(desk, input);
    default:
      return refuse("", "This cannot be done here.");
  }
}
