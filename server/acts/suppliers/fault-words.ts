import { quantityText } from "../../../core/numbers/quantity";
import { openOfAll, type Scheduled } from "../../../core/orders/schedule";
import type { SaidFault } from "../../../core/suppliers/answer";
import { type AnswerFaults, answerWords } from "../../../exchange/pdf/answer-words";

/** Why an answer cannot be meant, in the words of whoever reads it. */
export const faultWords = (faults: AnswerFaults, fault: SaidFault, schedule: readonly Scheduled[]): string =>
  fault === "tooMuch" ? faults.tooMuch(quantityText(openOfAll(schedule))) : faults[fault];

/** Why an answer cannot be meant, in the words of the house. */
export const HOUSE_FAULTS = answerWords("en").faults;
