import { quantityText } from "../../../core/numbers/quantity";
import type { ClaimReason } from "../../../core/settling/claim";
import type { Cause, Turn } from "../../../core/settling/match";
import { unitWords } from "../../../core/text";
import type { HeldRow, MatchLine } from "../../../server/queries/settling/match-page";
import type { NotTakenIn } from "../../../server/queries/settling/returned";

export const CAUSE_WORDS: Record<Cause, string> = {
  quantity: "quantity",
  price: "price",
  discount: "discounts",
  charge: "charges",
  other: "on no order",
  tax: "tax",
  rounding: "rounding",
};

export const TURN_WORDS: Record<Turn, string> = {
  buyer: "the buyer",
  dock: "the dock",
  supplier: "the supplier",
};

/** "the dock, the buyer": whose turn it is. */
export const turnWords = (turns: readonly Turn[]) => turns.map((t) => TURN_WORDS[t]).join(", ");

export const REASON_WORDS: Record<ClaimReason, string> = {
  quantity: "not here",
  price: "dearer than ordered",
  charge: "a dearer charge",
  tax: "another tax rate",
  sums: "does not add up",
  other: "on no order",
  faulty: "not good",
  agreed: "agreed with them",
};

/** "1 damaged, sent back with B26-0003": why it is not here. */
export const notInWords = (n: NotTakenIn): string => {
  const why = n.why === "over" ? "more than may be kept" : n.why;
  const became = n.number
    ? `sent back with ${n.number}`
    : n.became === ""
      ? "set aside"
      : n.became === "scrap"
        ? "thrown away"
        : n.became;
  return `${quantityText(n.quantity)} ${why}, ${became}`;
};

/** What is held, in a few words. */
export function heldWords(h: Pick<HeldRow, "reason" | "beyond">, line: MatchLine | undefined): string {
  if (h.reason === "quantity" && line?.against)
    return `${quantityText(line.quantity)} invoiced, ${quantityText(line.against.billable)} here: ${quantityText(h.beyond)} ${unitWords(h.beyond, line.unit)} not here`;
  return line ? `${line.words}: ${REASON_WORDS[h.reason]}` : `The paper ${REASON_WORDS[h.reason]}`;
}
